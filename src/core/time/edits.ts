/** Laying cues along the time of their list, its beats, and what happens to both where the music moves. */
import { rowFor, wasDeleted } from '../show/row-for.ts';
import { z } from 'zod';
import { formatCueNumber } from '../cues/number.ts';
import type { CueRow } from '../cues/rows.ts';
import { defineEdit, replaceRow, updateRow } from '../edits/define-edit.ts';
import { isRefusal, refuse, type Refusal } from '../refusal.ts';
import { withFields } from '../show/fields-of.ts';
import { EDITORS } from '../roles.ts';
import { idOf } from '../show/fields.ts';
import type { RowChange, Show } from '../show/show.ts';
import { TrackSound } from '../sounds/rows.ts';
import { plural } from '../words.ts';
import { formatMoment, toMillisecond } from './moment.ts';
import { KEEPS, LONGEST_S, Moment, MOST_TEMPOS, NO_TIME, Tempo } from './rows.ts';
import { barBeatAt, secondsAt } from './tempo.ts';
import { laidOn } from './recording.ts';
import { isBehindEnd, timedCues } from './timed.ts';

const MOST_AT_ONCE = 2000;
/** One cue at a moment of its track, or off it. */
const placed = (cue: CueRow, at_s: number | null, keeps: CueRow['keeps']): CueRow => {
  if (at_s === null) return withFields(cue, { at_s: null, keeps: null });
  const next = { ...cue, at_s: toMillisecond(at_s) };
  return keeps === undefined ? next : { ...next, keeps };
};

/** What became of them; what stands behind the end of its track is said to, since it never comes. */
function sayPlaced(
  show: Show,
  list: string,
  at: Readonly<Record<string, number | null>>,
  moved: number,
): string {
  const time = show.lists.get(list)?.time;
  const isBehind = (at_s: number | null): boolean => at_s !== null && isBehindEnd(time, at_s);
  const end = formatMoment(time?.end_s ?? 0);
  const behind = Object.values(at).filter(isBehind).length;
  if (moved > 1)
    return `Moved ${moved} cues along the track${behind > 0 ? `; ${behind} of them behind its end at ${end}` : ''}`;
  const [[id = '', at_s = null] = []] = Object.entries(at);
  const one = `LX ${formatCueNumber(show.cues.get(id)?.number ?? 0)}`;
  if (at_s === null) return `Took ${one} off the track`;
  return isBehind(at_s)
    ? `${one} stands at ${formatMoment(at_s)}, behind the end of the track at ${end}: it never comes`
    : `${one} comes at ${formatMoment(at_s)}`;
}

export const placeCues = defineEdit({
  name: 'place-cues',
  params: z.object({
    list: idOf('lists'),
    /** Moments by cue; null takes it off the track. */
    at: z
      .record(idOf('cues'), Moment.nullable())
      .refine((at) => Object.keys(at).length > 0, 'Say which cues.')
      .refine(
        (at) => Object.keys(at).length <= MOST_AT_ONCE,
        `At most ${MOST_AT_ONCE} cues at once.`,
      ),
    keeps: z.enum(KEEPS).optional(),
  }),
  roles: EDITORS,
  plan: (show, { list, at, keeps }) => {
    if (!show.lists.has(list)) return wasDeleted('lists');
    const changes: RowChange[] = [];
    for (const [id, at_s] of Object.entries(at)) {
      const cue = show.cues.get(id);
      if (!cue)
        return refuse(
          'not-found',
          'One of these cues has been deleted meanwhile. Nothing was changed.',
        );
      if (cue.listId !== list)
        return refuse(
          'invalid',
          `Cue ${formatCueNumber(cue.number)} is of another list. Nothing was changed.`,
        );
      const next = placed(cue, at_s, keeps);
      if (next.at_s !== cue.at_s || next.keeps !== cue.keeps)
        changes.push(replaceRow('cues', cue, next));
    }
    if (changes.length === 0) return refuse('nothing', 'They stand there already.');
    return { changes, summary: sayPlaced(show, list, at, changes.length) };
  },
});

