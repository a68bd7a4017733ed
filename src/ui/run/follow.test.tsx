/** @jest-environment jsdom */
/** What follows by itself is counted down to the end, also when the fade before it is long done. */
import { act, cleanup, render, screen } from '@testing-library/react';
import { apply, cue, exampleShow } from '@/core/testing/example';
import { heardPlayback } from '../state/playback';
import { useScreen } from '../state/store';
import { NowNext } from './NowNext';

jest.mock('next/navigation', () => ({ useRouter: () => ({}), usePathname: () => '' }));

beforeEach(() => jest.useFakeTimers());
afterEach(() => {
  cleanup();
  jest.useRealTimers();
});

test('told once, it is counted here', () => {
  const show = exampleShow();
  const first = cue(show, 1, { 1: 50 });
  cue(show, 2, { 1: 80 });
  apply(show, 'change-cue', { id: first, set: { follow_s: 12 } });
  const now_ms = performance.now();
  const { playback } = useScreen.getState();
  useScreen.setState({
    show,
    playback: heardPlayback(
      playback,
      {
        ...playback,
        lists: [
          {
            id: 'main',
            name: 'Main',
            cueId: first,
            cueNumber: 1000,
            nextId: show.cuesOf('main')[1]?.id ?? null,
            elapsed_s: 3,
            total_s: 3,
            paused: false,
            running: false,
            armed: false,
            active: true,
            rate: 1,
            master: 1,
            hand: null,
            followIn_s: 9,
            bpm: null,
            chase: null,
            rounds: {},
            track: null,
          },
        ],
      },
      now_ms,
    ),
  });
  render(<NowNext />);
  const left = (): string => screen.getByTestId('trigger').textContent;
  expect(left()).toBe('follows in 9.0 s');
  act(() => void jest.advanceTimersByTime(4000));
  expect(left()).toBe('follows in 5.0 s');
  act(() => void jest.advanceTimersByTime(6000));
  expect(left()).toBe('follows in 0.0 s');
});
