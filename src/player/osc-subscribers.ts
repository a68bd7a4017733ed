/** Who asked over OSC to be told how the show stands, and what each of them knows already. */
import { oscState } from '../core/live/osc-state.ts';
import type { PlaybackState } from '../core/live/messages.ts';
import { oscMessage } from '../core/output/osc.ts';
import type { Show } from '../core/show/show.ts';

/** Who does not ask again within this is told nothing more: a tablet that was switched off leaves no stream behind. */
export const SUBSCRIBED_MS = 60_000;
/** Devices that may be told at once. */
export const MOST_SUBSCRIBERS = 16;
/** Messages to one of them at a time; the rest follow with the next look, so that a first telling is no burst. */
const MOST_AT_ONCE = 120;

/** Where a device listens. */
export interface Where {
  address: string;
  port: number;
}
interface Subscriber extends Where {
  until_ms: number;
  knows: Map<string, string>;
}

/** Devices that are told by OSC what changes. */
export interface Subscribers {
  readonly all: Map<string, Subscriber>;
  send: (packet: Uint8Array, to: Where) => void;
}

/** None yet. */
export const makeSubscribers = (send: Subscribers['send']): Subscribers => ({
  all: new Map(),
  send,
});

/**
 * Takes `/wingman/subscribe` with a port to be told at (absent: where it came from) and `/wingman/unsubscribe`. Whoever
 * asks again keeps what they know; with a port that is none, nothing is taken.
 * @returns whether it was one of the two
 */
export function hearSubscription(
  s: Subscribers,
  address: string,
  args: readonly (number | string)[],
  from: Where,
  now_ms: number,
): boolean {
  if (address !== '/wingman/subscribe' && address !== '/wingman/unsubscribe') return false;
  const port = args[0] ?? from.port;
  if (typeof port !== 'number' || !Number.isInteger(port) || port < 1 || port > 65_535) return true;
  const key = `${from.address}:${port}`;
  if (address === '/wingman/unsubscribe') s.all.delete(key);
  else if (s.all.has(key) || s.all.size < MOST_SUBSCRIBERS) {
    const knows = s.all.get(key)?.knows ?? new Map<string, string>();
    s.all.set(key, { address: from.address, port, until_ms: now_ms + SUBSCRIBED_MS, knows });
  }
  return true;
}

/** Tells each subscriber what it does not know yet. */
export function tellSubscribers(
  s: Subscribers,
  show: Show,
  playback: PlaybackState,
  now_ms: number,
): void {
  for (const [key, { until_ms }] of s.all) if (until_ms < now_ms) s.all.delete(key);
  if (s.all.size === 0) return;
  const state = oscState(show, playback);
  for (const one of s.all.values()) {
    let left = MOST_AT_ONCE;
    for (const address of one.knows.keys()) if (!state.has(address)) one.knows.delete(address);
    for (const [address, args] of state) {
      const said = JSON.stringify(args);
      if (one.knows.get(address) === said) continue;
      if (left-- <= 0) break;
      one.knows.set(address, said);
      s.send(oscMessage(address, args), one);
    }
  }
}
