/**
 * Whose values are shown, line by line.
 * @jest-environment jsdom
 */
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react';
import type { OtherProgrammer } from '@/core/live/messages';
import { useScreen } from '../state/store';
import { ProgrammerSheet } from './ProgrammerSheet';

afterEach(cleanup);

const mara = (values: number): OtherProgrammer =>
  ({ userId: 'mara', name: 'Mara Kell', values, blind: false }) as OtherProgrammer;
const here = (others: OtherProgrammer[]): void => act(() => useScreen.setState({ others }));
const whose = (): HTMLSelectElement => screen.getByLabelText('Whose programmer');
const named = (): string | undefined => whose().selectedOptions[0]?.text;

test('somebody who lets go of everything is still who is looked at; one who leaves is not', () => {
  here([mara(3)]);
  render(<ProgrammerSheet />);
  fireEvent.change(whose(), { target: { value: 'mara' } });
  here([mara(0)]);
  expect(named()).toBe('Mara Kell');
  expect(screen.getByText('Nothing is held.')).toBeTruthy();
  here([]);
  expect(named()).toBe('Your programmer');
  expect(screen.getByText(/^You hold nothing/)).toBeTruthy();
});
