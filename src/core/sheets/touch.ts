/** What a touch of a piece plays. */
import { formatCueNumber } from '../cues/number.ts';
import type { CommandOf } from '../live/commands.ts';
import type { PlayedKind } from '../palettes/rows.ts';
import { refuse, type Result } from '../refusal.ts';
import type { Show } from '../show/show.ts';
import { pointsAtNothing } from './pieces.ts';
import type { PieceIs, PieceRow } from './rows.ts';

/** What is said with a touch. */
export interface Touch {
  level?: number | undefined;
  on?: boolean | undefined;
  time?: number | undefined;
}

/** How something that is no pointer touches a piece: it presses it, holds it down, or brings it to a level. */
export type TouchedAs = 'press' | 'hold' | 'level';

/** Undefined for pieces that play nothing by themselves: what they do is for a selection. */
export function touchedAs(is: PieceIs): TouchedAs | undefined {
  switch (is.kind) {
    case 'list':
    case 'cue':
    case 'to':
    case 'action':
    case 'release-all':
      return 'press';
    case 'tile':
      return is.press === 'play' ? 'press' : undefined;
    case 'fader':
      return is.as === 'flash' ? 'hold' : 'level';
    case 'master':
      return is.as === 'blackout' ? 'press' : 'level';
    default:
      return undefined;
  }
}

/** What plays while something is touched. */
export interface Playing {
  faderLevel: (id: string) => number;
  isPlayed: (thing: { kind: PlayedKind; id: string }) => boolean;
  /** The cue of a list that is on stage; null while it plays nothing. */
  cueOn: (listId: string) => string | null;
  isBlackout: () => boolean;
}

type Played = CommandOf<
  | 'go'
  | 'back'
  | 'pause'
  | 'release'
  | 'goto'
  | 'fader'
  | 'flash'
  | 'master'
  | 'blackout'
  | 'play'
  | 'release-all'
  | 'act'
>;

/** Nearer than this a fader is where a piece would bring it. */
const NEAR = 0.005;
const timed = (time: number | undefined): { time?: number } => (time === undefined ? {} : { time });

function list(
  show: Show,
  is: Extract<PieceIs, { kind: 'list' }>,
  playing: Playing,
  { time }: Touch,
): Played {
  const on = playing.cueOn(is.list);
  const cues = show.cuesOf(is.list);
  const [first] = cues;
  switch (is.press) {
    case 'toggle':
      return on === null
        ? { command: 'go', list: is.list }
        : { command: 'release', list: is.list, ...timed(time) };
    case 'round':
      return first && on !== null && on === cues.at(-1)?.id
        ? { command: 'goto', list: is.list, cue: formatCueNumber(first.number), ...timed(time) }
        : { command: 'go', list: is.list };
    case 'release':
      return { command: 'release', list: is.list, ...timed(time) };
    default:
      return { command: is.press, list: is.list };
  }
}

/** @returns a refusal where it points at nothing, and for pieces that play nothing */
export function playedBy(
  show: Show,
  { id: piece, is }: Pick<PieceRow, 'id' | 'is'>,
  playing: Playing,
  t: Touch,
): Result<Played> {
  const gone = pointsAtNothing(show, is);
  if (gone) return refuse('not-found', `This piece can do nothing: ${gone}.`);
  switch (is.kind) {
    case 'list':
      return list(show, is, playing, t);
    case 'cue': {
      const own = show.cues.get(is.cue);
      const other = show.cues.get(is.other ?? '');
      const isThere = own !== undefined && playing.cueOn(own.listId) === own.id;
      const cue = other && isThere ? other : own;
      return cue
        ? {
            command: 'goto',
            list: cue.listId,
            cue: formatCueNumber(cue.number),
            ...timed(t.time),
          }
        : refuse('not-found', 'Its cue has been deleted.');
    }
    case 'fader':
    case 'to': {
      const fader = show.faders.get(is.fader)?.number ?? 0;
      if (is.kind === 'to') {
        const isUp = playing.faderLevel(is.fader) >= is.level - NEAR;
        const level = isUp ? 0 : is.level;
        return { command: 'fader', fader, level, time: t.time ?? is.time_s, take: true };
      }
      if (is.as === 'flash') return { command: 'flash', fader, on: t.on ?? true };
      return t.level === undefined
        ? refuse('invalid', 'Say to which level.', { level: 'Missing.' })
        : { command: 'fader', fader, level: t.level, take: true, ...timed(t.time) };
    }
    case 'master':
      if (is.as === 'blackout') return { command: 'blackout', on: t.on ?? !playing.isBlackout() };
      return t.level === undefined
        ? refuse('invalid', 'Say to which level.', { level: 'Missing.' })
        : { command: 'master', level: t.level };
    case 'tile': {
      if (is.press === 'give') break;
      const thing = { kind: is.of, id: is.id };
      return { command: 'play', ...thing, on: !playing.isPlayed(thing), ...timed(t.time) };
    }
    case 'action':
      return { command: 'act', piece };
    case 'release-all':
      return { command: 'release-all', ...timed(t.time) };
    default:
      break;
  }
  return refuse('nothing', 'This piece plays nothing by itself.');
}
