import fc from 'fast-check';
import { apply, exampleShow, idOf, refused } from '../testing/example.ts';
import { inOrder } from './edits.ts';
import { aligned, alongPiece, distributed, gridPlaces, ontoPiece, snapped } from './arrange.ts';

const BAR = {
  id: 'b',
  name: 'Bar 9',
  kind: 'bar' as const,
  points: [
    { x: -4, y: 2 },
    { x: 4, y: 2 },
  ],
  z: 6,
};

describe('arranging', () => {
  test('along a bar, half a step in from its ends; round a corner by its length', () => {
    expect(alongPiece(BAR, 4).map((p) => [p.x, p.y, p.z])).toEqual([
      [-3, 2, 6],
      [-1, 2, 6],
      [1, 2, 6],
      [3, 2, 6],
    ]);
    expect(
      alongPiece(
        {
          points: [
            { x: 0, y: 0 },
            { x: 2, y: 0 },
            { x: 2, y: 2 },
          ],
          z: 1,
        },
        2,
      ).map((p) => [p.x, p.y]),
    ).toEqual([
      [1, 0],
      [2, 1],
    ]);
  });
  test('onto a bar is the nearest point of it; near enough it snaps and hangs there', () => {
    expect(ontoPiece(BAR, { x: 9, y: 2.5 })).toMatchObject({ x: 4, y: 2, z: 6 });
    expect(snapped([BAR], { x: 1.23, y: 2.3, z: 4 })).toEqual({
      place: { x: 1.23, y: 2, z: 6 },
      hang: 'Bar 9',
    });
    expect(snapped([BAR], { x: 1.23, y: 3.32, z: 4 })).toEqual({
      place: { x: 1.2, y: 3.3, z: 4 },
      hang: '',
    });
  });
  test('on one line, and evenly between the ends', () => {
    const places = [
      { x: 0, y: 1, z: 6 },
      { x: 1, y: 2, z: 6 },
      { x: 5, y: 3, z: 6 },
    ];
    expect(aligned(places, 'y').map((p) => p.y)).toEqual([2, 2, 2]);
    expect(distributed(places).map((p) => [p.x, p.y])).toEqual([
      [0, 1],
      [2.5, 2],
      [5, 3],
    ]);
  });
  test('evenly placed units are as far from each other as the next ones', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 40 }), (n) => {
        const xs = alongPiece(BAR, n).map((p) => p.x);
        return (
          xs.slice(1).every((x, i) => Math.abs(x - (xs[i] ?? 0) - 8 / n) < 0.011) &&
          (xs[0] ?? 0) > -4 &&
          (xs.at(-1) ?? 0) < 4
        );
      }),
    );
  });
  test('a grid by number is centred', () =>
    expect(gridPlaces(4, 2).map((p) => p.x)).toEqual([-0.6, 0.6, -0.6, 0.6]));
});

