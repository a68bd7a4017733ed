/** Edits as they arrive in a show that plays: palettes in mid-fade, recordings undone, effects changed under their uses. */
import { heldBy } from './programmers/seen.ts';
import { recordedValue } from '../core/live/held.ts';
import { slotKey } from '../core/cues/rows.ts';
import type { EffectRow } from '../core/effects/rows.ts';
import { apply, cue, exampleShow, idOf } from '../core/testing/example.ts';
import { desk, mara, tam } from './simulated-desk.ts';

const near = (v: number): number => expect.closeTo(v, 3) as number;
type Desk = ReturnType<typeof desk>;
const record = (d: Desk, number: number): void =>
  d.edit(mara, 'record-cue', {
    listId: 'main',
    number: number * 1000,
    values: [...heldBy(d.live.programmers, 'mara').values()].map(recordedValue),
  });
const dim = (d: Desk, fixture: number, level: number): unknown =>
  d.say(mara, { command: 'set', fixtures: [fixture], attribute: 'Dimmer', level });

describe('a palette that is updated', () => {
  const palette = (d: Desk): string => [...d.show.palettes.keys()][0] ?? '';
  const change = (d: Desk, level: number): void =>
    d.edit(mara, 'record-palette', {
      id: palette(d),
      family: 'intensity',
      values: [{ fixtureId: idOf(d.show, 1), attribute: 'Dimmer', level }],
    });

  test('in the middle of a cue’s fade bends it to the new end, without a step', () => {
    const d = desk();
    d.edit(mara, 'record-palette', {
      name: 'Dusk',
      family: 'intensity',
      values: [{ fixtureId: idOf(d.show, 1), attribute: 'Dimmer', level: 1 }],
    });
    d.edit(mara, 'record-cue', {
      listId: 'main',
      number: 1000,
      up_s: 4,
      down_s: 4,
      values: [{ fixtureId: idOf(d.show, 1), attribute: 'Dimmer', level: 1, palette: palette(d) }],
    });
    d.say(mara, { command: 'release-all', time: 0 });
    d.pass(0.1);
    d.say(mara, { command: 'go' });
    d.pass(2);
    expect(d.level(1)).toEqual(near(0.5));
    change(d, 0.2);
    expect(d.level(1)).toEqual(near(0.5));
    d.pass(1);
    expect(d.level(1)).toEqual(near(0.35));
    d.pass(1.1);
    expect(d.level(1)).toEqual(near(0.2));
  });

  test('bends a held fade too, and a later touch of somebody else stays the latest', () => {
    const d = desk();
    d.edit(mara, 'record-palette', {
      name: 'Dusk',
      family: 'intensity',
      values: [{ fixtureId: idOf(d.show, 1), attribute: 'Dimmer', level: 1 }],
    });
    d.say(mara, { command: 'palette', palette: palette(d), fixtures: [1], fade_s: 4 });
    d.pass(2);
    change(d, 0.2);
    expect(d.level(1)).toEqual(near(0.5));
    d.pass(1);
    expect(d.level(1)).toEqual(near(0.35));
    d.say(tam, { command: 'set', fixtures: [1], attribute: 'Dimmer', level: 0.9 });
    change(d, 0.4);
    d.pass(3);
    expect(d.level(1)).toEqual(near(0.9));
  });
});

