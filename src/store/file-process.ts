/**
 * The process that a job with files is done in: one job, then it ends. A process and not a thread, since a thread that
 * runs out of memory may take the process with it (file-desk.test.ts). The job and its file come by the standard input,
 * the answer goes by the standard output.
 */
import { isRefusal } from '../core/refusal.ts';
import { connect, databaseTrouble } from './database.ts';
import { packParts, unpackParts, type Worked } from './file-desk.ts';
import { doJob, type FileJob } from './file-jobs.ts';

async function everything(): Promise<Buffer> {
  const parts: Buffer[] = [];
  for await (const part of process.stdin as AsyncIterable<Buffer>) parts.push(part);
  return Buffer.concat(parts);
}

async function work(): Promise<{ worked: Worked; bytes: Uint8Array }> {
  const [head, bytes] = unpackParts(await everything());
  const { db } = connect(process.env.DATABASE_URL, 2);
  const nothing = new Uint8Array(0);
  try {
    const done = await doJob(db, JSON.parse(head) as FileJob, new Uint8Array(bytes));
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
