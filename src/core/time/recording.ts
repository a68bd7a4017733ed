/** A list laid along a new recording: its beat, its marks and what keeps to the beat go where the same music is now. */
import type { CueRow } from '../cues/rows.ts';
import type { Show } from '../show/show.ts';
import { throughPairs, type Pair } from '../sounds/align.ts';
import { toMillisecond } from './moment.ts';
import { LONGEST_S, MOST_TEMPOS, NO_TIME, type ListTime, type Tempo } from './rows.ts';
import { barBeatAt, secondsAt } from './tempo.ts';
import { timedCues } from './timed.ts';

/** A way that is nearer to steady than this is steady: no tempo changes for it. */
const STEADY = 0.0005;

const onTrack = (s: number): number => toMillisecond(Math.max(0, Math.min(LONGEST_S, s)));

/** Moments at which the tempo changes in the new recording: where it did in the old one, and at the bar nearest to each bend of the way. */
function movedTempo(before: readonly Tempo[], pairs: readonly Pair[]): Tempo[] {
  const end_s = pairs.at(-1)?.[0] ?? 0;
  const sorted = [...before].sort((a, b) => a.at_s - b.at_s);
  const out: Tempo[] = [];
  sorted.forEach((tempo, i) => {
    const bar_s = (60 / tempo.bpm) * tempo.beats;
    const until_s = sorted[i + 1]?.at_s ?? Math.max(end_s, tempo.at_s + bar_s);
    // At the last pair nothing bends any more: nobody knows what comes after it.
    const bends = pairs
      .slice(1, -1)
      .map(([old]) => tempo.at_s + Math.round((old - tempo.at_s) / bar_s) * bar_s)
      .filter((at) => at > tempo.at_s + bar_s / 2 && at < until_s - bar_s / 2);
    const froms = [...new Set([tempo.at_s, ...bends])].sort((a, b) => a - b);
    froms.forEach((from, k) => {
      const to = froms[k + 1] ?? until_s;
      const span = throughPairs(pairs, to) - throughPairs(pairs, from);
      const stretch = span / (to - from);
      const bpm = Math.max(10, Math.min(400, tempo.bpm / (stretch > 0 ? stretch : 1)));
      const last = out.at(-1);
      const isSame = k > 0 && last && Math.abs(last.bpm / bpm - 1) < STEADY;
      if (!isSame) out.push({ at_s: onTrack(throughPairs(pairs, from)), bpm, beats: tempo.beats });
    });
  });
  return out
    .filter((t, i) => t.at_s !== out[i - 1]?.at_s)
    .slice(0, MOST_TEMPOS)
    .map((t) => ({ ...t, bpm: Math.round(t.bpm * 1000) / 1000 }));
}

export interface Laid {
  time: ListTime;
  /** Every cue on the track, with where it goes; those that keep to the clock stay. */
  cues: { cue: CueRow & { at_s: number }; to_s: number }[];
}

/** What laying a new recording would come to. @param pairs moments of the old track and the same of the new one, in seconds, rising */
export function laidOn(show: Show, listId: string, pairs: readonly Pair[]): Laid {
  const time = show.lists.get(listId)?.time ?? NO_TIME;
  const tempo = movedTempo(time.tempo, pairs);
  const cues = timedCues(show, listId).map((cue) => {
    if (cue.keeps !== 'beat') return { cue, to_s: cue.at_s };
    const place = barBeatAt(time.tempo, cue.at_s);
    const onBeat =
      place && cue.at_s >= (time.tempo[0]?.at_s ?? 0) ? secondsAt(tempo, place) : undefined;
    return { cue, to_s: onTrack(onBeat ?? throughPairs(pairs, cue.at_s)) };
  });
  return {
    time: {
      ...time,
      tempo,
      marks: time.marks.map((m) => ({ ...m, at_s: onTrack(throughPairs(pairs, m.at_s)) })),
      ...(time.end_s === undefined ? {} : { end_s: onTrack(throughPairs(pairs, time.end_s)) }),
    },
    cues,
  };
}