/** Where a moment of the old beats is in the new ones; undefined where either has none, or it would leave the track. */
function onNewBeat(
  before: readonly Tempo[],
  after: readonly Tempo[],
  at_s: number,
): number | undefined {
  const place = barBeatAt(before, at_s);
  // A beat that bars have no more is where the next bar begins: what came before another cue still does.
  const next =
    place &&
    (secondsAt(after, place) ?? secondsAt(after, { bar: place.bar + 1, beat: 1, part: 0 }));
  return next === undefined || next < 0 || next > LONGEST_S ? undefined : toMillisecond(next);
}

/** Cues that keep to the beat, with where they would be. */
export function movedByTempo(
  show: Show,
  list: string,
  after: readonly Tempo[],
): { cue: CueRow; at_s: number }[] {
  const before = show.lists.get(list)?.time?.tempo ?? [];
  return timedCues(show, list).flatMap((cue) => {
    const at_s = cue.keeps === 'beat' ? onNewBeat(before, after, cue.at_s) : undefined;
    return at_s === undefined || at_s === cue.at_s ? [] : [{ cue, at_s }];
  });
}

export const setTempo = defineEdit({
  name: 'set-tempo',
  params: z.object({
    list: idOf('lists'),
    tempo: z.array(Tempo).max(MOST_TEMPOS, `A track has at most ${MOST_TEMPOS} tempos.`),
  }),
  roles: EDITORS,
  plan: (show, { list: id, tempo }) => {
    const list = show.lists.get(id);
    if (!list) return wasDeleted('lists');
    const sorted = [...tempo].sort((a, b) => a.at_s - b.at_s);
    const twice: Refusal | undefined = sorted.some((t, i) => t.at_s === sorted[i + 1]?.at_s)
      ? refuse('invalid', 'Two tempos begin at one moment. Nothing was changed.', {
          tempo: 'Twice.',
        })
      : undefined;
    if (twice) return twice;
    const moved = movedByTempo(show, id, sorted);
    const all = timedCues(show, id).length;
    return {
      changes: [
        updateRow('lists', list, { time: { ...(list.time ?? NO_TIME), tempo: sorted } }),
        ...moved.map(({ cue, at_s }) => replaceRow('cues', cue, { ...cue, at_s })),
      ],
      summary: `Set the beat of “${list.name}”${
        all === 0
          ? ''
          : `: ${plural(moved.length, 'cue')} on the beat moved, ${all - moved.length} stayed`
      }`,
    };
  },
});

const MOST_PAIRS = 2000;
const Pairs = z
  .array(
    z.tuple([z.number().min(-LONGEST_S).max(LONGEST_S), z.number().min(-LONGEST_S).max(LONGEST_S)]),
  )
  .min(1, 'Say at least one moment that is the same in both.')
  .max(MOST_PAIRS, `At most ${MOST_PAIRS} moments.`)
  .refine(
    (pairs) =>
      pairs.every(([old, now], i) => {
        const before = pairs[i - 1];
        return !before || (old > before[0] && now > before[1]);
      }),
    'Moments of both recordings come one after another.',
  );

export const layRecording = defineEdit({
  name: 'lay-recording',
  params: z.object({
    list: idOf('lists'),
    sound: TrackSound,
    /** Moments of the track as it was, and the same of the music in the new recording, in seconds. */
    pairs: Pairs,
  }),
  roles: EDITORS,
  plan: (show, { list: id, sound, pairs }) => {
    const list = rowFor(show, 'lists', id);
    if (isRefusal(list)) return list;
    const row = show.sounds.get(sound.sound);
    if (!row?.file) return wasDeleted('sounds', 'meanwhile', { sound: 'Unknown.' });
    const { time, cues } = laidOn(show, id, pairs);
    const moved = cues.filter(({ cue, to_s }) => to_s !== cue.at_s);
    return {
      changes: [
        updateRow('lists', list, { time: { ...time, sound } }),
        ...moved.map(({ cue, to_s }) => replaceRow('cues', cue, { ...cue, at_s: to_s })),
      ],
      summary: `Laid “${list.name}” along “${row.name}”: ${plural(moved.length, 'cue')} moved, ${cues.length - moved.length} stayed`,
    };
  },
});
