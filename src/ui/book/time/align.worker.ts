/** Two recordings are compared, away from the screen. */
import { align, type Aligned } from '@/core/sounds/align';
import { beginsAt, findBeat, type FoundBeat } from '@/core/sounds/beat';
import { loudnessOf, onsetsOf } from '@/core/sounds/shape';

/** Two recordings that are to be laid over each other. */
export interface AlignAsk {
  /** Shapes at the finest zoom. */
  before: Uint8Array;
  after: Uint8Array;
}
/** Where the one is in the other. */
export interface AlignAnswer {
  aligned: Aligned | undefined;
  beat: FoundBeat | undefined;
  /** When the music begins in both, in seconds. */
  begins_s: readonly [old: number, fresh: number];
}

const heardOf = (shape: Uint8Array) => ({ loudness: loudnessOf(shape), onsets: onsetsOf(shape) });

self.onmessage = ({ data: { before, after } }: MessageEvent<AlignAsk>) => {
  const [old, fresh] = [heardOf(before), heardOf(after)];
  const answer: AlignAnswer = {
    aligned: align(old, fresh),
    beat: findBeat(fresh.onsets),
    begins_s: [beginsAt(old.onsets), beginsAt(fresh.onsets)],
  };
  self.postMessage(answer);
};
