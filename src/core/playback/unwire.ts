/** Bytes of a universe as levels again: what another desk shows, as values of the units that are patched there. */
import { UNIVERSE_SLOTS } from '../dmx.ts';
import { clamp } from '../numbers.ts';
import { TABLE_SIZE } from '../rig/transform.ts';
import type { Slots } from './slots.ts';

/** The level that a table bends to a value; tables rise or fall all the way. */
function unbent(table: Float32Array, value: number): number {
  const last = TABLE_SIZE - 1;
  const rises = (table[last] ?? 0) >= (table[0] ?? 0);
  let low = 0;
  let high = last;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if ((table[middle] ?? 0) <= value === rises) low = middle;
    else high = middle;
  }
  const [a, b] = [table[low] ?? 0, table[high] ?? 0];
  const between = a === b ? 0 : (value - a) / (b - a);
  return clamp((low + clamp(between)) / last);
}

/** The raw value of a channel, out of the bytes of its page. */
function wordAt(slots: Slots, channel: number, from: number, bytes: Uint8Array): number {
  const at = (place: number): number => bytes[place - from] ?? 0;
  const second = slots.fine[channel] as number;
  const third = slots.ultra[channel] as number;
  let word = at(slots.coarse[channel] as number);
  if (second >= 0) word = word * 256 + at(second);
  return third >= 0 ? word * 256 + at(third) : word;
}

/** The level of a channel by itself, 0…1; undefined where its bytes are of another range of it. */
function levelOf(slots: Slots, channel: number, word: number): number | undefined {
  const low = slots.low[channel] as number;
  const span = slots.span[channel] as number;
  if (span === 0) return undefined;
  const level = (word - low) / span;
  if (level < -0.01 || level > 1.01) return undefined;
  const held = clamp(level);
  const bend = slots.shape[channel] as number;
  return bend < 0 ? held : unbent(slots.shapes[bend] as Float32Array, held);
}

/**
 * Levels by slot of everything that has bytes in a universe. Of what a virtual dimmer scales, that is as bright as the
 * brightest of it, and each the share of that.
 * @param bytes up to 512; what is not there is 0
 */
export function readWire(slots: Slots, universe: number, bytes: Uint8Array): Map<number, number> {
  const levels = new Map<number, number>();
  const page = slots.universes.indexOf(universe);
  if (page < 0) return levels;
  const from = page * UNIVERSE_SLOTS;
  const scaled: { slot: number; dimmer: number; level: number }[] = [];
  const brightest = new Map<number, number>();
  for (let c = 0; c < slots.channelSlot.length; c++) {
    const coarse = slots.coarse[c] as number;
    if (coarse < from || coarse >= from + UNIVERSE_SLOTS) continue;
    const level = levelOf(slots, c, wordAt(slots, c, from, bytes));
    const slot = slots.channelSlot[c] as number;
    if (level === undefined || levels.has(slot)) continue;
    const dimmer = slots.channelDimmer[c] as number;
    if (dimmer < 0) levels.set(slot, level);
    else {
      scaled.push({ slot, dimmer, level });
      brightest.set(dimmer, Math.max(level, brightest.get(dimmer) ?? 0));
    }
  }
  for (const [dimmer, level] of brightest) levels.set(dimmer, level);
  for (const { slot, dimmer, level } of scaled) {
    const most = brightest.get(dimmer) ?? 0;
    if (most > 0) levels.set(slot, level / most);
  }
  return levels;
}
