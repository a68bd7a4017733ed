/**
 * Edits of a screen: in the order in which they were made, and none lost with a page.
 * @jest-environment jsdom
 */
import { ApiError } from './api';
import { edit, reverse } from './edits';
import { useScreen } from './store';
import { useUnsent } from './unsent';

interface Sent {
  to: string;
  body: { edit?: string; params?: unknown; way?: string };
  answer: (status?: number, json?: unknown) => Promise<void>;
  fail: () => Promise<void>;
}
let sent: Sent[] = [];
const settle = async (): Promise<void> => {
  for (let i = 0; i < 20; i++) await Promise.resolve();
};

beforeEach(() => {
  jest.useFakeTimers();
  sent = [];
  localStorage.clear();
  useUnsent.setState({ all: [], sending: new Set() });
  useScreen.setState({ showId: 'ferry' });
  globalThis.fetch = ((to: string, init: { body: string }) =>
    new Promise((resolve, reject) => {
      sent.push({
        to,
        body: JSON.parse(init.body) as Sent['body'],
        answer: (status = 200, json = { seq: sent.length, summary: 'Done', changes: [] }) => {
          resolve({ ok: status < 400, status, json: () => Promise.resolve(json) } as Response);
          return settle();
        },
        fail: () => {
          reject(new TypeError('no network'));
          return settle();
        },
      });
    })) as typeof fetch;
});
afterEach(async () => {
  // Whatever is still under way ends, so that the next test waits for nothing.
  for (let i = 0; i < sent.length; i++) await sent[i]?.answer();
  await jest.runAllTimersAsync();
  for (let i = 0; i < sent.length; i++) await sent[i]?.answer();
  jest.useRealTimers();
});

const named = (): unknown[] => sent.map((s) => s.body.edit ?? s.body.way);
const kept = (): string[] => useUnsent.getState().all.map((u) => u.edit);

test('the second of two goes when the first is answered, whatever the answer', async () => {
  const done = [edit('a', {}), edit('b', {}), edit('c', {})];
  await settle();
  expect([named(), kept()]).toEqual([['a'], []]);
  await sent[0]?.answer();
  expect(named()).toEqual(['a', 'b']);
  await sent[1]?.answer(409, { error: { code: 'clash', message: 'This number is taken.' } });
  expect(named()).toEqual(['a', 'b', 'c']);
  await sent[2]?.answer();
  expect(await Promise.all(done)).toEqual([
    expect.objectContaining({ summary: 'Done' }),
    expect.any(ApiError),
    expect.objectContaining({ summary: 'Done' }),
  ]);
  expect([kept(), useUnsent.getState().sending.size]).toEqual([[], 0]);
});

test('those that wait when the page goes are kept, until they are answered', async () => {
  void edit('a', {});
  void edit('b', {});
  void edit('c', {});
  await settle();
  await sent[0]?.answer();
  window.dispatchEvent(new Event('pagehide'));
  expect(kept()).toEqual(['c']);
  await sent[1]?.answer();
  await sent[2]?.answer();
  expect(kept()).toEqual([]);
});

test('an edit alone goes at once, and is kept nowhere', async () => {
  const done = edit('a', {});
  await settle();
  expect([named(), kept()]).toEqual([['a'], []]);
  await sent[0]?.answer();
  await done;
  void edit('b', {});
  await settle();
  expect([named(), kept()]).toEqual([['a', 'b'], []]);
});

test('an undo takes back what was made before it, and not what the house happened to have by then', async () => {
  void edit('a', {});
  void reverse('undo');
  void edit('b', {});
  await settle();
  expect(named()).toEqual(['a']);
  await sent[0]?.answer();
  expect(named()).toEqual(['a', 'undo']);
  await sent[1]?.answer(409, { error: { code: 'nothing', message: 'Nothing to undo.' } });
  expect(named()).toEqual(['a', 'undo', 'b']);
});

test('while the house is away nobody waits for another: each is kept', async () => {
  void edit('a', {});
  void edit('b', {});
  await settle();
  await sent[0]?.fail();
  expect(named()).toEqual(['a', 'b']);
  await sent[1]?.fail();
  expect([...kept()].sort()).toEqual(['a', 'b']);
});
