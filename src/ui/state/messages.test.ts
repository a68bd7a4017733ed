/** One message at a time: which one. */
import { inSight, notice, putAway, useMessages } from './messages';

beforeEach(() => {
  jest.useFakeTimers();
  useMessages.setState({ all: [], fresh: new Set(), unread: 0, turn: 0 });
});
afterEach(() => jest.useRealTimers());
const shown = (): string | undefined => inSight(useMessages.getState())?.text;

test('the newest is shown; a refusal can be read before what comes after it takes its place', () => {
  notice('one');
  notice.done('two');
  expect(shown()).toBe('two');
  notice.error('refused');
  notice.done('three');
  expect(shown()).toBe('refused');
  jest.advanceTimersByTime(2600);
  expect(shown()).toBe('three');
});

test('a question stands until it is answered, and is in the list without its ways afterwards', () => {
  const answered: string[] = [];
  notice('asked?', { id: 'ask', ways: [{ label: 'Yes', onClick: () => answered.push('yes') }] });
  notice.error('refused');
  expect(shown()).toBe('asked?');
  useMessages
    .getState()
    .all.find((m) => m.id === 'ask')
    ?.ways[0]?.onClick();
  expect([answered, shown(), useMessages.getState().all.find((m) => m.id === 'ask')?.ways]).toEqual(
    [['yes'], 'refused', []],
  );
});

test('an offer to take back what was done stands before what is just said, and after a refusal', () => {
  notice.done('let go', {
    duration: 20_000,
    ways: [{ label: 'Bring it back', onClick: () => undefined }],
  });
  notice('said');
  expect(shown()).toBe('let go');
  notice.error('refused');
  expect(shown()).toBe('refused');
  jest.advanceTimersByTime(2600);
  expect(shown()).toBe('let go');
});

test('one of the same id takes the place of the one before; what is over is out of sight and still in the list', () => {
  notice('first', { id: 'x' });
  notice('second', { id: 'x' });
  expect(useMessages.getState().all.map((m) => m.text)).toEqual(['second']);
  jest.advanceTimersByTime(10_000);
  expect([shown(), useMessages.getState().all.length]).toEqual([undefined, 1]);
  notice('third');
  putAway(useMessages.getState().all[0]?.id ?? '');
  expect(shown()).toBeUndefined();
});

test('the list keeps the last sixty', () => {
  for (let i = 0; i < 200; i++) notice(`m${i}`);
  expect([useMessages.getState().all.length, useMessages.getState().all[0]?.text]).toEqual([
    60,
    'm199',
  ]);
});
