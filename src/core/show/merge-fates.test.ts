/** What one side deleted and the other went on with. */
import fc from 'fast-check';
import { planEdit } from '../edits/plan-edit.ts';
import { isRefusal } from '../refusal.ts';
import { apply, cue, exampleShow, idOf } from '../testing/example.ts';
import { mergeShows, type Decisions } from './merge.ts';
import { danglingAfter } from './references.ts';
import { slotKey } from '../cues/rows.ts';
import { TABLES } from './tables.ts';
import type { MutableShow } from './show.ts';

const THEIRS: Decisions = { rules: [{ side: 'theirs' }], choices: {} };
const OURS: Decisions = { rules: [{ side: 'ours' }], choices: {} };
const numbered = (show: MutableShow, number: number) =>
  show.cuesOf('main').find((c) => c.number === number * 1000);
const level = (show: MutableShow, number: number, fixture: number): number | null | undefined =>
  show.valuesOf(numbered(show, number)?.id ?? '').get(slotKey(idOf(show, fixture), 'Dimmer'))
    ?.level;
const set = (show: MutableShow, number: number, fixture: number, percent: number): void =>
  void apply(show, 'set-values', {
    cells: [
      {
        cueId: numbered(show, number)?.id,
        fixtureId: idOf(show, fixture),
        attribute: 'Dimmer',
        set: { level: percent / 100 },
      },
    ],
  });
const remove = (show: MutableShow, number: number): void =>
  void apply(show, 'delete-cue', { id: numbered(show, number)?.id });

function began(): [base: MutableShow, ours: MutableShow, theirs: MutableShow] {
  const base = exampleShow();
  for (const n of [1, 2, 3]) cue(base, n, { 1: 10 * n, 2: 10 * n }, { name: `Cue ${n}` });
  return [base, base.clone(), base.clone()];
}
function merged(
  base: MutableShow,
  ours: MutableShow,
  theirs: MutableShow,
  decisions: Decisions = { rules: [], choices: {} },
) {
  const result = mergeShows(base, ours, theirs, decisions);
  expect(danglingAfter(ours, result.changes)).toBeUndefined();
  const show = ours.clone();
  show.apply(result.changes);
  return { ...result, show };
}

test('a cue that comes back comes back with all that it set, and what was done in it since; one question for all of it', () => {
  const [base, ours, theirs] = began();
  remove(ours, 2);
  set(theirs, 2, 1, 80);
  set(theirs, 2, 3, 50);
  const open = merged(base, ours, theirs);
  expect(open.conflicts).toMatchObject([
    { title: 'cue 2', ours: 'deleted', theirs: 'worked on since' },
  ]);
  expect(numbered(open.show, 2)).toBeUndefined();
  const back = merged(base, ours, theirs, THEIRS).show;
  expect([1, 2, 3].map((f) => level(back, 2, f))).toEqual([0.8, 0.2, 0.5]);
});

test('a cue of ours that they deleted stays whole where we keep it, and goes whole where we do not', () => {
  const [base, ours, theirs] = began();
  remove(theirs, 2);
  set(ours, 2, 1, 80);
  const kept = merged(base, ours, theirs, OURS);
  expect([kept.changes, level(kept.show, 2, 1), level(kept.show, 2, 2)]).toEqual([[], 0.8, 0.2]);
  const gone = merged(base, ours, theirs, THEIRS).show;
  expect([...gone.values.values()].filter((v) => !gone.cues.has(v.cueId))).toEqual([]);
  expect(numbered(gone, 2)).toBeUndefined();
});

test('a deletion of what nobody worked on needs no question', () => {
  const [base, ours, theirs] = began();
  remove(theirs, 3);
  set(ours, 1, 1, 80);
  const { show, conflicts } = merged(base, ours, theirs);
  expect([conflicts, numbered(show, 3), level(show, 1, 1)]).toEqual([[], undefined, 0.8]);
});

test('values that go with a fixture are no work on their cue', () => {
  const [base, ours, theirs] = began();
  remove(ours, 2);
  apply(theirs, 'delete-fixtures', { ids: [idOf(theirs, 1)], withValues: true });
  const { conflicts, show } = merged(base, ours, theirs);
  expect([conflicts, numbered(show, 2), show.fixtureByNumber(1)]).toEqual([
    [],
    undefined,
    undefined,
  ]);
});

