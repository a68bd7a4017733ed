/** Looks: pictures made of levels, palettes, effects and other looks. */
import { z } from 'zod';
import { FixtureNumber, Level, Name, RowId, Time, idOf } from '../show/fields.ts';

/** Fixtures, or groups that stand for their members. */
const Members = z.array(RowId).min(1).max(10_000);

/** One thing that a look says of a unit’s attribute. */
export const LookItem = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('level'),
    fixtureId: idOf('fixtures'),
    attribute: z.string().min(1).max(60),
    level: Level,
    fade_s: Time.optional(),
    delay_s: Time.optional(),
  }),
  z.object({ kind: z.literal('palette'), palette: idOf('palettes'), members: Members }),
  z.object({ kind: z.literal('effect'), effect: idOf('effects'), members: Members }),
  z.object({ kind: z.literal('look'), look: idOf('looks') }),
]);
export type LookItem = z.infer<typeof LookItem>;

/** A named picture made of levels, palettes, effects and other looks; what comes later in it wins. */
export const LookRow = z.object({
  id: idOf('looks'),
  number: FixtureNumber,
  name: Name,
  order: z.number().min(0).max(1e9).optional(),
  /** In which it comes in and lets go when it is played by itself; absent: PLAY_S. */
  play_s: Time.optional(),
  items: z.array(LookItem).max(20_000),
});
export type LookRow = z.infer<typeof LookRow>;
