/** What is said when a request or a command ends in an error: a database that is away, or a mistake of ours with a number. */
import { randomBytes } from 'node:crypto';
import type { Logger } from 'pino';
import { refuse, type Refusal } from '../core/refusal.ts';
import { databaseTrouble } from '../store/database.ts';
import { saysFull } from '../store/survive.ts';

const AWAY = refuse(
  'unavailable',
  'The database cannot be reached right now. Playback goes on; this was not carried out. Try again in a moment.',
);
const LOST = refuse(
  'unavailable',
  'The connection to the database was lost while this was being done. Playback goes on; it is not known whether it was carried out.',
);

const FULL = refuse(
  'full',
  'The disk is full: this was not carried out. Playback goes on; make room on the machine that Wingman runs on.',
);

/** What people are told of an error that nobody caused, and what the log is. */
export function failed(error: unknown, log: Pick<Logger, 'error' | 'warn'>): Refusal {
  if (saysFull(error)) return FULL;
  const trouble = databaseTrouble(error);
  if (trouble) {
    log.warn({ error: String(error) }, 'the database cannot be reached');
    return trouble === 'away' ? AWAY : LOST;
  }
  const number = randomBytes(3).toString('hex').toUpperCase();
  log.error(
    { error: error instanceof Error ? (error.stack ?? String(error)) : String(error), number },
    'unexpected',
  );
  return refuse(
    'internal',
    `Something unexpected happened in the player, number ${number}. Playback goes on. The log of the player says more under this number.`,
  );
}
