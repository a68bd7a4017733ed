/** The verbs of the book: what each does to the cue it is aimed at, and that it leaves the looks of all others alone. */
import fc from 'fast-check';
import { levelOf } from '../../looks/value.ts';
import { stateAt } from '../tracking.ts';
import { slotKey } from '../rows.ts';
import type { MutableShow } from '../../show/show.ts';
import { apply, cue, exampleShow, idOf, refused } from '../../testing/example.ts';

const at = (n: number): number => Math.round(n * 1000);
const id = (show: MutableShow, n: number): string =>
  show.cuesOf('main').find((c) => c.number === at(n))?.id ?? `no cue ${n}`;
/** Levels of dimmers 1 to 4 in percent, by cue id. */
const looks = (show: MutableShow): Map<string, string> =>
  new Map(
    show.cuesOf('main').map((c) => [
      c.id,
      [1, 2, 3, 4]
        .map((f) => {
          const t = stateAt(show, 'main', c.number).get(slotKey(idOf(show, f), 'Dimmer'));
          return t ? Math.round((levelOf(show, t.value) ?? 0) * 100) : '-';
        })
        .join(' '),
    ]),
  );
const look = (show: MutableShow, n: number): string => looks(show).get(id(show, n)) ?? '';
const numbers = (show: MutableShow): number[] => show.cuesOf('main').map((c) => c.number / 1000);

/** 1: 50 20 - -   2: 50 80 40 -   3: 50 80 40 70   4: 10 80 - 70 */
function four(): MutableShow {
  const show = exampleShow();
  cue(show, 1, { 1: 50, 2: 20 });
  cue(show, 2, { 2: 80, 3: 40 });
  cue(show, 3, { 4: 70 });
  cue(show, 4, { 1: 10, 3: null });
  return show;
}

test('a skeleton: empty numbered cues that show what tracks into them', () => {
  const show = four();
  apply(show, 'make-cues', {
    listId: 'main',
    cues: [{ number: 101_000, name: 'Quay' }, { number: 102_000, name: 'Deck' }, { number: 2500 }],
  });
  expect(numbers(show)).toEqual([1, 2, 2.5, 3, 4, 101, 102]);
  expect(look(show, 2.5)).toBe(look(show, 2));
  expect(look(show, 102)).toBe('10 80 - 70');
  expect(
    refused(show, 'make-cues', { listId: 'main', cues: [{ number: 5000 }, { number: 2000 }] })
      .message,
  ).toBe('Cue 2 exists already. Nothing was changed.');
  expect(
    refused(show, 'make-cues', { listId: 'main', cues: [{ number: 5000 }, { number: 5000 }] }).code,
  ).toBe('clash');
});

test.each<[what: string, verb: string, params: (show: MutableShow) => unknown, numbers: number[]]>([
  [
    'moving a cue to the end',
    'move-cues',
    (s) => ({ ids: [id(s, 2)], after: at(4) }),
    [1, 3, 4, 5],
  ],
  [
    'moving two to the start',
    'move-cues',
    (s) => ({ ids: [id(s, 3), id(s, 4)], after: 0 }),
    [0.2, 0.4, 1, 2],
  ],
  [
    'renumbering without another order',
    'renumber-cues',
    (s) => ({ ids: [id(s, 3), id(s, 4)], from: at(30), step: at(10) }),
    [1, 2, 30, 40],
  ],
  [
    'renumbering past others',
    'renumber-cues',
    (s) => ({ ids: [id(s, 1)], from: at(3.5), step: 1000 }),
    [2, 3, 3.5, 4],
  ],
  ['deleting one', 'delete-cue', (s) => ({ id: id(s, 2) }), [1, 3, 4]],
  ['deleting several', 'delete-cue', (s) => ({ ids: [id(s, 1), id(s, 3)] }), [2, 4]],
  ['blocking', 'block-cue', (s) => ({ ids: [id(s, 3)], on: true }), [1, 2, 3, 4]],
  [
    'changing a number',
    'change-cue',
    (s) => ({ id: id(s, 1), set: { number: at(9) } }),
    [2, 3, 4, 9],
  ],
])('%s leaves every look as it was', (_what, verb, params, after) => {
  const show = four();
  const before = looks(show);
  apply(show, verb, params(show));
  expect(numbers(show)).toEqual(after);
  for (const [cueId, shown] of looks(show)) expect(shown).toBe(before.get(cueId));
});

