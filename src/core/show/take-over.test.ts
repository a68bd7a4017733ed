/** Parts of another state of the show, and undo, where numbers have been given anew meanwhile. */
import fc from 'fast-check';
import { planEdit } from '../edits/plan-edit.ts';
import { isRefusal } from '../refusal.ts';
import { apply, cue, exampleShow, idOf } from '../testing/example.ts';
import { compareShows, takeOver } from './compare.ts';
import { doublesAfter } from './numbers.ts';
import { danglingAfter } from './references.ts';
import type { MutableShow } from './show.ts';
import { planReverse } from './undo.ts';

function taken(
  now: MutableShow,
  then: MutableShow,
  keys: readonly string[],
): { show: MutableShow; notes: string[] } {
  const { changes, notes } = takeOver(now, then, new Set(keys));
  expect([danglingAfter(now, changes), doublesAfter(now, changes)]).toEqual([undefined, undefined]);
  const show = now.clone();
  show.apply(changes);
  return { show, notes };
}

test('a cue that is taken back comes with what it set, with the palette that it followed, and beside the cue that has its number now', () => {
  const then = exampleShow();
  apply(then, 'record-palette', {
    family: 'intensity',
    name: 'Glow',
    number: 4,
    any: { level: 0.4 },
  });
  const palette = [...then.palettes.values()].find((p) => p.name === 'Glow')?.id ?? '';
  apply(then, 'record-cue', {
    listId: 'main',
    number: 5000,
    name: 'Lost',
    values: [
      { fixtureId: idOf(then, 1), attribute: 'Dimmer', level: 0.4, palette },
      { fixtureId: idOf(then, 2), attribute: 'Dimmer', level: 0.7 },
    ],
  });
  const id = then.cuesOf('main')[0]?.id ?? '';
  const now = then.clone();
  apply(now, 'delete-cue', { id });
  apply(now, 'delete-palette', { id: palette });
  cue(now, 5, { 3: 10 }, { name: 'Other' });
  const { show, notes } = taken(now, then, [`cues/${id}`]);
  expect(show.cuesOf('main').map((c) => [c.number, c.name, show.valuesOf(c.id).size])).toEqual([
    [5000, 'Other', 1],
    [5100, 'Lost', 2],
  ]);
  expect(show.palettes.get(palette)?.name).toBe('Glow');
  expect(notes).toEqual([
    'Palette 4 “Glow” is kept: 1 thing uses it.',
    'Cue 5 “Lost” came in as 5.1: there is another cue 5.',
  ]);
});

test('a cue that was not there then goes with all that is in it', () => {
  const then = exampleShow();
  const now = then.clone();
  const id = cue(now, 7, { 1: 10, 2: 20 });
  const { show } = taken(now, then, [`cues/${id}`]);
  expect([show.cues.size, show.values.size]).toEqual([0, 0]);
});

test('a fixture that is taken back has its levels, and is off the rig where its address is taken', () => {
  const then = exampleShow();
  cue(then, 1, { 6: 50 });
  const six = idOf(then, 6);
  const now = then.clone();
  apply(now, 'delete-fixtures', { ids: [six], withValues: true });
  apply(now, 'patch-fixtures', {
    typeId: 'generic-dimmer',
    mode: '8 bit',
    quantity: 1,
    first: 6,
    universe: 1,
    address: 6,
    label: 'New',
  });
  const { show } = taken(now, then, [`fixtures/${six}`]);
  expect(show.fixtures.get(six)).toMatchObject({
    number: 7,
    patch: [],
    wasAt: [{ universe: 1, address: 6 }],
  });
  expect([...show.values.values()].map((v) => v.fixtureId)).toEqual([six]);
});

