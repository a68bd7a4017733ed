/** The thread that a job with files is done in: one job, then it ends. Its memory and its time are limited from outside. */
import { parentPort, workerData } from 'node:worker_threads';
import { isRefusal, type Refusal } from '../core/refusal.ts';
import { connect, databaseTrouble } from './database.ts';
import { doJob, type FileJob } from './file-jobs.ts';

export interface Work {
  job: FileJob;
  bytes: Uint8Array;
  databaseUrl: string;
}
/** Answers are text already, so that whoever passes them on need not look at them. */
export type Worked = { answer: string; bytes?: Uint8Array } | { refusal: Refusal } | { away: 'away' | 'lost' } | { failed: string };

const { job, bytes, databaseUrl } = workerData as Work;
const { db } = connect(databaseUrl, 2);

async function work(): Promise<Worked> {
  try {
    const done = await doJob(db, job, bytes);
    if (isRefusal(done)) return { refusal: done };
    return { answer: JSON.stringify(done.answer), ...(done.bytes ? { bytes: done.bytes } : {}) };
  } catch (error) {
    const away = databaseTrouble(error);
    return away ? { away } : { failed: error instanceof Error ? (error.stack ?? String(error)) : String(error) };
  }
}

const worked = await work();
await db.destroy().catch(() => undefined);
parentPort?.postMessage(worked, 'bytes' in worked && worked.bytes ? [worked.bytes.buffer as ArrayBuffer] : []);
