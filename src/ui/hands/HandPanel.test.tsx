/**
 * The picture of a hand: where it plays from, and learning with it.
 * @jest-environment jsdom
 */
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { HandRow } from '@/core/hands/rows';
import { useHands } from '../state/hands';
import { useScreen } from '../state/store';
import { HandPanel } from './HandPanel';

const hand = (more: object = {}): HandRow =>
  HandRow.parse({
    id: 'wing',
    number: 1,
    name: 'Wing',
    kind: 'midi',
    at: 'screen',
    port: '',
    pages: [''],
    bindings: {},
    ...more,
  });

beforeEach(() => {
  window.localStorage.clear();
  useHands.setState({ held: [], learning: null, hears: true, deaf: null });
  useScreen.setState((s) => ({ you: { ...s.you, role: 'programmer' } }));
});
afterEach(cleanup);

test('a hand that does not play from this screen says so, and is taken here by one press', () => {
  render(<HandPanel hand={hand()} />);
  fireEvent.click(screen.getByText('Play it from this screen'));
  expect(useHands.getState().held).toEqual(['wing']);
  expect(screen.queryByText('Play it from this screen')).toBeNull();
});

test('who learns with it hears it: it plays from here from then on', () => {
  render(<HandPanel hand={hand()} />);
  fireEvent.click(screen.getByText('Learn'));
  expect(useHands.getState()).toMatchObject({
    held: ['wing'],
    learning: { hand: 'wing', act: null },
  });
});

test('one at the player’s machine is learned with and stays there', () => {
  render(<HandPanel hand={hand({ at: 'player', role: 'operator' })} />);
  expect(screen.queryByText('Play it from this screen')).toBeNull();
  fireEvent.click(screen.getByText('Learn'));
  expect(useHands.getState()).toMatchObject({ held: [], learning: { hand: 'wing' } });
});
