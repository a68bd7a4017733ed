/**
 * Renders one show: lists, programmers, grand master, down to DMX bytes. The rules are those of docs/playback.md.
 * No allocation per frame; cost follows what changes.
 */
import { phaseOf } from '../effects/wave.ts';
import type { EffectLayer, SavedEffect } from './effect-layer.ts';
import { curveIndex, Fades, type Work } from './fades.ts';
import { Operator, type Holds } from './operator.ts';
import { Playback, type PlaybackConfig } from './playback.ts';
import { NO_PROGRAMS, type Programs } from './programs.ts';
import { PRIORITY } from '../lists/rows.ts';
import {
  describe,
  type EngineCopy,
  type FadesCopy,
  type SavedEngine,
  type SavedMove,
} from './saved.ts';
import { INTENSITY, slotIndex, type Slots } from './slots.ts';
import { Wire } from './wire.ts';

/** What a cue moves, as columns over its slots. `level` NaN lets go. Times in seconds. */
export interface Moves {
  slot: Uint32Array;
  level: Float32Array;
  up: Float32Array;
  down: Float32Array;
  delay: Float32Array;
  /** Index into CURVES. */
  curve: Uint8Array;
  /** Place of a wave in the programs, or -1 for none, and the phase it has here. */
  wave: Int32Array;
  phase: Float32Array;
}

/** What others may read while the engine writes: levels and bytes are never copied to be looked at. */
export interface Shared {
  /** Before and after the grand master, by slot. */
  merged: Float32Array;
  out: Float32Array;
  /** Who gives the value: -1 default, n a list, OPERATOR + n a programmer, PARKED or COMMANDED what nothing reaches. */
  winner: Int16Array;
  /** 512 bytes a universe, in the order of `Slots.universes`. */
  dmx: Uint8Array;
}

export const OPERATOR = 1000;
/** Parked: stays whatever plays. Commanded: a control macro is running on it. Highlit: somebody looks which one it is. */
export const PARKED = -2;
export const COMMANDED = -3;
export const HIGHLIT = -4;
/** Held for focus: somebody is up a ladder. */
export const FOCUS = -5;

const LINEAR = curveIndex('linear');
const SMOOTH = curveIndex('smooth');

/** What lies over everything: slots that stay where they are, and raw bytes. */
export interface Overrides {
  slots: Uint32Array;
  levels: Float32Array;
  /** PARKED or COMMANDED by slot. */
  kinds: Int16Array;
  /** Positions in the slot buffer, and their bytes. */
  raw: Uint32Array;
  bytes: Uint8Array;
}

/** An effect that an edit brings to the cue on stage, or takes from it, comes and goes in this time. */
const EDIT_FADE_S = 0.5;

/** Whether one list comes before another on a slot: the higher priority, then the latest to act. */
const beats = (a: Playback, b: Playback, slot: number): boolean =>
  a.priority > b.priority ||
  (a.priority === b.priority && (a.acted[slot] as number) > (b.acted[slot] as number));

const only = <T>(it: T | null): T[] => (it === null ? [] : [it]);

/** Of lists in order, the strongest first: how likely each is the first that is there, by their shares, and that none is. */
function chances(
  lists: readonly Playback[],
  slot: number,
): { list: Playback | null; share: number }[] {
  const found: { list: Playback | null; share: number }[] = [];
  let rest = 1;
  for (const list of lists) {
    const share =
      list.releasing[slot] === 1 && list.share !== null ? (list.share.level[slot] as number) : 1;
    found.push({ list, share: rest * share });
    rest *= 1 - share;
  }
  found.push({ list: null, share: rest });
  return found;
}

const within = (level: number): number => (level < 0 ? 0 : level > 1 ? 1 : level);

const alone = (bytes: number): ArrayBufferLike => new ArrayBuffer(bytes);

