import fc from 'fast-check';
import { isRefusal } from '../refusal.ts';
import { apply, cue, exampleShow, idOf } from '../testing/example.ts';
import { packShow, unpackShow } from '../formats/pack.ts';
import type { MutableShow, RowChange } from './show.ts';
import {
  planReverse,
  reverse,
  sayReversed,
  undoneIn,
  undoState,
  type Change,
  type ChangeHead,
} from './undo.ts';
import { same } from '../same.ts';

const rowsOf = (show: MutableShow): Record<string, unknown> =>
  Object.fromEntries([...show.rows()].map(({ table, row }) => [`${table}/${row.id}`, row]));
const entry = (seq: number, rows: RowChange[], userName = 'Mara Kell'): Change => ({
  seq,
  editId: `e${seq}`,
  userId: userName,
  userName,
  at: '',
  edit: 'change',
  summary: `change ${seq}`,
  reverts: null,
  rows,
});

test('a change and its reverse leave every row as it was', () => {
  const steps = fc.array(
    fc.oneof(
      fc.record({
        kind: fc.constant('cue' as const),
        at: fc.integer({ min: 1, max: 5 }),
        fixture: fc.integer({ min: 1, max: 6 }),
        level: fc.integer({ min: 0, max: 100 }),
      }),
      fc.record({
        kind: fc.constant('label' as const),
        fixture: fc.integer({ min: 1, max: 6 }),
        label: fc.constantFrom('Bow', 'Stern', 'Rail'),
      }),
      fc.record({ kind: fc.constant('delete' as const), fixture: fc.integer({ min: 1, max: 6 }) }),
    ),
    { maxLength: 15 },
  );
  fc.assert(
    fc.property(steps, (list) => {
      const show = exampleShow();
      const before = rowsOf(show);
      const done: RowChange[][] = [];
      for (const step of list) {
        const id = show.fixtureByNumber(step.fixture)?.id;
        if (!id) continue;
        try {
          if (step.kind === 'cue')
            done.push(
              apply(show, 'record-cue', {
                listId: 'main',
                number: step.at * 1000,
                values: [{ fixtureId: id, attribute: 'Dimmer', level: step.level / 100 }],
              }).changes,
            );
          else if (step.kind === 'label')
            done.push(
              apply(show, 'change-fixtures', { fixtures: [{ id, set: { label: step.label } }] })
                .changes,
            );
          else done.push(apply(show, 'delete-fixtures', { ids: [id] }).changes);
        } catch (error) {
          expect((error as Error).message).toContain('already');
        }
      }
      for (const changes of done.reverse()) show.apply(reverse(changes));
      expect(rowsOf(show)).toEqual(before);
    }),
    { numRuns: 40 },
  );
});

test('undo gives back only the fields that it altered; later work on others stays', () => {
  const show = exampleShow();
  const id = cue(show, 1, { 1: 50 });
  const named = apply(show, 'change-cue', { id, set: { name: 'Bell' } });
  const timed = apply(show, 'change-cue', { id, set: { up_s: 9 } });
  const planned = planReverse(show, { rows: named.changes, summary: named.summary }, [
    entry(2, timed.changes),
  ]);
  if (isRefusal(planned)) throw new Error(planned.message);
  show.apply(planned);
  expect(show.cues.get(id)).toMatchObject({ name: '', up_s: 9 });
});

test('undo is refused with the name of who built on it, and changes nothing', () => {
  const show = exampleShow();
  const id = cue(show, 1, { 1: 50 });
  const mine = apply(show, 'change-cue', { id, set: { name: 'Bell' } });
  const theirs = apply(show, 'change-cue', { id, set: { name: 'Ship’s bell' } });
  const planned = planReverse(show, { rows: mine.changes, summary: 'named a cue' }, [
    entry(2, theirs.changes, 'Tam Brevik'),
  ]);
  expect(planned).toMatchObject({
    refused: true,
    code: 'conflict',
    message: expect.stringMatching(/cue 1 \(by Tam Brevik\)/),
  });
});

test('undoing a patch is refused while a cue uses the fixture', () => {
  const show = exampleShow();
  const patched = apply(show, 'patch-fixtures', {
    typeId: 'generic-dimmer',
    mode: '8 bit',
    quantity: 1,
    first: 30,
  });
  cue(show, 4, { 30: 10 });
  expect(planReverse(show, { rows: patched.changes, summary: 'Patched' }, [])).toMatchObject({
    refused: true,
    message: expect.stringContaining('cue 4 uses it'),
  });
});

test('undoing a deletion brings back fixture, values and place in groups', () => {
  const show = exampleShow();
  const first = cue(show, 1, { 1: 50 });
  apply(show, 'record-group', { name: 'Front', fixtures: [idOf(show, 1), idOf(show, 2)] });
  const before = rowsOf(show);
  const gone = apply(show, 'delete-fixtures', { ids: [idOf(show, 1)] });
  const planned = planReverse(show, { rows: gone.changes, summary: gone.summary }, []);
  if (isRefusal(planned)) throw new Error(planned.message);
  show.apply(planned);
  expect(rowsOf(show)).toEqual(before);
  expect(show.valuesOf(first).size).toBe(1);
});

