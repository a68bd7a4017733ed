/** Cues that go by themselves: where they lead, and whether time passes on the way. */
import type { CueRow, ListRow } from '../show/rows.ts';

/** Longest of a cue's times, without the times of single values. Seconds. */
export function cueTotal(cue: Pick<CueRow, 'up_s' | 'down_s' | 'delay_s' | 'family_s' | 'familyDelay_s' | 'parts'>): number {
  const span = (c: Pick<CueRow, 'up_s' | 'down_s' | 'delay_s' | 'family_s' | 'familyDelay_s'>): number => {
    const delays = [c.delay_s, ...Object.values(c.familyDelay_s ?? {})];
    const plain = c.delay_s + Math.max(c.up_s, c.down_s);
    const families = Object.entries(c.family_s).map(([family, time]) => (c.familyDelay_s?.[family as keyof typeof c.family_s] ?? c.delay_s) + time);
    return Math.max(plain, ...families, ...delays);
  };
  return Math.max(span(cue), ...(cue.parts ?? []).map(span));
}

/** Seconds from a cue's GO until it goes on by itself; undefined where it waits for somebody. */
export const goesOnAfter = (cue: CueRow): number | undefined => (cue.follow_s !== null ? cue.follow_s : cue.after_s === undefined ? undefined : cueTotal(cue) + cue.after_s);

/** The cue after this one: its link, the list's order, or the list's start. `cues` in list order. */
export function cueFollowing(list: Pick<ListRow, 'atEnd'> | undefined, cues: readonly CueRow[], cue: CueRow): CueRow | undefined {
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
export function rounds(list: Pick<ListRow, 'atEnd'> | undefined, cues: readonly CueRow[]): Round[] {
  const found: Round[] = [];
  const done = new Set<string>();
  for (const start of cues) {
    const path: CueRow[] = [];
    for (let cue: CueRow | undefined = start; cue && !done.has(cue.id); ) {
      const at = path.indexOf(cue);
      if (at >= 0) {
        const round = path.slice(at);
        found.push({ cues: round, time_s: round.reduce((sum, c) => sum + (goesOnAfter(c) ?? 0), 0), counted: round.some((c) => c.link?.times !== undefined) });
        break;
      }
      path.push(cue);
      cue = goesOnAfter(cue) === undefined ? undefined : cueFollowing(list, cues, cue);
    }
    for (const c of path) done.add(c.id);
  }
  return found;
}