export class Engine {
  slots: Slots;
  shared: Shared;
  master = 1;
  blackout = false;
  private readonly wire: Wire;
  private under: Float32Array;
  /** By slot: 0, or PARKED or COMMANDED with the level beside it. */
  private readonly fixed: Int16Array;
  private readonly fixedLevel: Float32Array;
  private lists: Playback[] = [];
  private programmers: Operator[] = [];
  private readonly work: Work;
  private stamp = 0;
  private now_s = 0;
  private programs: Programs = NO_PROGRAMS;
  private configs: ReadonlyMap<string, PlaybackConfig> = new Map();
  /** By slot: what inhibiting faders leave. */
  private readonly inhibit: Float32Array;
  private mergedLevel = 0;
  /** By effect: cycles so far, and the same with its direction, as a phase. */
  private cycles = new Float64Array(0);
  private turns = new Float64Array(0);
  private readonly mark = (slot: number): void => {
    const { work } = this;
    if (work.marked[slot] === 1) return;
    work.marked[slot] = 1;
    work.dirty[work.count++] = slot;
  };

  /** @param allocate makes the buffers of `shared`; a SharedArrayBuffer lets another thread read along */
  constructor(slots: Slots, allocate: (bytes: number) => ArrayBufferLike = alone) {
    const n = slots.keys.length;
    this.slots = slots;
    this.shared = {
      merged: new Float32Array(allocate(n * 4)),
      out: new Float32Array(allocate(n * 4)),
      winner: new Int16Array(allocate(n * 2)),
      dmx: new Uint8Array(allocate(slots.universes.length * 512)),
    };
    this.under = Float32Array.from(slots.defaults);
    this.inhibit = new Float32Array(n).fill(1);
    this.fixed = new Int16Array(n);
    this.fixedLevel = new Float32Array(n);
    this.work = { dirty: new Uint32Array(n), marked: new Uint8Array(n), count: 0 };
    this.wire = new Wire(slots, this.shared.dmx);
    this.markAll();
  }

  // --- lists ---

  /** Which playbacks there are and how they meet; one that is not named keeps to the defaults. */
  configure(configs: readonly PlaybackConfig[]): void {
    this.configs = new Map(configs.map((c) => [c.id, c]));
    for (const list of this.lists) this.setUp(list);
    this.markAll();
  }

  private setUp(list: Playback): void {
    const config = this.configs.get(list.id);
    list.ltp = config?.ltp ?? false;
    list.priority = config?.priority ?? PRIORITY;
  }

  /**
   * GO, back, go to: each slot moves from what it is at this instant.
   * @param onTime counts from when the list's follow was due, not from when it was noticed
   */
  move(listId: string, moves: Moves, now_s: number, onTime = false): void {
    const list = this.list(listId);
    this.now_s = now_s;
    this.stamp++;
    list.hand = null;
    const base = onTime && list.dueAt_s !== null ? list.dueAt_s : list.clock_s;
    list.dueAt_s = null;
    let total = 0;
    for (let i = 0; i < moves.slot.length; i++) {
      const slot = moves.slot[i] as number;
      const wanted = moves.level[i] as number;
      if (Number.isNaN(wanted) && list.owned[slot] === 0) continue;
      total = Math.max(
        total,
        Number.isNaN(wanted)
          ? this.letSlotGo(list, slot, moves, i, base)
          : this.moveSlot(list, slot, moves, i, base),
      );
      this.mark(slot);
    }
    list.startedAt_s = base;
    list.total_s = total;
    list.moving = moves.slot;
  }

