import {
  fullDay,
  hourMinute,
  lastMoment,
  longDay,
  shortDay,
  sinceWhen,
  timeOfDay,
  when,
} from './dates';

const at = new Date(2026, 10, 7, 9, 5, 3);

test('days and times stand as one reads them', () => {
  expect(shortDay(at)).toBe('7 Nov');
  expect(fullDay(at)).toBe('7 Nov 2026');
  expect(longDay(at)).toBe('7 November 2026');
  expect(hourMinute(at)).toBe('09:05');
  expect(timeOfDay(at)).toBe('09:05:03');
});

test('today is told by the second, another day by its date', () => {
  const now = new Date();
  expect(when(now)).toBe(timeOfDay(now));
  expect(when(at.toISOString())).toBe('7 Nov, 09:05');
  // A note of an earlier rehearsal says of which.
  expect(sinceWhen(now)).toBe(hourMinute(now));
  expect(sinceWhen(at)).toBe('7 Nov, 09:05');
});

test('a day ends with its last moment where one is, and no day has no end', () => {
  const end = new Date(lastMoment('2026-11-27') ?? '');
  expect([end.getDate(), end.getHours(), end.getMinutes(), end.getSeconds()]).toEqual([
    27, 23, 59, 59,
  ]);
  expect(lastMoment('')).toBeNull();
});
