import { cue, exampleShow, idOf } from '../testing/example.ts';
import { planEdit } from '../edits/plan-edit.ts';
import { isRefusal } from '../refusal.ts';
import { concernsOf } from './concerns.ts';
import type { MutableShow } from '../show/show.ts';
import type { Change } from '../show/undo.ts';

const MARA = { userId: 'mara', name: 'Mara Kell', at: '2026-11-24T19:00:00Z' };
const YRSA = { userId: 'yrsa', name: 'Yrsa Oddny', at: '2026-11-24T19:05:00Z' };
let seq = 0;
/** An edit as somebody's change, applied. */
function made(show: MutableShow, by: typeof MARA, edit: string, params: unknown): Change {
  const planned = planEdit(show, 'owner', edit, params, `c${++seq}`, by);
  if (isRefusal(planned)) throw new Error(planned.message);
  show.apply(planned.changes);
  return {
    seq,
    editId: `c${seq}`,
    userId: by.userId,
    userName: by.name,
    at: by.at,
    edit,
    summary: planned.summary,
    reverts: null,
    rows: planned.changes,
  };
}
const nobody = { past: [], madeBy: () => [] };
const told = (
  show: MutableShow,
  change: Change,
  against: Partial<Parameters<typeof concernsOf>[2]> = {},
) =>
  concernsOf(show, change, { ...nobody, ...against }).map((c) => [
    c.userId,
    c.kind,
    c.text,
    c.place,
  ]);

test('whose change was undone is told which one; who undoes their own is told nothing', () => {
  const show = exampleShow();
  cue(show, 1, { 1: 10 });
  const id = show.cuesOf('main')[0]?.id ?? '';
  const change = made(show, MARA, 'change-cue', { id, set: { name: 'Dawn' } });
  const undo = (by: typeof MARA): Change => ({
    ...change,
    seq: 99,
    userId: by.userId,
    userName: by.name,
    edit: 'undo',
    reverts: change.seq,
    rows: change.rows.map(
      (r) => ({ ...r, before: r.after, after: r.before }) as (typeof change.rows)[number],
    ),
  });
  expect(told(show, undo(YRSA), { reverted: change })).toEqual([
    [
      'mara',
      'undone',
      `Yrsa Oddny undid “${change.summary}”, which was yours.`,
      { place: 'book', cue: id },
    ],
  ]);
  expect(told(show, undo(MARA), { reverted: change })).toEqual([]);
});

test('what was written over is told to whoever made it so, in values; other fields of the same row concern nobody', () => {
  const show = exampleShow();
  cue(show, 1, { 1: 10 });
  const id = show.cuesOf('main')[0]?.id ?? '';
  const past = [made(show, MARA, 'change-cue', { id, set: { up_s: 5 } })];
  expect(
    told(show, made(show, YRSA, 'change-cue', { id, set: { name: 'Dusk' } }), { past }),
  ).toEqual([]);
  expect(told(show, made(show, YRSA, 'change-cue', { id, set: { up_s: 8 } }), { past })).toEqual([
    [
      'mara',
      'over',
      'Yrsa Oddny wrote over what you had made: cue 1: up 5 s → 8 s.',
      { place: 'book', cue: id },
    ],
  ]);
  // What Yrsa has made over it since is hers.
  const again = [...past, made(show, YRSA, 'change-cue', { id, set: { up_s: 9 } })];
  expect(
    told(show, made(show, YRSA, 'change-cue', { id, set: { up_s: 10 } }), { past: again }),
  ).toEqual([]);
});

test('going back names the version and counts what is not as they left it', () => {
  const show = exampleShow();
  for (const n of [1, 2, 3]) cue(show, n, { 1: 10 });
  const past = show
    .cuesOf('main')
    .map((c) =>
      made(show, MARA, 'change-cue', { id: c.id, set: { name: `Made ${c.number / 1000}` } }),
    );
  const rows = past.flatMap((p) =>
    p.rows.map((r) => ({ ...r, before: r.after, after: r.before }) as (typeof p.rows)[number]),
  );
  const back: Change = {
    seq: 99,
    editId: 'x',
    userId: 'yrsa',
    userName: 'Yrsa Oddny',
    at: '',
    edit: 'restore',
    summary: 'Went back to “Monday”',
    reverts: null,
    rows,
  };
  const [first] = concernsOf(show, back, { ...nobody, past });
  expect(first?.text).toMatch(
    /^Yrsa Oddny went back to “Monday”: 3 things of yours are not as you left them: cue 1: name “Made 1” → .*; cue 2: .*; and 1 more\.$/,
  );
});

test('a part that is given, changed or taken is told to whom it concerns', () => {
  const show = exampleShow();
  const set = {
    name: 'Front',
    userId: 'mara',
    userName: 'Mara Kell',
    fixtures: [idOf(show, 1)],
    lists: [],
  };
  expect(told(show, made(show, YRSA, 'set-part', { set }))).toEqual([
    [
      'mara',
      'handed',
      'Yrsa Oddny gave you part “Front”: 1 fixture.',
      { place: 'crew', view: 'people' },
    ],
  ]);
  const id = [...show.parts.keys()][0];
  expect(
    told(show, made(show, YRSA, 'set-part', { id, set: { ...set, fixtures: [idOf(show, 2)] } })),
  ).toEqual([
    [
      'mara',
      'taken',
      'Yrsa Oddny changed what is in part “Front”, which is yours.',
      { place: 'crew', view: 'people' },
    ],
  ]);
  expect(
    told(
      show,
      made(show, YRSA, 'set-part', { id, set: { ...set, userId: 'tam', userName: 'Tam Brevik' } }),
    ),
  ).toEqual([
    [
      'tam',
      'handed',
      'Yrsa Oddny gave you part “Front”: 1 fixture.',
      { place: 'crew', view: 'people' },
    ],
    [
      'mara',
      'taken',
      'Yrsa Oddny took part “Front” from you; it is Tam Brevik’s now.',
      { place: 'crew', view: 'people' },
    ],
  ]);
  expect(told(show, made(show, { ...YRSA, userId: 'tam' }, 'delete-part', { id }))).toEqual([]);
});

test('a note reaches those who made its cue, and comes back to its author when it is worked off', () => {
  const show = exampleShow();
  cue(show, 1, { 1: 10 });
  const id = show.cuesOf('main')[0]?.id ?? '';
  const note = made(show, YRSA, 'add-note', { cueId: id, kind: 'slow', text: 'by half' });
  const [row] = show.notes.values();
  expect(told(show, note, { madeBy: () => ['mara', 'yrsa'] })).toEqual([
    [
      'mara',
      'note',
      'Yrsa Oddny noted about cue 1, too slow: “by half”',
      { place: 'book', note: row?.id, cue: id },
    ],
  ]);
  expect(told(show, made(show, MARA, 'finish-note', { id: row?.id, done: true }))).toEqual([
    [
      'yrsa',
      'note',
      'Mara Kell worked off your note about cue 1, too slow: “by half”',
      { place: 'book', note: row?.id, cue: id },
    ],
  ]);
});
