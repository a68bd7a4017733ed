/** Which show is on air: who may change it, and what that does on stage, said before it is done. */
import { formatCueNumber } from '../core/cues/number.ts';
import { aRole, PLAYERS, type Role } from '../core/roles.ts';
import { plural } from '../core/words.ts';
import { numberRanges } from '../core/words.ts';
import { refuse, type Refusal } from '../core/refusal.ts';
import type { HouseRight } from '../core/rights.ts';
import type { Actor } from './actor.ts';
import type { LiveShow } from './live-show.ts';

/** Seconds in which one show takes the outputs from another. */
export const AIR_FADE_S = 2;

/** What is known of whoever wants to change what is on air. */
export interface Changing {
  actor: Actor;
  house: HouseRight;
  /** Their place in the show that is on air now; null where they have none. */
  roleNow: Role | null;
}

type Shown = Pick<LiveShow, 'id' | 'name' | 'holder'>;

/**
 * Putting a show on air, or taking one off, needs the right over what is on air now, its board or the house's owner, and
 * over what comes. @param now what is on air; @param comes what is to be, or null
 */
export function mayChangeAir(
  { actor, house, roleNow }: Changing,
  now: Shown | undefined,
  comes: Shown | null,
): Refusal | null {
  if (house === 'owner') return null;
  if (now) {
    if (roleNow === null || !PLAYERS.includes(roleNow))
      return refuse(
        'forbidden',
        `“${now.name}” is on air, and ${roleNow === null ? 'you are not one of its people' : `${aRole(roleNow).toLowerCase()} does not play it`}. Whoever is on its board, or an owner of the house, puts another show on air. Nothing was changed.`,
      );
    const { holder } = now;
    if (holder && holder.userId !== actor.userId)
      return refuse(
        'board',
        `${holder.name} is on the board of “${now.name}”, which is on air. Ask for it there first. Nothing was changed.`,
      );
  }
  if (comes && comes.id !== now?.id && comes.holder && comes.holder.userId !== actor.userId)
    return refuse(
      'board',
      `${comes.holder.name} is on the board of “${comes.name}”. Ask for it first. Nothing was changed.`,
    );
  return null;
}

type Staged = Pick<LiveShow, 'name' | 'holder' | 'playback' | 'lit' | 'show' | 'sent'>;

const universesSent = (live: Staged): number[] =>
  [...new Set(live.sent().map((r) => r.universe))].sort((a, b) => a - b);

function scene(live: Staged): string {
  const list = live.playback().lists.find((l) => l.active);
  const lit = live.lit().length;
  const cue =
    list?.cueNumber === null || list === undefined
      ? 'in no cue'
      : `in cue ${formatCueNumber(list.cueNumber)}${list.cueId ? ` ${live.show.cues.get(list.cueId)?.name ?? ''}`.trimEnd() : ''}`;
  return `${cue}, ${lit === 0 ? 'dark' : `${plural(lit, 'light')} lit`}`;
}

/** What will happen on stage, in words. */
export function sayAir(now: Staged | undefined, comes: Staged | null): string {
  const on = comes ? universesSent(comes) : [];
  if (!now)
    return comes
      ? `Nothing is on air now. “${comes.name}” (${scene(comes)}) fades in over ${AIR_FADE_S} s on ${universes(on)}.`
      : 'Nothing is on air.';
  const board = now.holder ? `; ${now.holder.name} is on its board` : '';
  const ends = universesSent(now).filter((u) => !on.includes(u));
  const ended =
    ends.length === 0
      ? ''
      : ` ${universes(ends, true)} ${ends.length === 1 ? 'fades' : 'fade'} to nothing and ${ends.length === 1 ? 'ends' : 'end'}.`;
  if (!comes)
    return `“${now.name}” is on air (${scene(now)}${board}). In ${AIR_FADE_S} s its light fades to nothing, and nothing is sent any more.`;
  return `“${now.name}” is on air (${scene(now)}${board}). In ${AIR_FADE_S} s the light fades over to “${comes.name}” (${scene(comes)}).${ended}`;
}

const universes = (numbers: readonly number[], begins = false): string =>
  numbers.length === 0
    ? 'no universe'
    : `${begins ? 'U' : 'u'}niverse${numbers.length === 1 ? '' : 's'} ${numberRanges([...numbers])}`;