test('a copy shows what its original shows, wherever it stands; a copy of the changes sets only those', () => {
  const show = four();
  apply(show, 'copy-cues', { ids: [id(show, 1)], after: at(3) });
  expect(numbers(show)).toEqual([1, 2, 3, 3.5, 4]);
  expect(look(show, 3.5)).toBe('50 20 - -');
  expect(look(show, 4)).toBe('10 80 - 70');
  apply(show, 'copy-cues', { ids: [id(show, 2)], after: at(4), what: 'changes' });
  expect(look(show, 5)).toBe('10 80 40 70');
  expect(show.valuesOf(id(show, 5)).size).toBe(2);
});

test('a split gives part of a cue to a new one after it; the rest tracks from above', () => {
  const show = four();
  apply(show, 'split-cue', {
    id: id(show, 2),
    slots: [{ fixtureId: idOf(show, 2), attribute: 'Dimmer' }],
    name: 'Later',
  });
  expect([look(show, 2), look(show, 2.5), look(show, 3)]).toEqual([
    '50 20 40 -',
    '50 80 40 -',
    '50 80 40 70',
  ]);
  expect(refused(show, 'split-cue', { id: id(show, 3), families: ['colour'] }).message).toContain(
    'nothing to split off',
  );
  expect(
    refused(show, 'split-cue', { id: id(show, 3), families: ['intensity'], number: at(7) }).message,
  ).toContain('right after 3');
});

test('what a cue goes on with goes on from its second half', () => {
  const show = four();
  apply(show, 'change-cue', { id: id(show, 2), set: { follow_s: 4 } });
  apply(show, 'split-cue', { id: id(show, 2), families: ['intensity'] });
  expect(show.cues.get(id(show, 2))?.follow_s).toBeNull();
  expect(show.cues.get(id(show, 2.5))?.follow_s).toBe(4);
});

test('joined neighbours look as the last of them did', () => {
  const show = four();
  apply(show, 'join-cues', { ids: [id(show, 2), id(show, 3)] });
  expect(numbers(show)).toEqual([1, 2, 4]);
  expect([look(show, 2), look(show, 4)]).toEqual(['50 80 40 70', '10 80 - 70']);
  expect(refused(show, 'join-cues', { ids: [id(show, 1), id(show, 4)] }).message).toBe(
    'Only neighbours can be joined: cue 2 lies between.',
  );
});

test('a joined block lets go of what it let go of before', () => {
  const show = four();
  apply(show, 'block-cue', { ids: [id(show, 3)], on: true });
  cue(show, 2, { 5: 33 });
  apply(show, 'join-cues', { ids: [id(show, 2), id(show, 3)] });
  expect(stateAt(show, 'main', at(2)).has(slotKey(idOf(show, 5), 'Dimmer'))).toBe(false);
});

test('nothing upstream reaches past a block, not even what is recorded later; unblocked, it tracks again', () => {
  const show = four();
  apply(show, 'block-cue', { ids: [id(show, 3)], on: true });
  cue(show, 1, { 1: 99, 4: 5 });
  expect(look(show, 1)).toBe('99 20 - 5');
  expect(look(show, 3)).toBe('50 80 40 70');
  apply(show, 'block-cue', { ids: [id(show, 3)], on: false });
  expect(look(show, 3)).toBe('50 80 40 70');
  expect(show.cues.get(id(show, 3))?.block).toBeUndefined();
  expect(show.valuesOf(id(show, 3)).size).toBe(2);
});

test('in a list that does not track every cue is complete as it stands', () => {
  const show = four();
  apply(show, 'change-list', { id: 'main', set: { tracking: false } });
  expect([1, 2, 3, 4].map((n) => look(show, n))).toEqual([
    '50 20 - -',
    '- 80 40 -',
    '- - - 70',
    '10 - - -',
  ]);
});

test('record over takes the cue’s place, remove takes out, and “this cue only” gives the next its look back', () => {
  const show = four();
  cue(show, 2, { 1: 5 }, { how: 'over' });
  expect([look(show, 2), look(show, 3)]).toEqual(['5 20 - -', '5 20 - 70']);
  cue(show, 2, { 1: 5 }, { how: 'remove' });
  expect([look(show, 2), look(show, 3)]).toEqual(['50 20 - -', '50 20 - 70']);
  cue(show, 2, { 3: 44 }, { how: 'over', mode: 'only' });
  expect([look(show, 2), look(show, 3)]).toEqual(['50 20 44 -', '50 20 - 70']);
  expect(
    refused(show, 'record-cue', { listId: 'main', number: at(7), values: [], how: 'remove' })
      .message,
  ).toContain('no cue 7');
});

