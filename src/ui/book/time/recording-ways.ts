/** Ways of laying a new recording against the old one, as moments that are the same in both. */
import { throughPairs, type Pair } from '@/core/sounds/align';
import type { FoundBeat } from '@/core/sounds/beat';
import type { SoundFile } from '@/core/sounds/rows';
import { formatMoment } from '@/core/time/moment';
import type { ListTime, Tempo } from '@/core/time/rows';
import { secondsAt } from '@/core/time/tempo';

export const WAYS = ['sound', 'beats', 'marks'] as const;
export type Way = (typeof WAYS)[number];
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

/** Bar by bar: the old ones by their tempo, the new ones by the beat that was found. */
export function beatPairs(
  tempo: readonly Tempo[],
  found: FoundBeat,
  length_s: number,
): Pair[] | string {
  const [first] = tempo;
  if (!first) return 'The track has no beat yet: set the old one first.';
  const bar_s = (60 / found.bpm) * first.beats;
  const pairs: Pair[] = [];
  for (let bar = 1; found.first_s + (bar - 1) * bar_s < length_s && bar < 1800; bar++) {
    const old_s = secondsAt(tempo, { bar, beat: 1, part: 0 });
    if (old_s !== undefined) pairs.push([old_s, found.first_s + (bar - 1) * bar_s]);
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
