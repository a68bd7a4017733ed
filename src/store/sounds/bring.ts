/** Sounds that come inside a show file: kept as they come, measured, and none of them believed to be what it is called. */
import { BadFile } from '../../core/formats/show-file.ts';
import { type SoundSink } from '../../core/formats/unpack-show-file.ts';
import { isRefusal } from '../../core/refusal.ts';
import type { SoundFile } from '../../core/sounds/rows.ts';
import type { Database } from '../database.ts';
import { dropSound, receiveSound, soundKept } from './kept.ts';
import { takeInSound } from './measure.ts';

/** Pieces that somebody else takes one after another. */
class Pipe {
  private readonly waiting: (Uint8Array | null)[] = [];
  private wake: (() => void) | undefined;
  private drained: (() => void) | undefined;

  put(piece: Uint8Array | null): void {
    this.waiting.push(piece);
    this.wake?.();
  }

  /** Comes back when all that was put has been taken. */
  async empty(): Promise<void> {
    if (this.waiting.length > 0) await new Promise<void>((done) => (this.drained = done));
  }

  async *pieces(): AsyncGenerator<Uint8Array> {
    for (;;) {
      const next = this.waiting.shift();
      if (this.waiting.length === 0) this.drained?.();
      if (next === null) return;
      if (next) yield next;
      else await new Promise<void>((done) => (this.wake = done));
    }
  }
}

/** Takes sounds out of a show file while it is read, each measured on its way. */
export class SoundsIn implements SoundSink {
  /** What was measured, by sum. */
  readonly came = new Map<string, SoundFile>();
  private pipe: Pipe | undefined;
  private readonly underway: Promise<void>[] = [];
  private failed: Error | undefined;

  constructor(private readonly db: Database) {}

  begin(sha256: string): void {
    const pipe = new Pipe();
    this.pipe = pipe;
    this.underway.push(
      this.take(sha256, pipe).catch((error: unknown) => {
        this.failed ??= error instanceof Error ? error : new Error(String(error));
        pipe.put(null);
      }),
    );
  }

  put(bytes: Uint8Array): void {
    // What unpacks uses its own bytes again.
    this.pipe?.put(Uint8Array.from(bytes));
  }

  end(): void {
    this.pipe?.put(null);
    this.pipe = undefined;
  }

  async settle(): Promise<void> {
    if (!this.failed) {
      if (this.pipe) await Promise.race([this.pipe.empty(), Promise.all(this.underway)]);
      else await Promise.all(this.underway.splice(0));
    }
    if (this.failed) throw this.failed;
  }

  private async take(sha256: string, pipe: Pipe): Promise<void> {
    const known = await soundKept(this.db, sha256);
    const arrived = await receiveSound(this.db, pipe.pieces());
    if (isRefusal(arrived))
      throw new BadFile(`The file has a sound that is none: ${arrived.message}`);
    if (arrived.sha256 !== sha256) {
      await dropSound(this.db, arrived.id);
      throw new BadFile(
        'The file is damaged: a sound in it is not what was written (its checksum differs). Use another copy or a back-up. Nothing was changed.',
      );
    }
    if (known) {
      await dropSound(this.db, arrived.id);
      this.came.set(sha256, known);
      return;
    }
    const taken = await takeInSound(this.db, arrived);
    if (isRefusal(taken)) {
      await dropSound(this.db, arrived.id);
      throw new BadFile(`The file has a sound that cannot be played. ${taken.message}`);
    }
    this.came.set(sha256, taken.about);
  }
}
