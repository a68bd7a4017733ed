/** Ways of laying a new recording against the old one, as moments that are the same in both. */
import { throughPairs, type Pair } from '@/core/sounds/align';
import type { FoundBeat } from '@/core/sounds/beat';
import type { SoundFile } from '@/core/sounds/rows';
import { formatMoment } from '@/core/time/moment';
import type { ListTime, Tempo } from '@/core/time/rows';
import { secondsAt } from '@/core/time/tempo';

/** How cues find their moments in another recording. */
export const WAYS = ['sound', 'beats', 'marks'] as const;
export type Way = (typeof WAYS)[number];
/** The same in words. */
export const BY_WORDS: Record<Way, string> = {
  sound: 'by comparing the sound of both',
  beats: 'by the beat that is found in the new one, bar by bar',
  marks: 'by the marks of the track',
};

const BEGUN_S = 3;

/** Moments that rise in both; of two at one moment the first. */
const rising = (pairs: readonly Pair[]): Pair[] => {
  const out: Pair[] = [];
  for (const pair of [...pairs].sort((a, b) => a[0] - b[0])) {
    const last = out.at(-1);
    if (!last || (pair[0] > last[0] && pair[1] > last[1])) out.push(pair);
  }
  return out;
};

/** @param to where a mark is in the new recording; where it does not say, it stays */
export function markPairs(
  marks: ListTime['marks'],
  to: (name: string) => number | undefined,
): Pair[] | string {
  if (marks.length === 0)
    return 'This track has no marks yet: make some where the music is easy to know again.';
  return rising(marks.map((m): Pair => [m.at_s, to(m.name) ?? m.at_s]));
}

/** Where the old file lies on the track, and from where on it is heard; the new one is laid there, from its beginning. */
export interface Lies {
  at_s: number;
  from_s?: number | undefined;
}

/** Moments of both files as moments of the track. */
export const onTrack = (pairs: readonly Pair[], { at_s, from_s = 0 }: Lies): Pair[] =>
  pairs.flatMap(([x, y]): Pair[] => (x < from_s ? [] : [[at_s + x - from_s, at_s + y]]));

/** A beat may be heard twice as fast, or half as fast, as it was counted. */
const COUNTED = [0.5, 1, 2] as const;

/**
 * Bar by bar: the old ones by their tempo, the new ones by the beat that was found. Which of its beats begins a bar no
 * recording says: the music begins on the same one in both.
 * @param begins_s when the music begins in the old file and in the new one
 */
export function beatPairs(
  tempo: readonly Tempo[],
  found: FoundBeat,
  length_s: number,
  begins_s: readonly [old: number, fresh: number],
  { at_s: lies_s, from_s = 0 }: Lies,
): Pair[] | string {
  const [first] = tempo;
  if (!first) return 'The track has no beat yet: set the old one first.';
  const off = (by: number): number => Math.abs(Math.log((found.bpm * by) / first.bpm));
  const bpm = found.bpm * COUNTED.reduce((best, by) => (off(by) < off(best) ? by : best));
  const beat_s = 60 / bpm;
  const began_s = lies_s + begins_s[0] - from_s;
  const before = Math.round((began_s - first.at_s) * (first.bpm / 60));
  const after = Math.round((begins_s[1] - found.first_s) / beat_s);
  const start_s = found.first_s + (after - before) * beat_s;
  const bar_s = beat_s * first.beats;
  const pairs: Pair[] = [];
  for (let bar = 1; start_s + (bar - 1) * bar_s < length_s && bar < 1800; bar++) {
    const at_s = secondsAt(tempo, { bar, beat: 1, part: 0 });
    const to_s = start_s + (bar - 1) * bar_s;
    if (at_s !== undefined && to_s >= 0) pairs.push([at_s, lies_s + to_s]);
  }
  return rising(pairs);
}

/** How the two differ, in a sentence. */
export function sayLength(
  pairs: readonly Pair[],
  old: SoundFile | undefined,
  file: SoundFile | undefined,
): string {
  // Before the music begins there is nothing to compare.
  const shift = throughPairs(pairs, BEGUN_S) - BEGUN_S;
  const by = (file?.length_s ?? 0) - (old?.length_s ?? file?.length_s ?? 0);
  // It bends at the last moment before they are apart.
  const apart = pairs.findIndex(([x, y]) => x > BEGUN_S && Math.abs(y - x - shift) > 0.15);
  const bend = apart > 0 ? pairs[apart - 1] : undefined;
  const length =
    Math.abs(by) < 0.05
      ? 'It is as long as the old one'
      : `It is ${Math.abs(by).toFixed(1)} s ${by > 0 ? 'longer' : 'shorter'}`;
  const begin =
    Math.abs(shift) < 0.05
      ? ''
      : `, begins ${Math.abs(shift).toFixed(2)} s ${shift > 0 ? 'later' : 'sooner'}`;
  const from = bend ? `, and goes another way from ${formatMoment(bend[0])} on` : '';
  return `${length}${begin}${from}.`;
}
