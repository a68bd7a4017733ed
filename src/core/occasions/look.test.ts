/** What has come since the clock was looked at last, whatever the clock did: midnight, summer time, sleep, being put right. */
import { execFileSync } from 'node:child_process';
import fc from 'fast-check';
import { cameBetween, lookFrom, momentOfDay } from './look.ts';

const at = (text: string): Date => new Date(text);
/** Looks of a second apart would be too many for a day; so far apart nothing is slept through. */
const STEP_MS = 20_000;

/** How often a time of day comes while the clock shows these moments one after the other. */
function comes(time: string, looks: readonly Date[]): number {
  let [looked = new Date(0)] = looks;
  let times = 0;
  for (const now of looks.slice(1)) {
    const look = lookFrom(looked, now);
    ({ looked } = look);
    if (look.from < now && cameBetween(time, look.from, now)) times++;
  }
  return times;
}
const looksOf = (from: Date, to: Date, step_ms = STEP_MS): Date[] =>
  Array.from(
    { length: Math.ceil((to.getTime() - from.getTime()) / step_ms) + 1 },
    (_, n) => new Date(Math.min(to.getTime(), from.getTime() + n * step_ms)),
  );

test('each time of day comes once a day, at whatever moments it is looked', () => {
  const time = fc
    .tuple(fc.nat(23), fc.nat(59), fc.nat(59))
    .map((hms) => hms.map((n) => String(n).padStart(2, '0')).join(':'));
  fc.assert(
    fc.property(time, fc.integer({ min: 1000, max: 50_000 }), fc.nat(90_000), (t, step, late) => {
      const from = new Date(at('2026-06-10T00:00:00').getTime() + late * 1000);
      const to = new Date(from.getTime() + 86_400_000);
      expect(comes(t, looksOf(from, to, step))).toBe(1);
    }),
    { numRuns: 30 },
  );
});

test('a cue of the evening does not come at the next look, or a second time at the same moment', () => {
  const cue = at('2026-11-24T19:30:00');
  expect(cameBetween('19:30:00', at('2026-11-24T19:29:59'), cue)).toEqual(cue);
  expect(cameBetween('19:30:00', cue, at('2026-11-24T19:30:01'))).toBeUndefined();
  expect(cameBetween('19:30:00', at('2026-11-24T19:29:58'), at('2026-11-24T19:29:59'))).toBe(
    undefined,
  );
});

test('over midnight: what is before it and what is after it, and nothing of the rest of the day', () => {
  const over = (time: string): boolean =>
    cameBetween(time, at('2026-12-31T23:59:50'), at('2027-01-01T00:00:10')) !== undefined;
  expect(
    ['23:59:50', '23:59:51', '00:00:00', '00:00:10', '00:00:11', '12:00:00'].map(over),
  ).toEqual([false, true, true, true, false, false]);
});

describe('a clock that is put right', () => {
  const evening = looksOf(at('2026-11-24T19:29:00'), at('2026-11-24T19:30:05'), 1000);

  test('back by seconds: what has come does not come again, and what is to come does, once', () => {
    const back = looksOf(at('2026-11-24T19:29:58'), at('2026-11-24T19:31:00'), 1000);
    const looks = [...evening, ...back];
    expect(comes('19:30:00', looks)).toBe(1);
    expect(comes('19:30:30', looks)).toBe(1);
    // The trap: what is later than now is no midnight, and all of the day would come at once.
    expect(comes('22:00:00', looks) + comes('08:00:00', looks)).toBe(0);
  });

  test('back by an hour: it was wrong, and times of day come when they are', () => {
    const right = looksOf(at('2026-11-24T18:30:05'), at('2026-11-24T19:31:00'), 1000);
    expect(comes('18:45:00', [...evening, ...right])).toBe(1);
    expect(comes('19:30:00', [...evening, ...right])).toBe(2);
  });

  test('forward by hours, or asleep for them: only what came within the last minute', () => {
    const looks = [...evening, at('2026-11-25T09:00:30')];
    expect(comes('22:00:00', looks) + comes('08:00:00', looks) + comes('08:59:00', looks)).toBe(0);
    expect(comes('09:00:00', looks)).toBe(1);
  });
});

test('the days on which summer time begins and ends: each time of day comes once', () => {
  const code = `
    import { cameBetween, lookFrom } from './src/core/occasions/look.ts';
    const told = [];
    for (const [y, m, d] of [[2026, 2, 29], [2026, 9, 25]])
      for (const time of ['01:30:00', '02:30:00', '03:30:00', '12:00:00', '23:59:59']) {
        let times = 0;
        let looked = new Date(y, m, d);
        const end = new Date(y, m, d + 1).getTime();
        for (let t = looked.getTime() + 5000; t <= end; t += 5000) {
          const look = lookFrom(looked, new Date(t));
          looked = look.looked;
          if (cameBetween(time, look.from, new Date(t))) times++;
        }
        told.push(times);
      }
    process.stdout.write(told.join(' '));`;
  for (const TZ of ['Europe/Berlin', 'America/New_York', 'UTC', 'Australia/Lord_Howe'])
    expect(
      execFileSync(process.execPath, ['--import', 'tsx', '--input-type=module', '--eval', code], {
        encoding: 'utf8',
        env: { ...process.env, TZ },
      }),
    ).toBe('1 1 1 1 1 1 1 1 1 1');
});

test('a time of day on a day is that of this machine', () => {
  expect(momentOfDay('19:30:05', at('2026-11-24T03:00:00'))).toEqual(at('2026-11-24T19:30:05'));
});
