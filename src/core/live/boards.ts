/** Whose board decides over what is played. */
import { firstList, type Show } from '../show/show.ts';
import { LIVE, type LiveCommand } from './commands.ts';
import type { BoardState } from './messages.ts';
import { FADERS_A_PAGE, type Thing } from './thing.ts';

/** A thing as one word: `show`, `list/<id>`, `faders/<page>`. */
export function thingKey(thing: Thing): string {
  if (thing === 'show') return 'show';
  return 'list' in thing ? `list/${thing.list}` : `faders/${thing.faders}`;
}

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

/** What a command is about: the list, the fader's page, or the show as a whole. */
export function thingOf(show: Pick<Show, 'lists'>, c: LiveCommand): Thing {
  const { board } = LIVE[c.command];
  if (board === 'page' && 'fader' in c && typeof c.fader === 'number')
    return { faders: Math.ceil(c.fader / FADERS_A_PAGE) };
  if (board === 'list')
    return { list: ('list' in c ? c.list : undefined) ?? firstList(show)?.id ?? '' };
  return 'show';
}

/** Somebody's board may stand against it. */
export const needsBoard = (command: LiveCommand): boolean =>
  LIVE[command.command].board !== undefined;
/** Plays lists, faders or masters: nothing that is typed ever keeps it waiting. */
export const isPlaying = (command: LiveCommand): boolean => LIVE[command.command].plays === true;
