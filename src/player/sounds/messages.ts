/** Between the player and its process for sound. Times are of the machine’s one clock that never jumps (`monotonic`). */
import type { SoundFile, TrackSound } from '../../core/sounds/rows.ts';
import type { Timecode } from '../../core/timecode/rate.ts';
import type { Rate } from '../../core/timecode/rows.ts';

/** Milliseconds of a clock that all processes of a machine share, and that nobody sets. */
export const monotonic = (): number => Number(process.hrtime.bigint() / 1000n) / 1000;

/** Whatever sounds the player’s machine has, and one that writes down what it would have played. */
export const SIMULATED_OUTPUT = 'Simulated output (a file)';
/** An input that plays a file in the place of a cable (inputs.ts). */
export const SIMULATED_INPUT = 'Simulated input (a file)';

/** A list on its track: where it was at a moment, and how it goes on. */
export interface TrackNow {
  key: string;
  file: SoundFile;
  sound: TrackSound;
  end_s: number;
  position_s: number;
  at_ms: number;
  /** 0 while it stands. */
  rate: number;
}

/** A list that gives timecode as sound: where it was at a moment, and how it goes on. */
export interface CodeNow {
  key: string;
  /** Frames, as they are counted. */
  frames: Rate;
  /** Timecode at the beginning of the track, in seconds. */
  offset_s: number;
  position_s: number;
  at_ms: number;
  /** 0 while it stands: then it is silent. */
  rate: number;
}

/** What the process for sound is told. */
export type ToSound =
  | { do: 'device'; name: string | null }
  /** Where timecode goes; null: nowhere. */
  | { do: 'code-device'; name: string | null }
  | { do: 'codes'; codes: CodeNow[] }
  /** Where timecode is heard; null: nowhere. */
  | { do: 'code-input'; name: string | null }
  /** Files that may be wanted: they are made ready before they are. */
  | { do: 'ready'; files: SoundFile[] }
  | { do: 'tracks'; tracks: TrackNow[] }
  /** From its beginning to its end, once. */
  | { do: 'once'; key: string; file: SoundFile }
  | { do: 'silence' };

/** What the machine has for sound. */
export interface SoundHeard {
  devices: string[];
  inputs: string[];
  inputProblem: string | null;
  /** Why nothing can be heard, in a sentence. */
  problem: string | null;
  /** Share of each file that is ready, by sum; 1: it can be played. */
  ready: Record<string, number>;
  /** How far each track is from where it should be, in milliseconds: positive is late. */
  off_ms: Record<string, number>;
}
/** Linear timecode at the input. */
export interface TimeHeard {
  time: Timecode;
  way: 1 | -1;
}
/** What the process says. */
export type FromSound = ({ is: 'state' } & SoundHeard) | ({ is: 'time' } & TimeHeard);

/** The process, as the player has it. */
export interface SoundProcess {
  send: (message: ToSound) => void;
  stop: () => void;
}
