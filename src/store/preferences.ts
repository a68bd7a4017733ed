/** What a person likes to find again, on every machine: small, and nobody else's business. */
import { z } from 'zod';
import { Filter, FILTERS_KEPT } from '../core/crew/filter.ts';
import { KeptHand, MOST_KEPT } from '../core/hands/kept.ts';
import { Look, NIGHT } from '../core/crew/look.ts';
import type { Database } from './database.ts';

const Ids = z.array(z.string().min(1).max(120)).max(100);
const Key = z.string().min(1).max(40);
/** What a person has set for themselves, wherever they sign in. */
export const Preferences = z.object({
  types: z.object({ recent: Ids, favourite: Ids }),
  /** Keys of one’s own, by what they do; the table of keys has the others. */
  keys: z
    .record(Key, Key)
    .refine((keys) => Object.keys(keys).length <= 60, 'So many keys there are not.')
    .default({}),
  /** How panels are arranged, by the place’s name: as the panels keep it. */
  layouts: z
    .record(z.string().min(1).max(80), z.string().max(2000))
    .refine((layouts) => Object.keys(layouts).length <= 30, 'So many places there are not.')
    .default({}),
  /** Filters of their own. */
  filters: z.array(Filter).max(FILTERS_KEPT, 'So many filters nobody keeps apart.').default([]),
  /** Hands that go with them from show to show. */
  hands: z.array(KeptHand).max(MOST_KEPT, `One keeps at most ${MOST_KEPT} hands.`).default([]),
  /** The theme and the light of their screens. */
  look: Look.default(NIGHT),
});
export type Preferences = z.infer<typeof Preferences>;

/** A person’s, with defaults for what an earlier version did not know. */
export async function readPreferences(db: Database, userId: string): Promise<Preferences> {
  const row = await db
    .selectFrom('preferences')
    .select('value')
    .where('user_id', '=', userId)
    .where('key', '=', 'rig')
    .executeTakeFirst();
  const parsed = Preferences.safeParse(row?.value);
  return parsed.success
    ? parsed.data
    : {
        types: { recent: [], favourite: [] },
        keys: {},
        layouts: {},
        filters: [],
        hands: [],
        look: NIGHT,
      };
}

/** Keeps them, whole. */
export async function writePreferences(
  db: Database,
  userId: string,
  preferences: Preferences,
): Promise<void> {
  const value = JSON.stringify(preferences);
  await db
    .insertInto('preferences')
    .values({ user_id: userId, key: 'rig', value })
    .onConflict((oc) => oc.columns(['user_id', 'key']).doUpdateSet({ value }))
    .execute();
}
