/** Steps of a list that runs as a chase: which cue comes, and how long each takes. */
import type { Chase, ListRow } from '../../core/lists/rows.ts';
import type { CueRow } from '../../core/cues/rows.ts';

/** Where a chase is, and what hands have changed of it. */
export interface ChaseState {
  /** 1 forward, -1 back: where a bounce is going. */
  way: 1 | -1;
  /** Rounds that are done. */
  rounds: number;
  /** Steps of this round, where the order says nothing. */
  steps?: number;
  /** Tapped or set live, over the list's own speed. */
  bpm?: number;
  /** Set live, over the list’s own, until it is released. */
  live?: Partial<ChaseShape>;
}

/** How the steps of a chase come, besides their speed; a count of 0 is for ever. */
export interface ChaseShape {
  share: Chase['share'];
  direction: Chase['direction'];
  count: number;
}

/** A list’s chase as it runs: its own, with what was set live over it. */
export function chaseNow(
  list: Pick<ListRow, 'chase'> | undefined,
  state: ChaseState | undefined,
): Chase | undefined {
  const own = list?.chase;
  if (!own || !state?.live) return own;
  const { count = own.count ?? 0, ...live } = state.live;
  const next: Chase = { ...own, ...live };
  if (count === 0) delete next.count;
  else next.count = count;
  return next;
}

/** What is set live of a chase. */
export type ChaseChange = {
  readonly [K in keyof ChaseShape | 'bpm']?: (ChaseShape & { bpm: number })[K] | undefined;
};

/** A chase after a hand has changed it; what is not named stays. */
export const withChange = (
  was: ChaseState | undefined,
  { bpm, share, direction, count }: ChaseChange,
): ChaseState => {
  const shape: Partial<ChaseShape> = {
    ...(share === undefined ? {} : { share }),
    ...(direction === undefined ? {} : { direction }),
    ...(count === undefined ? {} : { count }),
  };
  return {
    ...(was ?? { way: 1, rounds: 0 }),
    ...(bpm === undefined ? {} : { bpm }),
    ...(Object.keys(shape).length > 0 ? { live: { ...was?.live, ...shape } } : {}),
  };
};

/** Seconds of one step. */
export function stepSeconds(chase: Chase, state: ChaseState | undefined): number {
  if (state?.bpm !== undefined) return 60 / state.bpm;
  return 'bpm' in chase.speed ? 60 / chase.speed.bpm : chase.speed.step_s;
}

/** A number from 0 to below `n` that looks like chance and is the same for the same steps. */
const chance = (seed: number, n: number): number => (Math.imul(seed + 1, 2_654_435_761) >>> 8) % n;

/** The cue after the one numbered `at`; undefined when the count is done. `cues` in list order. */
export function nextStep(
  cues: readonly CueRow[],
  at: number,
  chase: Chase,
  state: ChaseState | undefined,
): CueRow | undefined {
  const n = cues.length;
  if (n === 0) return undefined;
  const here = cues.findIndex((c) => c.number === at);
  const rounds = state?.rounds ?? 0;
  const over = chase.count !== undefined && rounds >= chase.count - 1;
  switch (chase.direction) {
    case 'forward': {
      const next = here < 0 ? cues.findIndex((c) => c.number > at) : here + 1;
      if (next >= 0 && next < n) return cues[next];
      return over ? undefined : cues[0];
    }
    case 'back':
      if (here > 0) return cues[here - 1];
      return over ? undefined : cues[n - 1];
    case 'bounce': {
      if (n === 1) return over ? undefined : cues[0];
      const way = state?.way ?? 1;
      const next = here + way;
      if (next >= 0 && next < n) return cues[next];
      return over ? undefined : cues[here - way];
    }
    case 'random': {
      if (over && (state?.steps ?? 0) >= n - 1) return undefined;
      if (n === 1) return cues[0];
      // Never the same one twice in a row.
      const others = cues.filter((_, i) => i !== here);
      return others[chance(rounds * 1000 + (state?.steps ?? 0), others.length)];
    }
  }
}
