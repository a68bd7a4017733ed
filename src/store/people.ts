/** What concerns a person in all shows: telling every player of it, and signing out everywhere. */
import { sql } from 'kysely';
import type { Database } from './database.ts';
import { MEMBERS_CHANNEL } from './channels.ts';

/** Tells every player that something about people of a show has changed. */
export async function tellMembers(
  db: Database,
  message: { show?: string; user?: string; session?: string; locked?: boolean },
): Promise<void> {
  await sql`select pg_notify(${MEMBERS_CHANNEL}, ${JSON.stringify(message)})`.execute(db);
}

/** Ends every session of a person; the database tells of each, and open screens are shown out at once. */
export async function signOutEverywhere(db: Database, userId: string): Promise<void> {
  await db.deleteFrom('session').where('userId', '=', userId).execute();
}
