/**
 * What comes next, at the moment at which it comes.
 * @jest-environment jsdom
 */
import { act, cleanup, fireEvent, render, screen, within } from '@testing-library/react';
import { apply, exampleShow } from '@/core/testing/example';
import type { MutableShow } from '@/core/show/show';
import { edit } from '../../../state/edits';
import { useScreen } from '../../../state/store';
import { CalendarDialog } from './CalendarDialog';

jest.mock('../../../state/edits', () => ({
  edit: jest.fn(() => Promise.resolve({ changes: [] })),
}));
const written = edit as unknown as jest.Mock;

let show: MutableShow;
beforeEach(() => {
  jest.useFakeTimers({ now: new Date(2026, 10, 24, 19, 29, 55) });
  written.mockClear();
  show = exampleShow();
  const set = { name: 'Foyer', list: 'main', does: 'go', on: true };
  apply(show, 'set-occasion', { set: { ...set, at: { by: 'clock', time: '19:30:00' } } });
  const you = { ...useScreen.getState().you, role: 'owner' as const };
  useScreen.setState({ show, you, clockAhead_ms: 0 });
});
afterEach(() => {
  cleanup();
  jest.useRealTimers();
});

const pass = (seconds: number): void => act(() => void jest.advanceTimersByTime(seconds * 1000));
/** Each line: its day, and what stands at its end. */
const lines = (): string[][] =>
  within(screen.getByLabelText('What comes next'))
    .getAllByRole('listitem')
    .slice(0, 2)
    .map((line) => [line.children[0]?.textContent ?? '', line.children[2]?.textContent ?? '']);

test('what has just come stays where it was for ten seconds, so that a hand that was for it skips nothing else', () => {
  render(<CalendarDialog onClose={() => undefined} />);
  expect(lines()).toEqual([
    ['24 Nov, 19:30', 'Skip it once'],
    ['25 Nov, 19:30', 'Skip it once'],
  ]);
  pass(6);
  expect(lines()).toEqual([
    ['24 Nov, 19:30', 'has come'],
    ['25 Nov, 19:30', 'Skip it once'],
  ]);
  fireEvent.click(screen.getByText('has come'));
  expect(written).not.toHaveBeenCalled();
  pass(10);
  expect(lines()[0]).toEqual(['25 Nov, 19:30', 'Skip it once']);
});

test('skipped is the day of its line', () => {
  render(<CalendarDialog onClose={() => undefined} />);
  const [, tomorrow] = screen.getAllByRole('button', { name: 'Skip it once' });
  if (tomorrow) fireEvent.click(tomorrow);
  const [foyer] = show.occasions.keys();
  expect(written.mock.calls).toEqual([
    ['skip-occasion', { id: foyer, day: '2026-11-25', skip: true }],
  ]);
});
