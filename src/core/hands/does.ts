/** What a part of a hand does when it is moved, as commands: the same at a screen and at the player’s machine. */
import { formatCueNumber, parseCueNumber } from '../cues/number.ts';
import type { CommandOf } from '../live/commands.ts';
import type { ShowControl } from '../output/show-control.ts';
import { ALL_DEVICES } from '../output/show-control.ts';
import { firstList, type Show } from '../show/show.ts';
import { touchedAs } from '../sheets/touch.ts';
import type { Moved } from './midi.ts';
import type { HandAct, HandRow } from './rows.ts';

/** What is slid is pressed from here on. */
const PRESSED = 0.5;

/** Parts that are pressed now, each with what its press did; undefined where that was nothing. */
export type Pressed = Map<string, HandAct | undefined>;

/** What a control’s move is. */
export interface Press {
  /** What is done by this move; undefined: nothing. */
  act: HandAct | undefined;
  /** Pressed or lifted just now; undefined where it stays as it was. */
  edge: boolean | undefined;
}

/** Whether it lasts for as long as its part is down. */
function holds(show: Pick<Show, 'sheetpieces'>, act: HandAct): boolean {
  if (act.do === 'flash') return true;
  const piece = act.do === 'piece' ? show.sheetpieces.get(act.piece) : undefined;
  return piece !== undefined && touchedAs(piece.is) === 'hold';
}

/**
 * A move as a press or a lift. What began with a press and lasts ends with its lift, whatever page is shown, whatever the
 * part is bound to, and whoever plays by then.
 * @param act what the part does now; undefined where it does nothing, or may not
 */
export function pressOf(
  show: Pick<Show, 'sheetpieces'>,
  pressed: Pressed,
  hand: HandRow,
  moved: Moved,
  act: HandAct | undefined,
): Press {
  const key = `${hand.id}/${moved.control}`;
  // A program has no lifting: each one is a press.
  if (moved.control.startsWith('program')) return { act, edge: true };
  const is = moved.isKey ? moved.on : moved.value >= PRESSED;
  if (is === pressed.has(key)) return { act, edge: undefined };
  if (is) {
    pressed.set(key, act);
    return { act, edge: true };
  }
  const was = pressed.get(key);
  pressed.delete(key);
  return { act: was && holds(show, was) ? was : act, edge: false };
}

/** Live commands that a hand may send. */
export type HandCommand = CommandOf<
  | 'fader'
  | 'flash'
  | 'go'
  | 'back'
  | 'pause'
  | 'release'
  | 'master'
  | 'blackout'
  | 'goto'
  | 'release-all'
>;
/** A command; one that streams is one of many a second, of which the latest counts. */
export interface Does {
  command: HandCommand;
  streams?: string;
}

/**
 * What an act that is no piece of a sheet, no line and no page does.
 * @param edge pressed or lifted just now; undefined where it is neither
 * @returns undefined where it does nothing by this move, or points at what is gone
 */
export function doesOf(
  show: Show,
  isBlackout: boolean,
  act: HandAct,
  moved: Moved,
  edge: boolean | undefined,
): Does | undefined {
  switch (act.do) {
    case 'fader': {
      const fader = show.faders.get(act.fader)?.number;
      if (fader === undefined || (moved.isKey && !moved.on)) return undefined;
      // A hand that is away from what the fader gives waits, as any other.
      const take = moved.isKey ? { take: true } : {};
      return {
        command: { command: 'fader', fader, level: moved.value, ...take },
        streams: `hand/${act.fader}`,
      };
    }
    case 'flash': {
      const fader = show.faders.get(act.fader)?.number;
      return fader === undefined || edge === undefined
        ? undefined
        : { command: { command: 'flash', fader, on: edge } };
    }
    case 'list':
      return edge === true
        ? { command: { command: act.what, ...(act.list === undefined ? {} : { list: act.list }) } }
        : undefined;
    case 'master':
      return { command: { command: 'master', level: moved.value }, streams: 'hand/master' };
    case 'blackout':
      return edge === true ? { command: { command: 'blackout', on: !isBlackout } } : undefined;
    default:
      return undefined;
  }
}

const TOP_14 = 16_383;

/**
 * What MIDI Show Control asks of this show (RP-002, lighting). A GO without a cue is GO; so is a GO of the cue that is
 * next, which does what it does besides light as well; a GO of any other goes there. Lists
 * are known by their numbers; without one the first list is meant. SET moves the fader of that number.
 * @param device the hand’s own number; 127 in a message is everybody
 * @param nextOf id of the next cue of a list
 */
export function showControlDoes(
  show: Show,
  device: number,
  m: ShowControl,
  nextOf: (list: string) => string | null | undefined,
): HandCommand | undefined {
  if (m.device !== device && m.device !== ALL_DEVICES) return undefined;
  const list =
    m.list === undefined
      ? firstList(show)?.id
      : [...show.lists.values()].find((l) => String(l.number) === m.list)?.id;
  if (list === undefined) return undefined;
  switch (m.command) {
    case 'go':
    case 'timed-go': {
      if (m.cue === undefined) return { command: 'go', list };
      const number = parseCueNumber(m.cue);
      if (number === undefined) return undefined;
      const isNext = show.cues.get(nextOf(list) ?? '')?.number === number;
      if (isNext && m.time_s === undefined) return { command: 'go', list };
      const time = m.time_s === undefined ? {} : { time: m.time_s };
      return { command: 'goto', list, cue: formatCueNumber(number), ...time };
    }
    case 'stop':
      return { command: 'pause', list, on: true };
    case 'resume':
      return { command: 'pause', list, on: false };
    case 'go-off':
      return { command: 'release', list };
    case 'all-off':
      return { command: 'blackout', on: true };
    case 'restore':
      return { command: 'blackout', on: false };
    case 'reset':
      return { command: 'release-all' };
    case 'set': {
      const isFader = [...show.faders.values()].some((f) => f.number === m.control);
      return isFader && m.control !== undefined
        ? {
            command: 'fader',
            fader: m.control,
            level: Math.min(1, (m.value ?? 0) / TOP_14),
            take: true,
          }
        : undefined;
    }
  }
}
