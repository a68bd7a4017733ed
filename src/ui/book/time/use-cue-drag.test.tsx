/**
 * A cue that is led along the track is left where the hand left it.
 * @jest-environment jsdom
 */
import { act, renderHook } from '@testing-library/react';
import type { TimedCue } from '@/core/time/timed';
import { edit } from '../../state/edits';
import { useTrackView } from '../../state/track';
import { useCueDrag } from './use-cue-drag';

jest.mock('../../state/edits', () => ({ edit: jest.fn(() => Promise.resolve({})) }));
jest.mock('../../state/book', () => ({ lookAt: jest.fn() }));
const written = edit as unknown as jest.Mock;

const cue = (id: string, at_s: number): TimedCue =>
  ({ id, listId: 'waltz', number: 1000, name: '', at_s, up_s: 4, down_s: 2 }) as TimedCue;
const CUES = [cue('a', 10), cue('b', 20), cue('c', 30)];
const TIME = { tempo: [], marks: [] } as never;

const start = () => {
  written.mockClear();
  useTrackView.setState({ chosen: [], snap: 'free', cursor_s: 0, scale: 10 });
  return renderHook(() => useCueDrag(CUES, TIME)).result;
};

test('the last step counts, also when the hand lets go before it is drawn', async () => {
  const drag = start();
  act(() => drag.current.begin('b', 'start', false));
  act(() => drag.current.step(40, false));
  expect(drag.current.led).toMatchObject({ id: 'b', by_s: 4 });
  // Both before the screen is drawn again: the handlers are those of the step before.
  await act(async () => {
    const { step, end } = drag.current;
    step(60, false);
    end(false);
    await Promise.resolve();
  });
  expect(written.mock.calls).toEqual([['place-cues', { list: 'waltz', at: { b: 26 } }]]);
});

test('the end of a fade too; several keep their distances, and none leaves the track', async () => {
  const drag = start();
  act(() => drag.current.begin('a', 'end', false));
  await act(async () => {
    const { step, end } = drag.current;
    step(15, false);
    end(false);
    await Promise.resolve();
  });
  expect(written.mock.calls).toEqual([
    ['change-cue', { id: 'a', set: { up_s: 5.5, down_s: 3.5 } }],
  ]);
  written.mockClear();
  useTrackView.setState({ chosen: ['a'] });
  act(() => drag.current.begin('c', 'start', true));
  await act(async () => {
    const { step, end } = drag.current;
    step(-250, false);
    end(false);
    await Promise.resolve();
  });
  expect(written.mock.calls).toEqual([['place-cues', { list: 'waltz', at: { a: 0, c: 20 } }]]);
});

test('taken away by the system it stays where it was', () => {
  const drag = start();
  act(() => drag.current.begin('b', 'start', false));
  act(() => drag.current.step(40, false));
  act(() => drag.current.end(true));
  expect(written).not.toHaveBeenCalled();
  expect(drag.current.led).toBeNull();
});
