/**
 * The process that a job with files is done in: one job, then it ends. A process and not a thread, since a thread that
 * runs out of memory may take the process with it (file-desk.test.ts). The job and its file come by the standard input,
 * the answer goes by the standard output.
 */
import { isRefusal } from '../core/refusal.ts';
import { connect, databaseTrouble } from './database.ts';
import { packParts, splitHead, type Worked } from './file-desk.ts';
import { doJob, type FileJob } from './file-jobs.ts';

/** What comes in, piece by piece: the job first. */
async function jobAndFile(): Promise<{ job: FileJob; file: AsyncIterable<Uint8Array> }> {
  const from = (process.stdin as AsyncIterable<Buffer>)[Symbol.asyncIterator]();
  let known = Buffer.alloc(0);
  let split = splitHead(known);
  while (!split) {
    const next = await from.next();
    if (next.done === true) throw new RangeError('less than was said');
    known = Buffer.concat([known, next.value]);
    split = splitHead(known);
  }
  const { text, rest } = split;
  return {
    job: JSON.parse(text) as FileJob,
    file: (async function* () {
      if (rest.length > 0) yield rest;
      for (let next = await from.next(); next.done !== true; next = await from.next())
        yield next.value;
    })(),
  };
}

async function work(): Promise<{ worked: Worked; bytes: Uint8Array }> {
  const { job, file } = await jobAndFile();
  const { db } = connect(process.env.DATABASE_URL, 2);
  const nothing = new Uint8Array(0);
  try {
    const done = await doJob(db, job, file);
    return isRefusal(done)
      ? { worked: { refusal: done }, bytes: nothing }
      : { worked: { answer: JSON.stringify(done.answer) }, bytes: done.bytes ?? nothing };
  } catch (error) {
    const away = databaseTrouble(error);
    return {
      worked: away
        ? { away }
        : { failed: error instanceof Error ? (error.stack ?? String(error)) : String(error) },
      bytes: nothing,
    };
  } finally {
    await db.destroy().catch(() => undefined);
  }
}

const { worked, bytes } = await work();
process.stdout.write(packParts(JSON.stringify(worked), bytes), () => process.exit(0));
