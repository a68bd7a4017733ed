/** The beat is looked for in a passage, away from the screen. */
import { findBeat, type FoundBeat } from '@/core/sounds/beat';
import { onsetsOf, STEPS_A_SECOND } from '@/core/sounds/shape';

/** A part of a sound in which a beat is looked for. */
export interface BeatAsk {
  /** At the finest zoom. */
  shape: Uint8Array;
  /** In seconds of the file. */
  from_s: number;
  to_s: number;
}

self.onmessage = ({ data: { shape, from_s, to_s } }: MessageEvent<BeatAsk>) => {
  const [from, to] = [from_s, to_s].map((s) => Math.round(s * STEPS_A_SECOND));
  const found: FoundBeat | undefined = findBeat(onsetsOf(shape).subarray(from, to));
  self.postMessage(found);
};
