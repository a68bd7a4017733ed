/**
 * Where files and whole shows are read, written and merged: each in a process of its own with a limit of memory and time,
 * so that a file that is large, broken or meant to harm costs nobody else anything (file-desk.test.ts).
 */
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { constants, setPriority } from 'node:os';
import { refuse, type Refusal, type Result } from '../core/refusal.ts';
import type { FileJob } from './file-jobs.ts';

export interface DeskOptions {
  /** The bundled process. */
  file: string;
  /** Megabytes of objects that one job may hold. */
  memory_MB?: number;
  time_ms?: number;
}

/** What a job comes to. Answers are text already, so that whoever passes them on need not look at them. */
export type Worked =
  { answer: string } | { refusal: Refusal } | { away: 'away' | 'lost' } | { failed: string };

/** A show of three hundred thousand values takes a few hundred. */
const MEMORY_MB = 1536;
/** What is read stays: with room for what is new it is not moved to and fro while the rest comes (docs/performance.md). */
const YOUNG_MB = 32;
const TIME_MS = 120_000;
const AT_ONCE = 2;
const WAITING = 8;
const HEAD_BYTES = 4;
/** More comes back from no job. */
const ANSWER_LIMIT = 512 * 1024 * 1024;

/** How Node ends itself when there is no memory left: by a signal, or by what a shell makes of it. */
const OUT_OF_MEMORY: ReadonlySet<NodeJS.Signals | number | null> = new Set<
  NodeJS.Signals | number | null
>(['SIGABRT', 'SIGTRAP', 134, 133]);

/** An answer as JSON text, and a file that was written. */
export interface Done {
  answer: string;
  bytes: Uint8Array;
}

const TOO_MUCH = refuse(
  'too-large',
  'This needs more memory than any show does: the file is broken, or made to harm. Nothing was changed.',
);
const TOO_LONG = refuse(
  'too-large',
  'This takes longer than any show does: the file is broken, or made to harm. Nothing was changed.',
);
const BUSY = refuse(
  'rate',
  'Several files are being read already. Try again in a moment; nothing was changed.',
);

function headOf(text: string): [head: Buffer, length: Buffer] {
  const head = Buffer.from(text, 'utf8');
  const length = Buffer.alloc(HEAD_BYTES);
  length.writeUInt32LE(head.length);
  return [head, length];
}

/** Text and bytes as one piece: the text's length in four bytes, the text, the bytes. */
export function packParts(text: string, bytes: Uint8Array): Buffer {
  const [head, length] = headOf(text);
  return Buffer.concat([length, head, bytes]);
}

/** @returns undefined while the text is not there whole */
export function splitHead(known: Buffer): { text: string; rest: Buffer } | undefined {
  const end = known.length < HEAD_BYTES ? Infinity : HEAD_BYTES + known.readUInt32LE(0);
  return known.length < end
    ? undefined
    : { text: known.toString('utf8', HEAD_BYTES, end), rest: known.subarray(end) };
}

/** @throws RangeError where there is less than was said */
function unpackParts(whole: Buffer): [text: string, bytes: Buffer] {
  const split = splitHead(whole);
  if (!split) throw new RangeError('less than was said');
  return [split.text, split.rest];
}

/** A machine with few cores plays and answers first. */
function yieldToOthers(pid: number | undefined): void {
  try {
    if (pid !== undefined) setPriority(pid, constants.priority.PRIORITY_LOW);
  } catch {
    // It has ended already, or may not be changed: then it runs as others do.
  }
}

export class FileDesk {
  private running = 0;
  private readonly waiting: (() => void)[] = [];

  constructor(private readonly options: DeskOptions) {}

  /**
   * Does a job.
   * @param file that it is about, in pieces as they come: they are passed on as fast as the process takes them, and not kept here
   * @throws what is no fault of the file, and what reading its pieces throws
   */
  async do(
    job: FileJob,
    file: Iterable<Uint8Array> | AsyncIterable<Uint8Array> = [],
  ): Promise<Result<Done>> {
    if (this.running >= AT_ONCE) {
      if (this.waiting.length >= WAITING) return BUSY;
      await new Promise<void>((resolve) => this.waiting.push(resolve));
    }
    this.running++;
    try {
      return await this.work(job, file);
    } finally {
      this.running--;
      this.waiting.shift()?.();
    }
  }

  private work(
    job: FileJob,
    pieces: Iterable<Uint8Array> | AsyncIterable<Uint8Array>,
  ): Promise<Result<Done>> {
    const { file, memory_MB = MEMORY_MB, time_ms = TIME_MS } = this.options;
    const child = spawn(
      process.execPath,
      [`--max-old-space-size=${memory_MB}`, `--max-semi-space-size=${YOUNG_MB}`, file],
      { stdio: ['pipe', 'pipe', 'ignore'] },
    );
    yieldToOthers(child.pid);
    const parts: Buffer[] = [];
    let size = 0;
    return new Promise<Result<Done>>((resolve, reject) => {
      const late = setTimeout(() => {
        resolve(TOO_LONG);
        child.kill('SIGKILL');
      }, time_ms);
      child.stdout.on('data', (part: Buffer) => {
        parts.push(part);
        size += part.length;
        if (size > ANSWER_LIMIT) child.kill('SIGKILL');
      });
      child.once('error', reject);
      child.once('close', (code, signal) => {
        clearTimeout(late);
        try {
          const [text, written] = unpackParts(Buffer.concat(parts));
          const worked = JSON.parse(text) as Worked;
          if ('answer' in worked) resolve({ answer: worked.answer, bytes: written });
          else if ('refusal' in worked) resolve(worked.refusal);
          else if ('away' in worked)
            reject(
              Object.assign(new Error('the database was lost'), {
                code: worked.away === 'away' ? 'ECONNREFUSED' : 'ECONNRESET',
              }),
            );
          else reject(new Error(worked.failed));
        } catch {
          if (OUT_OF_MEMORY.has(signal ?? code)) resolve(TOO_MUCH);
          else
            reject(new Error(`the process for files ended without an answer (${signal ?? code})`));
        }
      });
      // Whoever has ended already reads no more; its end says why.
      child.stdin.on('error', () => undefined);
      const [head, length] = headOf(JSON.stringify(job));
      const feed = async (): Promise<void> => {
        // Why it ended is told by its answer.
        const ended = once(child, 'close').catch(() => undefined);
        const put = async (piece: Uint8Array): Promise<void> => {
          // A process that has ended takes no more; what still comes is read to its end, so that its sender hears the answer.
          if (child.stdin.writable && !child.stdin.write(piece))
            await Promise.race([once(child.stdin, 'drain').catch(() => undefined), ended]);
        };
        for (const piece of [length, head]) await put(piece);
        for await (const piece of pieces) await put(piece);
        child.stdin.end();
      };
      feed().catch((error: unknown) => {
        reject(error instanceof Error ? error : new Error(String(error)));
        child.kill('SIGKILL');
      });
    });
  }
}
