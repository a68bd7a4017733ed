/**
 * The rig as arrays. A *slot* is one attribute of one fixture; a *channel* is one place that a slot is written to.
 * Everything the clock touches is indexed by slot or by channel; names and rows stay outside.
 */
import { UNIVERSE_SLOTS } from '../dmx.ts';
import { attributesOf, familyOf, hasVirtualDimmer, scaledByVirtual } from '../rig/attributes.ts';
import { modeOf } from '../fixtures/points.ts';
import { rawRange } from '../rig/channel.ts';
import { isPlain, sourceAttribute, tableOf } from '../rig/transform.ts';
import { FAMILIES } from '../show/fields.ts';
import { slotKey } from '../cues/rows.ts';
import type { FixtureRow, Transform } from '../fixtures/rows.ts';
import type { Channel, Mode } from '../types/rows.ts';
import type { Show } from '../show/show.ts';

/** Everything that has a level, a place for each; made anew when the rig changes. */
export interface Slots {
  /** `fixture:attribute` by slot. */
  keys: string[];
  /** Index into FAMILIES by slot. */
  family: Uint8Array;
  /** Level when nothing plays. */
  defaults: Float32Array;
  /** 1: cannot fade, and takes its value at the start of a move; 2: at its end. */
  snap: Uint8Array;
  /** 1: intensity that the grand master scales. */
  mastered: Uint8Array;
  /** Universe numbers in the order of the slot buffer's 512-byte pages. */
  universes: number[];
  /** By channel: the slot written, the slot of the virtual dimmer that scales it or -1. */
  channelSlot: Int32Array;
  channelDimmer: Int32Array;
  /** By channel: positions of the coarse, fine and ultra-fine byte in the slot buffer, -1 where the mode has none. */
  coarse: Int32Array;
  fine: Int32Array;
  ultra: Int32Array;
  /** By channel: the raw value at level 0, and how much is added to it up to level 1. */
  low: Float64Array;
  span: Float64Array;
  /** By channel: place in `shapes` of what bends its level, and of what bends its virtual dimmer's; -1 for straight. */
  shape: Int32Array;
  dimmerShape: Int32Array;
  /** Transforms as tables over the level, 0…1 in equal steps. */
  shapes: Float32Array[];
  /** Channels to write again when a slot changes: `affects[affectsFrom[s] … affectsFrom[s + 1]]`. */
  affectsFrom: Uint32Array;
  affects: Uint32Array;
}

/** Place of intensity in FAMILIES. */
export const INTENSITY = FAMILIES.indexOf('intensity');
/** Place of position in FAMILIES. */
export const POSITION = FAMILIES.indexOf('position');

interface ChannelDraft {
  slot: number;
  dimmer: number;
  at: number[];
  low: number;
  span: number;
  shape: number;
  dimmerShape: number;
}

/** Universes that have bytes: those with fixtures, and those that are sent. */
export function universesOf(show: Show): number[] {
  const patched = [...show.fixtures.values()].flatMap((f) => f.patch.map((p) => p.universe));
  const routed = [...show.routes.values()].flatMap((r) => (r.on ? [r.universe] : []));
  return [...new Set([...patched, ...routed])].sort((a, b) => a - b);
}

/** How a slot snaps, as a number of a typed array: 0 it fades, 1 at the start, 2 at the end. */
function snapCode(snap: Channel['snap'] | undefined): 0 | 1 | 2 {
  if (snap === 'end') return 2;
  return snap ? 1 : 0;
}

/** Bends of levels that something has, each once, by the numbers of their tables; -1 is none. */
function makeShapes(): { tables: Float32Array[]; of: (t: Transform | undefined) => number } {
  const tables: Float32Array[] = [];
  const known = new Map<string, number>();
  const of = (t: Transform | undefined): number => {
    if (!t || isPlain(t)) return -1;
    const key = JSON.stringify(t);
    const shape = known.get(key) ?? tables.push(tableOf(t)) - 1;
    known.set(key, shape);
    return shape;
  };
  return { tables, of };
}

