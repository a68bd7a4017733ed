/**
 * The rig as arrays. A *slot* is one attribute of one fixture; a *channel* is one place that a slot is written to.
 * Everything the clock touches is indexed by slot or by channel; names and rows stay outside.
 */
import { attributesOf, familyOf, hasVirtualDimmer, isEmitter } from '../rig/attributes.ts';
import { modeOf } from '../rig/addresses.ts';
import { FAMILIES, slotKey } from '../show/rows.ts';
import type { Show } from '../show/show.ts';

export interface Slots {
  /** `fixture:attribute` by slot. */
  keys: string[];
  /** Index into FAMILIES by slot. */
  family: Uint8Array;
  /** Level when nothing plays. */
  defaults: Float32Array;
  /** 1: cannot fade. */
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
  /** Channels to write again when a slot changes: `affects[affectsFrom[s] … affectsFrom[s + 1]]`. */
  affectsFrom: Uint32Array;
  affects: Uint32Array;
}

export const INTENSITY = FAMILIES.indexOf('intensity');
export const POSITION = FAMILIES.indexOf('position');

interface ChannelDraft {
  slot: number;
  dimmer: number;
  at: number[];
}

/** Fixtures in the order of their numbers, attributes in the order of their mode. */
export function compileSlots(show: Show): Slots {
  const keys: string[] = [];
  const family: number[] = [];
  const defaults: number[] = [];
  const snap: number[] = [];
  const mastered: number[] = [];
  const channels: ChannelDraft[] = [];
  const universes = [...new Set([...show.fixtures.values()].flatMap((f) => f.patch.map((p) => p.universe)))].sort((a, b) => a - b);
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
      snap.push(channel?.snap ? 1 : 0);
      mastered.push(index === INTENSITY && !fixture.noGrandMaster ? 1 : 0);
    }
    const virtual = hasVirtualDimmer(mode) ? (slotOf.get('Dimmer') ?? -1) : -1;
    for (const point of fixture.patch) {
      const base = (pageOf.get(point.universe) ?? 0) * 512 + point.address - 1;
      for (const channel of mode.channels) {
        channels.push({ slot: slotOf.get(channel.attribute) ?? 0, dimmer: isEmitter(channel.attribute) ? virtual : -1, at: channel.offset.map((o) => base + o - 1) });
      }
    }
  }

  const affected: number[][] = keys.map(() => []);
  channels.forEach((c, i) => {
    affected[c.slot]?.push(i);
    if (c.dimmer >= 0) affected[c.dimmer]?.push(i);
  });
  const affectsFrom = new Uint32Array(keys.length + 1);
  affected.forEach((list, s) => (affectsFrom[s + 1] = (affectsFrom[s] ?? 0) + list.length));
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
    affectsFrom,
    affects: Uint32Array.from(affected.flat()),
  };
}

export const slotIndex = (slots: Pick<Slots, 'keys'>): Map<string, number> => new Map(slots.keys.map((key, i) => [key, i]));