describe('a recording that is undone', () => {
  test('puts the list back where it was, levels, armed cue and the author’s values included; done again it stands in the cue', () => {
    const d = desk();
    cue(d.show, 1, { 1: 40 });
    cue(d.show, 5, { 1: 10 });
    d.say(mara, { command: 'go' });
    d.pass(6);
    d.say(mara, { command: 'arm', cue: '5' });
    dim(d, 1, 0.9);
    dim(d, 2, 0.6);
    record(d, 2);
    expect([d.list()?.cueNumber, d.source(1), heldBy(d.live.programmers, 'mara').size]).toEqual([
      2000,
      'cue 2',
      0,
    ]);
    d.undo();
    expect(d.list()).toMatchObject({
      cueNumber: 1000,
      cueId: d.show.cuesOf('main')[0]?.id,
      armed: true,
    });
    expect([1, 2].map((n) => [d.level(n), d.source(n)])).toEqual([
      [near(0.9), 'programmer of Mara Kell'],
      [near(0.6), 'programmer of Mara Kell'],
    ]);
    expect([...heldBy(d.live.programmers, 'mara').values()].every((v) => !v.recorded)).toBe(true);
    d.say(mara, { command: 'clear' });
    expect([1, 2].map((n) => d.level(n))).toEqual([near(0.4), 0]);
    d.say(mara, { command: 'bring-back' });
    d.undo('redo');
    expect([
      d.list()?.cueNumber,
      d.level(1),
      d.source(1),
      heldBy(d.live.programmers, 'mara').size,
    ]).toEqual([2000, near(0.9), 'cue 2', 0]);
    d.undo();
    expect(d.list()?.cueNumber).toBe(1000);
  });

  test('the first cue of a list undone leaves the list in none, and dark beneath what is held', () => {
    const d = desk();
    dim(d, 3, 0.7);
    record(d, 1);
    d.undo();
    expect([d.list()?.cueNumber, d.level(3), d.source(3)]).toEqual([
      null,
      near(0.7),
      'programmer of Mara Kell',
    ]);
    d.say(mara, { command: 'clear' });
    expect([d.level(3), d.source(3)]).toEqual([0, 'default']);
  });

  test('recorded over the cue on stage and undone, its levels and the values are as before', () => {
    const d = desk();
    cue(d.show, 1, { 1: 40 });
    d.say(mara, { command: 'go' });
    d.pass(6);
    dim(d, 1, 0.9);
    record(d, 1);
    d.undo();
    expect([d.list()?.cueNumber, d.level(1), d.source(1)]).toEqual([
      1000,
      near(0.9),
      'programmer of Mara Kell',
    ]);
    d.say(mara, { command: 'clear' });
    expect(d.level(1)).toEqual(near(0.4));
  });

  test('after the list has gone on nothing comes on stage by it; what was recorded can be brought back', () => {
    const d = desk();
    dim(d, 3, 0.7);
    record(d, 1);
    cue(d.show, 9, { 4: 50 });
    d.say(mara, { command: 'go' });
    d.pass(6);
    d.undo();
    expect([d.list()?.cueNumber, heldBy(d.live.programmers, 'mara').size]).toEqual([9000, 0]);
    expect(d.say(mara, { command: 'bring-back' })).toMatchObject({ ok: true });
    expect(d.level(3)).toEqual(near(0.7));
  });

  test('after a crash in between it is the same', async () => {
    const d = desk();
    cue(d.show, 1, { 1: 40 });
    d.say(mara, { command: 'go' });
    d.pass(6);
    dim(d, 1, 0.9);
    record(d, 2);
    const saved = JSON.parse(JSON.stringify(await d.live.saved())) as Awaited<
      ReturnType<typeof d.live.saved>
    >;
    const after = desk(d.show, saved);
    const last = {
      seq: 1,
      editId: 'u',
      userId: 'mara',
      userName: 'Mara Kell',
      at: '',
      edit: 'undo',
      summary: '',
      reverts: saved.recordings?.[0]?.seq ?? -1,
      rows: [...d.show.valuesOf(d.show.cuesOf('main')[1]?.id ?? '').values()].map((v) => ({
        table: 'values' as const,
        id: v.id,
        before: v,
        after: null,
      })),
    };
    const row = d.show.cuesOf('main')[1];
    if (!row) throw new Error('no cue');
    after.live.apply({
      ...last,
      rows: [...last.rows, { table: 'cues', id: row.id, before: row, after: null }],
    });
    after.pass(0.1);
    expect([after.list()?.cueNumber, after.source(1), after.level(1)]).toEqual([
      1000,
      'programmer of Mara Kell',
      near(0.9),
    ]);
  });
});