  /**
   * A slot moves from what is on stage, whoever put it there. A list that gives it already goes on from where it is;
   * any other begins at what shows (continuity.test.ts). @returns seconds until it has arrived
   */
  private moveSlot(list: Playback, slot: number, moves: Moves, i: number, base: number): number {
    const family = this.slots.family[slot];
    const isIntensity = family === INTENSITY;
    const to = moves.level[i] as number;
    const stage = this.played(slot);
    const isMine = list.owned[slot] === 1 && list.releasing[slot] === 0 && this.playedBy === list;
    if (!isMine) list.begin(slot, stage, isIntensity);
    const from = isMine ? (list.fades.level[slot] as number) : stage;
    const end = isMine || list.gain === 0 ? to : to * list.gain;
    const timed = (isIntensity && end < from ? moves.down[i] : moves.up[i]) as number;
    // What cannot fade takes its value at the start, or at the end where its type says so.
    const snap = this.slots.snap[slot] as number;
    const duration = snap === 0 ? timed : 0;
    const delay = (moves.delay[i] as number) + (snap === 2 ? timed : 0);
    const curve = moves.curve[i] as number;
    list.owned[slot] = 1;
    list.acted[slot] = this.stamp;
    this.endReleasesUnder(list, slot, isIntensity);
    list.fades.move(slot, to, base + delay, duration, curve, list.clock_s);
    if (list.carry && (list.carry.level[slot] as number) > 0)
      list.carry.move(slot, 0, base + delay, duration, curve, list.clock_s);
    const wave = moves.wave[i] as number;
    if (wave >= 0)
      list.effects.begin(
        slot,
        wave,
        moves.phase[i] as number,
        this.now_s + delay,
        moves.up[i] as number,
        this.now_s,
      );
    else list.effects.end(slot, this.now_s + delay, duration, this.now_s);
    return delay + duration;
  }

  /** What a list has taken over from the stage, with what was on its way out there, is no longer on its way out. */
  private endReleasesUnder(list: Playback, slot: number, isIntensity: boolean): void {
    if (!this.lists.some((l) => l.releasing[slot] === 1)) return;
    this.mergeLists(slot, undefined);
    if (
      list.gives(slot, isIntensity) < this.mergedLevel - 1e-6 ||
      (!isIntensity && this.latestList !== list)
    )
      return;
    for (const other of this.lists) if (other.releasing[slot] === 1) other.disown(slot);
  }

  /** A slot is let go of: what is beneath comes through, also while that moves. @returns seconds until it is gone */
  private letSlotGo(list: Playback, slot: number, moves: Moves, i: number, base: number): number {
    const isIntensity = this.slots.family[slot] === INTENSITY;
    // What would show if this list were not there.
    const falls = isIntensity && this.played(slot, list) < list.gives(slot, true);
    const timed = (falls ? moves.down[i] : moves.up[i]) as number;
    const snap = this.slots.snap[slot] as number;
    const duration = snap === 0 ? timed : 0;
    const delay = (moves.delay[i] as number) + (snap === 2 ? timed : 0);
    list.letsGo(slot, base + delay, duration);
    if (list.share?.level[slot] === 0) list.disown(slot);
    return delay + duration;
  }

  /** Lets go of all that a playback holds, in a time. */
  release(listId: string, time_s: number, now_s: number): void {
    const list = this.lists.find((l) => l.id === listId);
    if (!list) return;
    const held: number[] = [];
    for (let slot = 0; slot < list.owned.length; slot++)
      if (list.owned[slot] === 1) held.push(slot);
    const all = <T extends Float32Array | Int32Array | Uint8Array>(column: T, value: number): T =>
      column.fill(value) as T;
    const n = held.length;
    list.paused = false;
    list.followAt_s = Infinity;
    this.move(
      listId,
      {
        slot: Uint32Array.from(held),
        level: all(new Float32Array(n), NaN),
        up: all(new Float32Array(n), time_s),
        down: all(new Float32Array(n), time_s),
        delay: new Float32Array(n),
        curve: new Uint8Array(n),
        wave: all(new Int32Array(n), -1),
        phase: new Float32Array(n),
      },
      now_s,
    );
  }

  /** Scales a playback's intensity; its fades go on underneath. */
  setListMaster(listId: string, level: number, span_s: number, now_s: number): void {
    this.list(listId).setMaster(level, span_s, now_s);
    this.regain(now_s);
  }

  /** Momentary: full whatever its master, alone if `solo`. */
  setFlash(listId: string, on: boolean, solo: boolean, now_s: number): void {
    const list = this.list(listId);
    list.flash = on;
    list.solo = on && solo;
    this.regain(now_s);
  }

  /** Paces a list's clock: fades, delays and follows. */
  setRate(listId: string, rate: number): void {
    this.list(listId).rate = rate;
  }

  /** The list's fade by hand; null gives it back to time. */
  lead(listId: string, position: number | null): void {
    this.list(listId).lead(position);
  }

