/** One thing is open at a time: what was asked for last, whichever is there first. */
import { OneOpen } from './one-open.ts';

/** A machine whose things open when they are let. */
function machine() {
  const waiting: { name: string | null; done: (made: { close: () => void } | string) => void }[] =
    [];
  const closed: (string | null)[] = [];
  const opened: unknown[] = [];
  const one = new OneOpen<{ close: () => void }>(
    (name) => new Promise((done) => waiting.push({ name, done })),
    (made) => opened.push(made),
  );
  const settled = () => new Promise((done) => setImmediate(done));
  return {
    one,
    closed,
    opened,
    asked: () => waiting.map((w) => w.name),
    /** The first that waits is there, or cannot be. */
    answer: async (problem?: string) => {
      const first = waiting.shift();
      first?.done(problem ?? { close: () => void closed.push(first.name) });
      await settled();
    },
  };
}

test('what is wanted is opened; wanting another closes it, wanting none closes it too', async () => {
  const m = machine();
  void m.one.want('left');
  expect([m.one.is, m.asked()]).toEqual([null, ['left']]);
  await m.answer();
  expect([m.one.is !== null, m.opened.length, m.closed]).toEqual([true, 1, []]);
  void m.one.want(null);
  expect([m.one.is, m.closed, m.asked()]).toEqual([null, ['left'], [null]]);
  await m.answer();
  expect(m.one.is).not.toBeNull();
  await m.one.want(undefined);
  expect([m.one.is, m.closed, m.asked()]).toEqual([null, ['left', null], []]);
});

test('of two on their way the one that was wanted last stays, whichever comes first; the other is closed', async () => {
  const m = machine();
  void m.one.want('slow');
  void m.one.want('quick');
  await m.answer();
  expect([m.one.is, m.closed, m.opened]).toEqual([null, ['slow'], []]);
  await m.answer();
  expect([m.one.is !== null, m.closed, m.opened.length]).toEqual([true, ['slow'], 1]);
  void m.one.want('never');
  void m.one.want(undefined);
  await m.answer();
  expect([m.one.is, m.closed, m.one.problem]).toEqual([null, ['slow', 'quick', 'never'], null]);
});

test('what cannot be opened says why, and is tried again, once at a time; what is open or not wanted is left', async () => {
  const m = machine();
  await m.one.again();
  expect(m.asked()).toEqual([]);
  void m.one.want('card');
  void m.one.again();
  expect(m.asked()).toEqual(['card']);
  await m.answer('It is not there.');
  expect([m.one.is, m.one.problem]).toEqual([null, 'It is not there.']);
  void m.one.again();
  void m.one.again();
  expect(m.asked()).toEqual(['card']);
  await m.answer();
  expect([m.one.is !== null, m.one.problem]).toEqual([true, null]);
  await m.one.again();
  expect(m.asked()).toEqual([]);
});

test('why another could not be opened is nothing that a later one says', async () => {
  const m = machine();
  void m.one.want('gone');
  void m.one.want('here');
  await m.answer('It is not there.');
  expect(m.one.problem).toBeNull();
  await m.answer();
  expect([m.one.is !== null, m.one.problem]).toEqual([true, null]);
});
