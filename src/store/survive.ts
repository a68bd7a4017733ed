/**
 * What keeps a process going: a log that never stops or spins whatever the disk does, and errors of a lost database that
 * end nothing. Every process of Wingman begins with this.
 */
import { writeSync } from 'node:fs';
import { statfs } from 'node:fs/promises';
import { format } from 'node:util';
import { pino, type Logger } from 'pino';
import { databaseTrouble } from './database.ts';

const STDOUT = 1;
const STDERR = 2;

/** Writes and goes on, also where nothing can be written: a full disk, a pipe whose reader is gone (survive.test.ts). */
function writeSafely(fd: number, text: string): void {
  try {
    writeSync(fd, text);
  } catch {
    // What cannot be written down is not worth stopping for.
  }
}

/** A log whose lines go out at once, or not at all. */
export function makeLog(name: string): Logger {
  return pino(
    { name, level: process.env.WINGMAN_LOG ?? 'warn' },
    { write: (line) => writeSafely(STDOUT, line) },
  );
}

/** `console` for processes whose libraries write to it: the same rule. */
export function guardConsole(): void {
  for (const [method, fd] of [
    ['log', STDOUT],
    ['info', STDOUT],
    ['debug', STDOUT],
    ['warn', STDERR],
    ['error', STDERR],
  ] as const)
    console[method] = (...args: unknown[]) => writeSafely(fd, `${format(...args)}\n`);
  for (const stream of [process.stdout, process.stderr]) stream.on('error', () => undefined);
}

/** A connection that is lost under somebody ends no process; a mistake of ours does, and the supervisor starts it again. */
export function surviveDatabase(log: Pick<Logger, 'warn' | 'fatal'>): void {
  const met = (error: unknown): void => {
    if (databaseTrouble(error))
      log.warn({ error: String(error) }, 'the database was lost under something; going on');
    else {
      log.fatal(
        { error: error instanceof Error ? (error.stack ?? String(error)) : String(error) },
        'ends by a mistake',
      );
      process.exit(1);
    }
  };
  process.on('uncaughtException', met);
  process.on('unhandledRejection', met);
}

/** Less room than this is none: a database needs some to write at all. */
const ROOM_BYTES = 24 * 1024 * 1024;

/** Whether the disk of a folder is full. False where that cannot be told. */
export async function isFull(folder: string): Promise<boolean> {
  try {
    const { bavail, bsize } = await statfs(folder);
    return bavail * bsize < ROOM_BYTES;
  } catch {
    return false;
  }
}

/** Whether an error is a disk without room: PostgreSQL's disk_full, or the system's. */
export const saysFull = (error: unknown): boolean =>
  ['53100', 'ENOSPC', 'EDQUOT'].includes(String((error as { code?: unknown } | null)?.code));