  /** What inhibiting faders leave of each slot's intensity, 0…1. */
  setInhibit(levels: Float32Array): void {
    for (let slot = 0; slot < this.inhibit.length; slot++) {
      const level = levels[slot] ?? 1;
      if (this.inhibit[slot] === level) continue;
      this.inhibit[slot] = level;
      this.mark(slot);
    }
  }

  private regain(now_s: number): void {
    let solos = 0;
    for (const list of this.lists) if (list.solo) solos++;
    for (const list of this.lists) {
      if (!list.regain(now_s, solos)) continue;
      for (let slot = 0; slot < list.owned.length; slot++)
        if (list.owned[slot] === 1 && this.slots.family[slot] === INTENSITY) this.mark(slot);
    }
  }

  /** An edit reached the cue on stage: the slot goes to its new value, or its running fade ends there. */
  retarget(listId: string, slot: number, level: number, wave = -1, phase = 0): void {
    const list = this.list(listId);
    if (Number.isNaN(level)) list.disown(slot);
    else {
      if (list.owned[slot] === 0) list.acted[slot] = ++this.stamp;
      list.owned[slot] = 1;
      list.keeps(slot);
      list.fades.retarget(slot, level, list.clock_s);
      if (wave >= 0) list.effects.begin(slot, wave, phase, this.now_s, EDIT_FADE_S, this.now_s);
      else list.effects.end(slot, this.now_s, EDIT_FADE_S, this.now_s);
    }
    this.mark(slot);
  }

  /** After a GO: the list goes on by itself this long after it, or after its longest fade has ended, or waits (null). */
  follow(listId: string, after_s: number | null, from: 'go' | 'end' = 'go'): void {
    const list = this.list(listId);
    list.followAt_s =
      after_s === null
        ? Infinity
        : list.startedAt_s + (from === 'end' ? list.total_s : 0) + after_s;
  }

  /** Lists whose follow has come; each is told once. */
  takeDue(): string[] {
    const due = this.lists.filter((l) => l.clock_s >= l.followAt_s);
    for (const list of due) {
      list.dueAt_s = list.followAt_s;
      list.followAt_s = Infinity;
    }
    return due.map((l) => l.id);
  }

  setPaused(listId: string, paused: boolean): void {
    this.list(listId).paused = paused;
  }

  status(listId: string): {
    elapsed_s: number;
    total_s: number;
    paused: boolean;
    fading: number;
    rate: number;
    hand: number | null;
    followIn_s: number | null;
  } {
    const list = this.list(listId);
    return {
      elapsed_s: Math.min(list.clock_s - list.startedAt_s, list.total_s),
      total_s: list.total_s,
      paused: list.paused,
      fading: list.fading,
      rate: list.rate,
      hand: list.hand,
      followIn_s: list.followAt_s === Infinity ? null : list.followAt_s - list.clock_s,
    };
  }

  // --- programmers ---

  /** Holds values: each fades from what is on stage now. */
  hold(userId: string, holds: Holds, now_s: number): void {
    const operator = this.programmer(userId);
    const place = OPERATOR + this.programmers.indexOf(operator);
    const { merged, winner } = this.shared;
    operator.hold(
      holds,
      this.slots,
      (slot) => ({
        level: merged[slot] as number,
        isMine: winner[slot] === place,
        beneath: () => this.underHands(slot, this.under[slot] as number, operator),
      }),
      ++this.stamp,
      now_s,
      this.mark,
    );
  }

  /** Blind: an operator's values are kept, and do not show. */
  setBlind(userId: string, blind: boolean): void {
    this.programmer(userId).setBlind(blind, this.slots, this.now_s, this.mark);
  }

  /** The show's effects; those that run go on at their places. */
  setPrograms(programs: Programs): void {
    const keys = new Map(programs.waves.map((w, i) => [w.key, i]));
    const old = this.programs;
    const before = new Map(old.effects.map((e, i) => [e.id, this.cycles[i] ?? 0]));
    this.programs = programs;
    this.cycles = Float64Array.from(programs.effects, (e) => before.get(e.id) ?? 0);
    this.turns = new Float64Array(programs.effects.length);
    this.turn(0);
    const placeOf = (at: number): number => keys.get(old.waves[at]?.key ?? '') ?? -1;
    for (const holder of [...this.lists, ...this.programmers]) holder.effects.remap(placeOf);
  }