test('a fixture that stays keeps its values, and its places in groups and looks', () => {
  const base = exampleShow();
  cue(base, 1, { 5: 40 });
  apply(base, 'record-group', { name: 'Bow', number: 3, fixtures: [idOf(base, 4), idOf(base, 5)] });
  apply(base, 'record-look', {
    name: 'Storm',
    number: 1,
    items: [4, 5].map((n) => ({
      kind: 'level',
      fixtureId: idOf(base, n),
      attribute: 'Dimmer',
      level: 0.3,
    })),
  });
  const [ours, theirs] = [base.clone(), base.clone()];
  apply(ours, 'delete-fixtures', { ids: [idOf(ours, 5)], withValues: true });
  set(theirs, 1, 5, 70);
  const back = merged(base, ours, theirs, THEIRS);
  expect(back.conflicts).toMatchObject([
    { title: 'fixture 5', ours: 'deleted', theirs: 'worked on since' },
  ]);
  expect(level(back.show, 1, 5)).toBe(0.7);
  expect([...back.show.groups.values()][0]?.fixtures).toEqual([idOf(base, 4), idOf(base, 5)]);
  expect([...back.show.looks.values()][0]?.items).toHaveLength(2);
  expect(back.show.fixtureByNumber(5)?.patch).toEqual(base.fixtureByNumber(5)?.patch);
});

test('a list is decided as a whole, with cues that came to it since', () => {
  const base = exampleShow();
  apply(base, 'make-list', { name: 'Band' });
  const listId = [...base.lists.values()].find((l) => l.name === 'Band')?.id ?? '';
  apply(base, 'record-cue', {
    listId,
    number: 1000,
    values: [{ fixtureId: idOf(base, 1), attribute: 'Dimmer', level: 0.5 }],
  });
  apply(base, 'set-fader', {
    set: { name: 'Band', holds: { kind: 'list', id: listId }, mode: 'proportional', flash: 'full' },
  });
  const [ours, theirs] = [base.clone(), base.clone()];
  apply(ours, 'delete-list', { id: listId });
  apply(theirs, 'record-cue', {
    listId,
    number: 2000,
    values: [{ fixtureId: idOf(base, 2), attribute: 'Dimmer', level: 1 }],
  });
  const open = merged(base, ours, theirs);
  expect(open.conflicts.map((c) => c.title)).toEqual(['list 2 “Band”']);
  expect(open.show.cuesOf(listId)).toEqual([]);
  expect(open.show.faders.size).toBe(0);
  const back = merged(base, ours, theirs, THEIRS).show;
  expect(back.faders.size).toBe(1);
  expect(back.cuesOf(listId).map((c) => [c.number, back.valuesOf(c.id).size])).toEqual([
    [1000, 1],
    [2000, 1],
  ]);
});

test('a palette that one side deleted stays where the other uses it anew, and it is said', () => {
  const [base] = began();
  apply(base, 'record-palette', {
    family: 'intensity',
    name: 'Glow',
    number: 4,
    any: { level: 0.4 },
  });
  const palette = [...base.palettes.values()].find((p) => p.name === 'Glow')?.id ?? '';
  const [ours, theirs] = [base.clone(), base.clone()];
  apply(ours, 'delete-palette', { id: palette });
  apply(theirs, 'record-cue', {
    listId: 'main',
    number: 4000,
    values: [{ fixtureId: idOf(base, 3), attribute: 'Dimmer', level: 0.4, palette }],
  });
  const { show, notes } = merged(base, ours, theirs);
  expect(show.palettes.get(palette)?.name).toBe('Glow');
  expect(notes).toEqual(['Palette 4 “Glow” is kept, though one side deleted it: 1 thing uses it.']);
});

test('a link to a cue that is gone is gone, and it is said', () => {
  const [base] = began();
  const [ours, theirs] = [base.clone(), base.clone()];
  apply(ours, 'change-cue', {
    id: numbered(ours, 1)?.id,
    set: { link: { to: numbered(ours, 3)?.id } },
  });
  remove(theirs, 3);
  const { show, notes } = merged(base, ours, theirs);
  expect([numbered(show, 1)?.link, notes]).toEqual([
    undefined,
    ['The link of cue 1 is gone: the cue that it led to is.'],
  ]);
});

