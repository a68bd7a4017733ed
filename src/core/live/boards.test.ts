import type { BoardState } from './messages.ts';
import type { Thing } from './thing.ts';
import { boardOver, thingOf } from './boards.ts';
import { exampleShow } from '../testing/example.ts';

const on = (thing: Thing, name: string): BoardState => ({
  thing,
  userId: name,
  name,
  since: '',
  freeIn_s: null,
});

test('a thing’s own board decides before the show’s; a list or a page without one goes with the show', () => {
  const boards = [on('show', 'Mara'), on({ list: 'band' }, 'Tam'), on({ faders: 2 }, 'Yrsa')];
  expect(
    [
      boardOver(boards, 'show'),
      boardOver(boards, { list: 'band' }),
      boardOver(boards, { list: 'main' }),
      boardOver(boards, { faders: 2 }),
      boardOver(boards, { faders: 1 }),
    ].map((b) => b?.name),
  ).toEqual(['Mara', 'Tam', 'Mara', 'Yrsa', 'Mara']);
  expect(boardOver(boards.slice(1), { list: 'main' })).toBeUndefined();
  expect(boardOver([], 'show')).toBeUndefined();
});

test('what a command plays: its list or the first, its page of eight faders, or the show', () => {
  const show = exampleShow();
  expect(thingOf(show, { command: 'go' })).toEqual({ list: 'main' });
  expect(thingOf(show, { command: 'release', list: 'band' })).toEqual({ list: 'band' });
  expect([1, 8, 9].map((fader) => thingOf(show, { command: 'flash', fader, on: true }))).toEqual([
    { faders: 1 },
    { faders: 1 },
    { faders: 2 },
  ]);
  expect(thingOf(show, { command: 'blackout', on: true })).toBe('show');
});
