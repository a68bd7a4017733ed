/** What plays, as data: copied on the clock's thread, described and stored on another, restored after a crash. */
import type { SavedAlong, SavedEffect } from './effect-layer.ts';

/** Enough to go on from exactly here, also with another patch: everything is by slot key. */
export interface SavedEngine {
  keys: string[];
  master: number;
  blackout: boolean;
  stamp: number;
  /** By effect id: cycles so far. Absent, like the other effects, in states from before there were any. */
  cycles?: [string, number][];
  lists: {
    listId: string;
    rate?: number;
    moving?: number[];
    clock_s: number;
    paused: boolean;
    startedAt_s: number;
    total_s: number;
    follow_s: number | null;
    /** Led by hand, 0…1 of the fade; absent or null: by time. */
    hand?: number | null;
    /** Where its master goes, or stands. */
    master: number;
    /** While it is on its way there: where it is, and in how many seconds it arrives. */
    masterMoves?: MasterMoves | null;
    slots: SavedSlot[];
    effects?: SavedEffect[];
    /** Absent or null: its effects go by the clock of all. */
    along?: SavedAlong | null;
  }[];
  /** Guarded slots and their levels. */
  guards?: SavedGuard[];
  /** Slots that are let off, on their way. */
  leaving?: SavedLeaving[];
  programmers: {
    userId: string;
    slots: (SavedSlot & {
      weight: SavedMove;
      /** It has not been live since it was set. */
      unseen?: true;
    })[];
    effects?: SavedEffect[];
    blind?: boolean;
    /** On its way to being blind or live: how far, 0…1. Absent in older states: it is there. */
    live?: number;
  }[];
}
/** A master that was on its way when it was saved. */
export interface MasterMoves {
  from: number;
  left_s: number;
}
/** A guarded slot that was being let off. */
export interface SavedLeaving {
  slot: number;
  level: number;
  /** How much of it showed when it was let off, 0…1. */
  from: number;
  /** Below 0: it still waits. */
  since_s: number;
  duration_s: number;
}
/** A slot under guard and its level, 0…1. */
export type SavedGuard = [slot: number, level: number];
/** A slot of a list as it stood. */
export interface SavedSlot extends SavedMove {
  slot: number;
  releasing?: boolean;
  /** How much still shows of a slot that is let go of. */
  share?: SavedMove;
  /** Light beyond what the master lets through. */
  carry?: SavedMove;
  acted: number;
}

/** Where a bank of fades has a slot. */
export interface SavedMove {
  level: number;
  /** Present while a move is under way; `left` counts from the save. */
  to?: number;
  from?: number;
  sinceStart_s?: number;
  duration_s?: number;
  /** Index into CURVES; true in older states: eased at both ends. */
  smooth?: boolean | number;
}

/** Fades as columns, a place for each slot. */
export interface FadesCopy {
  level: Float32Array;
  from: Float32Array;
  to: Float32Array;
  start: Float64Array;
  duration: Float32Array;
  curve: Uint8Array;
  /** 1: under way. */
  active: Uint8Array;
}

/** What plays, as plain arrays that can be handed to another thread. */
export interface EngineCopy {
  keys: string[];
  now_s: number;
  master: number;
  blackout: boolean;
  stamp: number;
  cycles: [string, number][];
  guards: SavedGuard[];
  leaving: SavedLeaving[];
  lists: {
    effects: SavedEffect[];
    along: SavedAlong | null;
    listId: string;
    rate: number;
    moving: Uint32Array;
    clock_s: number;
    paused: boolean;
    startedAt_s: number;
    total_s: number;
    follow_s: number | null;
    hand: number | null;
    master: number;
    masterMoves: MasterMoves | null;
    owned: Uint8Array;
    releasing: Uint8Array;
    acted: Float64Array;
    fades: FadesCopy;
    share: FadesCopy | null;
    carry: FadesCopy | null;
  }[];
  programmers: {
    userId: string;
    held: Uint8Array;
    touched: Float64Array;
    fades: FadesCopy;
    weight: FadesCopy;
    effects: SavedEffect[];
    blind: boolean;
    live: number;
    seen: Uint8Array;
  }[];
}

/** A copy as rows by slot: only what is held or owned. */
export function describe(copy: EngineCopy): SavedEngine {
  // What a hand leads may have arrived and be led back again.
  const moving = (f: FadesCopy, slot: number, now: number, isLed = false) =>
    f.active[slot] === 1 || isLed
      ? {
          to: f.to[slot] as number,
          from: f.from[slot] as number,
          sinceStart_s: now - (f.start[slot] as number),
          duration_s: f.duration[slot] as number,
          smooth: f.curve[slot] as number,
        }
      : {};
  const kept = (
    name: 'share' | 'carry',
    f: FadesCopy | null,
    slot: number,
    now: number,
    isLed: boolean,
  ): Partial<Record<'share' | 'carry', SavedMove>> =>
    f ? { [name]: { level: f.level[slot] as number, ...moving(f, slot, now, isLed) } } : {};
  const set = (flags: Uint8Array): number[] => {
    const slots: number[] = [];
    for (let slot = 0; slot < flags.length; slot++) if (flags[slot] === 1) slots.push(slot);
    return slots;
  };
  return {
    keys: copy.keys,
    master: copy.master,
    blackout: copy.blackout,
    stamp: copy.stamp,
    cycles: copy.cycles,
    guards: copy.guards,
    leaving: copy.leaving,
    lists: copy.lists.map(
      ({ owned, releasing, acted, fades, share, carry, moving: last, ...head }) => {
        const led = new Set(head.hand === null ? [] : last);
        return {
          ...head,
          moving: [...last],
          slots: set(owned).map((slot) => ({
            slot,
            level: fades.level[slot] as number,
            ...moving(fades, slot, head.clock_s, led.has(slot)),
            ...(releasing[slot] === 1
              ? { releasing: true, ...kept('share', share, slot, head.clock_s, led.has(slot)) }
              : {}),
            ...((carry?.level[slot] ?? 0) > 0 || (carry && led.has(slot))
              ? kept('carry', carry, slot, head.clock_s, led.has(slot))
              : {}),
            acted: acted[slot] as number,
          })),
        };
      },
    ),
    programmers: copy.programmers.map((p) => ({
      userId: p.userId,
      effects: p.effects,
      blind: p.blind,
      live: p.live,
      slots: set(p.held).map((slot) => ({
        slot,
        level: p.fades.level[slot] as number,
        ...moving(p.fades, slot, copy.now_s),
        acted: p.touched[slot] as number,
        ...(p.seen[slot] === 0 ? { unseen: true as const } : {}),
        weight: { level: p.weight.level[slot] as number, ...moving(p.weight, slot, copy.now_s) },
      })),
    })),
  };
}
