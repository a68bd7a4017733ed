/** When occasions come: by the clock, by weekdays and dates, with the sun, over midnight and summer time. */
import { apply, cue, exampleShow, refused } from '../testing/example.ts';
import { coming, dueBetween, momentOn, type HousePlace } from './next.ts';
import { OccasionRow } from './rows.ts';
import { sayAt, sayWhen } from './words.ts';

/** Greenwich: of its sun there are tables. */
const GREENWICH: HousePlace = { latitude: 51.4779, longitude: 0 };
const TROMSO: HousePlace = { latitude: 69.65, longitude: 18.96 };
const row = (set: object): OccasionRow =>
  OccasionRow.parse({
    id: 'o',
    number: 1,
    name: 'Foyer',
    list: 'main',
    does: 'go',
    on: true,
    at: { by: 'clock', time: '19:30:00' },
    ...set,
  });
const at = (text: string): Date => new Date(`${text}`);

test('the next ones, by weekday and date; skipped ones are told as such', () => {
  const fridays = row({ days: [5], from: '2026-12-01', to: '2026-12-31', skipped: ['2026-12-11'] });
  const found = coming([fridays, row({ on: false })], at('2026-11-28T12:00:00'), undefined, 10);
  expect(found.map((c) => [c.day, c.isSkipped])).toEqual([
    ['2026-12-04', false],
    ['2026-12-11', true],
    ['2026-12-18', false],
    ['2026-12-25', false],
  ]);
});

test('it is due once, in the second of its moment, and not where it is skipped', () => {
  const o = row({});
  const due = (from: string, to: string, of = o): number =>
    dueBetween([of], at(from), at(to), undefined).length;
  expect(due('2026-11-28T19:29:59', '2026-11-28T19:30:00')).toBe(1);
  expect(due('2026-11-28T19:30:00', '2026-11-28T19:30:01')).toBe(0);
  expect(due('2026-11-28T19:29:59', '2026-11-28T19:30:00', row({ skipped: ['2026-11-28'] }))).toBe(
    0,
  );
  expect(
    due(
      '2026-11-28T23:59:59',
      '2026-11-29T00:00:00',
      row({ at: { by: 'clock', time: '00:00:00' } }),
    ),
  ).toBe(1);
});

test('with the sun at the house’s place, within two minutes of the almanac', () => {
  const near = (o: OccasionRow, day: string, wanted: string, place = GREENWICH): void => {
    const found = momentOn(o, at(`${day}T12:00:00`), place);
    expect(Math.abs((found?.getTime() ?? 0) - at(wanted).getTime())).toBeLessThan(120_000);
  };
  // Greenwich, 21 December 2026: 08:04 and 15:53 UTC.
  near(
    row({ at: { by: 'sun', event: 'sunrise', plus_min: 0 } }),
    '2026-12-21',
    '2026-12-21T08:04:00Z',
  );
  near(
    row({ at: { by: 'sun', event: 'sunset', plus_min: 0 } }),
    '2026-12-21',
    '2026-12-21T15:53:00Z',
  );
  near(
    row({ at: { by: 'sun', event: 'sunset', plus_min: -30 } }),
    '2026-12-21',
    '2026-12-21T15:23:00Z',
  );
});

test('where the sun does not set there is no sunset; without a place there is no sun', () => {
  const o = row({ at: { by: 'sun', event: 'sunset', plus_min: 0 } });
  expect(momentOn(o, at('2026-06-21T12:00:00'), TROMSO)).toBeUndefined();
  expect(momentOn(o, at('2026-12-21T12:00:00'), undefined)).toBeUndefined();
});

test('sunset and some hours may be of the day before', () => {
  const late = row({ at: { by: 'sun', event: 'sunset', plus_min: 600 } });
  const when = momentOn(late, at('2026-12-21T12:00:00'), GREENWICH) ?? new Date(0);
  const before = new Date(when.getTime() - 1000);
  expect(dueBetween([late], before, when, GREENWICH)).toHaveLength(1);
});

test('said in words', () => {
  expect([
    sayAt({ by: 'clock', time: '19:30:00' }),
    sayAt({ by: 'sun', event: 'sunset', plus_min: -10 }),
    sayAt({ by: 'sun', event: 'dusk', plus_min: 0 }),
  ]).toEqual(['19:30:00', 'sunset − 10 min', 'dusk']);
  const evening = { by: 'clock', time: '19:30:00' } as const;
  expect([
    sayWhen({ at: evening }),
    sayWhen({ at: evening, days: [0, 5, 6] }),
    sayWhen({ at: evening, from: '2026-12-24', to: '2027-01-06' }),
    sayWhen({ at: evening, days: [1], from: '2026-12-24' }),
    sayWhen({ at: evening, to: '2027-01-06' }),
    sayWhen({ at: evening, from: '2026-12-24', to: '2026-12-24' }),
  ]).toEqual([
    '19:30:00',
    '19:30:00, Fri Sat Sun',
    '19:30:00, 24 Dec 2026 to 6 Jan 2027',
    '19:30:00, Mon, from 24 Dec 2026',
    '19:30:00, until 6 Jan 2027',
    '19:30:00, on 24 Dec 2026',
  ]);
});

test('made, skipped once, taken back, gone with its list; what makes no sense is refused in a sentence', () => {
  const show = exampleShow();
  const first = cue(show, 1, { 1: 10 });
  const set = {
    name: 'Foyer',
    list: 'main',
    does: 'goto',
    cue: first,
    at: { by: 'clock', time: '18:00:00' },
    on: true,
  };
  apply(show, 'set-occasion', { set });
  const id = [...show.occasions.keys()][0] ?? '';
  expect(apply(show, 'skip-occasion', { id, day: '2026-12-24', skip: true }).summary).toBe(
    'Skips “Foyer” on 2026-12-24',
  );
  expect(refused(show, 'skip-occasion', { id, day: '2026-12-24', skip: true }).code).toBe(
    'nothing',
  );
  apply(show, 'skip-occasion', { id, day: '2026-12-24', skip: false });
  expect(show.occasions.get(id)?.skipped).toEqual([]);
  const no = (more: object) => refused(show, 'set-occasion', { set: { ...set, ...more } });
  expect(no({ cue: 'none' }).message).toContain('which cue');
  expect(no({ list: 'none' }).code).toBe('not-found');
  expect(no({ from: '2026-12-02', to: '2026-12-01' }).message).toContain('ends before');
  expect(no({ at: { by: 'clock', time: '25:00:00' } }).code).toBe('invalid');
  apply(show, 'make-list', { name: 'Foyer' });
  const other = [...show.lists.values()].find((l) => l.name === 'Foyer')?.id ?? '';
  const { cue: left, ...plain } = set;
  expect(left).toBe(first);
  apply(show, 'set-occasion', { id, set: { ...plain, list: other, does: 'go' } });
  apply(show, 'delete-list', { id: other });
  expect(show.occasions.size).toBe(0);
});
