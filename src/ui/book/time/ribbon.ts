/** The storyboard of a list: what each part of the rig shows along its time, computed from the cues by the core. */
import { clamp } from '@/core/numbers';
import { advanceTo, type Tracked } from '@/core/cues/tracking';
import { membersOf } from '@/core/groups/members';
import { levelOf, type Valued } from '@/core/looks/value';
import { byNumber } from '@/core/select/select';
import { compileEffects, waveFinder } from '@/core/playback/programs';
import { waveOf } from '@/core/playback/moves';
import { compileSlots, slotIndex } from '@/core/playback/slots';
import { rowsByNumber } from '@/core/show/numbered';
import type { Show } from '@/core/show/show';
import { playThrough, type Rig } from '@/core/time/played-to';
import { lampsOf, shineOf, type Lamp } from '../../plan/light';

/** Colour of some lights over time. */
export interface Ribbon {
  name: string;
  /** Three bytes for each moment. */
  rgb: Uint8Array;
}

/** Strips that a ribbon has at most. */
const MOST_STRIPS = 6;
/** Units that stand for a part: the light of twelve pars is that of four of them. */
const STAND_FOR = 6;

/**
 * Parts of the rig that a list lights, with their units: groups in their order, of which none is within one before;
 * what is in no group by where it hangs.
 */
export function partsOf(show: Show, listId: string): { name: string; units: string[] }[] {
  const lit = new Set<string>();
  for (const cue of show.cuesOf(listId))
    for (const value of show.valuesOf(cue.id).values())
      if (value.level !== null && (value.level > 0 || value.effect || value.look))
        lit.add(value.fixtureId);
  const seen = new Set<string>();
  const parts: { name: string; units: string[] }[] = [];
  const add = (name: string, ids: readonly string[]): void => {
    const fresh = ids.filter(
      (id) => !seen.has(id) && lit.has(id) && (show.fixtures.get(id)?.patch.length ?? 0) > 0,
    );
    if (parts.length >= MOST_STRIPS || fresh.length * 2 < ids.length || fresh.length === 0) return;
    for (const id of fresh) seen.add(id);
    parts.push({ name, units: fresh });
  };
  for (const group of rowsByNumber(show.groups)) add(group.name, membersOf(show, group));
  const byBar = new Map<string, string[]>();
  for (const f of byNumber(show)) byBar.set(f.hang, [...(byBar.get(f.hang) ?? []), f.id]);
  for (const [bar, ids] of byBar) add(bar || 'Others', ids);
  return parts;
}

const some = (units: readonly string[]): string[] => {
  const step = Math.max(1, units.length / STAND_FOR);
  return Array.from(
    { length: Math.min(units.length, STAND_FOR) },
    (_, i) => units[Math.floor(i * step)] ?? '',
  );
};

/** The light of some lamps together, as they are seen: bright ones count, dark ones dim. */
function mixed(lamps: readonly Lamp[], levels: Float32Array, rgb: Uint8Array, at: number): void {
  const faces = lamps.flatMap((l) => shineOf(l, levels));
  const n = Math.max(1, faces.length);
  for (let k = 0; k < 3; k++)
    rgb[at + k] = Math.round(faces.reduce((sum, f) => sum + ((f.rgb[k] ?? 0) * f.level) / n, 0));
}

interface Drawing {
  parts: { name: string; lamps: Lamp[] }[];
  slots: ReturnType<typeof compileSlots>;
  /** Of the units that are looked at alone. */
  index: Map<string, number>;
}

function drawingOf(show: Show, listId: string): Drawing {
  const slots = compileSlots(show);
  const index = slotIndex(slots);
  const lampOf = new Map(lampsOf(show, index).map((l) => [l.fixture.id, l]));
  const parts = partsOf(show, listId).map(({ name, units }) => ({
    name,
    lamps: some(units).flatMap((id) => lampOf.get(id) ?? []),
  }));
  const seen = new Set(parts.flatMap((p) => p.lamps.map((l) => l.fixture.id)));
  const own = [...index].filter(([key]) => seen.has(key.slice(0, key.lastIndexOf(':'))));
  return { parts, slots, index: new Map(own) };
}