test('undo of a deletion is refused where the number or the address has been given anew', () => {
  const show = exampleShow();
  const id = cue(show, 5, { 1: 10 });
  const cueGone = apply(show, 'delete-cue', { id });
  expect(isRefusal(planReverse(show, { rows: cueGone.changes, summary: 'x' }, []))).toBe(false);
  cue(show, 5, { 2: 20 });
  expect(planReverse(show, { rows: cueGone.changes, summary: 'Deleted cue 5' }, [])).toMatchObject({
    code: 'conflict',
    message: '“Deleted cue 5” cannot be undone: there is another cue 5 now. Nothing was changed.',
  });
  const unitGone = apply(show, 'delete-fixtures', { ids: [idOf(show, 6)] });
  apply(show, 'patch-fixtures', {
    typeId: 'generic-dimmer',
    mode: '8 bit',
    quantity: 1,
    first: 90,
    universe: 1,
    address: 6,
    label: 'New',
  });
  expect(
    planReverse(show, { rows: unitGone.changes, summary: 'Deleted fixture 6' }, []),
  ).toMatchObject({
    message: expect.stringContaining('the address of fixture 6 is taken by fixture 90 now'),
  });
  apply(show, 'record-group', { name: 'Bow', number: 3, fixtures: [idOf(show, 1)] });
  const groupGone = apply(show, 'delete-group', { id: [...show.groups.keys()][0] });
  apply(show, 'record-group', { name: 'Stern', number: 3, fixtures: [idOf(show, 2)] });
  expect(
    planReverse(show, { rows: groupGone.changes, summary: 'Deleted group 3' }, []),
  ).toMatchObject({ message: expect.stringContaining('there is another group 3 now') });
});

test('property: whatever is taken over from whatever state, nothing dangles and no number is given twice; everything taken over is that state', () => {
  const step = fc.tuple(
    fc.constantFrom('cue', 'delete-cue', 'delete-fixture', 'patch', 'delete-palette', 'label'),
    fc.integer({ min: 1, max: 6 }),
    fc.integer({ min: 1, max: 6 }),
  );
  fc.assert(
    fc.property(
      fc.array(step, { maxLength: 12 }),
      fc.infiniteStream(fc.boolean()),
      (steps, coin) => {
        const then = exampleShow();
        apply(then, 'record-palette', {
          family: 'intensity',
          name: 'Glow',
          number: 4,
          any: { level: 0.4 },
        });
        const palette = [...then.palettes.values()].find((p) => p.name === 'Glow')?.id;
        for (const n of [1, 2, 3])
          apply(then, 'record-cue', {
            listId: 'main',
            number: n * 1000,
            values: [1, 2].map((f) => ({
              fixtureId: idOf(then, f),
              attribute: 'Dimmer',
              level: 0.4,
              ...(f === 1 ? { palette } : {}),
            })),
          });
        apply(then, 'record-group', {
          name: 'Bow',
          number: 3,
          fixtures: [idOf(then, 4), idOf(then, 5)],
        });
        const now = then.clone();
        steps.forEach(([what, a, b], i) => {
          const c = now.cuesOf('main').find((x) => x.number === a * 1000);
          const fixture = now.fixtureByNumber(b)?.id ?? 'none';
          const edits: Record<typeof what, [string, unknown]> = {
            cue: [
              'record-cue',
              {
                listId: 'main',
                number: a * 1000,
                values: [{ fixtureId: fixture, attribute: 'Dimmer', level: b / 10 }],
              },
            ],
            'delete-cue': ['delete-cue', { id: c?.id ?? 'none' }],
            'delete-fixture': ['delete-fixtures', { ids: [fixture], withValues: true }],
            patch: [
              'patch-fixtures',
              {
                typeId: 'generic-dimmer',
                mode: '8 bit',
                quantity: 1,
                first: b,
                universe: 1,
                address: b,
                label: 'New',
              },
            ],
            'delete-palette': ['delete-palette', { id: palette }],
            label: ['change-fixtures', { fixtures: [{ id: fixture, set: { label: `L${a}` } }] }],
          };
          const [name, params] = edits[what];
          const planned = planEdit(now, 'owner', name, params, `s${i}`);
          if (!isRefusal(planned)) now.apply(planned.changes);
        });
        const items = compareShows(now, then);
        taken(
          now,
          then,
          items.flatMap((i) => (coin.next().value ? [i.key] : [])),
        );
        expect(
          compareShows(
            taken(
              now,
              then,
              items.map((i) => i.key),
            ).show,
            then,
          ),
        ).toEqual([]);
      },
    ),
    { numRuns: 100 },
  );
});
