/** A universe as it is received: several sources, of which one counts (E1.31-2018 clause 6.2.3, 6.7). */
import { isStale } from '../output/sacn.ts';

/** Protocols that levels are heard by. */
export type Protocol = 'sacn' | 'artnet';
/** So long after its last packet a source is lost: E1.31 clause 6.7.1, and as long as Art-Net nodes wait. */
const LOST_MS: Readonly<Record<Protocol, number>> = { sacn: 2500, artnet: 10_000 };
/** Sources of one universe that are followed; more is noise. */
const MOST_SOURCES = 32;

/** Somebody who sends a universe that is listened to. */
export interface Source {
  name: string;
  address: string;
  priority: number;
  sequence: number;
  /** 1 to 512. */
  slots: Uint8Array;
  at_ms: number;
}

/** A universe as it is heard. */
export interface Received {
  protocol: Protocol;
  sources: Map<string, Source>;
  /** The one that counts: of the highest priority, and of those the one that came first; null: nobody is heard. */
  from: string | null;
}

/** A universe that nobody sends yet. */
export const nothingHeard = (protocol: Protocol): Received => ({
  protocol,
  sources: new Map(),
  from: null,
});

function winner({ sources }: Received): string | null {
  let best: string | null = null;
  for (const [key, { priority }] of sources)
    if (best === null || priority > (sources.get(best)?.priority ?? -1)) best = key;
  return best;
}

/** What a packet has done. */
export type Heard =
  | { is: 'old' }
  /** It is not the one that counts. */
  | { is: 'beside' }
  /** Another source counts from now on: nobody has moved anything. */
  | { is: 'other' }
  | { is: 'next'; before: Uint8Array };

const OLD: Heard = { is: 'old' };
const BESIDE: Heard = { is: 'beside' };
const OTHER: Heard = { is: 'other' };

/** Takes a packet. @param key who sends: a CID, an address */
export function hearSource(u: Received, key: string, source: Source): Heard {
  const known = u.sources.get(key);
  if (known && u.protocol === 'sacn' && isStale(source.sequence, known.sequence)) return OLD;
  if (!known && u.sources.size >= MOST_SOURCES) return OLD;
  u.sources.set(key, source);
  const best = winner(u);
  if (u.from !== best) {
    u.from = best;
    return OTHER;
  }
  return best === key && known ? { is: 'next', before: known.slots } : BESIDE;
}

/** A source has ended or is lost. @returns what it said last, where it was the one that counted */
export function loseSource(u: Received, key: string): Uint8Array | null {
  const source = u.sources.get(key);
  u.sources.delete(key);
  if (u.from !== key || !source) return null;
  // The next one takes over with its next packet.
  u.from = null;
  return source.slots;
}

/** Sources that have not been heard for too long. */
export const lostSources = (u: Received, now_ms: number): string[] =>
  [...u.sources].filter(([, s]) => now_ms - s.at_ms > LOST_MS[u.protocol]).map(([key]) => key);

/** What the universe shows now; null where nobody is heard. */
export const shownBy = (u: Received | undefined): Source | null =>
  u === undefined || u.from === null ? null : (u.sources.get(u.from) ?? null);
