/**
 * What sounds at the machine of the player: files are made ready ahead of time, and mixed and written a little ahead of
 * what is heard. What it is to play is told by the player; what it plays by is the clock that both have.
 */
import type { SoundFile } from '../../core/sounds/rows.ts';
import { freshLtc, readLtc } from '../../core/timecode/ltc.ts';
import { CodeWriters } from './code-writers.ts';
import type { Hearing, Input } from './inputs.ts';
import type { CodeNow, FromSound, ToSound, TrackNow } from './messages.ts';
import { Mixer } from './mixer.ts';
import { OneOpen } from './one-open.ts';
import type { Output } from './outputs.ts';
import type { Samples } from './samples.ts';

/** Written ahead of what is heard; a block is what is mixed at once. */
const AHEAD_MS = 250;
const BLOCK_MS = 50;

/** What sound is made with: the process brings the machine's, a test its own. */
export interface SoundingNeeds {
  /** Null: the output that the machine takes by itself. @returns why it cannot be opened, in a sentence */
  openOutput: (device: string | null, of: 'heard' | 'code') => Promise<Output | string>;
  openInput: (name: string, heard: Hearing) => Promise<Input | string>;
  listOutputs: () => Promise<string[]>;
  listInputs: () => Promise<string[]>;
  /** Brings a file to where its samples are read from. @returns false where nobody has it */
  makeReady: (file: SoundFile, done: (share: number) => void) => Promise<boolean>;
  /** Samples of a file that is ready; throws where they are gone. */
  openSamples: (file: SoundFile) => Samples;
  say: (message: FromSound) => void;
  failed: (error: unknown) => void;
  now_ms: () => number;
}

/** Everything that sounds, and what it sounds by. */
export interface Sounding {
  heard: (message: ToSound) => void;
  /** Often: fills what is open, a little ahead. */
  mix: () => void;
  /** Now and then: says how it stands. */
  tell: () => void;
  /** Now and then: which cards there are, and what could not be opened or made ready before. */
  look: () => Promise<void>;
}

/** Files on their way to being heard, one after another: decoding takes all of a processor. */
class Ready {
  /** Share of each that is ready, by sum; 1: it can be played. */
  readonly shares = new Map<string, number>();
  /** Why one is not, while one is not. */
  problem: string | null = null;
  private readonly samples = new Map<string, Samples>();
  private making: Promise<void> = Promise.resolve();

  constructor(private readonly needs: SoundingNeeds) {}

  want(files: readonly SoundFile[]): void {
    for (const file of files) {
      if (this.shares.has(file.sha256)) continue;
      this.shares.set(file.sha256, 0);
      this.making = this.making.then(() => this.make(file));
    }
  }

  private async make(file: SoundFile): Promise<void> {
    const { sha256 } = file;
    try {
      const isThere = await this.needs.makeReady(file, (share) => this.shares.set(sha256, share));
      if (!isThere) return void this.shares.delete(sha256);
      this.shares.set(sha256, 1);
      this.problem = null;
    } catch (error) {
      this.shares.delete(sha256);
      this.problem = `A sound could not be made ready at this machine, and is tried again: ${(error as Error).message}`;
      this.needs.failed(error);
    }
  }

  /** Undefined while it is not ready; what is gone meanwhile is made ready again when it is wanted again. */
  samplesOf(file: SoundFile): Samples | undefined {
    const { sha256 } = file;
    if (this.shares.get(sha256) !== 1) return undefined;
    try {
      const known = this.samples.get(sha256) ?? this.needs.openSamples(file);
      this.samples.set(sha256, known);
      return known;
    } catch {
      this.shares.delete(sha256);
      return undefined;
    }
  }
}

/** An output, filled a little ahead of what is heard. */
class Ahead {
  /** The frame that is written next. */
  private next = 0;
  readonly on: OneOpen<Output>;

  constructor(
    open: (name: string | null) => Promise<Output | string>,
    opened?: (to: Output) => void,
  ) {
    this.on = new OneOpen(open, (to) => {
      this.next = to.frame();
      opened?.(to);
    });
  }

  /** @param fill adds to a block @param starts_ms when its first frame is heard @returns whether any was due */
  fill(
    fill: (starts_ms: number, left: Float32Array, right: Float32Array, rate_hz: number) => void,
  ): boolean {
    const to = this.on.is;
    if (!to) return false;
    const block = Math.round((to.rate_hz * BLOCK_MS) / 1000);
    const now = to.frame();
    // This process was held up: what is past is past.
    let frame = this.next < now ? now + block : this.next;
    for (; frame < now + (to.rate_hz * AHEAD_MS) / 1000; frame += block) {
      const [left, right] = [new Float32Array(block), new Float32Array(block)];
      fill(to.heardAt(frame), left, right, to.rate_hz);
      to.write(left, right, frame);
    }
    const isDue = frame > this.next;
    this.next = frame;
    return isDue;
  }
}

