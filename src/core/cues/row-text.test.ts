/** What is typed into a row of the cue sheet. */
import { apply, cue, exampleShow, refused } from '../testing/example.ts';
import { readScale, readTimes, readTrigger } from './row-text.ts';

test.each([
  ['5', { up_s: 5, down_s: 5 }],
  ['5/7', { up_s: 5, down_s: 7 }],
  ['15s', { up_s: 15, down_s: 15 }],
  ['1:30 / 2 s', { up_s: 90, down_s: 2 }],
  ['0', { up_s: 0, down_s: 0 }],
])('times “%s”', (text, times) => expect(readTimes(text)).toEqual(times));
test.each([
  ['', 'missing'],
  ['5/', 'missing'],
  ['5/6/7', 'Two times'],
  ['-3', 'not negative'],
  ['soon', 'no time'],
  ['99999999', 'at most'],
])('“%s” is no time of a cue: %s', (text, why) =>
  expect(readTimes(text)).toEqual({ problem: expect.stringContaining(why) }),
);

test.each([
  ['go', { on: 'go' }],
  ['', { on: 'go' }],
  ['Wait', { on: 'go' }],
  ['3', { on: 'follow', time_s: 3 }],
  ['15s', { on: 'follow', time_s: 15 }],
  ['follow 1:30', { on: 'follow', time_s: 90 }],
  ['after 0.5', { on: 'after', time_s: 0.5 }],
  ['at 19:30:00', { on: 'clock', clock: '19:30:00' }],
  ['“Cast off!”', { on: 'call', words: 'Cast off!' }],
  ['Who goes there', { on: 'call', words: 'Who goes there' }],
])('a cue begins on “%s”', (text, trigger) => expect(readTrigger(text)).toEqual(trigger));
test.each([
  ['follow soon', 'no time'],
  ['at 25:00:00', 'time of day'],
  ['after -1', 'not negative'],
])('“%s” lets nothing begin: %s', (text, why) =>
  expect(readTrigger(text)).toEqual({ problem: expect.stringContaining(why) }),
);

test('what lets a cue begin is kept where it belongs, and one way takes the place of the other', () => {
  const show = exampleShow();
  for (const n of [1, 2, 3]) cue(show, n, { [n]: 50 });
  const [first, second] = show.cuesOf('main');
  const now = (): unknown[] => [
    show.cues.get(first?.id ?? '')?.follow_s,
    show.cues.get(first?.id ?? '')?.after_s,
    show.cues.get(second?.id ?? '')?.clock,
    show.cues.get(second?.id ?? '')?.call,
  ];
  const set = (trigger: unknown): string =>
    apply(show, 'set-trigger', { id: second?.id, trigger }).summary;
  expect(set({ on: 'follow', time_s: 3 })).toBe(
    'Changed how cue 2 begins: it follows 3 s after the GO before it',
  );
  expect(now()).toEqual([3, undefined, undefined, '']);
  set({ on: 'after', time_s: 1 });
  expect(now()).toEqual([null, 1, undefined, '']);
  set({ on: 'clock', clock: '19:30:00' });
  expect(now()).toEqual([null, undefined, '19:30:00', '']);
  set({ on: 'call', words: 'Cast off' });
  expect(now()).toEqual([null, undefined, undefined, 'Cast off']);
  set({ on: 'go' });
  expect(now()).toEqual([null, undefined, undefined, 'Cast off']);
  expect(
    refused(show, 'set-trigger', { id: first?.id, trigger: { on: 'follow', time_s: 1 } }).message,
  ).toContain('follows none');
});

test.each<[string, number | undefined]>([
  ['*0.5', 0.5],
  ['x 2', 2],
  ['× 1,5', 1.5],
  ['80 %', 0.8],
  ['5/7', undefined],
  ['5', undefined],
  ['* two', undefined],
])('%s scales by %s', (text, by) => expect(readScale(text)).toBe(by));
