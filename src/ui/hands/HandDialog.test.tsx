/**
 * What a hand is, as it is typed.
 * @jest-environment jsdom
 */
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react';
import type { HandRow } from '@/core/hands/rows';
import { exampleShow } from '@/core/testing/example';
import { edit } from '../state/edits';
import { useHands } from '../state/hands';
import { useScreen } from '../state/store';
import { HandDialog } from './HandDialog';

jest.mock('../state/edits', () => ({
  edit: jest.fn(() => Promise.resolve({ changes: [{ id: 'wing' }] })),
}));
const written = edit as unknown as jest.Mock;
const sent = (): unknown => (written.mock.calls as unknown[][])[0]?.[1];
const closed = jest.fn();

const type = (label: string, value: string): void =>
  void fireEvent.change(screen.getByLabelText(label), { target: { value } });
const press = (name: string): Promise<void> =>
  act(async () => {
    fireEvent.click(screen.getByRole('button', { name }));
    await new Promise((done) => setTimeout(done));
  });
const PAGES = 'Its pages, a name on each line';

beforeEach(() => {
  written.mockClear();
  closed.mockClear();
  useScreen.setState({ show: exampleShow() });
  useHands.setState({ ports: ['Wing'] });
});
afterEach(cleanup);
const open = (hand: HandRow | null = null): void =>
  void render(<HandDialog hand={hand} onClose={closed} />);

test('more pages than there may be, and names that are too long, are said; nothing is written', async () => {
  open();
  type('Name', 'Fader wing');
  type(PAGES, Array.from({ length: 17 }, (_, i) => `Page ${i + 1}`).join('\n'));
  await press('Make it');
  expect(screen.getByText('A hand has at most 16 pages.')).toBeTruthy();
  type(PAGES, 'p'.repeat(61));
  await press('Make it');
  expect(screen.getByText('The name of a page has at most 60 letters.')).toBeTruthy();
  expect(written).not.toHaveBeenCalled();
  type(PAGES, ' Busking \n ');
  await press('Make it');
  expect(sent()).toMatchObject({ set: { pages: ['Busking', ''] } });
  expect(closed).toHaveBeenCalledTimes(1);
});

test('a keyboard has no port; a hand at the player has a right; what its kind has not is left out', async () => {
  open();
  type('Name', 'Keys');
  type('Show control, device', '3');
  type('It is', 'keyboard');
  await press('Make it');
  expect(sent()).toEqual({
    set: { name: 'Keys', kind: 'keyboard', port: '', pages: [''] },
  });
  cleanup();
  written.mockClear();
  open();
  type('Name', 'Wing');
  type('Plugged in at', 'player');
  type('It plays by the right of', 'programmer');
  await press('Make it');
  expect(sent()).toMatchObject({
    set: { kind: 'midi', at: 'player', role: 'programmer', port: 'Wing' },
  });
});

test('a port that is not there now stays the hand’s', async () => {
  const hand = { id: 'wing', number: 1, name: 'Wing', kind: 'midi', port: 'Old wing', pages: [''] };
  open(hand as unknown as HandRow);
  type('Name', 'Left wing');
  await press('Change it');
  expect(sent()).toMatchObject({
    id: 'wing',
    set: { name: 'Left wing', port: 'Old wing' },
  });
});
