/**
 * Lines that were entered are gone through, and one that was begun is not lost by that.
 * @jest-environment jsdom
 */
import { act, renderHook } from '@testing-library/react';
import { useState } from 'react';
import { useHistory } from './CommandLine';

const start = () =>
  renderHook(() => {
    const [text, setText] = useState('');
    return { text, setText, ...useHistory(text, setText) };
  }).result;

test('up goes back, down comes again to what was begun', () => {
  const line = start();
  for (const entered of ['1 at full', '2 at 50', '1 at full'])
    act(() => line.current.note(entered));
  act(() => line.current.setText('101 aim at 0 3'));
  const step = (by: number): string => {
    act(() => line.current.step(by));
    return line.current.text;
  };
  // Each once, the newest first; at the oldest it stays.
  expect([step(1), step(1), step(1)]).toEqual(['1 at full', '2 at 50', '2 at 50']);
  expect([step(-1), step(-1), step(-1)]).toEqual(['1 at full', '101 aim at 0 3', '101 aim at 0 3']);
  // A line that was changed on the way is entered as it is; the next one begins from nothing.
  act(() => line.current.note('101 aim at 0 3'));
  act(() => line.current.setText(''));
  expect([step(1), step(-1)]).toEqual(['101 aim at 0 3', '']);
});
