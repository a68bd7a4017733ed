/**
 * Under a track: its marks, and cues that stand behind its end.
 * @jest-environment jsdom
 */
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { useTrackView } from '../../state/track';
import { edit } from '../../state/edits';
import { BehindEnd, Marks } from './Beneath';
import type { TrackHere } from './use-track-here';

jest.mock('../../state/edits', () => ({
  ...jest.requireActual<object>('../../state/edits'),
  edit: jest.fn(() => Promise.resolve({ seq: 1 })),
}));

afterEach(cleanup);

const VERSE = { at_s: 15.65, name: 'Verse' };
const CHORUS = { at_s: 62.61, name: 'Chorus' };
const put = jest.fn();
const open = (mayEdit: boolean): void => {
  put.mockClear();
  const here = { time: { on: true, tempo: [], marks: [VERSE, CHORUS] }, put, mayEdit };
  render(<Marks here={here as unknown as TrackHere} />);
};

test('a press goes there, two presses rename; an empty name leaves it as it is', () => {
  open(true);
  fireEvent.click(screen.getByText('Chorus'));
  expect(useTrackView.getState().cursor_s).toBe(62.61);
  const named = (name: string): void => {
    fireEvent.doubleClick(screen.getByText('Chorus'));
    const field = screen.getByLabelText('Name of mark Chorus');
    fireEvent.change(field, { target: { value: name } });
    fireEvent.keyDown(field, { key: 'Enter' });
  };
  named('  ');
  expect(put).not.toHaveBeenCalled();
  named('First chorus');
  expect(put.mock.calls).toEqual([[{ marks: [VERSE, { at_s: 62.61, name: 'First chorus' }] }]]);
});

test('taken off one by one; who may not edit goes there, and no more', () => {
  open(true);
  fireEvent.click(screen.getByLabelText('Take mark Verse off'));
  expect(put.mock.calls).toEqual([[{ marks: [CHORUS] }]]);
  cleanup();
  open(false);
  fireEvent.doubleClick(screen.getByText('Verse'));
  expect(screen.queryByLabelText('Name of mark Verse')).toBeNull();
});

describe('cues behind the end', () => {
  const openWith = (behind: readonly { id: string; number: number }[], mayEdit = true): void => {
    put.mockClear();
    (edit as unknown as jest.Mock).mockClear();
    const here = { behind, end_s: 192, listId: 'waltz', put, mayEdit };
    render(<BehindEnd here={here as unknown as TrackHere} />);
  };
  const TWO = [
    { id: 'a', number: 14_000 },
    { id: 'b', number: 15_500 },
  ];

  test('are named, with both ways out', () => {
    openWith(TWO);
    screen.getByText('LX 14, 15.5 behind the end at 3:12.00: they never come.');
    fireEvent.click(screen.getByText('End with the last fade'));
    expect(put.mock.calls).toEqual([[{ end_s: undefined }]]);
    fireEvent.click(screen.getByText('Take them off the track'));
    expect(edit).toHaveBeenCalledWith('place-cues', { list: 'waltz', at: { a: null, b: null } });
  });

  test('where there are none nothing is said; who may not edit moves none', () => {
    openWith([]);
    expect(screen.queryByRole('group')).toBeNull();
    openWith(TWO.slice(0, 1), false);
    screen.getByText('LX 14 behind the end at 3:12.00: it never comes.');
    for (const button of screen.getAllByRole('button'))
      expect((button as HTMLButtonElement).disabled).toBe(true);
  });
});