  /** Moves every effect on; a change of speed bends its way and never jumps. */
  private turn(step_s: number): void {
    const { effects } = this.programs;
    for (let i = 0; i < effects.length; i++) {
      const effect = effects[i];
      if (!effect) continue;
      this.cycles[i] = (this.cycles[i] as number) + step_s * effect.hz;
      this.turns[i] = phaseOf(effect.direction, this.cycles[i] as number, 0);
    }
  }

  /** Fades back to what playback says. */
  letGo(userId: string, slots: Iterable<number>, fade_s: number, now_s: number): void {
    this.programmer(userId).letGo(slots, this.slots, fade_s, now_s, this.mark);
  }

  setMaster(level: number, blackout: boolean): void {
    this.master = level;
    this.blackout = blackout;
    for (let slot = 0; slot < this.slots.mastered.length; slot++)
      if (this.slots.mastered[slot] === 1) this.mark(slot);
  }

  /** Puts slots and bytes where nothing else reaches them; what was there before and is not named is let off. */
  override(o: Overrides): void {
    for (let slot = 0; slot < this.fixed.length; slot++) {
      if (this.fixed[slot] === 0) continue;
      this.fixed[slot] = 0;
      this.mark(slot);
    }
    o.slots.forEach((slot, i) => {
      if (slot >= this.fixed.length) return;
      this.fixed[slot] = o.kinds[i] ?? PARKED;
      this.fixedLevel[slot] = o.levels[i] ?? 0;
      this.mark(slot);
    });
    // A byte that is let off gets what its channel says: everything is written again.
    if (this.wire.force(o.raw, o.bytes)) this.markAll();
  }

  // --- the frame ---

  /** Universe pages written since they were last sent. */
  get dirtyPages(): Uint8Array {
    return this.wire.dirtyPages;
  }

  /** True when a fade is under way or something waits to be rendered. */
  get busy(): boolean {
    return (
      this.work.count > 0 || this.lists.some((l) => l.busy) || this.programmers.some((p) => p.busy)
    );
  }

  /** Renders one frame. @param now_s monotonic seconds @returns whether any byte or level changed */
  tick(now_s: number): boolean {
    const step = Math.max(0, now_s - this.now_s);
    this.now_s = now_s;
    this.turn(step);
    this.regain(now_s);
    for (const list of this.lists) {
      if (list.effects.count > 0) list.effects.advance(now_s, this.work);
      if (!list.paused && list.hand === null) list.clock_s += step * list.rate;
      if (list.fades.count > 0) list.fades.advance(list.clock_s, this.work);
      if (list.carry !== null && list.carry.count > 0) list.carry.advance(list.clock_s, this.work);
      if (list.share !== null && list.share.count > 0) {
        list.share.advance(list.clock_s, this.work, (slot) => {
          if (list.releasing[slot] === 1) list.disown(slot);
          this.mark(slot);
        });
      }
    }
    for (const p of this.programmers) p.advance(now_s, step, this.work, this.mark);
    return this.render();
  }

  /** Resolves and scales what is noted, and has it written. The hot path of the frame: locals, no calls where they can be spared. */
  private render(): boolean {
    const { dirty, marked, count } = this.work;
    if (count === 0) return false;
    const { merged, out, winner } = this.shared;
    const { mastered } = this.slots;
    const { under, fixed, fixedLevel, inhibit } = this;
    const gm = this.blackout ? 0 : this.master;
    // One list and nobody holding anything is the rule in a show: its level is the answer.
    const only =
      this.lists.length === 1 && this.programmers.every((p) => p.count === 0)
        ? this.lists[0]
        : undefined;
    const level = only?.fades.level;
    const owned = only?.gain === 1 && only.isPlain ? only.owned : undefined;
    for (let i = 0; i < count; i++) {
      const slot = dirty[i] as number;
      marked[slot] = 0;
      let value: number;
      if (level !== undefined && owned?.[slot] === 1) {
        value = level[slot] as number;
        under[slot] = value;
        winner[slot] = 0;
      } else value = this.resolve(slot);
      merged[slot] = value;
      if (fixed[slot] === 0)
        out[slot] = mastered[slot] === 1 ? value * gm * (inhibit[slot] as number) : value;
      else {
        out[slot] = fixedLevel[slot] as number;
        winner[slot] = fixed[slot] as number;
      }
    }
    this.wire.write(out, dirty, count);
    this.work.count = 0;
    return true;
  }

