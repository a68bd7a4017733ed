/**
 * The process that jobs with files are done in, one after the other, until no more come. A process and not a thread,
 * since a thread that runs out of memory may take the process with it (file-desk.test.ts). A job and its file come by the
 * standard input, the answer goes by the standard output.
 */
import { isRefusal } from '../core/refusal.ts';
import { connect, databaseTrouble, type Database } from './database.ts';
import type { Told, Worked } from './file-desk.ts';
import { Jobs, packAnswer } from './file-frames.ts';
import { doJob, type FileJob } from './file-jobs.ts';

const NOTHING = new Uint8Array(0);

async function work(
  db: Database,
  job: FileJob,
  file: AsyncGenerator<Uint8Array>,
): Promise<{ worked: Worked; bytes: Uint8Array }> {
  try {
    const done = await doJob(db, job, file);
    return isRefusal(done)
      ? { worked: { refusal: done }, bytes: NOTHING }
      : { worked: { answer: JSON.stringify(done.answer) }, bytes: done.bytes ?? NOTHING };
  } catch (error) {
    const away = databaseTrouble(error);
    return {
      worked: away
        ? { away }
        : { failed: error instanceof Error ? (error.stack ?? String(error)) : String(error) },
      bytes: NOTHING,
    };
  }
}

const say = (told: Told, bytes: Uint8Array): Promise<void> =>
  new Promise((done) =>
    process.stdout.write(packAnswer(JSON.stringify(told), bytes), () => done()),
  );

const jobs = new Jobs(process.stdin as AsyncIterable<Buffer>);
const { db } = connect(process.env.DATABASE_URL, 2);
for (let next = await jobs.next(); next; next = await jobs.next()) {
  const { worked, bytes } = await work(db, JSON.parse(next.text) as FileJob, next.file);
  await say({ worked, holds_MB: process.memoryUsage.rss() / 1e6 }, bytes);
  // Only whoever read all of it can be asked again; the others are ended.
  if (!('answer' in worked)) break;
}
process.exit(0);
