/**
 * Where files and whole shows are read, written and merged: each in a thread of its own with a limit of memory and time,
 * so that a file that is large, broken or meant to harm costs nobody else anything (file-desk.test.ts).
 */
import { Worker } from 'node:worker_threads';
import { refuse, type Refusal } from '../core/refusal.ts';
import type { FileJob } from './file-jobs.ts';
import type { Work, Worked } from './file-worker.ts';

export interface DeskOptions {
  databaseUrl: string;
  /** The bundled thread. */
  worker: string | URL;
  /** Megabytes of objects that one job may hold. */
  memory_MB?: number;
  time_ms?: number;
}

/** A show of three hundred thousand values takes a few hundred. */
const MEMORY_MB = 1536;
const TIME_MS = 120_000;
const AT_ONCE = 2;
const WAITING = 8;

/** An answer as JSON text. */
export interface Done {
  answer: string;
  bytes?: Uint8Array;
}

const TOO_MUCH = refuse('too-large', 'This needs more memory than any show does: the file is broken, or made to harm. Nothing was changed.');
const TOO_LONG = refuse('too-large', 'This takes longer than any show does: the file is broken, or made to harm. Nothing was changed.');
const BUSY = refuse('rate', 'Several files are being read already. Try again in a moment; nothing was changed.');

export class FileDesk {
  private running = 0;
  private readonly waiting: (() => void)[] = [];

  constructor(private readonly options: DeskOptions) {}

  /** Does a job. @param bytes the file; it is handed over and cannot be read here afterwards @throws what is no fault of the file */
  async do(job: FileJob, bytes: Uint8Array = new Uint8Array(0)): Promise<Done | Refusal> {
    if (this.running >= AT_ONCE) {
      if (this.waiting.length >= WAITING) return BUSY;
      await new Promise<void>((resolve) => this.waiting.push(resolve));
    }
    this.running++;
    try {
      return await this.work(job, bytes);
    } finally {
      this.running--;
      this.waiting.shift()?.();
    }
  }

  private work(job: FileJob, bytes: Uint8Array): Promise<Done | Refusal> {
    const { databaseUrl, worker: file, memory_MB = MEMORY_MB, time_ms = TIME_MS } = this.options;
    // A buffer that shares its memory with others is copied before it is handed over.
    const own = bytes.byteLength === bytes.buffer.byteLength ? bytes : bytes.slice();
    const work: Work = { job, bytes: own, databaseUrl };
    const worker = new Worker(file, { workerData: work, transferList: [own.buffer as ArrayBuffer], resourceLimits: { maxOldGenerationSizeMb: memory_MB, maxYoungGenerationSizeMb: 64, stackSizeMb: 4 } });
    return new Promise<Done | Refusal>((resolve, reject) => {
      const late = setTimeout(() => {
        resolve(TOO_LONG);
        void worker.terminate();
      }, time_ms);
      worker.once('message', (worked: Worked) => {
        if ('answer' in worked) resolve(worked);
        else if ('refusal' in worked) resolve(worked.refusal);
        else if ('away' in worked) reject(Object.assign(new Error('the database was lost'), { code: worked.away === 'away' ? 'ECONNREFUSED' : 'ECONNRESET' }));
        else reject(new Error(worked.failed));
      });
      worker.once('error', (error: Error & { code?: string }) => (error.code === 'ERR_WORKER_OUT_OF_MEMORY' || error instanceof RangeError ? resolve(TOO_MUCH) : reject(error)));
      worker.once('exit', () => {
        clearTimeout(late);
        reject(new Error('the thread ended without an answer'));
      });
    });
  }
}