  /**
   * What the playbacks make of a slot, effects left out. Intensity: the highest of those that are merged so, against the
   * one of the others with the highest priority that acted last. All else: the highest priority, then the latest to act.
   * Slots that are being let go of take no part. @param except left out
   * @returns the winner's place among the lists, -1 for the default; its level is in `mergedLevel`
   */
  private mergeLists(slot: number, except: Playback | undefined): number {
    let value = this.slots.defaults[slot] as number;
    let winner = -1;
    let latest = -1;
    let latestLevel = 0;
    const isIntensity = this.slots.family[slot] === INTENSITY;
    for (let i = 0; i < this.lists.length; i++) {
      const list = this.lists[i] as Playback;
      if (list.owned[slot] !== 1 || list.releasing[slot] === 1 || list === except) continue;
      const level = list.gives(slot, isIntensity);
      if (isIntensity && !list.ltp) {
        if (winner < 0 || level > value) {
          value = level;
          winner = i;
        }
      } else if (latest < 0 || beats(list, this.lists[latest] as Playback, slot)) {
        latest = i;
        latestLevel = level;
      }
    }
    this.latestList = latest < 0 ? null : (this.lists[latest] as Playback);
    this.highestList = winner < 0 ? null : (this.lists[winner] as Playback);
    if (latest >= 0 && (winner < 0 || latestLevel > value)) {
      value = latestLevel;
      winner = latest;
    }
    this.mergedLevel = value;
    return winner;
  }
  /** Of the last merge: the strongest of the lists that are not merged by the highest. */
  private latestList: Playback | null = null;
  /** Of the last merge: the highest of the lists that are merged so. */
  private highestList: Playback | null = null;
  /** Who gives what `played` said last; null for the default. */
  private playedBy: Playback | null = null;

  /** What the playbacks show on a slot now, with their effects and with what is on its way out. */
  private played(slot: number, except?: Playback): number {
    const winner = this.mergeLists(slot, except);
    const base = this.mergedLevel;
    this.playedBy = winner < 0 ? null : (this.lists[winner] as Playback);
    const value = this.playedBy === null ? base : this.withEffects(this.playedBy, slot, base);
    for (const list of this.lists)
      if (list.releases > 0) return this.withReleases(slot, value, except);
    return value;
  }

  private withEffects(list: Playback, slot: number, level: number): number {
    return list.effects.count > 0
      ? within(list.effects.applied(slot, level, this.programs, this.turns, this.now_s))
      : level;
  }

  /**
   * What is being let go of is there by its share, so that the rest comes through continuously however it moves: the mean
   * of what would show with it and without it, over all that is on its way out.
   */
  private withReleases(slot: number, value: number, except: Playback | undefined): number {
    const leaving = this.lists.filter((l) => l.releasing[slot] === 1 && l !== except);
    if (leaving.length === 0) return value;
    const isIntensity = this.slots.family[slot] === INTENSITY;
    const byHighest = (l: Playback): boolean => isIntensity && !l.ltp;
    const gives = (l: Playback): number => l.gives(slot, isIntensity);
    const highest = chances(
      [...leaving.filter(byHighest), ...only(this.highestList)].sort((a, b) => gives(b) - gives(a)),
      slot,
    );
    const latest = chances(
      [...leaving.filter((l) => !byHighest(l)), ...only(this.latestList)].sort((a, b) =>
        beats(a, b, slot) ? -1 : 1,
      ),
      slot,
    );
    this.playedBy = null;
    let mean = 0;
    for (const h of highest) {
      for (const l of latest) {
        const by =
          h.list === null || (l.list !== null && gives(l.list) > gives(h.list)) ? l.list : h.list;
        this.playedBy ??= by;
        mean +=
          h.share *
          l.share *
          (by === null
            ? (this.slots.defaults[slot] as number)
            : this.withEffects(by, slot, gives(by)));
      }
    }
    return mean;
  }

