import { execFileSync } from 'node:child_process';
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

test('the day that was given is the day that is shown, east and west of Greenwich', () => {
  const code = `import { dayField, lastMoment } from './src/core/dates.ts'; process.stdout.write(dayField(lastMoment('2026-11-27')));`;
  for (const TZ of ['America/Los_Angeles', 'UTC', 'Pacific/Auckland'])
    expect(
      execFileSync(process.execPath, ['--import', 'tsx', '--input-type=module', '--eval', code], {
        encoding: 'utf8',
        env: { ...process.env, TZ },
      }),
    ).toBe('2026-11-27');
});
