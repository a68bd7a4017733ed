/**
 * The beat of a track, tapped.
 * @jest-environment jsdom
 */
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react';
import { exampleShow } from '@/core/testing/example';
import { edit } from '../../state/edits';
import { useScreen } from '../../state/store';
import { BeatDialog } from './BeatDialog';

jest.mock('../../state/edits', () => ({ edit: jest.fn(() => Promise.resolve({ changes: [] })) }));
// The beat is looked for by a worker, which is not asked here.
jest.mock('./FindBeat', () => ({ FindBeat: () => null }));
const written = edit as unknown as jest.Mock;

/** Where the track is; null: it stands. */
let track_s: number | null = null;
beforeEach(() => {
  written.mockClear();
  track_s = null;
  const show = exampleShow();
  useScreen.setState({ show });
  const [list] = show.lists.values();
  if (!list) throw new Error('no list');
  render(<BeatDialog list={list} nowOn={() => track_s} onClose={() => undefined} />);
});
afterEach(cleanup);

const press = (name: string | RegExp): void =>
  void fireEvent.click(screen.getByRole('button', { name }));
const tapAt = (...at_s: number[]): void => {
  for (const t of at_s) {
    track_s = t;
    press('Tap the beat');
  }
};
const field = (label: string): string => screen.getByLabelText<HTMLInputElement>(label).value;
const first = (): string[] => [field('From, of tempo 1'), field('Beats a minute, of tempo 1')];

test('taps along a track say how fast, and when the first bar begins, also when it was stopped before they are taken', () => {
  tapAt(2, 2.5, 3, 3.5, 4);
  track_s = null;
  press('Take 120.0');
  expect(first()).toEqual(['0:02.00', '120.00']);
});

test('a track that jumps back, or begins to play, begins the count anew', () => {
  track_s = null;
  press('Tap the beat');
  tapAt(60, 60.4, 60.8);
  expect(screen.getByRole('button', { name: '3 taps' })).toBeTruthy();
  tapAt(10);
  expect(screen.getByRole('button', { name: '1 tap' })).toBeTruthy();
  tapAt(10.75, 11.5, 12.25);
  press('Take 80.0');
  expect(first()).toEqual(['0:10.00', '80.00']);
});

test('what is no number is said, and writes nothing; what is one is written', async () => {
  const type = (label: string, value: string): void =>
    void fireEvent.change(screen.getByLabelText(label), { target: { value } });
  const save = (): Promise<void> =>
    act(async () => {
      press('Set it');
      await Promise.resolve();
    });
  type('Beats a minute, of tempo 1', 'fast');
  await save();
  expect(screen.getByText(/^A moment is like/)).toBeTruthy();
  expect(written).not.toHaveBeenCalled();
  type('Beats a minute, of tempo 1', '92,5');
  press('Another tempo');
  type('From, of tempo 2', '1:02.5');
  type('Beats to a bar, of tempo 2', '3');
  press('Take tempo 1 off');
  await save();
  expect(written.mock.calls).toEqual([
    ['set-tempo', { list: 'main', tempo: [{ at_s: 62.5, bpm: 92.5, beats: 3 }] }],
  ]);
});