describe('the plan', () => {
  test('a bar takes what hangs on it along, also its name; without it they stay', () => {
    const show = exampleShow();
    const bar = [...show.pieces.values()].find((p) => p.name === 'Bar 1');
    if (!bar) throw new Error('no bar');
    const before = show.fixtureByNumber(101)?.position;
    const { id, ...set } = bar;
    const { summary } = apply(show, 'set-piece', {
      id,
      set: {
        ...set,
        name: 'Bar One',
        z: 7,
        points: set.points.map((p) => ({ x: p.x, y: p.y + 0.5 })),
      },
    });
    expect(summary).toMatch(/2 fixtures went along/);
    expect(show.fixtureByNumber(101)).toMatchObject({
      hang: 'Bar One',
      position: { x: before?.x, y: (before?.y ?? 0) + 0.5, z: 7 },
    });
    expect(apply(show, 'delete-piece', { id }).summary).toMatch(/101–102 stay where they are/);
    expect(show.fixtureByNumber(101)?.hang).toBe('');
  });

  test('a new bar needs a name of its own', () => {
    const show = exampleShow();
    expect(
      refused(show, 'set-piece', { set: { ...BAR, id: undefined, name: '' } }).message,
    ).toMatch(/needs a name/);
    expect(
      refused(show, 'set-piece', { set: { name: 'Bar 2', kind: 'bar', points: BAR.points, z: 6 } })
        .code,
    ).toBe('clash');
    expect(
      refused(show, 'set-piece', {
        set: { name: 'x', kind: 'set', points: [{ x: 0, y: 0 }], z: 0 },
      }).message,
    ).toMatch(/at least two points/);
  });

  test('a layout’s own places move no light; a deleted fixture leaves them', () => {
    const show = exampleShow();
    const hangs = show.fixtureByNumber(1)?.position;
    apply(show, 'set-layout', {
      set: {
        name: 'Desk',
        places: { [idOf(show, 1)]: { x: 1, y: 2 }, [idOf(show, 2)]: { x: 3, y: 2 } },
      },
    });
    const layout = [...show.layouts.values()][0];
    apply(show, 'set-layout', {
      id: layout?.id,
      set: { places: { [idOf(show, 1)]: { x: 1.5, y: 2 } } },
    });
    expect([...show.layouts.values()][0]?.places).toEqual({
      [idOf(show, 1)]: { x: 1.5, y: 2 },
      [idOf(show, 2)]: { x: 3, y: 2 },
    });
    expect(show.fixtureByNumber(1)?.position).toEqual(hangs);
    apply(show, 'delete-fixtures', { ids: [idOf(show, 1)] });
    expect(Object.keys([...show.layouts.values()][0]?.places ?? {}).length).toBe(1);
    expect(refused(show, 'set-layout', { set: { name: 'desk' } }).code).toBe('clash');
  });

  test('a picture lies under a layout, and leaves it when it is deleted; what is no picture is refused', () => {
    const show = exampleShow();
    apply(show, 'set-layout', { set: { name: 'Ground plan' } });
    const layout = (): { background?: unknown } => [...show.layouts.values()][0] ?? {};
    const id = [...show.layouts.values()][0]?.id;
    apply(show, 'add-picture', {
      name: 'ground.png',
      data: 'data:image/png;base64,AAAA',
      layout: id,
    });
    expect(layout().background).toMatchObject({ width_m: 16, opacity: 0.5 });
    const { summary } = apply(show, 'delete-picture', { id: [...show.pictures.keys()][0] });
    expect(summary).toBe('Deleted the picture “ground.png”, which was under layout “Ground plan”');
    expect(layout().background).toBeUndefined();
    expect(
      refused(show, 'add-picture', { name: 'x', data: 'data:image/svg+xml;base64,AAAA' }).message,
    ).toMatch(/no drawing that can be read/);
    expect(
      refused(show, 'add-picture', { name: 'x', data: 'data:text/html;base64,AAAA' }).message,
    ).toMatch(/PNG, JPEG or WebP/);
    // A drawing is made safe, whoever sends it.
    const svg = '<svg viewBox="0 0 1 1"><script>x()</script><path d="M0 0L1 1"/></svg>';
    apply(show, 'add-picture', {
      name: 'ground.svg',
      data: `data:image/svg+xml;base64,${btoa(svg)}`,
    });
    const kept = atob([...show.pictures.values()][0]?.data.split(',')[1] ?? '');
    expect(kept).toContain('M0 0L1 1');
    expect(kept).not.toContain('script');
    expect(
      refused(show, 'add-picture', {
        name: 'x',
        data: `data:image/png;base64,${'A'.repeat(1_700_000)}`,
      }).message,
    ).toMatch(/at most 1.2 MB/);
  });

  test('tiles come in the order that they were put into', () => {
    const show = exampleShow();
    for (const n of [1, 2, 3])
      apply(show, 'record-palette', {
        family: 'intensity',
        number: n,
        name: `P${n}`,
        any: { level: n / 10 },
      });
    const ids = [3, 1, 2].map((n) => [...show.palettes.values()].find((p) => p.number === n)?.id);
    apply(show, 'order-rows', { table: 'palettes', ids });
    expect(inOrder(show.palettes.values()).map((p) => p.number)).toEqual([3, 1, 2]);
    expect(refused(show, 'order-rows', { table: 'palettes', ids }).code).toBe('nothing');
    // One that stands in it twice, or is gone, would leave two in one place.
    expect(
      refused(show, 'order-rows', { table: 'palettes', ids: [ids[1], ids[0], ids[1]] }).code,
    ).toBe('not-found');
    expect(refused(show, 'order-rows', { table: 'palettes', ids: [ids[1], 'gone'] }).code).toBe(
      'not-found',
    );
    expect(inOrder(show.palettes.values()).map((p) => p.number)).toEqual([3, 1, 2]);
  });
});