test('what is recorded again in a cue stays in its part, unless another part is asked for', () => {
  const show = four();
  const part = (number: number, name: string) => ({
    number,
    name,
    up_s: 9,
    down_s: 9,
    delay_s: 0,
    family_s: {},
    note: '',
  });
  apply(show, 'change-cue', {
    id: id(show, 1),
    set: { parts: [part(1, 'Late'), part(2, 'Later')] },
  });
  const value = (level: number, more: object = {}) => ({
    fixtureId: idOf(show, 1),
    attribute: 'Dimmer',
    level,
    ...more,
  });
  const row = () => show.valuesOf(id(show, 1)).get(slotKey(idOf(show, 1), 'Dimmer'));
  apply(show, 'record-cue', { listId: 'main', number: at(1), values: [value(0.3, { part: 1 })] });
  apply(show, 'record-cue', { listId: 'main', number: at(1), values: [value(0.4)] });
  expect(row()).toMatchObject({ level: 0.4, part: 1 });
  apply(show, 'record-cue', { listId: 'main', number: at(1), values: [value(0.5, { part: 2 })] });
  expect(row()).toMatchObject({ level: 0.5, part: 2 });
  // A part that the cue does not have is none.
  apply(show, 'record-cue', { listId: 'main', number: at(1), values: [value(0.6, { part: 7 })] });
  expect(row()).toMatchObject({ level: 0.6, part: 2 });
});

test('an update at the source goes to the cue that set the value, or into its palette', () => {
  const show = four();
  apply(show, 'record-palette', { family: 'intensity', name: 'Low', any: { level: 0.2 } });
  const palette = [...show.palettes.values()][0];
  const dimmer = (n: number, level: number): object => ({
    fixtureId: idOf(show, n),
    attribute: 'Dimmer',
    level,
  });
  apply(show, 'set-values', {
    cells: [
      {
        cueId: id(show, 1),
        fixtureId: idOf(show, 5),
        attribute: 'Dimmer',
        set: { level: 0.2, palette: palette?.id },
      },
    ],
  });
  const { summary } = apply(show, 'update-source', {
    listId: 'main',
    number: at(3),
    values: [dimmer(2, 0.9), dimmer(4, 0.6), dimmer(5, 0.3)],
  });
  expect(summary).toBe(
    `Updated 3 values where they come from: cues 2 and 3, palette ${palette?.number} “Low”`,
  );
  expect([look(show, 1), look(show, 2), look(show, 3)]).toEqual([
    '50 20 - -',
    '50 90 40 -',
    '50 90 40 60',
  ]);
  expect(show.palettes.get(palette?.id ?? '')?.fixtures[idOf(show, 5)]).toEqual({ Dimmer: 0.3 });
});

test('a cue’s use of a palette becomes its own, in its place', () => {
  const show = four();
  apply(show, 'record-palette', { family: 'intensity', name: 'Low', any: { level: 0.2 } });
  const palette = [...show.palettes.values()][0]?.id ?? '';
  for (const n of [1, 3])
    apply(show, 'set-values', {
      cells: [
        {
          cueId: id(show, n),
          fixtureId: idOf(show, 5),
          attribute: 'Dimmer',
          set: { level: 0.2, palette },
          times: { fade_s: 7 },
        },
      ],
    });
  apply(show, 'own-palette', { cueId: id(show, 3), paletteId: palette });
  const used = (n: number) => show.valuesOf(id(show, n)).get(slotKey(idOf(show, 5), 'Dimmer'));
  expect(used(1)?.palette).toBe(palette);
  expect(used(3)?.palette).not.toBe(palette);
  expect(used(3)?.fade_s).toBe(7);
});

test('cells are written, emptied and timed; in that cue only leaves the next as it was', () => {
  const show = four();
  const cell = (n: number, f: number, more: object): object => ({
    cueId: id(show, n),
    fixtureId: idOf(show, f),
    attribute: 'Dimmer',
    ...more,
  });
  apply(show, 'set-values', { cells: [cell(2, 1, { set: { level: 0.05 } })], mode: 'only' });
  expect([look(show, 2), look(show, 3)]).toEqual(['5 80 40 -', '50 80 40 70']);
  apply(show, 'set-values', {
    cells: [cell(2, 1, { set: null }), cell(2, 2, { times: { fade_s: 9 } })],
  });
  expect(look(show, 2)).toBe('50 80 40 -');
  expect(show.valuesOf(id(show, 2)).get(slotKey(idOf(show, 2), 'Dimmer'))?.fade_s).toBe(9);
  expect(refused(show, 'set-values', { cells: [cell(2, 1, { set: null })] }).code).toBe('nothing');
  expect(
    refused(show, 'set-values', { cells: [cell(2, 2, { times: { part: 3 } })] }).message,
  ).toContain('no part 3');
});

