/** Cues that go by themselves: where they lead, and whether time passes on the way. */
import { FAMILIES } from '../show/fields.ts';
import type { CueRow } from './rows.ts';
import type { ListRow } from '../lists/rows.ts';
import { slotTimes } from './value-times.ts';

/** Longest time that a cue's settings give, whatever it will set: for cues that are being planned. Seconds. */
export function cueTotal(cue: CueRow): number {
  const of = (part?: number): number[] =>
    FAMILIES.map((family) => {
      const { up, down, delay } = slotTimes(part === undefined ? {} : { part }, cue, family);
      return delay + Math.max(up, down);
    });
  return Math.max(...of(), ...(cue.parts ?? []).flatMap((p) => of(p.number)));
}

/** How long a cue is under way, in seconds. */
export type TotalOf = (cue: CueRow) => number;

/** Seconds from a cue's GO until it goes on by itself; undefined where it waits for somebody. */
export function goesOnAfter(cue: CueRow, totalOf: TotalOf): number | undefined {
  if (cue.follow_s !== null) return cue.follow_s;
  return cue.after_s === undefined ? undefined : totalOf(cue) + cue.after_s;
}

/** The cue after this one: its link, the list's order, or the list's start. `cues` in list order. */
export function cueFollowing(
  list: Pick<ListRow, 'atEnd'> | undefined,
  cues: readonly CueRow[],
  cue: CueRow,
): CueRow | undefined {
  const linked = cue.link ? cues.find((c) => c.id === cue.link?.to) : undefined;
  if (linked) return linked;
  return cues.find((c) => c.number > cue.number) ?? (list?.atEnd === 'loop' ? cues[0] : undefined);
}

/** A round of cues that go by themselves, from one back to it. */
export interface Round {
  cues: CueRow[];
  /** Seconds that one round takes. */
  time_s: number;
  /** Ends by itself: a link in it has a count. */
  counted: boolean;
}

/** All rounds that play without anybody's GO, each once, from its first cue in list order. */
export function rounds(
  list: Pick<ListRow, 'atEnd'> | undefined,
  cues: readonly CueRow[],
  totalOf: TotalOf,
): Round[] {
  const found: Round[] = [];
  const done = new Set<string>();
  for (const start of cues) {
    const path: CueRow[] = [];
    for (let cue: CueRow | undefined = start; cue && !done.has(cue.id);) {
      const at = path.indexOf(cue);
      if (at >= 0) {
        const round = path.slice(at);
        found.push({
          cues: round,
          time_s: round.reduce((sum, c) => sum + (goesOnAfter(c, totalOf) ?? 0), 0),
          counted: round.some((c) => c.link?.times !== undefined),
        });
        break;
      }
      path.push(cue);
      cue = goesOnAfter(cue, totalOf) === undefined ? undefined : cueFollowing(list, cues, cue);
    }
    for (const c of path) done.add(c.id);
  }
  return found;
}
