/** What every route handler of this process shares: pool, accounts, copies of shows. */
import { join } from 'node:path';
import { z } from 'zod';
import { makeAuth, type Auth } from '@/store/auth';
import { ShowStore } from '@/store/commit';
import { isLoopback } from '@/core/loopback';
import { FILE_LIMIT } from '@/core/formats/show-file';
import { connect, type Database } from '@/store/database';
import { FileDesk } from '@/store/file-desk';

const Environment = z.object({
  DATABASE_URL: z.string(),
  WINGMAN_ROOT: z.string(),
  WINGMAN_SECRET: z.string().min(16),
  WINGMAN_URL: z.string(),
  WINGMAN_PLAYER_PORT: z.coerce.number(),
  WINGMAN_SIM_PORT: z.coerce.number(),
  WINGMAN_DEMO: z.string().optional(),
  WINGMAN_HOST: z.string().default('127.0.0.1'),
  WINGMAN_DATA: z.string().default('.'),
});

/** What every route is answered with. */
export interface ServerContext {
  db: Database;
  auth: Auth;
  store: ShowStore;
  /** Where files and whole shows are read, written and merged. */
  files: FileDesk;
  /** Where sounds are measured: two hours of one are minutes of work. */
  sounds: FileDesk;
  secret: string;
  /** The data folder, where back-ups lie. */
  data: string;
  player: string;
  sim: string;
  /** Where browsers reach this house. */
  url: string;
  /** Other machines reach it: what is published about the demo holds no longer. */
  isOpenHouse: boolean;
  /** Demo accounts are offered on the sign-in page. */
  offersDemo: boolean;
}

/** A show file that is larger than any without sounds takes as long as its sounds do. */
export const deskFor = (request: Request): FileDesk =>
  Number(request.headers.get('content-length') ?? 0) > FILE_LIMIT
    ? server().sounds
    : server().files;

const MEASURING_MS = 20 * 60_000;

const kept = globalThis as typeof globalThis & { wingmanServer?: ServerContext };

/** Made at the first request, not when a page is built. */
export function server(): ServerContext {
  if (kept.wingmanServer) return kept.wingmanServer;
  const e = Environment.parse(process.env);
  const { db } = connect(e.DATABASE_URL, 12);
  const jobs = join(e.WINGMAN_ROOT, '.build', 'files.mjs');
  kept.wingmanServer = {
    db,
    auth: makeAuth(db, { secret: e.WINGMAN_SECRET, baseURL: e.WINGMAN_URL }),
    store: new ShowStore(db),
    files: new FileDesk({ file: jobs }),
    sounds: new FileDesk({ file: jobs, time_ms: MEASURING_MS }),
    secret: e.WINGMAN_SECRET,
    data: e.WINGMAN_DATA,
    player: `http://127.0.0.1:${e.WINGMAN_PLAYER_PORT}`,
    sim: `http://127.0.0.1:${e.WINGMAN_SIM_PORT}`,
    url: e.WINGMAN_URL,
    isOpenHouse: !isLoopback(e.WINGMAN_HOST),
    offersDemo: e.WINGMAN_DEMO === 'offered',
  };
  return kept.wingmanServer;
}
