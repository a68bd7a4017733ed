/** Cue lists. */
import { z } from 'zod';
import { Name, idOf, Time } from '../show/fields.ts';
import { ListTime } from '../time/rows.ts';

/** Which way a chase goes through its steps. */
export const DIRECTIONS = ['forward', 'back', 'bounce', 'random'] as const;

/** A list that steps by itself. */
const Chase = z.object({
  on: z.boolean(),
  /** Steps a minute, or seconds a step. */
  speed: z.union([
    z.object({
      bpm: z
        .number()
        .min(1, 'A chase has at least 1 step a minute.')
        .max(1200, 'A chase has at most 1200 steps a minute.'),
    }),
    z.object({ step_s: z.number().min(0.05, 'A step takes at least 0.05 s.').max(3600) }),
  ]),
  /** Share of a step that its fade takes. */
  share: z.number().min(0).max(1),
  direction: z.enum(DIRECTIONS),
  /** Rounds until it stops in its last step; absent: until it is stopped. */
  count: z.number().int().min(1).max(9999).optional(),
});
export type Chase = z.infer<typeof Chase>;

/** Of a list that was given none; 0 to 100. */
export const PRIORITY = 50;

/** A cue list: how its cues follow each other, and who wins beside others. */
export const ListRow = z.object({
  id: idOf('lists'),
  number: z.number().int().min(1).max(9999),
  name: Name,
  back_s: Time,
  /** false: every cue is complete as it stands; slots that it does not set are let go. */
  tracking: z.boolean().optional(),
  /** How its intensity meets other playbacks; absent: the highest wins. */
  intensity: z.enum(['htp', 'ltp']).optional(),
  /** Absent: PRIORITY. */
  priority: z.number().int().min(0).max(100).optional(),
  /** Absent: RELEASE_S. */
  release_s: Time.optional(),
  keepsThroughRelease: z.boolean().optional(),
  /** Dark heads move in the cue before the one that lights them. */
  prePosition: z.boolean().optional(),
  atEnd: z.enum(['stop', 'loop', 'release']).optional(),
  chase: Chase.optional(),
  /** Along time: absent where it never was. */
  time: ListTime.optional(),
});
export type ListRow = z.infer<typeof ListRow>;

/** Seconds in which a list goes out that was given no time of its own. */
export const RELEASE_S = 2;
