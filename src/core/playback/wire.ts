/** Levels as bytes: what bends them, the ranges of their channels, coarse and fine, and bytes that are forced. */
import { UNIVERSE_SLOTS } from '../dmx.ts';
import { TABLE_SIZE } from '../rig/transform.ts';
import type { Slots } from './slots.ts';

/** A table read between its steps. */
function bent(table: Float32Array, level: number): number {
  const place = level * (TABLE_SIZE - 1);
  const i = place | 0;
  const a = table[i] as number;
  return i >= TABLE_SIZE - 1 ? a : a + ((table[i + 1] as number) - a) * (place - i);
}

/** Slots that go to one channel as they are. */
function straightOf(slots: Slots): Int32Array {
  const { affectsFrom, affects, channelSlot, channelDimmer, shape, ultra } = slots;
  return Int32Array.from(slots.keys, (_, slot) => {
    const from = affectsFrom[slot] as number;
    const channel = affects[from] as number;
    const isOne = affectsFrom[slot + 1] === from + 1 && channelSlot[channel] === slot;
    const isPlain = channelDimmer[channel] === -1 && shape[channel] === -1 && ultra[channel] === -1;
    return isOne && isPlain ? channel : -1;
  });
}

/** The last stage: levels 0…1 become bytes of universes. */
export class Wire {
  /** Universe pages written since they were last sent. */
  readonly dirtyPages: Uint8Array;
  /** By slot: its only channel, where nothing bends or scales it; -1 for all others. Most slots of a rig are so. */
  private readonly straight: Int32Array;
  /** By channel: the frame in which it was last written. */
  private readonly written: Uint32Array;
  private frame = 0;
  private forced: { at: Uint32Array; bytes: Uint8Array } = {
    at: new Uint32Array(0),
    bytes: new Uint8Array(0),
  };
  /** What this show gives by itself; the bytes that are sent, as long as nothing comes in from another desk. */
  private own: Uint8Array;
  /** By page: what comes in for it, by its source. */
  private readonly inputs = new Map<
    number,
    Map<string, { levels: Uint8Array; instead: boolean }>
  >();

  constructor(
    private readonly slots: Slots,
    private readonly dmx: Uint8Array,
  ) {
    this.own = dmx;
    this.straight = straightOf(slots);
    this.dirtyPages = new Uint8Array(slots.universes.length).fill(1);
    this.written = new Uint32Array(slots.channelSlot.length);
  }

  /** Writes the channels of the noted slots, then what is forced. @param out levels by slot @param dirty the noted slots, `count` of them */
  write(out: Float32Array, dirty: Uint32Array, count: number): void {
    const {
      affectsFrom,
      affects,
      channelSlot,
      channelDimmer,
      coarse,
      fine,
      ultra,
      low,
      span,
      shape,
      dimmerShape,
      shapes,
    } = this.slots;
    const { own: dmx, dirtyPages, written, straight } = this;
    this.frame = (this.frame + 1) >>> 0;
    const { frame } = this;
    for (let i = 0; i < count; i++) {
      const slot = dirty[i] as number;
      const only = straight[slot] as number;
      if (only >= 0) {
        const raw =
          ((low[only] as number) + (span[only] as number) * (out[slot] as number) + 0.5) | 0;
        const at = coarse[only] as number;
        const beneath = fine[only] as number;
        if (beneath >= 0 && dmx[beneath] !== (raw & 255)) {
          dmx[beneath] = raw & 255;
          dirtyPages[beneath >> 9] = 1;
        }
        const top = beneath < 0 ? raw : raw >> 8;
        if (dmx[at] !== top) {
          dmx[at] = top;
          dirtyPages[at >> 9] = 1;
        }
        continue;
      }
      const end = affectsFrom[slot + 1] as number;
      for (let k = affectsFrom[slot] as number; k < end; k++) {
        const channel = affects[k] as number;
        // An emitter and the virtual intensity over it note the same channel: once a frame is enough.
        if (written[channel] === frame) continue;
        written[channel] = frame;
        const dimmer = channelDimmer[channel] as number;
        let level = out[channelSlot[channel] as number] as number;
        const bend = shape[channel] as number;
        if (bend >= 0) level = bent(shapes[bend] as Float32Array, level);
        if (dimmer >= 0) {
          const bendDimmer = dimmerShape[channel] as number;
          level *=
            bendDimmer < 0
              ? (out[dimmer] as number)
              : bent(shapes[bendDimmer] as Float32Array, out[dimmer] as number);
        }
        // Into the function's range: 8 bit round(x * 255), 16 bit round(x * 65535) coarse then fine, 24 bit likewise.
        const word = ((low[channel] as number) + (span[channel] as number) * level + 0.5) | 0;
        const first = coarse[channel] as number;
        const second = fine[channel] as number;
        let byte: number;
        if (second < 0) byte = word;
        else {
          const third = ultra[channel] as number;
          const rest = third < 0 ? word : word >> 8;
          if (third >= 0 && dmx[third] !== (word & 255)) {
            dmx[third] = word & 255;
            dirtyPages[third >> 9] = 1;
          }
          if (dmx[second] !== (rest & 255)) {
            dmx[second] = rest & 255;
            dirtyPages[second >> 9] = 1;
          }
          byte = rest >> 8;
        }
        if (dmx[first] !== byte) {
          dmx[first] = byte;
          dirtyPages[first >> 9] = 1;
        }
      }
    }
    if (this.own !== this.dmx) this.merge();
    this.putForced();
  }

