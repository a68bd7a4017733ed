/** Whose board decides over what is played. */
import type { BoardState, LiveCommand, Thing } from './messages.ts';
import { FADERS_A_PAGE } from './messages.ts';
import { firstList, type Show } from '../show/show.ts';

/** A thing as one word: `show`, `list/<id>`, `faders/<page>`. */
export const thingKey = (thing: Thing): string =>
  thing === 'show' ? 'show' : 'list' in thing ? `list/${thing.list}` : `faders/${thing.faders}`;

/** The board of the thing itself, else the show's; undefined where nobody is on either. */
export function boardOver<B extends Pick<BoardState, 'thing'>>(
  boards: readonly B[],
  thing: Thing,
): B | undefined {
  return (
    boards.find((b) => thingKey(b.thing) === thingKey(thing)) ??
    boards.find((b) => b.thing === 'show')
  );
}

/** What a playing command plays: the list, the fader's page, or the show as a whole. */
export function thingOf(show: Pick<Show, 'lists'>, c: LiveCommand): Thing {
  switch (c.command) {
    case 'fader':
    case 'flash':
      return { faders: Math.ceil(c.fader / FADERS_A_PAGE) };
    case 'go':
    case 'back':
    case 'pause':
    case 'goto':
    case 'cut':
    case 'arm':
    case 'rate':
    case 'hand':
    case 'release':
    case 'list-master':
    case 'chase-speed':
      return { list: c.list ?? firstList(show)?.id ?? '' };
    default:
      return 'show';
  }
}

const PLAYS = [
  'go',
  'back',
  'pause',
  'goto',
  'cut',
  'arm',
  'rate',
  'hand',
  'release',
  'release-all',
  'list-master',
  'fader',
  'flash',
  'chase-speed',
  'master',
  'blackout',
] as const;
type Plays = Extract<LiveCommand, { command: (typeof PLAYS)[number] }>;
/** What plays lists and faders; the masters are the show's. */
export type PlayCommand = Exclude<Plays, { command: 'master' | 'blackout' }>;
/** Playing, for which a board is needed, and which nothing that is typed ever keeps waiting. */
export const isPlaying = (command: LiveCommand): command is Plays =>
  (PLAYS as readonly string[]).includes(command.command);
