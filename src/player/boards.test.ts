/** Who is on which board, by who is here: at the moments that matter. */
import { isRefusal } from '../core/refusal.ts';
import { exampleShow } from '../core/testing/example.ts';
import type { Thing } from '../core/live/thing.ts';
import { Boards, FREES_AFTER_S, type SavedBoard } from './boards.ts';
import { mara, tam, yrsa } from './simulated-desk.ts';

const MAIN: Thing = { list: 'main' };

function boards(saved: readonly SavedBoard[] = [], present: readonly string[] = ['mara', 'tam']) {
  const here = new Set(present);
  const clock = { ms: 0 };
  const told = { changed: 0 };
  const moved: [text: string, who: string, handedOver: boolean][] = [];
  const of = new Boards(
    {
      show: exampleShow(),
      present: (userId) => here.has(userId),
      now_ms: () => clock.ms,
      changed: () => void told.changed++,
      moved: (text, by, handedOver) => void moved.push([text, by.userId, handedOver]),
    },
    saved,
  );
  return { of, here, clock, told, moved };
}
const freeIn = ({ of }: ReturnType<typeof boards>): (number | null)[] =>
  of.states().map((s) => s.freeIn_s);

test('whoever was on it when the player ended has the whole time to come back', () => {
  const since = '2026-11-24T19:30:00.000Z';
  const b = boards([{ thing: 'show', userId: 'mara', name: 'Mara Kell', since }], []);
  expect(freeIn(b)).toEqual([FREES_AFTER_S]);
  b.clock.ms = FREES_AFTER_S * 1000 - 1;
  expect(b.of.look()).toBe(true);
  expect(b.of.holder()?.userId).toBe('mara');
  b.clock.ms += 1;
  expect(b.of.look()).toBe(false);
  expect(b.of.holder()).toBeUndefined();
  expect(b.moved).toEqual([[`Away for ${FREES_AFTER_S} s: the board is free`, 'mara', false]]);
  expect(b.of.saved()).toEqual([]);
});

test('a look finds who has gone and who is back, and says whether time runs', () => {
  const b = boards();
  expect(b.of.check(mara, 'show')).toBeNull();
  expect([b.of.look(), b.told.changed]).toEqual([false, 1]);
  b.here.delete('mara');
  expect([b.of.look(), freeIn(b), b.told.changed]).toEqual([true, [FREES_AFTER_S], 2]);
  b.clock.ms = 12_000;
  expect([b.of.look(), freeIn(b), b.told.changed]).toEqual([true, [FREES_AFTER_S - 12], 2]);
  b.here.add('mara');
  expect([b.of.look(), freeIn(b), b.told.changed]).toEqual([false, [null], 3]);
  b.clock.ms = 120_000;
  expect(b.of.look()).toBe(false);
  expect(b.of.holder()?.userId).toBe('mara');
});

test('given to somebody who is away, their time runs at once', () => {
  const b = boards();
  b.of.check(mara, 'show');
  expect(b.of.hand(mara, 'show', { userId: 'iden', name: 'Iden Vale' }, '')).toEqual({ ok: true });
  expect(freeIn(b)).toEqual([FREES_AFTER_S]);
  expect(b.moved.at(-1)).toEqual(['Handed the board over to Iden Vale', 'mara', true]);
  b.clock.ms = 29_500;
  const refused = b.of.check(tam, 'show');
  expect(refused?.message).toBe(
    'Iden Vale is on the board and has lost the connection; it is free in 1 s. Ask for it.',
  );
});

test('a second screen of the same person, or another person’s, changes nothing of theirs', () => {
  const b = boards();
  b.of.check(mara, 'show');
  b.of.presence('mara', true);
  b.of.presence('tam', false);
  expect([b.told.changed, freeIn(b)]).toEqual([1, [null]]);
});

test('a board of its own is taken where somebody decides over it by an owner alone, and once', () => {
  const b = boards([], ['mara', 'tam', 'yrsa']);
  b.of.check(mara, 'show');
  expect(isRefusal(b.of.take(tam, MAIN))).toBe(true);
  expect(b.of.take(mara, MAIN)).toEqual({ ok: true });
  expect(b.moved).toEqual([['Went on the board of list “Main list”', 'mara', false]]);
  expect(b.of.take(mara, MAIN)).toEqual({ ok: true });
  expect(b.moved).toHaveLength(1);
  expect(b.of.take(yrsa, MAIN)).toEqual({ ok: true });
  expect(b.moved.at(-1)).toEqual([
    'Took the board of list “Main list” from Mara Kell',
    'yrsa',
    true,
  ]);
  // The show's is Mara's still.
  expect([b.of.over(MAIN)?.userId, b.of.over('show')?.userId]).toEqual(['yrsa', 'mara']);
  expect(b.of.over({ faders: 2 })?.userId).toBe('mara');
});

test('it is left by who is on it, and then the show’s decides again', () => {
  const b = boards();
  b.of.check(mara, 'show');
  b.of.hand(mara, { faders: 2 }, tam, 'the band');
  expect(b.moved.at(-1)?.[0]).toBe(
    'Handed the board of faders 9–16 over to Tam Brevik: “the band”',
  );
  expect(b.of.leave(mara, { faders: 2 })).toMatchObject({
    code: 'nothing',
    message: 'You are not on the board of faders 9–16.',
  });
  expect(b.of.leave(tam, { faders: 2 })).toEqual({ ok: true });
  expect(b.of.over({ faders: 2 })?.userId).toBe('mara');
  expect(b.of.hand(tam, 'show', mara, '')).toMatchObject({ code: 'board' });
});

test('whose role ends is on no board any more, and the others stay on theirs', () => {
  const b = boards();
  b.of.check(mara, 'show');
  b.of.hand(mara, MAIN, tam, '');
  b.of.take(mara, { faders: 1 });
  b.of.withdrawn('mara');
  expect(b.of.states().map((s) => [s.thing, s.userId])).toEqual([[MAIN, 'tam']]);
  expect(b.moved.slice(-2)).toEqual([
    ['No longer on the board: the role was changed', 'mara', false],
    ['No longer on the board of faders 1–8: the role was changed', 'mara', false],
  ]);
});

test('of a list that is gone there is no board', () => {
  const b = boards();
  expect(b.of.take(yrsa, { list: 'gone' })).toMatchObject({ code: 'not-found' });
  expect(b.of.missing(MAIN)).toBeNull();
  expect(b.of.missing({ faders: 9 })).toBeNull();
  expect(b.of.missing('show')).toBeNull();
  expect(b.of.words({ list: 'gone' })).toBe('the board of list “?”');
});