/** Effects by beats go at this tempo here: that of the show is tapped while it plays. */
const TEMPO_BPM = 120;
/** Where effects run, so many moments of each place of the strip are seen together. */
const MOMENTS = 3;

/** What effects make of the levels that values have, in the mean of their rounds. */
function meansOf(show: Show): (value: Valued, level: number) => number {
  const programs = compileEffects(show, TEMPO_BPM);
  const find = waveFinder(programs);
  const means = programs.waves.map(
    ({ amounts }) => amounts.reduce((sum, a) => sum + a, 0) / amounts.length,
  );
  return (value, level) => {
    const at = waveOf(show, value, find).wave;
    const { over } = programs.waves[at] ?? { over: 0 };
    return clamp(level * (1 - over) + (means[at] ?? 0));
  };
}

/** A cue in its last state: what each part of the rig shows, three bytes each. */
export type CuePicture = Uint8Array;

/** Pictures of all cues of a list, by their ids, with the names of the parts. */
export function picturesOf(
  show: Show,
  listId: string,
): { parts: string[]; pictures: Map<string, CuePicture> } {
  const { parts, slots, index } = drawingOf(show, listId);
  const levels = Float32Array.from(slots.defaults);
  const meanWith = meansOf(show);
  const state = new Map<string, Tracked>();
  const pictures = new Map<string, CuePicture>();
  for (const cue of show.cuesOf(listId)) {
    advanceTo(show, state, cue);
    for (const [key, slot] of index) {
      const tracked = state.get(key);
      const level = tracked && levelOf(show, tracked.value);
      levels[slot] =
        tracked && typeof level === 'number'
          ? meanWith(tracked.value, level)
          : (slots.defaults[slot] ?? 0);
    }
    const rgb = new Uint8Array(parts.length * 3);
    parts.forEach(({ lamps }, i) => mixed(lamps, levels, rgb, i * 3));
    pictures.set(cue.id, rgb);
  }
  return { parts: parts.map((p) => p.name), pictures };
}

/** @param count of moments, from the beginning to `to_s` */
export function ribbonsOf(show: Show, listId: string, count: number, to_s: number): Ribbon[] {
  const { parts, slots, index: own } = drawingOf(show, listId);
  const strips = parts.map((p) => ({ ...p, rgb: new Uint8Array(count * 3) }));
  const programs = compileEffects(show, TEMPO_BPM);
  const rig: Rig = {
    index: own,
    family: slots.family,
    resting: slots.defaults,
    snap: slots.snap,
    find: waveFinder(programs),
    programs,
  };
  const levels = Float32Array.from(slots.defaults);
  const each = programs.waves.length > 0 ? MOMENTS : 1;
  const moments = Array.from(
    { length: count * each },
    (_, i) => (to_s * (i + 0.5)) / (count * each),
  );
  const now = new Uint8Array(3);
  const sums = strips.map(() => [0, 0, 0]);
  playThrough(show, rig, listId, moments, (i, levelOfSlot) => {
    for (const slot of own.values()) levels[slot] = levelOfSlot(slot) ?? slots.defaults[slot] ?? 0;
    strips.forEach(({ lamps, rgb }, n) => {
      mixed(lamps, levels, now, 0);
      const sum = sums[n] ?? [];
      for (let k = 0; k < 3; k++) {
        sum[k] = (sum[k] ?? 0) + (now[k] ?? 0) / each;
        if (i % each < each - 1) continue;
        rgb[Math.floor(i / each) * 3 + k] = Math.round(sum[k] ?? 0);
        sum[k] = 0;
      }
    });
  });
  return strips.map(({ name, rgb }) => ({ name, rgb }));
}