describe('release everything', () => {
  test('disarms also lists that do not play, and leaves alone what a fader keeps', () => {
    const show = exampleShow();
    for (const n of [1, 2]) cue(show, n, { [n]: 100 });
    apply(show, 'make-list', { name: 'Lanterns' });
    const second = [...show.lists.values()].find((l) => l.name === 'Lanterns')?.id ?? '';
    apply(show, 'record-cue', {
      listId: second,
      number: 1000,
      up_s: 0,
      values: [{ fixtureId: idOf(show, 6), attribute: 'Dimmer', level: 1 }],
    });
    apply(show, 'set-fader', {
      set: {
        number: 1,
        name: 'Lanterns',
        mode: 'proportional',
        flash: 'full',
        holds: { kind: 'list', id: second },
        keepsThroughRelease: true,
      },
    });
    const d = desk(show);
    d.say(mara, { command: 'arm', cue: '2' });
    d.say(mara, { command: 'go', list: second });
    expect(d.list()?.armed).toBe(true);
    d.say(mara, { command: 'release-all', time: 0 });
    d.pass(0.1);
    expect([d.list()?.armed, d.list(second)?.cueNumber, d.level(6)]).toEqual([false, 1000, 1]);
  });
});

describe('an effect that is changed', () => {
  const wave = (d: Desk): EffectRow => {
    const found = [...d.show.effects.values()].find((e) => e.name === 'Wave');
    if (!found) throw new Error('no effect');
    return found;
  };
  const change = (d: Desk, set: Partial<EffectRow>): void => {
    const { id, number, order, ...rest } = wave(d);
    void number;
    void order;
    d.edit(mara, 'set-effect', { id, set: { ...rest, ...set } });
  };
  /** Phases of four dimmers by what runs on them: where each stands against the first. */
  const shape = (d: Desk): number[] => [1, 2, 3, 4].map((n) => Math.round(d.level(n) * 20) / 20);

  function running(how: 'held' | 'cue' | 'look' | 'fader'): Desk {
    const d = desk();
    d.edit(mara, 'add-standard-effects', {});
    change(d, {
      speed: { hz: 0.001 },
      direction: 'forward',
      tracks: [
        {
          attribute: 'Dimmer',
          wave: 'rise',
          mode: 'absolute',
          size: 1,
          base: 0,
          width: 1,
          offset: 0,
        },
      ],
      spread: { turns: 1, groups: 0, blocks: 1, wings: 1 },
    });
    const members = [1, 2, 3, 4].map((n) => idOf(d.show, n));
    if (how === 'look' || how === 'fader')
      d.edit(mara, 'record-look', {
        number: 1,
        name: 'Swell',
        items: [{ kind: 'effect', effect: wave(d).id, members }],
      });
    const look = [...d.show.looks.keys()][0] ?? '';
    if (how === 'fader') {
      d.edit(mara, 'set-fader', {
        set: {
          number: 1,
          name: 'Swell',
          mode: 'proportional',
          flash: 'full',
          holds: { kind: 'look', id: look },
        },
      });
      d.say(mara, { command: 'fader', fader: 1, level: 1 });
    } else if (how === 'look') d.say(mara, { command: 'look', look });
    else d.say(mara, { command: 'effect', fixtures: [1, 2, 3, 4], effect: wave(d).id, on: true });
    if (how === 'cue') record(d, 1);
    d.pass(1);
    return d;
  }

  test.each(['held', 'cue', 'look', 'fader'] as const)(
    'in spread, order, mirroring and neighbours reaches a use that is %s at once',
    (how) => {
      const d = running(how);
      expect(shape(d)).toEqual([0, 0.25, 0.5, 0.75]);
      for (const [spread, expected] of [
        [{ turns: -1, groups: 0, blocks: 1, wings: 1 }, [0, 0.75, 0.5, 0.25]],
        [{ turns: 1, groups: 0, blocks: 1, wings: 2 }, [0, 0.5, 0.5, 0]],
        [{ turns: 1, groups: 0, blocks: 2, wings: 1 }, [0, 0, 0.5, 0.5]],
        [{ turns: 1, groups: 2, blocks: 1, wings: 1 }, [0, 0.5, 0, 0.5]],
        [{ turns: 0, groups: 0, blocks: 1, wings: 1 }, [0, 0, 0, 0]],
      ] as const) {
        change(d, { spread });
        d.pass(1);
        expect(shape(d)).toEqual(expected);
      }
      change(d, { spread: { turns: 1, groups: 0, blocks: 1, wings: 1 } });
      change(d, {
        tracks: [
          {
            attribute: 'Dimmer',
            wave: 'rise',
            mode: 'absolute',
            size: 0.5,
            base: 0.5,
            width: 1,
            offset: 0,
          },
        ],
      });
      d.pass(1);
      expect(shape(d).map((v) => Math.round(v * 100) / 100)).toEqual([0.5, 0.65, 0.75, 0.9]);
    },
  );

  test('moving another attribute as well, it moves it in hands and cues; no longer moving one, it lets go of that', () => {
    const d = desk();
    d.edit(mara, 'add-standard-effects', {});
    const dimmer = {
      attribute: 'Dimmer',
      wave: 'square' as const,
      mode: 'absolute' as const,
      size: 0,
      base: 0.6,
      width: 1,
      offset: 0,
    };
    const red = { ...dimmer, attribute: 'ColorAdd_R', base: 0.3 };
    change(d, { tracks: [dimmer] });
    d.say(mara, { command: 'effect', fixtures: [11, 12], effect: wave(d).id, on: true });
    record(d, 1);
    d.say(tam, { command: 'effect', fixtures: [13], effect: wave(d).id, on: true });
    d.pass(1);
    expect([11, 13].map((n) => [d.level(n), d.level(n, 'ColorAdd_R')])).toEqual([
      [near(0.6), 1],
      [near(0.6), 1],
    ]);
    change(d, { tracks: [dimmer, red] });
    d.pass(1);
    expect([11, 12, 13].map((n) => [d.level(n), d.level(n, 'ColorAdd_R')])).toEqual(
      [1, 2, 3].map(() => [near(0.6), near(0.3)]),
    );
    change(d, { tracks: [red] });
    d.pass(1);
    expect([
      d.level(13),
      heldBy(d.live.programmers, 'tam').has(slotKey(idOf(d.show, 13), 'Dimmer')),
    ]).toEqual([0, false]);
    expect(d.level(11, 'ColorAdd_R')).toEqual(near(0.3));
  });

  test('switched off it lets go of what it took, and leaves what was held before', () => {
    const d = desk();
    d.edit(mara, 'add-standard-effects', {});
    cue(d.show, 1, { 1: 30, 2: 30 }, { up_s: 0 });
    d.say(mara, { command: 'go' });
    dim(d, 2, 0.8);
    d.say(mara, { command: 'effect', fixtures: [1, 2], effect: wave(d).id, on: true });
    d.pass(1);
    d.say(mara, { command: 'effect', fixtures: [1, 2], effect: wave(d).id, on: false, fade_s: 1 });
    d.pass(1.2);
    expect([1, 2].map((n) => [d.level(n), d.source(n)])).toEqual([
      [near(0.3), 'cue 1'],
      [near(0.8), 'programmer of Mara Kell'],
    ]);
  });

  test('a use from before places were kept gets its place by the first change, and follows from then on', () => {
    const d = desk();
    d.edit(mara, 'add-standard-effects', {});
    d.edit(mara, 'record-cue', {
      listId: 'main',
      number: 1000,
      up_s: 0,
      values: [1, 2, 3, 4].map((n, i) => ({
        fixtureId: idOf(d.show, n),
        attribute: 'Dimmer',
        level: 0,
        effect: { id: wave(d).id, phase: (3 - i) / 4 },
      })),
    });
    change(d, { spread: { turns: -1, groups: 0, blocks: 1, wings: 1 } });
    const at = [1, 2, 3, 4].map(
      (n) =>
        d.show.valuesOf(d.show.cuesOf('main')[0]?.id ?? '').get(slotKey(idOf(d.show, n), 'Dimmer'))
          ?.effect?.at,
    );
    expect(at).toEqual([3, 2, 1, 0]);
  });
});