  /** Merge of one slot: default, lists, programmers in the order of touch. */
  private resolve(slot: number): number {
    const played = this.played(slot);
    this.under[slot] = played;
    this.shared.winner[slot] = this.playedBy === null ? -1 : this.playedBy.place;
    const value = this.underHands(slot, played, undefined);
    if (this.heldBy >= 0) this.shared.winner[slot] = OPERATOR + this.heldBy;
    return value;
  }
  /** Place of the operator whose value `underHands` met last, -1 for none. */
  private heldBy = -1;

  /** What operators make of what plays on a slot, in the order of touch. @param except left out */
  private underHands(slot: number, played: number, except: Operator | undefined): number {
    this.heldBy = -1;
    let value = played;
    let after = -1;
    for (let round = 0; round < this.programmers.length; round++) {
      let next = -1;
      let touched = Infinity;
      for (let i = 0; i < this.programmers.length; i++) {
        const p = this.programmers[i] as Operator;
        const t = p.touched[slot] as number;
        if (p.held[slot] === 1 && p !== except && t > after && t < touched) {
          next = i;
          touched = t;
        }
      }
      if (next < 0) break;
      const p = this.programmers[next] as Operator;
      after = touched;
      const weight = p.shows(slot, this.slots.snap[slot] as number);
      if (weight === 0) continue;
      value = value * (1 - weight) + (p.fades.level[slot] as number) * weight;
      if (p.effects.count > 0)
        value = within(
          p.effects.applied(slot, value, this.programs, this.turns, this.now_s, weight),
        );
      this.heldBy = next;
    }
    return value;
  }

  // --- keeping and giving back ---

  /** A copy of everything that plays, cheap enough for the clock's thread; `describe` makes rows of it elsewhere. */
  copy(): EngineCopy {
    const some = (f: Fades | null): FadesCopy | null => (f === null ? null : bank(f));
    const bank = (f: Fades): FadesCopy => ({
      level: f.level.slice(),
      from: f.from.slice(),
      to: f.to.slice(),
      start: f.start.slice(),
      duration: f.duration.slice(),
      curve: f.curve.slice(),
      active: f.activity(),
    });
    return {
      keys: this.slots.keys,
      now_s: this.now_s,
      master: this.master,
      blackout: this.blackout,
      stamp: this.stamp,
      cycles: this.programs.effects.map((e, i) => [e.id, this.cycles[i] ?? 0]),
      lists: this.lists.map((l) => ({
        listId: l.id,
        rate: l.rate,
        moving: l.moving,
        clock_s: l.clock_s,
        paused: l.paused,
        startedAt_s: l.startedAt_s,
        total_s: l.total_s,
        follow_s: l.followAt_s === Infinity ? null : l.followAt_s - l.clock_s,
        master: l.masterTarget,
        owned: l.owned.slice(),
        releasing: l.releasing.slice(),
        acted: l.acted.slice(),
        fades: bank(l.fades),
        share: some(l.share),
        carry: some(l.carry),
        effects: l.effects.saved(this.programs, this.now_s),
      })),
      programmers: this.programmers.map((p) => ({
        userId: p.userId,
        held: p.held.slice(),
        touched: p.touched.slice(),
        fades: bank(p.fades),
        weight: bank(p.weight),
        effects: p.effects.saved(this.programs, this.now_s),
        blind: p.liveTo === 0,
      })),
    };
  }

  save(): SavedEngine {
    return describe(this.copy());
  }

