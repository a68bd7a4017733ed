/**
 * Where a list is while its timecode runs.
 * @jest-environment jsdom
 */
import { placeWords } from './TimecodeChoice';

test('a list that timecode does not lead along its track says where it is instead', () => {
  const at = (position_s: number, runs: boolean) => ({ position_s, runs, told_ms: 0, loop: null });
  const END_S = 192;
  expect(placeWords(at(12, true), END_S)).toBe('');
  expect(placeWords(at(0, false), END_S)).toBe(', before its beginning');
  expect(placeWords(at(192, false), END_S)).toBe(', behind its end');
  expect(placeWords(at(60, false), END_S)).toBe(', stopped by hand');
  expect(placeWords(null, END_S)).toBe(', does not lead it now');
});
