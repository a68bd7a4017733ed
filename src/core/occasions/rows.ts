/** Occasions: lists that go by the time of day, the weekday and the date, or with the sun. */
import { z } from 'zod';
import { CLOCK_TIME } from '../cues/rows.ts';
import { Name, idOf } from '../show/fields.ts';

/** Moments of the sun that an occasion may be counted from. */
export const SUN = ['sunrise', 'sunset', 'dawn', 'dusk'] as const;
/** What an occasion does with its list. */
export const OCCASION_DOES = ['go', 'goto', 'play', 'release'] as const;
/** As a date field has it: `2026-12-24`. */
export const Day = z
  .string()
  .regex(/^\d{4}-(?:0[1-9]|1[0-2])-(?:0[1-9]|[12]\d|3[01])$/, 'A date is like 2026-12-24.');
const MOST_SKIPPED = 60;

const OccasionAt = z.discriminatedUnion('by', [
  z.object({
    by: z.literal('clock'),
    time: z.string().regex(CLOCK_TIME, 'A time of day is like 19:30:00.'),
  }),
  z.object({
    by: z.literal('sun'),
    event: z.enum(SUN),
    /** Minutes after it; before it they are negative. */
    plus_min: z.number().int().min(-720).max(720),
  }),
]);

/** Something that plays by the calendar. */
export const OccasionRow = z.object({
  id: idOf('occasions'),
  number: z.number().int().min(1).max(999),
  name: Name,
  list: idOf('lists'),
  does: z.enum(OCCASION_DOES),
  /** Where it goes to. */
  cue: idOf('cues').optional(),
  at: OccasionAt,
  /** 0 Sunday to 6 Saturday; absent: every day. */
  days: z.array(z.number().int().min(0).max(6)).min(1, 'Say on which days.').max(7).optional(),
  from: Day.optional(),
  to: Day.optional(),
  /** Days on which it does not happen, once each. */
  skipped: z.array(Day).max(MOST_SKIPPED, `At most ${MOST_SKIPPED} days are skipped.`).default([]),
  on: z.boolean(),
});
export type OccasionRow = z.infer<typeof OccasionRow>;
