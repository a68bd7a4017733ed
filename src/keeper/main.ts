/** The keeper process: writes back-ups, and throws away what is past its time. Nothing plays or waits for it. */
import { mkdirSync } from 'node:fs';
import { constants, setPriority } from 'node:os';
import { z } from 'zod';
import { backupFolder, backUp } from '../store/backups.ts';
import { ShowStore } from '../store/commit.ts';
import { connect } from '../store/database.ts';
import { purgeDeleted } from '../store/shows.ts';
import { sweepSounds } from '../store/sounds/kept.ts';
import { guardConsole, makeLog, surviveDatabase } from '../store/survive.ts';

const environment = z
  .object({
    DATABASE_URL: z.string(),
    WINGMAN_DATA: z.string(),
    /** A show that has changed is written so often. */
    WINGMAN_BACKUP_MINUTES: z.coerce.number().min(0.01).max(1440).default(10),
  })
  .parse(process.env);

// A back-up of a large show is seconds of work: it takes what players and screens leave over.
setPriority(constants.priority.PRIORITY_LOW);
const log = makeLog('keeper');
guardConsole();
surviveDatabase(log);
const { db } = connect(environment.DATABASE_URL, 2);
const store = new ShowStore(db);
const INCOMING_KEPT_MS = 24 * 3600 * 1000;
/** Tickets are good for seconds. */
const TICKETS_KEPT_MS = 3600 * 1000;
const CLEAN_MS = 3600 * 1000;
mkdirSync(backupFolder(environment.WINGMAN_DATA), { recursive: true, mode: 0o700 });

async function backUpAll(): Promise<void> {
  const shows = await db
    .selectFrom('shows')
    .select(['id', 'name'])
    .where('deleted_at', 'is', null)
    .execute();
  for (const show of shows) {
    await backUp(store, environment.WINGMAN_DATA, show.id).catch((error: unknown) =>
      log.error({ error: String(error), show: show.name }, 'a back-up could not be written'),
    );
  }
}

async function clean(): Promise<void> {
  for (const name of await purgeDeleted(db))
    log.warn({ show: name }, 'deleted for good: its week is over');
  await db
    .deleteFrom('used_tickets')
    .where('at', '<', new Date(Date.now() - TICKETS_KEPT_MS))
    .execute();
  await db.deleteFrom('sign_in_tries').where('until', '<', new Date()).execute();
  await db
    .deleteFrom('incoming')
    .where('at', '<', new Date(Date.now() - INCOMING_KEPT_MS))
    .execute();
  await sweepSounds(db);
}

const guarded = (act: () => Promise<void>) => (): void =>
  void act().catch((error: unknown) =>
    log.warn({ error: String(error) }, 'the database cannot be reached; tried again later'),
  );
setInterval(guarded(backUpAll), environment.WINGMAN_BACKUP_MINUTES * 60_000);
setInterval(guarded(clean), CLEAN_MS);
guarded(clean)();
guarded(backUpAll)();

for (const signal of ['SIGTERM', 'SIGINT'] as const) process.on(signal, () => process.exit(0));
