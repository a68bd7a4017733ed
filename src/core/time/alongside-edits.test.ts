/** Actions along a track: put at a moment, led along it, with the cue that is there or by themselves. */
import { apply, cue, exampleShow, refused } from '../testing/example.ts';
import type { MutableShow } from '../show/show.ts';
import { stateAt } from '../cues/tracking.ts';
import { timedCues } from './timed.ts';

const MAIN = 'main';
const REMOTES = { do: 'remotes', on: true } as const;
const LOOKS = { do: 'release-looks' } as const;

function track(): { show: MutableShow; ids: string[] } {
  const show = exampleShow();
  const ids = [1, 2, 3].map((n) => cue(show, n, { 1: n * 20 }));
  const at = Object.fromEntries(ids.map((id, i) => [id, i * 10]));
  apply(show, 'place-cues', { list: MAIN, at });
  return { show, ids };
}
const put = (show: MutableShow, at_s: number, action: object = REMOTES) =>
  apply(show, 'put-action', { list: MAIN, at_s, action });
const laid = (show: MutableShow) =>
  timedCues(show, MAIN).map((c) => [c.number, c.at_s, c.actions?.map((a) => a.do).join() ?? '']);

test('at a moment of its own an action has a cue that sets no light; with a cue it is that cue’s', () => {
  const { show } = track();
  const before = [...stateAt(show, MAIN, 3000)].map(([key, t]) => [key, t.value.level]);
  expect(put(show, 12.5).summary).toMatch(/^At 0:12\.50: /);
  put(show, 20, LOOKS);
  put(show, 12.5, LOOKS);
  expect(laid(show)).toEqual([
    [1000, 0, ''],
    [2000, 10, ''],
    [2500, 12.5, 'remotes,release-looks'],
    [3000, 20, 'release-looks'],
  ]);
  expect([...stateAt(show, MAIN, 3000)].map(([key, t]) => [key, t.value.level])).toEqual(before);
});

test('led along the track its cue goes with it; onto another cue it becomes that one’s', () => {
  const { show } = track();
  put(show, 12.5);
  const own = timedCues(show, MAIN).find((c) => c.at_s === 12.5)?.id ?? '';
  apply(show, 'move-action', { cue: own, index: 0, at_s: 17.25 });
  expect(show.cues.get(own)?.at_s).toBe(17.25);
  apply(show, 'move-action', { cue: own, index: 0, at_s: 20 });
  expect(show.cues.has(own)).toBe(false);
  expect(laid(show).at(-1)).toEqual([3000, 20, 'remotes']);
});

test('an action of a cue with light leaves it, and the light stays where it was', () => {
  const { show, ids } = track();
  const [, second = ''] = ids;
  apply(show, 'change-cue', { id: second, set: { actions: [REMOTES, LOOKS] } });
  apply(show, 'move-action', { cue: second, index: 0, at_s: 4 });
  expect(laid(show)).toEqual([
    [1000, 0, ''],
    [1500, 4, 'remotes'],
    [2000, 10, 'release-looks'],
    [3000, 20, ''],
  ]);
});

test('where no cue can be without putting light out, or without a number, it is refused in a sentence', () => {
  const { show, ids } = track();
  apply(show, 'change-list', { id: MAIN, set: { tracking: false } });
  expect(refused(show, 'put-action', { list: MAIN, at_s: 5, action: REMOTES }).message).toContain(
    'do not track',
  );
  // With a cue that is there it may be.
  put(show, 10);
  apply(show, 'change-list', { id: MAIN, set: { tracking: true } });
  const [first = ''] = ids;
  apply(show, 'make-cues', { listId: MAIN, cues: [{ number: 1001 }] });
  expect(refused(show, 'put-action', { list: MAIN, at_s: 5, action: REMOTES }).message).toContain(
    'renumber there first',
  );
  expect(refused(show, 'move-action', { cue: first, index: 3, at_s: 5 }).code).toBe('not-found');
  expect(refused(show, 'put-action', { list: 'gone', at_s: 5, action: REMOTES }).code).toBe(
    'not-found',
  );
});
