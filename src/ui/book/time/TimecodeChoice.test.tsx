/**
 * Where a list is while its timecode runs.
 * @jest-environment jsdom
 */
import { placeWords } from './TimecodeChoice';

test('a list that timecode does not lead along its track says where it is instead', () => {
  const at = (position_s: number, runs: boolean) => ({ position_s, runs, told_ms: 0, loop: null });
  expect(placeWords(at(12, true))).toBe('');
  expect(placeWords(at(0, false))).toBe(', before its beginning');
  expect(placeWords(at(192, false))).toBe(', behind its end');
  expect(placeWords(null)).toBe(', does not lead it now');
});