  private putForced(): void {
    const { at, bytes } = this.forced;
    for (let i = 0; i < at.length; i++) this.put(at[i] as number, bytes[i] as number);
  }

  /**
   * What another desk sends for a universe, merged from now on: the higher value of each address is sent. Null: it is
   * gone (docs/playback.md, wire.test.ts).
   * @param source whose it is @param levels up to 512 bytes @param instead theirs is sent, and not the higher
   */
  input(universe: number, source: string, levels: Uint8Array | null, instead = false): void {
    const page = this.slots.universes.indexOf(universe);
    if (page < 0) return;
    const all =
      this.inputs.get(page) ?? new Map<string, { levels: Uint8Array; instead: boolean }>();
    if (levels === null) all.delete(source);
    else all.set(source, { levels, instead });
    if (all.size > 0) this.inputs.set(page, all);
    else this.inputs.delete(page);
    if (this.own === this.dmx && this.inputs.size > 0) this.own = this.dmx.slice();
    this.dirtyPages[page] = 1;
    this.merge();
    this.putForced();
    if (this.inputs.size === 0) this.own = this.dmx;
  }

  /** Pages that have changed, as they are sent: our own, and above it what comes in. */
  private merge(): void {
    const { own, dmx, dirtyPages } = this;
    for (let page = 0; page < dirtyPages.length; page++) {
      if (dirtyPages[page] === 0) continue;
      const from = page * UNIVERSE_SLOTS;
      for (let i = from; i < from + UNIVERSE_SLOTS; i++) dmx[i] = own[i] as number;
      const all = this.inputs.get(page);
      if (!all) continue;
      for (const { levels, instead } of all.values())
        if (instead) for (let i = 0; i < UNIVERSE_SLOTS; i++) dmx[from + i] = levels[i] ?? 0;
      for (const { levels } of all.values())
        for (let i = 0; i < levels.length; i++)
          if ((levels[i] as number) > (dmx[from + i] as number))
            dmx[from + i] = levels[i] as number;
    }
  }

  /** Puts these bytes over everything, and takes off those from before. @returns whether all must be written again */
  force(at: Uint32Array, bytes: Uint8Array): boolean {
    const before = this.forced.at;
    for (const place of before) this.clear(place);
    this.forced = { at, bytes };
    return before.length > 0 || at.length > 0;
  }

  private clear(at: number): void {
    if (at < this.own.length) this.own[at] = 0;
    this.put(at, 0);
  }

  private put(at: number, byte: number): void {
    const { dmx } = this;
    if (at >= dmx.length || dmx[at] === byte) return;
    dmx[at] = byte;
    this.dirtyPages[at >> 9] = 1;
  }
}
