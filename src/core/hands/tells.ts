/** What a hand is told back: where its motors and rings should stand, which of its keys are lit. */
import { stateOf, type Now } from '../sheets/state.ts';
import type { Show } from '../show/show.ts';
import { partsOn, type ControlId, type HandAct, type HandRow } from './rows.ts';

/** What a hand’s lamps, rings and displays are told from. */
export interface Telling extends Now {
  /** Time that was chosen on a sheet, in seconds; null: none. */
  time_s: number | null;
  /** 0…1 of a unit’s intensity; undefined where that is not known. */
  levelOfUnit: (fixtureId: string) => number | undefined;
}

const lit = (on: boolean): number => Number(on);

/** 0…1 of what an act stands for; undefined where there is nothing to tell. */
export function levelOfAct(show: Show, now: Telling, act: HandAct): number | undefined {
  const { playback } = now;
  const fader = (id: string) => playback.faders.find((f) => f.id === id);
  switch (act.do) {
    case 'piece': {
      const piece = show.sheetpieces.get(act.piece);
      if (!piece) return undefined;
      const { is } = piece;
      if (is.kind === 'fader' && is.as !== 'flash') return fader(is.fader)?.level;
      if (is.kind === 'master' && is.as !== 'blackout') return playback.master;
      if (is.kind === 'level') return undefined;
      if (is.kind === 'unit') return now.levelOfUnit(is.fixture);
      return lit(stateOf(show, is, now, now.time_s).on);
    }
    case 'fader':
      return fader(act.fader)?.level;
    case 'flash':
      return lit(fader(act.fader)?.flash ?? false);
    case 'list': {
      const list = playback.lists.find((l) => l.id === act.list) ?? playback.lists[0];
      if (act.what === 'pause') return lit(list?.paused ?? false);
      return act.what === 'go' ? lit(list?.active ?? false) : 0;
    }
    case 'master':
      return playback.master;
    case 'blackout':
      return lit(playback.blackout);
    default:
      return undefined;
  }
}

/** Places of all parts of a hand on a page of it; parts that do nothing there are dark. */
export function placesOf(
  show: Show,
  now: Telling,
  hand: HandRow,
  page: number,
): Map<ControlId, number> {
  const places = new Map<ControlId, number>();
  for (const [control, act] of partsOn(hand, page)) {
    const level = act ? levelOfAct(show, now, act) : 0;
    if (level !== undefined) places.set(control, level);
  }
  return places;
}

/** So long a part that was moved by hand is told nothing: a motor would fight the finger. */
const FREE_MS = 400;

/** What was told last of each part, so that only what is new is told. */
export class Told {
  private readonly last = new Map<string, number>();
  private readonly moved = new Map<string, number>();

  /** A hand has moved it: it stands there now. */
  movedTo(key: string, value: number, now_ms: number): void {
    this.moved.set(key, now_ms);
    this.last.set(key, Math.round(value * 127));
  }

  /** Whether a part is to be told this level now, later when the finger has let go, or knows it. */
  stands(key: string, level: number, now_ms: number): 'told' | 'later' | 'knows' {
    const value = Math.round(level * 127);
    if (this.last.get(key) === value) return 'knows';
    if (now_ms - (this.moved.get(key) ?? -Infinity) < FREE_MS) return 'later';
    this.last.set(key, value);
    return 'told';
  }

  private readonly words = new Map<string, string>();
  /** Whether a part is to be told these words now. */
  reads(key: string, words: string): boolean {
    if (this.words.get(key) === words) return false;
    this.words.set(key, words);
    return true;
  }

  /** The device is new, or was away: everything is told again. */
  forget(port: string): void {
    for (const all of [this.last, this.words])
      for (const key of [...all.keys()]) if (key.startsWith(`${port}/`)) all.delete(key);
  }
}
