/** A list laid along a new recording: its beat, its marks and what keeps to the beat go where the same music is now. */
import type { CueRow } from '../cues/rows.ts';
import type { Show } from '../show/show.ts';
import { throughPairs, type Pair } from '../sounds/align.ts';
import { toMillisecond } from './moment.ts';
import { LONGEST_S, MOST_TEMPOS, NO_TIME, type ListTime, type Tempo } from './rows.ts';
import { barBeatAt, secondsAt } from './tempo.ts';
import { timedCues } from './timed.ts';

/** No bar begins further from where it does in the new recording, where a tempo holds over several of them. */
const OFF_S = 0.02;

const onTrack = (s: number): number => toMillisecond(Math.max(0, Math.min(LONGEST_S, s)));

/** The last bar to which one tempo holds from a bar on. @param at where each bar begins in both recordings */
function holdsTo(at: readonly Pair[], from: number): number {
  const [x0, y0] = at[from] ?? [0, 0];
  let to = from + 1;
  for (let k = from + 2; k < at.length; k++) {
    const [x1, y1] = at[k] ?? [0, 0];
    const slope = (y1 - y0) / (x1 - x0);
    const isStraight = at
      .slice(from + 1, k)
      .every(([x, y]) => Math.abs(y - (y0 + slope * (x - x0))) < OFF_S);
    if (!isStraight) break;
    to = k;
  }
  return to;
}

/** Tempos of the new recording: each holds for as many bars as go evenly, so that every bar begins where its music does and keeps its number. */
function movedTempo(before: readonly Tempo[], pairs: readonly Pair[]): Tempo[] {
  // Beyond the last pair nobody knows: the tempo goes on.
  const known_s = pairs.at(-1)?.[0] ?? 0;
  const sorted = [...before].sort((a, b) => a.at_s - b.at_s);
  const out: Tempo[] = [];
  sorted.forEach((tempo, i) => {
    const bar_s = (60 / tempo.bpm) * tempo.beats;
    const until_s = sorted[i + 1]?.at_s ?? Math.max(known_s, tempo.at_s + bar_s);
    const count = Math.max(1, Math.floor((until_s - tempo.at_s) / bar_s + 1e-6));
    const at = Array.from({ length: count + 1 }, (_, k): Pair => {
      const old_s = tempo.at_s + k * bar_s;
      return [old_s, throughPairs(pairs, old_s)];
    });
    for (let from = 0; from < count && out.length < MOST_TEMPOS;) {
      const to = holdsTo(at, from);
      const [[x0, y0], [x1, y1]] = [at[from] ?? [0, 0], at[to] ?? [0, 1]];
      const bpm = tempo.bpm * ((x1 - x0) / Math.max(1e-3, y1 - y0));
      out.push({
        at_s: onTrack(y0),
        bpm: Math.round(Math.max(10, Math.min(400, bpm)) * 1000) / 1000,
        beats: tempo.beats,
      });
      from = to;
    }
  });
  return out.filter((t, i) => t.at_s !== out[i - 1]?.at_s);
}

/** A track after a recording was laid under it. */
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
