/**
 * Marks of a track, under it.
 * @jest-environment jsdom
 */
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { useTrackView } from '../../state/track';
import { Marks } from './Beneath';
import type { TrackHere } from './use-track-here';

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
