/**
 * Where files and whole shows are read, written and merged: each in a process of its own with a limit of memory and time,
 * so that a file that is large, broken or meant to harm costs nobody else anything (file-desk.test.ts).
 */
import { spawn, type ChildProcessByStdio } from 'node:child_process';
import { once } from 'node:events';
import { constants, setPriority } from 'node:os';
import type { Readable, Writable } from 'node:stream';
import { refuse, type Refusal, type Result } from '../core/refusal.ts';
import { END, framed, unpackAnswer } from './file-frames.ts';
import type { FileJob } from './file-jobs.ts';

/** How processes for files are run. */
export interface DeskOptions {
  /** The bundled process. */
  file: string;
  /** Megabytes of objects that one job may hold. */
  memory_MB?: number;
  time_ms?: number;
  /** So long a process whose job went well waits for another one. */
  kept_ms?: number;
}

/** What a job comes to. Answers are text already, so that whoever passes them on need not look at them. */
export type Worked =
  { answer: string } | { refusal: Refusal } | { away: 'away' | 'lost' } | { failed: string };

/** What a process says of a job, and how much it holds after it. */
export interface Told {
  worked: Worked;
  holds_MB: number;
}

/** A show of three hundred thousand values takes a few hundred. */
const MEMORY_MB = 1536;
/** What is read stays: with room for what is new it is not moved to and fro while the rest comes (docs/performance.md). */
const YOUNG_MB = 32;
const TIME_MS = 120_000;
const AT_ONCE = 2;
const WAITING = 8;
/** A process whose job went well waits so long for another one: thirty makers' files are not thirty beginnings (docs/performance.md). */
const KEPT_MS = 15_000;
/** One that holds more begins anew, so that what one job leaves is not taken from the next one's room. */
const KEPT_MB = 400;
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

/** A machine with few cores plays and answers first. */
function yieldToOthers(pid: number | undefined): void {
  try {
    if (pid !== undefined) setPriority(pid, constants.priority.PRIORITY_LOW);
  } catch {
    // It has ended already, or may not be changed: then it runs as others do.
  }
}

type Child = ChildProcessByStdio<Writable, Readable, null>;
type Pieces = Iterable<Uint8Array> | AsyncIterable<Uint8Array>;

/** Its streams too: none of them keeps this process when there is nothing to do. */
function hold(child: Child, on: boolean): void {
  const streams = [child, child.stdin, child.stdout] as unknown as Record<
    'ref' | 'unref',
    () => void
  >[];
  for (const s of streams)
    if (on) s.ref();
    else s.unref();
}

/** A job and its file, as fast as the process takes them. One that has ended takes no more; what still comes is read to its end, so that its sender hears the answer. */
async function feed(child: Child, job: FileJob, pieces: Pieces): Promise<void> {
  // Why it ended is told by its answer.
  const ended = once(child, 'close').catch(() => undefined);
  const put = async (piece: Uint8Array): Promise<void> => {
    if (child.stdin.writable && !child.stdin.write(piece))
      await Promise.race([once(child.stdin, 'drain').catch(() => undefined), ended]);
  };
  for (const part of framed(Buffer.from(JSON.stringify(job), 'utf8'))) await put(part);
  for await (const piece of pieces)
    if (piece.length > 0) for (const part of framed(piece)) await put(part);
  await put(END);
}

/** @throws what is no fault of the file */
function resultOf(worked: Worked, bytes: Uint8Array): Result<Done> {
  if ('answer' in worked) return { answer: worked.answer, bytes };
  if ('refusal' in worked) return worked.refusal;
  if ('failed' in worked) throw new Error(worked.failed);
  throw Object.assign(new Error('the database was lost'), {
    code: worked.away === 'away' ? 'ECONNREFUSED' : 'ECONNRESET',
  });
}

/** Reads and writes files in processes of their own, a few at once. */
export class FileDesk {
  private running = 0;
  private readonly waiting: (() => void)[] = [];
  /** Processes whose job went well, each with what ends it when no other comes. */
  private readonly kept = new Map<Child, NodeJS.Timeout>();

  constructor(private readonly options: DeskOptions) {}

  /**
   * Does a job.
   * @param file that it is about, in pieces as they come: they are passed on as fast as the process takes them, and not kept here
   * @throws what is no fault of the file, and what reading its pieces throws
   */
  async do(job: FileJob, file: Pieces = []): Promise<Result<Done>> {
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

  /** A process that waits, or a new one. */
  private process(): Child {
    for (const [child, ending] of this.kept) {
      clearTimeout(ending);
      this.kept.delete(child);
      if (child.exitCode !== null || child.signalCode !== null) continue;
      hold(child, true);
      return child;
    }
    const { file, memory_MB = MEMORY_MB } = this.options;
    const child = spawn(
      process.execPath,
      [`--max-old-space-size=${memory_MB}`, `--max-semi-space-size=${YOUNG_MB}`, file],
      { stdio: ['pipe', 'pipe', 'ignore'] },
    );
    yieldToOthers(child.pid);
    // Whoever has ended already reads no more; its end says why.
    child.stdin.on('error', () => undefined);
    child.once('error', () => undefined);
    child.once('close', () => {
      clearTimeout(this.kept.get(child));
      this.kept.delete(child);
    });
    return child;
  }

  /** Waits for another job, and ends when none comes. */
  private keep(child: Child): void {
    const { kept_ms = KEPT_MS } = this.options;
    hold(child, false);
    // It takes a while to end: nobody is given it meanwhile (file-desk.test.ts).
    const end = (): void => {
      this.kept.delete(child);
      child.kill('SIGKILL');
    };
    this.kept.set(child, setTimeout(end, kept_ms).unref());
  }

  private async work(job: FileJob, pieces: Pieces): Promise<Result<Done>> {
    const child = this.process();
    const answered = this.answer(child);
    let isFed = false;
    const fed = feed(child, job, pieces).then(() => ((isFed = true), answered));
    let keeps = false;
    try {
      // Whoever answers before its file is whole is not waited for; a file that cannot be read to its end has no answer.
      const told = await Promise.race([answered, fed]);
      if ('refused' in told) return told;
      keeps = isFed && 'answer' in told.worked && told.holds_MB <= KEPT_MB;
      return resultOf(told.worked, told.bytes);
    } finally {
      if (keeps) this.keep(child);
      else child.kill('SIGKILL');
    }
  }

  private answer(child: Child): Promise<(Told & { bytes: Uint8Array }) | Refusal> {
    const { time_ms = TIME_MS } = this.options;
    const parts: Buffer[] = [];
    let size = 0;
    return new Promise((resolve, reject) => {
      const late = setTimeout(() => end(() => resolve(TOO_LONG)), time_ms);
      const hear = (part: Buffer): void => {
        parts.push(part);
        size += part.length;
        if (size > ANSWER_LIMIT) child.kill('SIGKILL');
        const whole = unpackAnswer(parts);
        if (whole) end(() => resolve({ ...(JSON.parse(whole.text) as Told), bytes: whole.bytes }));
      };
      const close = (code: number | null, signal: NodeJS.Signals | null): void =>
        end(() =>
          OUT_OF_MEMORY.has(signal ?? code)
            ? resolve(TOO_MUCH)
            : reject(
                new Error(`the process for files ended without an answer (${signal ?? code})`),
              ),
        );
      const end = (say: () => void): void => {
        clearTimeout(late);
        child.stdout.off('data', hear);
        child.off('close', close);
        child.off('error', reject);
        say();
      };
      child.stdout.on('data', hear);
      child.once('error', reject);
      child.once('close', close);
    });
  }
}
