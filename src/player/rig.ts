/** The rig as it is played on: its slots in the engine's order, the bytes that the clock shares, whose they are. */
import { UNIVERSE_SLOTS } from '../core/dmx.ts';
import type { Shared } from '../core/playback/engine.ts';
import { PRIORITY } from '../core/lists/rows.ts';
import { beatSections } from '../core/time/tempo.ts';
import type { PlaybackConfig } from '../core/playback/playback.ts';
import type { Onto } from '../core/playback/moves.ts';
import { waveFinder, type FindWave, type Programs } from '../core/playback/programs.ts';
import { compileSlots, slotIndex, universesOf, type Slots } from '../core/playback/slots.ts';
import type { RouteRow } from '../core/routes/rows.ts';
import type { Show } from '../core/show/show.ts';
import { faderPlayback } from './faders.ts';
import { worthOnWire } from '../core/crew/worth.ts';
import type { FromClock, Priorities } from './clock-messages.ts';

/** A rig, compiled for the engine. */
export interface Rig {
  slots: Slots;
  /** Places of slots by their keys. */
  index: Map<string, number>;
  /** Counts up with each compilation: what the clock says of another is not about these slots. */
  version: number;
  /** What the last frame showed; null until there is one of these slots. */
  shared: Shared | null;
  /** In the order in which the engine names winners. */
  operators: readonly string[];
  lists: readonly string[];
  programs: Programs;
  find: FindWave;
}

/** Compiles it. */
export function makeRig(show: Show, programs: Programs): Rig {
  const slots = compileSlots(show);
  return {
    slots,
    index: slotIndex(slots),
    version: 1,
    shared: null,
    operators: [],
    lists: [],
    programs,
    find: waveFinder(programs),
  };
}

/** Effects are others, or go otherwise. */
export function setPrograms(rig: Rig, programs: Programs): Programs {
  rig.programs = programs;
  rig.find = waveFinder(programs);
  return programs;
}

/** Other units or another patch: the slots are others, and there is no frame of them yet. */
export function compileAgain(rig: Rig, show: Show): void {
  rig.slots = compileSlots(show);
  rig.index = slotIndex(rig.slots);
  rig.version++;
  rig.shared = null;
}

/** For what is put onto it. */
export const ontoOf = ({ index, slots, find }: Rig): Onto => ({
  index,
  family: slots.family,
  find,
});

/** What the clock shares now. @returns whether it is of the slots as they are */
export function takeShared(rig: Rig, message: Extract<FromClock, { is: 'shared' }>): boolean {
  rig.operators = message.operators;
  rig.lists = message.lists;
  if (message.version !== rig.version) return false;
  rig.shared = message.shared;
  return true;
}

/** Where universes go, and what their addresses are worth there, as the clock takes it. */
export const routesOf = (show: Show): { routes: RouteRow[]; priorities: Priorities } => ({
  routes: [...show.routes.values()],
  priorities: worthOnWire(show),
});

/** Routes that are switched on, of universes that are patched: what leaves when the show is on air. */
export const sentRoutes = (rig: Rig, show: Show): RouteRow[] =>
  [...show.routes.values()].filter((r) => r.on && rig.slots.universes.includes(r.universe));

/** @returns whether the universes with bytes are others than the rig was compiled for */
export const hasOtherUniverses = (rig: Rig, show: Show): boolean =>
  universesOf(show).join() !== rig.slots.universes.join();

/** A universe's bytes as they are sent, or undefined when it has none. */
export function bytesOf({ slots, shared }: Rig, universe: number): Uint8Array | undefined {
  const page = slots.universes.indexOf(universe);
  return page < 0
    ? undefined
    : shared?.dmx.subarray(page * UNIVERSE_SLOTS, (page + 1) * UNIVERSE_SLOTS);
}

/** How lists and faders meet in the merge. */
export function configsOf(show: Show): PlaybackConfig[] {
  const lists = [...show.lists.values()].map((l) => ({
    id: l.id,
    ltp: l.intensity === 'ltp',
    priority: l.priority ?? PRIORITY,
    ...(l.time?.on && l.time.tempo.length > 0 ? { beats: beatSections(l.time.tempo) } : {}),
  }));
  const faders = [...show.faders.values()].map((f) => ({
    id: faderPlayback(f.id),
    ltp: false,
    priority: f.priority ?? PRIORITY,
  }));
  return [...lists, ...faders];
}