test('undo and redo go along a person’s own edits; a new edit ends what could be redone', () => {
  const head = (seq: number, edit: string, reverts: number | null = null): ChangeHead => ({
    seq,
    userId: 'm',
    edit,
    reverts,
    summary: '',
  });
  expect(undoState([]).undo).toBeUndefined();
  const log = [head(1, 'a'), head(2, 'b'), head(3, 'undo', 2)];
  expect(undoState(log)).toMatchObject({ undo: { seq: 1 }, redo: { seq: 3 } });
  expect(undoState([...log, head(4, 'redo', 3)])).toMatchObject({
    undo: { seq: 2 },
    redo: undefined,
  });
  expect(undoState([...log, head(4, 'c')])).toMatchObject({ undo: { seq: 4 }, redo: undefined });
  expect(undoState([...log, head(4, 'undo', 3)])).toMatchObject({
    undo: { seq: 2 },
    redo: undefined,
  });
  expect(undoState([...log, head(4, 'redo', 3), head(5, 'undo', 4)])).toMatchObject({
    undo: { seq: 1 },
    redo: { seq: 5 },
  });
  expect(undoState([...log, head(4, 'undo', 1)])).toMatchObject({
    undo: undefined,
    redo: { seq: 4 },
  });
});

test('what is undone and done again is in force; an undo that is undone is not', () => {
  const log = (...reverts: (number | null)[]): Pick<Change, 'seq' | 'reverts'>[] =>
    reverts.map((r, i) => ({ seq: i + 1, reverts: r }));
  const cases: [(number | null)[], number[]][] = [
    [[null, null], []],
    [[null, 1], [1]],
    [[null, 1, 2], [2]],
    [
      [null, 1, 2, 1],
      [1, 2],
    ],
    [
      [null, 1, 2, 3],
      [1, 3],
    ],
    [
      [null, null, 2, 1, 3],
      [1, 3],
    ],
  ];
  for (const [reverts, gone] of cases) expect([...undoneIn(log(...reverts))].sort()).toEqual(gone);
});

test('property: what a person has done and undone is what is in force and what is not, whoever undid it and in whatever order', () => {
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 0, max: 9 }), { maxLength: 14 }), (steps) => {
      const log: ChangeHead[] = [];
      for (const step of steps) {
        // An entry that is in force is reversed now and then; else something new is done.
        const inForce = log.filter((c) => !undoneIn(log).has(c.seq));
        const reverts =
          step < 3 ? null : (inForce[step % Math.max(1, inForce.length)]?.seq ?? null);
        log.push({
          seq: log.length + 1,
          userId: 'm',
          edit: reverts === null ? 'a' : 'undo',
          reverts,
          summary: '',
        });
      }
      const gone = undoneIn(log);
      const { done, undone } = undoState(log);
      const made = log.filter((c) => c.reverts === null);
      expect(done.map((c) => c.seq).sort()).toEqual(
        made
          .filter((c) => !gone.has(c.seq))
          .map((c) => c.seq)
          .sort(),
      );
      // What was undone before something new was done is no longer offered.
      expect(undone.every((c) => gone.has(c.seq))).toBe(true);
    }),
  );
});

test('a change reversed is undone, an undo reversed is done again, and another’s name is said once', () => {
  expect(sayReversed('Deleted cue 4')).toBe('Undid: Deleted cue 4');
  expect(sayReversed('Deleted cue 4', 'Mara Kell')).toBe('Undid Mara Kell’s: Deleted cue 4');
  expect(sayReversed('Undid: Deleted cue 4')).toBe('Redid: Deleted cue 4');
  expect(sayReversed('Undid Mara Kell’s: Deleted cue 4', 'Tam Brevik')).toBe(
    'Redid: Deleted cue 4',
  );
  expect(sayReversed('Redid: Deleted cue 4')).toBe('Undid: Deleted cue 4');
});

test('rows are equal whatever the order of their keys', () => {
  expect(same({ a: 1, b: [1, { c: 2 }] }, { b: [1, { c: 2 }], a: 1 })).toBe(true);
  expect(same({ a: 1 }, { a: 1, b: undefined })).toBe(false);
  expect(same([1, 2], [2, 1])).toBe(false);
});

test('a packed show is the same show', () => {
  const show = exampleShow();
  cue(show, 1, { 1: 50, 2: null });
  apply(show, 'record-cue', {
    listId: 'main',
    number: 2000,
    values: [{ fixtureId: idOf(show, 101), attribute: 'Pan', level: 0.25, fade_s: 4, delay_s: 1 }],
  });
  const back = unpackShow(
    JSON.parse(JSON.stringify(packShow(show))) as ReturnType<typeof packShow>,
  );
  expect(rowsOf(back)).toEqual(rowsOf(show));
});

test('undo takes a field away that was not there before, also when others of the row have changed since', () => {
  const show = exampleShow();
  const id = cue(show, 1, { 1: 50 });
  const before = show.cues.get(id);
  const linked = apply(show, 'change-cue', { id, set: { after_s: 2 } });
  expect(before).not.toHaveProperty('after_s');
  const named = apply(show, 'change-cue', { id, set: { name: 'Bell' } });
  const planned = planReverse(show, { rows: linked.changes, summary: linked.summary }, [
    entry(2, named.changes),
  ]);
  if (isRefusal(planned)) throw new Error(planned.message);
  show.apply(planned);
  expect(show.cues.get(id)).not.toHaveProperty('after_s');
  expect(show.cues.get(id)).toEqual({ ...before, name: 'Bell' });
});