test('times of many cues at once: set, or scaled', () => {
  const show = four();
  apply(show, 'change-cues', {
    ids: [id(show, 1), id(show, 2)],
    set: { up_s: 8, family_s: { colour: 4 } },
  });
  apply(show, 'change-cues', { ids: [id(show, 2)], set: {}, scale: 0.5 });
  expect([1, 2, 3].map((n) => show.cues.get(id(show, n))?.up_s)).toEqual([8, 4, 3]);
  expect(show.cues.get(id(show, 2))?.family_s).toEqual({ colour: 2 });
});

test('a name for many cues counts them', () => {
  const show = four();
  apply(show, 'change-cues', { ids: [id(show, 2), id(show, 3)], set: { name: 'Storm #' } });
  expect([1, 2, 3].map((n) => show.cues.get(id(show, n))?.name)).toEqual([
    '',
    'Storm 1',
    'Storm 2',
  ]);
  const long = { ids: [id(show, 2), id(show, 3)], set: { name: `${'x'.repeat(119)}#` } };
  expect(refused(show, 'change-cues', long).code).toBe('limit');
});

test('a circle of cues in no time is refused, one with time is a loop', () => {
  const show = four();
  apply(show, 'change-cue', { id: id(show, 2), set: { follow_s: 0 } });
  expect(
    refused(show, 'change-cue', {
      id: id(show, 3),
      set: { follow_s: 0, link: { to: id(show, 2) } },
    }).message,
  ).toBe(
    'Cue 2 and cue 3 would follow each other in a circle without any time passing. Give one of them a time; nothing was changed.',
  );
  expect(
    refused(show, 'change-cue', {
      id: id(show, 3),
      set: { follow_s: 0, link: { to: id(show, 3) } },
    }).message,
  ).toContain('would follow itself');
  apply(show, 'change-cue', {
    id: id(show, 3),
    set: { follow_s: 2, link: { to: id(show, 2), times: 3 } },
  });
  expect(refused(show, 'change-cue', { id: id(show, 3), set: { follow_s: 0 } }).code).toBe('loop');
  apply(show, 'delete-cue', { id: id(show, 2) });
  expect(show.cues.get(id(show, 3))?.link).toBeUndefined();
});

test('follow and after take each other’s place', () => {
  const show = four();
  apply(show, 'change-cue', { id: id(show, 2), set: { follow_s: 2 } });
  apply(show, 'change-cue', { id: id(show, 2), set: { after_s: 1 } });
  expect(show.cues.get(id(show, 2))).toMatchObject({ follow_s: null, after_s: 1 });
  apply(show, 'change-cue', { id: id(show, 2), set: { follow_s: 3 } });
  expect(show.cues.get(id(show, 2))?.after_s).toBeUndefined();
});

test('a list is made, changed and deleted with its cues; the last one stays', () => {
  const show = four();
  apply(show, 'make-list', { name: 'Lanterns', set: { priority: 60 } });
  const list = [...show.lists.values()].find((l) => l.name === 'Lanterns');
  apply(show, 'make-cues', { listId: list?.id, cues: [{ number: 1000 }] });
  apply(show, 'change-cue', {
    id: id(show, 1),
    set: { actions: [{ do: 'list', list: list?.id, what: 'go' }] },
  });
  expect(refused(show, 'make-list', { name: 'lanterns' }).code).toBe('clash');
  expect(apply(show, 'delete-list', { id: list?.id }).summary).toBe(
    'Deleted list “Lanterns” with 1 cue; actions of 1 cue point at nothing now',
  );
  expect(refused(show, 'delete-list', { id: 'main' }).message).toContain('at least one cue list');
});

