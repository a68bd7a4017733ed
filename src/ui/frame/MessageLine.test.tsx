/** @jest-environment jsdom */
/** The line of messages lies in a row, and over dialogs only while it says something. */
import { act, render, screen } from '@testing-library/react';
import { notice } from '../state/messages';
import { MessageLine } from './MessageLine';

const classes = (): string[] => [...screen.getByTestId('message-line').classList];

test('a message stands over what is open; without one the line lies beneath', () => {
  render(<MessageLine />);
  expect(classes()).toContain('flex');
  expect(classes()).not.toContain('z-[45]');
  act(() => void notice('Recorded cue 7'));
  expect(classes()).toEqual(expect.arrayContaining(['flex', 'z-[45]']));
});
