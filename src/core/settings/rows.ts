/** The show itself: one row. */
import { z } from 'zod';
import { LIMITS, Name, Note } from '../show/fields.ts';
import { Power } from '../circuits/rows.ts';
import { NewUniverses } from '../routes/rows.ts';
import { SoundOut } from '../sounds/rows.ts';

/** Findings that are meant, by their keys: why, in a word, and who put them aside. */
const Aside = z.record(
  z.string().min(1).max(300),
  z.object({
    word: z.string().min(1).max(LIMITS.nameLength),
    by: z.string().max(LIMITS.nameLength),
  }),
);

/** What a show is called, and what holds for all of it. */
export const SettingsRow = z.object({
  id: z.literal('show'),
  name: Name,
  venue: z.string().max(LIMITS.nameLength),
  note: Note,
  power: Power.optional(),
  aside: Aside.optional(),
  /** Where the house stands, for the sun: degrees, north and east count up. */
  place: z
    .object({ latitude: z.number().min(-90).max(90), longitude: z.number().min(-180).max(180) })
    .optional(),
  /** Where sounds are heard; absent: at screens that play sound. */
  soundOut: SoundOut.optional(),
  /** Where universes go that nobody has routed yet; absent: to the simulated node. */
  newUniverses: NewUniverses.optional(),
  /** Names of pages of faders, by their number. */
  faderPages: z.record(z.string().regex(/^[1-9]\d{0,2}$/), Name.max(40)).optional(),
});
export type SettingsRow = z.infer<typeof SettingsRow>;
