/** The main thread's hand on the clock. */
import { Worker } from 'node:worker_threads';
import type { OutputSecond } from '../core/live/messages.ts';
import type { EngineCopy } from '../core/playback/saved.ts';
import type { ClockSettings, ClockStats, FromClock, ToClock } from './clock-messages.ts';

/** The clock’s thread, seen from the player. */
export class Clock {
  private readonly worker: Worker;
  private readonly waiting = new Map<number, (value: never) => void>();
  private lastId = 0;

  /** @param heard everything that is not an answer @param failed the clock died: the process should end and be started again */
  constructor(
    file: URL,
    settings: ClockSettings,
    heard: (message: FromClock) => void,
    failed: (error: Error) => void,
  ) {
    this.worker = new Worker(file, { workerData: settings });
    this.worker.on('message', (message: FromClock) => {
      if (message.is === 'framed') this.answer(message.id, undefined);
      else if (message.is === 'copied') this.answer(message.id, message.copy);
      else if (message.is === 'stats') this.answer(message.id, message.stats);
      else if (message.is === 'seconds') this.answer(message.id, message.seconds);
      else heard(message);
    });
    this.worker.on('error', failed);
  }

  tell(message: ToClock): void {
    this.worker.postMessage(message);
  }

  copy(showId: string): Promise<EngineCopy | null> {
    return this.ask<EngineCopy | null>((id) => ({ do: 'copy', showId, id }));
  }

  /** Ends when everything that this show was told so far is in a frame, and what the frame shows can be read. */
  frame(showId: string): Promise<void> {
    return this.ask<void>((id) => ({ do: 'frame', showId, id }));
  }

  stats(): Promise<ClockStats> {
    return this.ask<ClockStats>((id) => ({ do: 'stats', id }));
  }

  /** How the seconds after one went, at most ten minutes of them. @param after -1: all that are kept */
  seconds(after: number): Promise<OutputSecond[]> {
    return this.ask<OutputSecond[]>((id) => ({ do: 'seconds', id, after }));
  }

  async stop(): Promise<void> {
    const ended = new Promise<void>((resolve) => this.worker.once('exit', () => resolve()));
    this.tell({ do: 'stop' });
    await ended;
  }

  private ask<T>(message: (id: number) => ToClock): Promise<T> {
    const id = ++this.lastId;
    return new Promise<T>((resolve) => {
      this.waiting.set(id, resolve);
      this.tell(message(id));
    });
  }

  private answer(id: number, value: unknown): void {
    this.waiting.get(id)?.(value as never);
    this.waiting.delete(id);
  }
}
