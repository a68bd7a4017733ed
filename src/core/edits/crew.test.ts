/** Parts, pages and notes: what people give each other. */
import { planEdit } from './index.ts';
import { isRefusal } from '../refusal.ts';
import { apply, cue, exampleShow, idOf, refused } from '../testing/example.ts';
import type { MutableShow } from '../show/show.ts';

const MARA = { userId: 'mara', name: 'Mara Kell', at: '2026-11-24T19:00:00Z' };
const IDEN = { userId: 'iden', name: 'Iden Vale', at: '2026-11-24T19:05:00Z' };
let edits = 0;
function by(who: typeof MARA, show: MutableShow, name: string, params: unknown, role: 'owner' | 'viewer' = 'owner') {
  const planned = planEdit(show, role, name, params, `c${edits++}`, who);
  if (!isRefusal(planned)) show.apply(planned.changes);
  return planned;
}
const part = (show: MutableShow, name: string, fixtures: number[], more: Record<string, unknown> = {}) => ({ set: { name, userId: 'mara', userName: 'Mara Kell', fixtures: fixtures.map((n) => idOf(show, n)), lists: [], ...more } });

test('a fixture and a list are in one part at most; the refusal says in whose', () => {
  const show = exampleShow();
  expect(apply(show, 'set-part', part(show, 'Front', [1, 2], { lists: ['main'] })).summary).toBe('Gave part “Front”, 2 fixtures and 1 list, to Mara Kell');
  expect(refused(show, 'set-part', part(show, 'Rest', [2, 3])).message).toBe('Fixture 2 is in part “Front” of Mara Kell already. A fixture is in one part.');
  expect(refused(show, 'set-part', part(show, 'Rest', [], { lists: ['main'] })).message).toBe('List “Main list” is in part “Front” of Mara Kell already. A list is in one part.');
  expect(refused(show, 'set-part', part(show, 'Rest', [])).code).toBe('invalid');
  expect(refused(show, 'set-part', { set: { ...part(show, 'Rest', [4]).set, fixtures: ['gone'] } }).code).toBe('not-found');
  // A part may keep what is in it when it is changed.
  const id = [...show.parts.keys()][0];
  apply(show, 'set-part', { id, ...part(show, 'Front', [2, 3]) });
  expect([...show.parts.values()].map((p) => [p.fixtures, p.lists])).toEqual([[[idOf(show, 2), idOf(show, 3)], []]]);
  expect(apply(show, 'delete-part', { id }).summary).toBe('Part “Front” is everybody’s again (was Mara Kell’s)');
  expect(refused(show, 'delete-part', { id }).code).toBe('not-found');
  expect(refused(show, 'set-part', { id, ...part(show, 'Front', [2]) }).code).toBe('not-found');
});

test('what is in somebody’s part is edited by nobody else, and everything beside it is', () => {
  const show = exampleShow();
  cue(show, 1, { 1: 10, 4: 10 });
  apply(show, 'set-part', part(show, 'Front', [1]));
  const set = (n: number) => ({ cells: [{ cueId: show.cuesOf('main')[0]?.id, fixtureId: idOf(show, n), attribute: 'Dimmer', set: { level: 0.7 } }] });
  expect(by(IDEN, show, 'set-values', set(1))).toMatchObject({ refused: true, code: 'part', message: expect.stringContaining('Mara Kell') });
  expect(isRefusal(by(IDEN, show, 'set-values', set(4)))).toBe(false);
  expect(isRefusal(by(MARA, show, 'set-values', set(1)))).toBe(false);
});

