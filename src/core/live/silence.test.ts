/** Who is silent is lost; who merely could not be listened to is not. */
import { Silence } from './silence';

test('lost after as many looks as it was given, in a row', () => {
  const silence = new Silence(4);
  const looks = (n: number): boolean[] => Array.from({ length: n }, () => silence.look());
  expect(looks(3)).toEqual([false, false, false]);
  silence.heard();
  expect(looks(5)).toEqual([false, false, false, true, true]);
  // What comes after all is heard.
  silence.heard();
  expect(looks(1)).toEqual([false]);
});

test('a page that stood still for an hour and looks before it listens has lost nobody', () => {
  jest.useFakeTimers();
  const silence = new Silence(4);
  silence.heard();
  jest.advanceTimersByTime(3_600_000);
  expect(silence.look()).toBe(false);
  silence.heard();
  expect(silence.look()).toBe(false);
  jest.useRealTimers();
});