/** A fixture's channels, at each place where it is patched. @param slotOf its slots by their attributes @param pageOf where the bytes of a universe begin, in universes */
function channelsOf(
  fixture: FixtureRow,
  mode: Mode,
  slotOf: ReadonlyMap<string, number>,
  pageOf: ReadonlyMap<number, number>,
  shapeOf: (t: Transform | undefined) => number,
): ChannelDraft[] {
  const virtual = hasVirtualDimmer(mode) ? (slotOf.get('Dimmer') ?? -1) : -1;
  const bend = (attribute: string): number => shapeOf(fixture.transforms?.[attribute]);
  const channels: ChannelDraft[] = [];
  for (const point of fixture.patch) {
    const base = (pageOf.get(point.universe) ?? 0) * UNIVERSE_SLOTS + point.address - 1;
    for (const channel of mode.channels) {
      if ((channel.break ?? 1) !== (point.break ?? 1)) continue;
      const range = rawRange(channel);
      const dimmer = virtual >= 0 && scaledByVirtual(mode, channel) ? virtual : -1;
      channels.push({
        slot:
          slotOf.get(sourceAttribute(fixture, channel.attribute)) ??
          slotOf.get(channel.attribute) ??
          0,
        dimmer,
        at: channel.offset.map((o) => base + o - 1),
        low: range.from,
        span: range.to - range.from,
        shape: bend(channel.attribute),
        dimmerShape: dimmer >= 0 ? bend('Dimmer') : -1,
      });
    }
  }
  return channels;
}

/** Which channels hang on each slot: all in one list, and where those of a slot begin in it. */
function affectedBy(
  channels: readonly ChannelDraft[],
  slots: number,
): Pick<Slots, 'affectsFrom' | 'affects'> {
  const affected: number[][] = Array.from({ length: slots }, () => []);
  channels.forEach((c, i) => {
    affected[c.slot]?.push(i);
    if (c.dimmer >= 0) affected[c.dimmer]?.push(i);
  });
  const affectsFrom = new Uint32Array(slots + 1);
  affected.forEach((list, s) => (affectsFrom[s + 1] = (affectsFrom[s] ?? 0) + list.length));
  return { affectsFrom, affects: Uint32Array.from(affected.flat()) };
}

/** Fixtures in the order of their numbers, attributes in the order of their mode. */
export function compileSlots(show: Show): Slots {
  const keys: string[] = [];
  const family: number[] = [];
  const defaults: number[] = [];
  const snap: number[] = [];
  const mastered: number[] = [];
  const channels: ChannelDraft[] = [];
  const shapes = makeShapes();
  const universes = universesOf(show);
  const pageOf = new Map(universes.map((u, i) => [u, i]));
  for (const fixture of [...show.fixtures.values()].sort((a, b) => a.number - b.number)) {
    const mode = modeOf(show, fixture);
    if (!mode) continue;
    const slotOf = new Map<string, number>();
    for (const attribute of attributesOf(mode)) {
      const channel = mode.channels.find((c) => c.attribute === attribute);
      slotOf.set(attribute, keys.length);
      keys.push(slotKey(fixture.id, attribute));
      const index = FAMILIES.indexOf(familyOf(attribute));
      family.push(index);
      defaults.push(channel?.default ?? 0);
      snap.push(snapCode(channel?.snap));
      mastered.push(index === INTENSITY && !fixture.noGrandMaster ? 1 : 0);
    }
    channels.push(...channelsOf(fixture, mode, slotOf, pageOf, shapes.of));
  }
  const place = (n: number): Int32Array => Int32Array.from(channels, (c) => c.at[n] ?? -1);
  return {
    keys,
    family: Uint8Array.from(family),
    defaults: Float32Array.from(defaults),
    snap: Uint8Array.from(snap),
    mastered: Uint8Array.from(mastered),
    universes,
    channelSlot: Int32Array.from(channels, (c) => c.slot),
    channelDimmer: Int32Array.from(channels, (c) => c.dimmer),
    coarse: place(0),
    fine: place(1),
    ultra: place(2),
    low: Float64Array.from(channels, (c) => c.low),
    span: Float64Array.from(channels, (c) => c.span),
    shape: Int32Array.from(channels, (c) => c.shape),
    dimmerShape: Int32Array.from(channels, (c) => c.dimmerShape),
    shapes: shapes.tables,
    ...affectedBy(channels, keys.length),
  };
}

/** Slots by their keys. */
export const slotIndex = (slots: Pick<Slots, 'keys'>): Map<string, number> =>
  new Map(slots.keys.map((key, i) => [key, i]));