/** Tracks of lists, and sounds that cues start. */
class Voices {
  private tracks: TrackNow[] = [];
  /** What is on no track: sounds that play once, and what has just left its track. */
  private loose: TrackNow[] = [];

  constructor(private readonly now_ms: () => number) {}

  /** What is no longer on its track stands: it fades, and is forgotten. */
  onTracks(tracks: TrackNow[]): void {
    const keys = new Set(tracks.map((t) => t.key));
    this.loose.push(...this.tracks.filter((t) => !keys.has(t.key)).map((t) => ({ ...t, rate: 0 })));
    this.tracks = tracks;
  }

  /** From its beginning to its end. */
  once(key: string, file: SoundFile): void {
    this.loose.push({
      key,
      file,
      sound: { sound: 'once', at_s: 0 },
      end_s: file.length_s,
      position_s: 0,
      at_ms: this.now_ms(),
      rate: 1,
    });
  }

  silence(): void {
    this.loose = this.loose.map((t) => ({ ...t, rate: 0 }));
  }

  all(): readonly TrackNow[] {
    return [...this.tracks, ...this.loose];
  }

  /** After a block: what stood in it has faded, and what is over is over. */
  forgetOver(): void {
    const now = this.now_ms();
    this.loose = this.loose.filter((t) => t.rate > 0 && now - t.at_ms < (t.end_s + 1) * 1000);
  }
}

const FIRST_RATE_HZ = 48_000;

/** Nothing is open and nothing sounds yet. */
export function makeSounding(needs: SoundingNeeds): Sounding {
  const { say } = needs;
  const ready = new Ready(needs);
  const voices = new Voices(needs.now_ms);
  let mixer = new Mixer(FIRST_RATE_HZ);
  const output = new Ahead(
    (name) => needs.openOutput(name, 'heard'),
    (to) => (mixer = new Mixer(to.rate_hz)),
  );
  /** Timecode has an output of its own, and an input. */
  const code = new Ahead((name) => needs.openOutput(name, 'code'));
  const input = new OneOpen((name) => needs.openInput(name ?? '', timeHeard(say)));
  const writers = new CodeWriters();
  let codes: readonly CodeNow[] = [];
  /** All that may be heard; what could not be made ready is tried again. */
  let files: readonly SoundFile[] = [];
  let devices: string[] = [];
  let inputs: string[] = [];

  const mix = (): void => {
    code.fill((starts_ms, left, right, rate_hz) => {
      for (const now of codes) writers.add(now, left, starts_ms, rate_hz);
      right.set(left);
    });
    const isDue = output.fill((starts_ms, left, right) => {
      for (const track of voices.all()) {
        const samples = ready.samplesOf(track.file);
        if (samples) mixer.add(track, samples, starts_ms, { left, right });
      }
    });
    // What left its track between two blocks fades in the next (sounding.test.ts).
    if (isDue) voices.forgetOver();
  };
  const heard = (message: ToSound): void => {
    switch (message.do) {
      case 'device':
        return void output.on.want(message.name);
      case 'code-device':
        return void code.on.want(ownChoice(message.name));
      case 'code-input':
        return void input.want(ownChoice(message.name));
      case 'codes':
        codes = message.codes;
        return;
      case 'ready':
        ({ files } = message);
        return ready.want(files);
      case 'tracks':
        voices.onTracks(message.tracks);
        return ready.want(message.tracks.map((t) => t.file));
      case 'once':
        ready.want([message.file]);
        return voices.once(message.key, message.file);
      case 'silence':
        return voices.silence();
    }
  };
  const tell = (): void =>
    say({
      is: 'state',
      devices,
      inputs,
      inputProblem: input.problem,
      problem: output.on.problem ?? code.on.problem ?? ready.problem,
      ready: Object.fromEntries(ready.shares),
      off_ms: Object.fromEntries(mixer.off_ms),
    });
  const look = async (): Promise<void> => {
    devices = await needs.listOutputs();
    inputs = await needs.listInputs();
    ready.want(files);
    await Promise.all([output.on.again(), code.on.again(), input.again()]);
  };
  return { heard, mix, tell, look };
}

/** The player says null for nowhere, and nothing for the machine's own choice. */
const ownChoice = (name: string | null): string | null | undefined => {
  if (name === null) return undefined;
  return name === '' ? null : name;
};

/** Reads linear timecode in what an input brings. Of several frames in one block the last says where it is. */
function timeHeard(say: (message: FromSound) => void): Hearing {
  const reader = freshLtc();
  return (samples, rate_hz) => {
    const last = readLtc(reader, samples, rate_hz).at(-1);
    if (last) say({ is: 'time', time: last.time, way: last.way });
  };
}
