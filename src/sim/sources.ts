/** What the simulated node has heard, by source and universe: so many are remembered, the longest silent go first. */
import { isStale } from '../core/output/sacn.ts';

/** E1.31 clause 6.7.1: a source is lost after 2.5 s. */
export const LOST_MS = 2500;
/** Gaps are looked at over this span, so that an old pause does not stay on the page for ever. */
export const GAP_SPAN_MS = 60_000;
/** Sources that are remembered; of more, those that were heard the longest ago are forgotten. */
export const SOURCES_KEPT = 1000;

/** What is heard of one source on one universe. */
export interface Heard {
  protocol: 'sacn' | 'artnet';
  universe: number;
  source: string;
  priority: number | null;
  sequence: number;
  slots: Uint8Array;
  packets: number;
  outOfOrder: number;
  first_ms: number;
  last_ms: number;
  gaps: { at: number; ms: number }[];
  terminated: boolean;
}
type Fresh = Pick<
  Heard,
  'protocol' | 'universe' | 'source' | 'priority' | 'sequence' | 'slots' | 'terminated'
>;

/** Everybody who is heard. */
export class Sources {
  readonly heard = new Map<string, Heard>();
  /** Sources that told their universes (E1.31 clause 8). */
  readonly announced = new Map<string, { name: string; universes: number[]; at_ms: number }>();

  /** @param key the source and its universe @param now_ms monotonic */
  note(key: string, fresh: Fresh, now_ms: number): void {
    const known = this.heard.get(key);
    if (!known) {
      forgetOldest(this.heard, (h) => h.last_ms);
      this.heard.set(key, {
        ...fresh,
        packets: 1,
        outOfOrder: 0,
        first_ms: now_ms,
        last_ms: now_ms,
        gaps: [],
      });
      return;
    }
    if (
      known.protocol === 'sacn' &&
      isStale(fresh.sequence, known.sequence) &&
      now_ms - known.last_ms < LOST_MS
    ) {
      known.outOfOrder++;
      return;
    }
    const gap = now_ms - known.last_ms;
    known.gaps = [
      ...known.gaps.filter((g) => now_ms - g.at < GAP_SPAN_MS && g.ms > gap),
      { at: now_ms, ms: gap },
    ];
    Object.assign(known, fresh, { last_ms: now_ms, packets: known.packets + 1 });
  }

  /** A page of universe discovery. The first page begins the list anew; a page that comes again adds nothing. */
  announce(
    cid: string,
    name: string,
    page: number,
    universes: readonly number[],
    now_ms: number,
  ): void {
    const earlier = page === 0 ? [] : (this.announced.get(cid)?.universes ?? []);
    if (!this.announced.has(cid)) forgetOldest(this.announced, (a) => a.at_ms);
    this.announced.set(cid, {
      name,
      universes: [...new Set([...earlier, ...universes])],
      at_ms: now_ms,
    });
  }
}

function forgetOldest<T>(map: Map<string, T>, at: (it: T) => number): void {
  if (map.size < SOURCES_KEPT) return;
  let oldest: [string, number] = ['', Infinity];
  for (const [key, it] of map) if (at(it) < oldest[1]) oldest = [key, at(it)];
  map.delete(oldest[0]);
}
