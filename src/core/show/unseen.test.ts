import { planEdit } from '../edits/plan-edit.ts';
import { apply, cue, exampleShow, idOf } from '../testing/example.ts';
import type { MutableShow } from './show.ts';
import { slotKey } from '../cues/rows.ts';
import type { Change } from './undo.ts';
import { unseenBy } from './unseen.ts';

/** Mara looks; meanwhile Tam edits; then Mara's edit is planned on the show as it is by then. */
function meanwhile(show: MutableShow, edit: string, params: unknown, userId = 'tam'): Change {
  const done = apply(show, edit, params);
  return {
    seq: 1,
    editId: 'e',
    userId,
    userName: 'Tam Brevik',
    at: '2026-11-24T19:30:00.000Z',
    edit,
    summary: done.summary,
    reverts: null,
    rows: done.changes,
  };
}
const planned = (
  show: MutableShow,
  edit: string,
  params: unknown,
): Parameters<typeof unseenBy>[1] => {
  const plan = planEdit(show, 'programmer', edit, params, 'mine');
  if ('refused' in plan) throw new Error(plan.message);
  return plan.changes;
};
const cell = (show: MutableShow, cueId: string, fixture: number, level: number): unknown => ({
  cells: [{ cueId, fixtureId: idOf(show, fixture), attribute: 'Dimmer', set: { level } }],
});

test('a cell that somebody has changed since is shown with both values, and not written', () => {
  const show = exampleShow();
  const id = cue(show, 1, { 1: 10, 2: 10 });
  const since = [meanwhile(show, 'set-values', cell(show, id, 1, 0.6))];
  const { unseen, changes } = unseenBy(
    show,
    planned(show, 'set-values', cell(show, id, 1, 0.9)),
    since,
    'mara',
  );
  expect(unseen).toEqual([
    {
      key: `values/${id}:${idOf(show, 1)}:Dimmer`,
      title: 'intensity of fixture 1 in cue 1',
      seen: '10 %',
      now: '60 %',
      yours: '90 %',
      who: 'Tam Brevik',
      at: '2026-11-24T19:30:00.000Z',
    },
  ]);
  expect(changes).toEqual([]);
});

test('another cell, another field, and one’s own earlier work are no conflict', () => {
  const show = exampleShow();
  const id = cue(show, 1, { 1: 10, 2: 10 });
  const since = [
    meanwhile(show, 'set-values', cell(show, id, 1, 0.6)),
    meanwhile(show, 'change-cue', { id, set: { up_s: 9 } }),
  ];
  for (const [edit, params] of [
    ['set-values', cell(show, id, 2, 0.9)],
    ['change-cue', { id, set: { name: 'Bell' } }],
  ] as const) {
    const { unseen, changes } = unseenBy(show, planned(show, edit, params), since, 'mara');
    expect([unseen, changes.length]).toEqual([[], 1]);
  }
  expect(
    unseenBy(show, planned(show, 'change-cue', { id, set: { up_s: 4 } }), since, 'tam').unseen,
  ).toEqual([]);
});

test('changed and changed back again is as it was seen', () => {
  const show = exampleShow();
  const id = cue(show, 1, { 1: 10 });
  const since = [
    meanwhile(show, 'set-values', cell(show, id, 1, 0.6)),
    meanwhile(show, 'set-values', cell(show, id, 1, 0.1)),
  ];
  expect(
    unseenBy(show, planned(show, 'set-values', cell(show, id, 1, 0.9)), since, 'mara').unseen,
  ).toEqual([]);
});

test('chosen for each: theirs stays, mine is written, and other fields of the row are written in any case', () => {
  const show = exampleShow();
  const id = cue(show, 1, { 1: 10, 2: 10 });
  const since = [
    meanwhile(show, 'set-values', {
      cells: [1, 2].map((f) => (cell(show, id, f, 0.6) as { cells: unknown[] }).cells[0]),
    }),
    meanwhile(show, 'change-cue', { id, set: { name: 'Tam’s' } }),
  ];
  const [one, two] = [1, 2].map((f) => `values/${id}:${idOf(show, f)}:Dimmer`) as [string, string];
  const both = planned(show, 'set-values', {
    cells: [1, 2].map((f) => (cell(show, id, f, 0.9) as { cells: unknown[] }).cells[0]),
  });
  const result = unseenBy(show, both, since, 'mara', { [one]: 'theirs', [two]: 'mine' });
  expect([result.unseen, result.changes.map((c) => c.id)]).toEqual([
    [],
    [`${id}:${idOf(show, 2)}:Dimmer`],
  ]);
  const fields = unseenBy(
    show,
    planned(show, 'change-cue', { id, set: { name: 'Mara’s', up_s: 7 } }),
    since,
    'mara',
    { [`cues/${id}/name`]: 'theirs' },
  );
  show.apply(fields.changes);
  expect(show.cues.get(id)).toMatchObject({ name: 'Tam’s', up_s: 7 });
  expect(show.valuesOf(id).get(slotKey(idOf(show, 1), 'Dimmer'))?.level).toBe(0.6);
});

test('what somebody has deleted meanwhile, and what both have made, is a question too', () => {
  const show = exampleShow();
  const id = cue(show, 1, { 1: 10 });
  const since = [meanwhile(show, 'set-values', cell(show, id, 3, 0.6))];
  expect(
    unseenBy(show, planned(show, 'set-values', cell(show, id, 3, 0.9)), since, 'mara').unseen[0],
  ).toMatchObject({ seen: 'not set here', now: '60 %', yours: '90 %' });
});

test('“mine” is asked again where somebody has changed it since the choice; “theirs” leaves it as it is by then; fields alike', () => {
  const show = exampleShow();
  const id = cue(show, 1, { 1: 10 });
  const at = (seq: number, change: Change): Change => ({ ...change, seq });
  const since = [
    at(1, meanwhile(show, 'set-values', cell(show, id, 1, 0.6))),
    at(2, meanwhile(show, 'change-cue', { id, set: { name: 'Tam’s' } })),
    at(3, meanwhile(show, 'set-values', cell(show, id, 1, 0.3))),
    at(4, meanwhile(show, 'change-cue', { id, set: { name: 'Tam’s own' } })),
  ];
  const [value, name] = [`values/${id}:${idOf(show, 1)}:Dimmer`, `cues/${id}/name`];
  const cells = planned(show, 'set-values', cell(show, id, 1, 0.9));
  expect(unseenBy(show, cells, since, 'mara', { [value]: 'mine' }, 2).unseen).toMatchObject([
    { seen: '60 %', now: '30 %', yours: '90 %' },
  ]);
  expect(unseenBy(show, cells, since, 'mara', { [value]: 'mine' }, 4)).toMatchObject({
    unseen: [],
    changes: [{ id: `${id}:${idOf(show, 1)}:Dimmer` }],
  });
  expect(unseenBy(show, cells, since, 'mara', { [value]: 'theirs' }, 2)).toEqual({
    unseen: [],
    changes: [],
  });
  const fields = planned(show, 'change-cue', { id, set: { name: 'Mara’s' } });
  expect(unseenBy(show, fields, since, 'mara', { [name]: 'mine' }, 3).unseen).toMatchObject([
    { seen: '“Tam’s”', now: '“Tam’s own”', yours: '“Mara’s”' },
  ]);
  expect(unseenBy(show, fields, since, 'mara', { [name]: 'mine' }, 4).unseen).toEqual([]);
});