  /** Goes on from a saved state; slots that the patch no longer has are left out. Set the programs first. */
  restore(saved: SavedEngine, now_s: number): void {
    const cycles = new Map(saved.cycles ?? []);
    this.programs.effects.forEach((e, i) => (this.cycles[i] = cycles.get(e.id) ?? 0));
    this.turn(0);
    const waves = new Map(this.programs.waves.map((w, i) => [w.key, i]));
    const effects = (layer: EffectLayer, kept: readonly SavedEffect[] | undefined): void => {
      for (const e of kept ?? []) {
        const [slot, wave] = [index.get(saved.keys[e.slot] ?? ''), waves.get(e.key)];
        if (slot !== undefined && wave !== undefined)
          layer.restore(slot, wave, e.phase, e.weight, now_s);
      }
    };
    const index = slotIndex(this.slots);
    this.now_s = now_s;
    this.stamp = saved.stamp;
    const put = (fades: Fades, slot: number, s: SavedMove, now: number): void => {
      fades.stand(slot, s.from ?? s.level);
      if (s.to === undefined) return;
      fades.move(
        slot,
        s.to,
        now - (s.sinceStart_s ?? 0),
        s.duration_s ?? 0,
        typeof s.smooth === 'number' ? s.smooth : s.smooth ? SMOOTH : LINEAR,
        now,
      );
      fades.level[slot] = s.level;
    };
    for (const l of saved.lists) {
      const list = this.list(l.listId);
      Object.assign(list, {
        clock_s: l.clock_s,
        paused: l.paused,
        startedAt_s: l.startedAt_s,
        total_s: l.total_s,
        rate: l.rate ?? 1,
        followAt_s: l.follow_s === null ? Infinity : l.clock_s + l.follow_s,
      });
      list.setMaster(l.master, 0, now_s);
      list.moving = Uint32Array.from(
        (l.moving ?? []).flatMap((old) => index.get(saved.keys[old] ?? '') ?? []),
      );
      for (const s of l.slots) {
        const slot = index.get(saved.keys[s.slot] ?? '');
        if (slot === undefined) continue;
        list.owned[slot] = 1;
        list.acted[slot] = s.acted;
        put(list.fades, slot, s, list.clock_s);
        if (s.carry)
          put((list.carry ??= new Fades(list.owned.length)), slot, s.carry, list.clock_s);
        if (!s.releasing) continue;
        list.letsGo(slot, list.clock_s, s.duration_s ?? 0);
        if (list.share && s.share) put(list.share, slot, s.share, list.clock_s);
      }
      effects(list.effects, l.effects);
    }
    for (const saving of saved.programmers) {
      const p = this.programmer(saving.userId);
      for (const s of saving.slots) {
        const slot = index.get(saved.keys[s.slot] ?? '');
        if (slot === undefined) continue;
        p.held[slot] = 1;
        p.seen[slot] = saving.blind ? 0 : 1;
        p.count++;
        p.touched[slot] = s.acted;
        put(p.fades, slot, s, now_s);
        put(p.weight, slot, s.weight, now_s);
      }
      effects(p.effects, saving.effects);
      p.live = p.liveTo = saving.blind ? 0 : 1;
    }
    this.setMaster(saved.master, saved.blackout);
    this.markAll();
  }

  /** Lists by the number that `Shared.winner` gives. */
  get listIds(): string[] {
    return this.lists.map((l) => l.id);
  }

  /** Operators by the number that `Shared.winner` gives less OPERATOR. */
  get operators(): string[] {
    return this.programmers.map((p) => p.userId);
  }

  // --- parts ---

  private list(listId: string): Playback {
    const found = this.lists.find((l) => l.id === listId);
    if (found) return found;
    const list = new Playback(listId, this.slots.keys.length, this.lists.length);
    this.setUp(list);
    this.lists.push(list);
    // Another may be alone on stage just now.
    this.regain(this.now_s);
    return list;
  }

  private programmer(userId: string): Operator {
    const found = this.programmers.find((p) => p.userId === userId);
    if (found) return found;
    const n = this.slots.keys.length;
    const p = new Operator(userId, n);
    this.programmers.push(p);
    return p;
  }

  private markAll(): void {
    for (let slot = 0; slot < this.slots.keys.length; slot++) this.mark(slot);
  }
}
