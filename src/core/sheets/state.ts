/** What a piece is at this moment: on, partly, waiting, and by whom. */
import { formatCueNumber } from '../cues/number.ts';
import { membersOf } from '../groups/members.ts';
import { boardOver } from '../live/boards.ts';
import type { HeldValue, PlaybackState } from '../live/messages.ts';
import type { Show } from '../show/show.ts';
import type { PieceIs } from './rows.ts';

/** What a piece shows of what plays. */
export interface PieceState {
  /** It plays, or is selected. */
  on: boolean;
  /** Some of what it stands for does. */
  partly?: boolean;
  /** A hand is away from what it gives. */
  waiting?: boolean;
  /** In a few words, under its name. */
  says: string;
  /** Whose it is, where that is somebody else. */
  by?: string;
}
/** As it stands by itself, for who has chosen nothing and holds nothing. */
export const byItself = (playback: Now['playback']): Now => ({
  playback,
  selection: [],
  values: new Map(),
  you: { userId: '', name: '' },
});

const OFF: PieceState = { on: false, says: '' };

/** What plays, and what whoever looks has chosen and holds. */
export interface Now {
  playback: Pick<PlaybackState, 'lists' | 'faders' | 'boards' | 'played' | 'blackout' | 'master'>;
  selection: readonly string[];
  values: ReadonlyMap<string, HeldValue>;
  you: { userId: string; name: string };
}

function listState(show: Show, now: Now, is: Extract<PieceIs, { kind: 'list' }>): PieceState {
  const status = now.playback.lists.find((l) => l.id === is.list);
  const cue = show.cues.get(status?.cueId ?? '');
  const board = boardOver(now.playback.boards, { list: is.list });
  const others = board && board.userId !== now.you.userId ? { by: board.name } : {};
  const next = show.cues.get(status?.nextId ?? '');
  if (!status?.active)
    return {
      ...OFF,
      says: next ? `next ${formatCueNumber(next.number)}` : 'not playing',
      ...others,
    };
  const says = cue ? `cue ${formatCueNumber(cue.number)} ${cue.name}`.trim() : 'on its way out';
  return { on: is.press !== 'back' && is.press !== 'release', says, ...others };
}

function faderState(now: Now, id: string, up: number): PieceState {
  const status = now.playback.faders.find((f) => f.id === id);
  if (!status) return OFF;
  const { level, waiting, flash } = status;
  return {
    on: flash || level >= up,
    partly: level > 0 && level < up,
    waiting,
    says: flash ? 'flash' : `${Math.round(level * 100)} %`,
  };
}

/** A key of a fader is on while it is held, wherever the fader stands. */
function keyState(now: Now, id: string): PieceState {
  const { flash = false, level = 0 } = now.playback.faders.find((f) => f.id === id) ?? {};
  return { on: flash, says: flash ? 'full' : `at ${Math.round(level * 100)}` };
}

function tileState(now: Now, is: Extract<PieceIs, { kind: 'tile' }>): PieceState {
  const played = now.playback.played.find((p) => p.kind === is.of && p.id === is.id);
  if (played)
    return {
      on: true,
      says: 'on stage',
      ...(played.by === now.you.name ? {} : { by: played.by }),
    };
  if (is.press === 'play') return { ...OFF, says: 'out' };
  const followed = (v: { palette?: string; look?: string; effect?: { id: string } }): boolean =>
    (is.of === 'effect' ? v.effect?.id : v[is.of]) === is.id;
  const held = [...now.values.values()].filter(followed);
  const chosen = new Set(now.selection);
  const mine = held.filter((v) => chosen.size === 0 || chosen.has(v.fixtureId));
  return { on: mine.length > 0, partly: held.length > 0 && mine.length === 0, says: '' };
}

const among = (now: Now, ids: readonly string[]): PieceState => {
  const chosen = new Set(now.selection);
  const n = ids.filter((id) => chosen.has(id)).length;
  return { on: ids.length > 0 && n === ids.length, partly: n > 0 && n < ids.length, says: '' };
};

/** What a piece is now. @param time_s that was chosen on its sheet */
export function stateOf(show: Show, is: PieceIs, now: Now, time_s: number | null): PieceState {
  switch (is.kind) {
    case 'list':
      return listState(show, now, is);
    case 'cue': {
      const cue = show.cues.get(is.cue);
      const on = now.playback.lists.some((l) => l.cueId === is.cue);
      const next = now.playback.lists.some((l) => l.nextId === is.cue);
      const number = cue ? formatCueNumber(cue.number) : '';
      const waits = next ? 'next' : '';
      return {
        on,
        says: [number, on ? 'on stage' : waits].filter(Boolean).join(' · '),
      };
    }
    case 'fader':
      return is.as === 'flash' ? keyState(now, is.fader) : faderState(now, is.fader, 1);
    case 'to':
      return faderState(now, is.fader, is.level - 0.005);
    case 'tile':
      return tileState(now, is);
    case 'group': {
      const group = show.groups.get(is.group);
      return group ? among(now, membersOf(show, group)) : OFF;
    }
    case 'unit':
      return among(now, [is.fixture]);
    case 'time':
      return { ...OFF, on: time_s === is.time_s };
    case 'master':
      return is.as === 'blackout'
        ? { ...OFF, on: now.playback.blackout }
        : { ...OFF, says: `${Math.round(now.playback.master * 100)} %` };
    default:
      return OFF;
  }
}