test('whose a part is, its person says, or an owner: nobody else takes it, changes it or gives it away', () => {
  const show = exampleShow();
  apply(show, 'set-part', part(show, 'Front', [1]));
  const [id] = show.parts.keys();
  const mine = { id, set: { ...part(show, 'Front', [1]).set, userId: 'iden', userName: 'Iden Vale' } };
  expect(planEdit(show, 'programmer', 'set-part', mine, 'p1', IDEN)).toMatchObject({ code: 'part', message: 'Part “Front” is Mara Kell’s: they give it away, or an owner does. Ask Mara Kell for it. Nothing was changed.' });
  expect(planEdit(show, 'programmer', 'delete-part', { id }, 'p2', IDEN)).toMatchObject({ code: 'part' });
  expect(isRefusal(planEdit(show, 'owner', 'delete-part', { id }, 'p3', IDEN))).toBe(false);
  const given = planEdit(show, 'programmer', 'set-part', mine, 'p4', MARA);
  if (isRefusal(given)) throw new Error(given.message);
  show.apply(given.changes);
  // Given away, it is not theirs to give again: the second of two answers is refused.
  expect(planEdit(show, 'programmer', 'set-part', { ...mine, set: { ...mine.set, userId: 'tam', userName: 'Tam Brevik' } }, 'p5', MARA)).toMatchObject({ code: 'part', message: expect.stringContaining('is Iden Vale’s') });
});

test('a page’s buttons point at what there is, and its name is its own', () => {
  const show = exampleShow();
  const cueId = cue(show, 1, { 1: 10 });
  const page = (name: string, act: unknown, more: Record<string, unknown> = {}) => ({ set: { name, buttons: [{ label: 'Doors', act }], faders: [], ...more } });
  expect(apply(show, 'set-page', page('Door', { do: 'cue', cue: cueId })).summary).toBe('Made page “Door”: 1 button');
  expect(refused(show, 'set-page', page('door', { do: 'release-all' })).code).toBe('clash');
  for (const [act, gone] of [
    [{ do: 'cue', cue: 'x' }, 'its cue has been deleted'],
    [{ do: 'go', list: 'x' }, 'its list has been deleted'],
    [{ do: 'fader', fader: 'x', level: 1, time_s: 2 }, 'its fader has been deleted'],
  ] as const)
    expect(refused(show, 'set-page', page('Other', act)).message).toBe(`Button “Doors” can do nothing: ${gone}. Nothing was changed.`);
  expect(refused(show, 'set-page', page('Other', { do: 'release-all' }, { faders: ['x'] })).code).toBe('not-found');
  apply(show, 'set-page', page('Second', { do: 'release-all' }));
  expect([...show.pages.values()].map((p) => p.number)).toEqual([1, 2]);
});

test('a note is left by who looks, worked off by who programs, and taken back by who left it', () => {
  const show = exampleShow();
  const cueId = cue(show, 2, { 1: 10 });
  expect(by(IDEN, show, 'add-note', { kind: 'other', text: '  ' }, 'viewer')).toMatchObject({ code: 'invalid' });
  expect(by(IDEN, show, 'add-note', { kind: 'slow', cueId: 'gone' }, 'viewer')).toMatchObject({ code: 'not-found' });
  expect(by(IDEN, show, 'add-note', { kind: 'bright', cueId, text: 'the bow' }, 'viewer')).toMatchObject({ summary: 'Left a note on cue 2: too bright, the bow' });
  const id = [...show.notes.keys()][0] ?? '';
  expect(show.notes.get(id)).toMatchObject({ cueId, cueNumber: 2000, by: { name: 'Iden Vale', at: IDEN.at } });
  // An open note of somebody else is not swept away.
  expect(by(MARA, show, 'delete-note', { id })).toMatchObject({ code: 'forbidden', message: expect.stringContaining('Iden Vale') });
  by(MARA, show, 'finish-note', { id, done: true });
  expect(show.notes.get(id)?.done).toEqual(MARA);
  by(MARA, show, 'finish-note', { id, done: false });
  expect(show.notes.get(id)?.done).toBeUndefined();
  by(MARA, show, 'finish-note', { id, done: true });
  expect(by(MARA, show, 'delete-note', { id })).toMatchObject({ summary: 'Deleted a note on cue 2' });
  expect(by(MARA, show, 'finish-note', { id, done: true })).toMatchObject({ code: 'not-found' });
  by(IDEN, show, 'add-note', { kind: 'other', text: 'Longer' }, 'viewer');
  expect(by(IDEN, show, 'delete-note', { id: [...show.notes.keys()][0] })).toMatchObject({ summary: 'Deleted a note on the show' });
});
