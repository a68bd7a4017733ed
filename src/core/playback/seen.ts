/** Levels as they are seen on stage: what plays, and, where another desk is merged into a universe, what leaves for it. */
import type { Slots } from './slots.ts';
import { readWire } from './unwire.ts';

/** Nearer than this a byte says what plays. */
const SAME = 0.006;

const known = new WeakMap<Slots, Int32Array>();
/** By slot: the virtual dimmer that scales it; -1 where none does. */
function dimmersOf(slots: Slots): Int32Array {
  let dimmers = known.get(slots);
  if (!dimmers) {
    dimmers = new Int32Array(slots.keys.length).fill(-1);
    for (let c = 0; c < slots.channelSlot.length; c++)
      dimmers[slots.channelSlot[c] as number] = slots.channelDimmer[c] as number;
    known.set(slots, dimmers);
  }
  return dimmers;
}

/**
 * Of what a virtual dimmer scales, bytes say the product alone: where that is what plays, its levels stay as they are, and
 * elsewhere the dimmer is as bright as the brightest (unwire.ts).
 * @param out levels by slot, as they play
 * @param universes that others are merged into @param bytesOf what leaves for one
 * @returns levels by slot; `out` itself is not touched
 */
export function seenLevels(
  slots: Slots,
  out: Float32Array,
  universes: Iterable<number>,
  bytesOf: (universe: number) => Uint8Array | undefined,
): Float32Array {
  const seen = Float32Array.from(out);
  const dimmers = dimmersOf(slots);
  const isDimmer = new Set(dimmers);
  for (const universe of universes) {
    const bytes = bytesOf(universe);
    if (!bytes) continue;
    const read = readWire(slots, universe, bytes);
    const moved = new Set<number>();
    for (const [slot, level] of read) {
      const dimmer = dimmers[slot] as number;
      if (dimmer >= 0) {
        const was = (out[slot] as number) * (out[dimmer] as number);
        if (Math.abs(was - level * (read.get(dimmer) ?? 0)) > SAME) moved.add(dimmer);
      } else if (isDimmer.has(slot)) {
        // All that it scales is dark there: nothing of that is read, and it may have been lit.
        if (level === 0 && isLit(dimmers, out, slot)) moved.add(slot);
      } else if (Math.abs(level - (out[slot] as number)) > SAME) seen[slot] = level;
    }
    for (const [slot, level] of read)
      if (moved.has(slot) || moved.has(dimmers[slot] as number)) seen[slot] = level;
  }
  return seen;
}

/** Whether anything that a virtual dimmer scales gives light as it plays. */
const isLit = (dimmers: Int32Array, out: Float32Array, dimmer: number): boolean =>
  dimmers.some(
    (by, slot) => by === dimmer && (out[slot] as number) * (out[dimmer] as number) > SAME,
  );
