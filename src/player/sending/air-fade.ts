/**
 * One show gives way to another on a universe: what is on the wire goes over to the new show's bytes, as values and not
 * as bytes. What cannot fade is not swept; what only the old show had goes dark and then to nothing.
 */
import { UNIVERSE_SLOTS } from '../../core/dmx.ts';
import { clamp } from '../../core/numbers.ts';
import { INTENSITY, type Slots } from '../../core/playback/slots.ts';

/** One value on a universe: its bytes, coarse first, as positions from 0. */
export interface Field {
  at: number[];
  /** Its light goes with it: an intensity, or an emitter that a virtual one scales. */
  isLight: boolean;
  /** As in Slots: 0 fades, 1 goes at the start, 2 at the end. */
  snap: number;
}

const known = new WeakMap<Slots, Field[][]>();

/** The values of each page of a rig, in the order of `Slots.universes`. */
export function fieldsOf(slots: Slots): readonly (readonly Field[])[] {
  const found = known.get(slots);
  if (found) return found;
  const pages: Field[][] = slots.universes.map(() => []);
  for (let c = 0; c < slots.channelSlot.length; c++) {
    const places = [slots.coarse[c] ?? -1, slots.fine[c] ?? -1, slots.ultra[c] ?? -1].filter(
      (p) => p >= 0,
    );
    const slot = slots.channelSlot[c] ?? 0;
    pages[(places[0] ?? 0) >> 9]?.push({
      at: places.map((p) => p & (UNIVERSE_SLOTS - 1)),
      isLight: slots.family[slot] === INTENSITY || (slots.channelDimmer[c] ?? -1) >= 0,
      snap: slots.snap[slot] ?? 0,
    });
  }
  known.set(slots, pages);
  return pages;
}

const covers = new WeakMap<readonly Field[], Uint8Array>();
/** By place on the page: 1 where one of these values has a byte. */
function placesOf(fields: readonly Field[]): Uint8Array {
  const known = covers.get(fields);
  if (known) return known;
  const places = new Uint8Array(UNIVERSE_SLOTS);
  for (const field of fields) for (const p of field.at) places[p] = 1;
  covers.set(fields, places);
  return places;
}

const read = (bytes: Uint8Array, from: number, { at }: Field): number =>
  at.reduce((word, p) => word * 256 + (bytes[from + p] ?? 0), 0);

function write(into: Uint8Array, { at }: Field, word: number): void {
  let rest = word;
  for (let i = at.length - 1; i >= 0; i--) {
    into[at[i] ?? 0] = rest % 256;
    rest = Math.floor(rest / 256);
  }
}

/** A universe on its way: the bytes that were on the wire, and what they meant. */
export class AirFade {
  /** @param from 512 bytes, copied @param was their meaning; empty where nothing was sent @param fade_ms more than 0 */
  constructor(
    private readonly from: Uint8Array,
    readonly was: readonly Field[],
    private readonly start_ms: number,
    private readonly fade_ms: number,
  ) {}

  /** How far it is at a moment, 0…1. */
  at(now_ms: number): number {
    return clamp((now_ms - this.start_ms) / this.fade_ms);
  }

  /**
   * The bytes at a share of the way.
   * @param into 512 bytes @param to the new show's buffer, from `page` on; null where it does not have this universe
   */
  mix(
    into: Uint8Array,
    t: number,
    to: Uint8Array | null,
    page: number,
    now: readonly Field[],
  ): void {
    for (let i = 0; i < UNIVERSE_SLOTS; i++) into[i] = to === null ? 0 : (to[page + i] ?? 0);
    if (t >= 1) return;
    const taken = placesOf(now);
    for (const field of this.was) {
      if (field.at.some((p) => taken[p] === 1)) continue;
      const word = read(this.from, 0, field);
      write(into, field, field.isLight && field.snap === 0 ? Math.round(word * (1 - t)) : word);
    }
    if (to === null) return;
    const had = placesOf(this.was);
    for (const field of now) {
      const end = read(to, page, field);
      const hadBytes = field.at.some((p) => had[p] === 1);
      // What nobody sent before begins in the dark, and looks where it will look.
      const fresh = field.isLight ? 0 : end;
      const begin = hadBytes ? read(this.from, 0, field) : fresh;
      if (field.snap === 2) write(into, field, begin);
      else if (field.snap === 0) write(into, field, Math.round(begin + (end - begin) * t));
    }
  }
}