describe('whatever two people did', () => {
  const step = fc.oneof(
    fc.record({
      edit: fc.constant('set' as const),
      cue: fc.integer({ min: 1, max: 5 }),
      fixture: fc.integer({ min: 1, max: 6 }),
      level: fc.integer({ min: 0, max: 100 }),
    }),
    fc.record({ edit: fc.constant('delete-cue' as const), cue: fc.integer({ min: 1, max: 5 }) }),
    fc.record({
      edit: fc.constant('delete-fixture' as const),
      fixture: fc.integer({ min: 1, max: 6 }),
    }),
    fc.record({
      edit: fc.constant('palette' as const),
      cue: fc.integer({ min: 1, max: 5 }),
      fixture: fc.integer({ min: 1, max: 6 }),
    }),
    fc.record({ edit: fc.constant('delete-palette' as const) }),
    fc.record({ edit: fc.constant('group' as const), fixture: fc.integer({ min: 1, max: 6 }) }),
    fc.record({ edit: fc.constant('delete-list' as const) }),
  );
  type Doing =
    | 'set'
    | 'palette'
    | 'delete-cue'
    | 'delete-fixture'
    | 'delete-palette'
    | 'group'
    | 'delete-list';
  const doing = (
    show: MutableShow,
    steps: readonly { edit: Doing; cue?: number; fixture?: number; level?: number }[],
    who: string,
  ): void => {
    steps.forEach((s, i) => {
      const fixture = show.fixtureByNumber(s.fixture ?? 0)?.id ?? '';
      const palette = [...show.palettes.values()].find((p) => p.name === 'Glow')?.id;
      const group = [...show.groups.values()][0];
      const level =
        s.edit === 'palette' ? { level: 0.4, palette } : { level: (s.level ?? 0) / 100 };
      const record = {
        listId: s.cue === 5 ? 'second' : 'main',
        number: (s.cue ?? 1) * 1000,
        values: [{ fixtureId: fixture, attribute: 'Dimmer', ...level }],
      };
      const regroup = {
        number: group?.number,
        name: group?.name ?? 'Bow',
        fixtures: [...new Set([...(group?.fixtures ?? []), fixture])],
      };
      const edits: Record<Doing, [string, unknown]> = {
        set: ['record-cue', record],
        palette: ['record-cue', record],
        'delete-cue': ['delete-cue', { id: numbered(show, s.cue ?? 0)?.id ?? 'none' }],
        'delete-fixture': ['delete-fixtures', { ids: [fixture], withValues: true }],
        'delete-palette': ['delete-palette', { id: palette ?? 'none' }],
        group: ['record-group', regroup],
        'delete-list': ['delete-list', { id: 'second' }],
      };
      const [name, params] = edits[s.edit];
      const planned = planEdit(show, 'owner', name, params, `${who}-${i}`);
      if (!isRefusal(planned)) show.apply(planned.changes);
    });
  };
  test('property: the merged show leans on nothing that is not there, every row of it is valid, and what only one side did is in it', () => {
    fc.assert(
      fc.property(
        fc.array(step, { maxLength: 10 }),
        fc.array(step, { maxLength: 10 }),
        fc.constantFrom(OURS, THEIRS),
        (mine, yours, decisions) => {
          const [base] = began();
          base.apply([
            {
              table: 'lists',
              id: 'second',
              before: null,
              after: {
                ...[...base.lists.values()][0],
                id: 'second',
                number: 2,
                name: 'Second',
              } as never,
            },
          ]);
          apply(base, 'record-cue', {
            listId: 'second',
            number: 5000,
            values: [{ fixtureId: idOf(base, 6), attribute: 'Dimmer', level: 0.5 }],
          });
          apply(base, 'record-palette', {
            family: 'intensity',
            name: 'Glow',
            number: 4,
            any: { level: 0.4 },
          });
          apply(base, 'record-group', {
            name: 'Bow',
            number: 3,
            fixtures: [idOf(base, 4), idOf(base, 5)],
          });
          apply(base, 'set-fader', {
            set: {
              name: 'Second',
              holds: { kind: 'list', id: 'second' },
              mode: 'proportional',
              flash: 'full',
            },
          });
          const [ours, theirs] = [base.clone(), base.clone()];
          doing(ours, mine, 'mine');
          doing(theirs, yours, 'yours');
          const { show, after } = merged(base, ours, theirs, decisions);
          expect([...after.rows()].length).toBe([...show.rows()].length);
          for (const { table, row } of show.rows())
            expect(TABLES[table].row.safeParse(row).success).toBe(true);
          for (const v of show.values.values())
            expect([
              show.cues.has(v.cueId),
              show.fixtures.has(v.fixtureId),
              v.palette === undefined || show.palettes.has(v.palette),
            ]).toEqual([true, true, true]);
          for (const g of show.groups.values())
            expect(g.fixtures.every((f) => show.fixtures.has(f))).toBe(true);
          // A cue that only they made is there with what they set in it.
          for (const c of theirs.cues.values())
            if (!base.cues.has(c.id) && show.cues.has(c.id))
              for (const v of theirs.valuesOf(c.id).values())
                if (show.fixtures.has(v.fixtureId))
                  expect(show.valuesOf(c.id).get(slotKey(v.fixtureId, v.attribute))?.level).toBe(
                    v.level,
                  );
          // Nobody else's work: merging into a show where nothing was done gives theirs.
          expect(mergeShows(base, theirs, base, decisions).changes).toEqual([]);
        },
      ),
      { numRuns: 150 },
    );
  });
});