test('whatever is done to the order of a list, no other cue changes its look', () => {
  const cells = fc.record({
    cue: fc.integer({ min: 1, max: 7 }),
    fixture: fc.integer({ min: 1, max: 4 }),
    percent: fc.option(fc.integer({ min: 0, max: 100 }), { nil: null }),
  });
  const verbs = fc.record({
    verb: fc.constantFrom('move', 'delete', 'copy', 'renumber', 'block', 'unblock', 'split'),
    cue: fc.nat(6),
    to: fc.integer({ min: 0, max: 9 }),
  });
  fc.assert(
    fc.property(
      fc.array(cells, { maxLength: 25 }),
      fc.array(verbs, { maxLength: 6 }),
      fc.boolean(),
      (values, acts, tracks) => {
        const show = exampleShow();
        apply(show, 'make-cues', {
          listId: 'main',
          cues: [1, 2, 3, 4, 5, 6, 7].map((n) => ({ number: n * 1000 })),
        });
        for (const v of values) {
          try {
            cue(show, v.cue, { [v.fixture]: v.percent });
          } catch {
            // Nothing to write is fine here.
          }
        }
        if (!tracks) apply(show, 'change-list', { id: 'main', set: { tracking: false } });
        for (const act of acts) {
          const cues = show.cuesOf('main');
          const one = cues[act.cue % Math.max(1, cues.length)];
          if (!one) return;
          const before = looks(show);
          const params: Record<string, [string, unknown]> = {
            move: ['move-cues', { ids: [one.id], after: act.to * 1000 }],
            delete: ['delete-cue', { id: one.id }],
            copy: ['copy-cues', { ids: [one.id], after: act.to * 1000 }],
            renumber: ['renumber-cues', { ids: [one.id], from: act.to * 1000 + 333, step: 1000 }],
            block: ['block-cue', { ids: [one.id], on: true }],
            unblock: ['block-cue', { ids: [one.id], on: false }],
            split: [
              'split-cue',
              { id: one.id, slots: [{ fixtureId: idOf(show, 1), attribute: 'Dimmer' }] },
            ],
          };
          const [verb, p] = params[act.verb] ?? ['', {}];
          try {
            apply(show, verb, p);
          } catch {
            continue;
          }
          for (const [cueId, shown] of looks(show))
            if (before.has(cueId) && !(act.verb === 'split' && cueId === one.id))
              expect(shown).toBe(before.get(cueId));
        }
      },
    ),
    { numRuns: 150 },
  );
});

describe('faders and sounds', () => {
  const holds = (show: MutableShow): object => ({ kind: 'list', id: [...show.lists.keys()][0] });
  test('a fader takes the next free number, holds what is there, and in a way that it can', () => {
    const show = four();
    const set = (more: object): object => ({
      set: { name: 'One', holds: holds(show), mode: 'proportional', flash: 'full', ...more },
    });
    apply(show, 'set-fader', set({ number: 2 }));
    apply(show, 'set-fader', set({}));
    apply(show, 'set-fader', set({}));
    expect([...show.faders.values()].map((f) => f.number)).toEqual([2, 1, 3]);
    expect(refused(show, 'set-fader', set({ number: 2 })).message).toBe('Fader 2 exists already.');
    expect(
      refused(show, 'set-fader', set({ holds: { kind: 'look', id: 'gone' } })).message,
    ).toContain('deleted meanwhile');
    expect(refused(show, 'set-fader', set({ mode: 'size' })).message).toContain('holds an effect');
    expect(
      refused(show, 'set-fader', set({ holds: { kind: 'group', id: 'gone' }, mode: 'rate' })).code,
    ).toBe('invalid');
  });
  test('what a fader holds is not deleted under it', () => {
    const show = four();
    apply(show, 'record-group', { name: 'Front', fixtures: [idOf(show, 1)] });
    const id = [...show.groups.keys()][0];
    apply(show, 'set-fader', {
      set: { name: 'Front', holds: { kind: 'group', id }, mode: 'inhibiting', flash: 'full' },
    });
    expect(refused(show, 'delete-group', { id }).message).toContain('fader 1 “Front” uses it');
  });
  test('sounds are sounds, and not too many', () => {
    const show = four();
    const sound = (n: number): object => ({
      name: 'Sea',
      data: `data:audio/wav;base64,${'A'.repeat(n)}`,
    });
    expect(
      refused(show, 'add-sound', { name: 'Page', data: 'data:text/html;base64,AAAA' }).message,
    ).toContain('WAV, MP3, Ogg or WebM');
    expect(refused(show, 'add-sound', sound(2_900_000)).message).toContain('at most 2 MB');
    for (let i = 0; i < 4; i++) apply(show, 'add-sound', sound(2_700_000));
    expect(refused(show, 'add-sound', sound(2_700_000)).message).toContain('9 MB together');
  });
});
