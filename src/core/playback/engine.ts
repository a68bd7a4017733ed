/**
 * Renders one show: the stages of the merge in their order (lists with their effects, guarded slots, programmers, inhibiting faders and
 * grand master, what is fixed, bytes), each in a file of its own with its rule above it. The rules are those of
 * docs/playback.md. A frame makes no objects (no-allocation.test.ts); its cost follows what changes.
 */
import { UNIVERSE_SLOTS } from '../dmx.ts';
import type { Work } from './fades.ts';
import { Operator, type Holds } from './operator.ts';
import { Playback, type PlaybackConfig } from './playback.ts';
import type { Programs } from './programs.ts';
import { PRIORITY } from '../lists/rows.ts';
import { describe, type EngineCopy, type SavedEngine } from './saved.ts';
import { INTENSITY, type Slots } from './slots.ts';
import { Wire } from './wire.ts';
import { EffectClock } from './effect-clock.ts';
import { FixedSlots, type Overrides } from './fixed-slots.ts';
import { GuardedSlots } from './guarded-slots.ts';
import { HandsMerge } from './hands-merge.ts';
import { ListMerge } from './list-merge.ts';
import {
  lettingAllGo,
  moveList,
  retellSlot,
  seekList,
  weighList,
  type ListStage,
  type Moves,
  type Retold,
  type Sought,
} from './list-moves.ts';
import { copyOfList, copyOfOperator, placesIn, restoreList, restoreOperator } from './restore.ts';
import { GUARDED, OPERATOR } from './winner.ts';

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

const NONE_DUE: readonly string[] = [];

const alone = (bytes: number): ArrayBufferLike => new ArrayBuffer(bytes);

/** A show’s levels, frame by frame; the stages of the merge in their order (docs/playback.md). */
export class Engine {
  slots: Slots;
  shared: Shared;
  master = 1;
  blackout = false;
  private readonly wire: Wire;
  private under: Float32Array;
  // The stages of the merge, in their order.
  private readonly effects = new EffectClock();
  private readonly lists: ListMerge;
  private readonly guarded: GuardedSlots;
  private readonly hands: HandsMerge;
  private readonly fixed: FixedSlots;
  private readonly work: Work;
  private stamp = 0;
  private configs: ReadonlyMap<string, PlaybackConfig> = new Map();
  /** By slot: what inhibiting faders leave. */
  private readonly inhibit: Float32Array;
  /** What lists move on, for what they are told between frames. */
  private readonly listStage: ListStage;
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
      dmx: new Uint8Array(allocate(slots.universes.length * UNIVERSE_SLOTS)),
    };
    this.under = Float32Array.from(slots.defaults);
    this.inhibit = new Float32Array(n).fill(1);
    this.lists = new ListMerge(slots, this.effects);
    this.listStage = { slots, lists: this.lists, effects: this.effects, mark: this.mark };
    this.guarded = new GuardedSlots(slots);
    this.hands = new HandsMerge(slots);
    this.fixed = new FixedSlots(n);
    this.work = { dirty: new Uint32Array(n), marked: new Uint8Array(n), count: 0 };
    this.wire = new Wire(slots, this.shared.dmx);
    this.markAll();
  }

  // --- lists ---

  /** Which playbacks there are and how they meet; one that is not named keeps to the defaults. */
  configure(configs: readonly PlaybackConfig[]): void {
    this.configs = new Map(configs.map((c) => [c.id, c]));
    for (const list of this.lists.lists) this.setUp(list);
    this.markAll();
  }

  private setUp(list: Playback): void {
    const config = this.configs.get(list.id);
    list.ltp = config?.ltp ?? false;
    list.priority = config?.priority ?? PRIORITY;
    list.effects.setBeats(config?.beats ?? []);
  }

  /**
   * GO, back, go to: each slot moves from what it is at this instant.
   * @param onTime counts from when the list's follow was due, not from when it was noticed
   */
  move(listId: string, moves: Moves, now_s: number, onTime = false): void {
    const list = this.list(listId);
    this.goTo(now_s);
    list.hand = null;
    const base = onTime && list.dueAt_s !== null ? list.dueAt_s : list.clock_s;
    list.dueAt_s = null;
    list.total_s = moveList(this.listStage, list, moves, base, ++this.stamp);
    list.startedAt_s = base;
    list.moving = moves.slot;
  }

  /**
   * A list is as if it had been played to a moment: every slot of it is where it would be, on its way or at rest; what
   * it held beyond that is let go. Nothing fades there: it is another moment.
   */
  seek(listId: string, sought: Sought, now_s: number): void {
    const list = this.list(listId);
    this.goTo(now_s);
    list.hand = null;
    list.dueAt_s = null;
    seekList(this.listStage, list, sought, ++this.stamp);
    list.startedAt_s = list.clock_s - sought.ago_s;
    list.total_s = sought.total_s;
    list.moving = sought.slot;
  }

  /** Lets go of all that a playback holds, in a time. */
  release(listId: string, time_s: number, now_s: number): void {
    const list = this.lists.lists.find((l) => l.id === listId);
    if (!list) return;
    list.paused = false;
    list.followAt_s = Infinity;
    list.effects.endAlong();
    this.move(listId, lettingAllGo(list, time_s), now_s);
  }

  /** Scales a playback's intensity; its fades go on underneath. */
  setListMaster(listId: string, level: number, span_s: number, now_s: number): void {
    this.list(listId).setMaster(level, span_s, now_s);
    this.regain(now_s);
  }

  /**
   * All of it but intensity is there by so much: what is beneath shows through. What cannot fade is there from the
   * middle on.
   */
  setPresence(listId: string, level: number, span_s: number): void {
    weighList(this.listStage, this.list(listId), level, span_s);
  }

  /** Momentary: full whatever its master, alone if `solo`. */
  setFlash(listId: string, on: boolean, solo: boolean, now_s: number): void {
    const list = this.list(listId);
    list.flash = on;
    list.solo = on && solo;
    this.regain(now_s);
  }

  /** What is flashed now. */
  get flashes(): { listId: string; solo: boolean }[] {
    return this.lists.lists.flatMap((l) => (l.flash ? [{ listId: l.id, solo: l.solo }] : []));
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
    const { lists } = this.lists;
    let solos = 0;
    for (let i = 0; i < lists.length; i++) if ((lists[i] as Playback).solo) solos++;
    for (let i = 0; i < lists.length; i++) {
      const list = lists[i] as Playback;
      if (!list.regain(now_s, solos)) continue;
      for (let slot = 0; slot < list.owned.length; slot++)
        if (list.owned[slot] === 1 && this.slots.family[slot] === INTENSITY) this.mark(slot);
    }
  }

  /**
   * An edit reached the cue on stage: the slot goes to its new value, or its running fade ends there.
   * @param presence of a playback that has one (`setPresence`): how much is there of a slot that it takes on by this; one
   * that is on its way goes on
   * @param asBefore a slot that it takes on by this is as late as the others that it has: nobody has touched it now
   */
  retarget(listId: string, slot: number, retold: Retold): void {
    retellSlot(this.listStage, this.list(listId), slot, retold, ++this.stamp);
  }

  /** After a GO: the list goes on by itself this long after it, or after its longest fade has ended, or waits (null). */
  follow(listId: string, after_s: number | null, from: 'go' | 'end' = 'go'): void {
    const list = this.list(listId);
    list.followAt_s =
      after_s === null
        ? Infinity
        : list.startedAt_s + (from === 'end' ? list.total_s : 0) + after_s;
  }

  /**
   * When the next follow comes, in seconds of this engine; Infinity where none does by itself. A list whose follow was told
   * since the last frame waits for the next one: cues that follow each other at once go no faster than frames.
   */
  get nextDue_s(): number {
    const { lists } = this.lists;
    let next = Infinity;
    for (let i = 0; i < lists.length; i++) {
      const list = lists[i] as Playback;
      if (list.paused || list.hand !== null || list.rate <= 0 || list.wasDue) continue;
      next = Math.min(next, (list.followAt_s - list.clock_s) / list.rate);
    }
    return this.effects.now_s + next;
  }

  /** Lists whose follow has come; each is told once. */
  takeDue(): readonly string[] {
    if (!this.isDue()) return NONE_DUE;
    const due = this.lists.lists.filter((l) => l.clock_s >= l.followAt_s);
    for (const list of due) {
      list.dueAt_s = list.followAt_s;
      list.followAt_s = Infinity;
      list.wasDue = true;
    }
    return due.map((l) => l.id);
  }

  private isDue(): boolean {
    const { lists } = this.lists;
    for (let i = 0; i < lists.length; i++) {
      const list = lists[i] as Playback;
      if (list.clock_s >= list.followAt_s) return true;
    }
    return false;
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
    const place = OPERATOR + this.hands.operators.indexOf(operator);
    const { merged, winner } = this.shared;
    operator.hold(
      holds,
      this.slots,
      (slot) => ({
        level: merged[slot] as number,
        isMine: winner[slot] === place,
        beneath: () => this.hands.over(slot, this.under[slot] as number, operator),
      }),
      ++this.stamp,
      now_s,
      this.mark,
    );
  }

  /** Blind: an operator's values are kept, and do not show. */
  setBlind(userId: string, blind: boolean): void {
    this.programmer(userId).setBlind(blind, this.slots, this.effects.now_s, this.mark);
  }

  /** The show's effects; those that run go on at their places. */
  setPrograms(programs: Programs): void {
    const placeOf = this.effects.set(programs);
    for (const holder of [...this.lists.lists, ...this.hands.operators])
      holder.effects.remap(placeOf);
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

  /** Guards these slots as playback has them now; others that were are let off in a time. */
  guard(slots: Uint32Array, fade_s: number, now_s: number): void {
    this.guarded.set(slots, fade_s, this.under, now_s, this.mark);
  }

  /** Puts slots and bytes where nothing else reaches them; what was there before and is not named is let off. */
  override(o: Overrides): void {
    this.fixed.set(o, this.mark);
    // A byte that is let off gets what its channel says: everything is written again.
    if (this.wire.force(o.raw, o.bytes)) this.markAll();
  }

  /** What another desk sends for a universe, merged into ours or instead of it; null: it is gone. @param source whose it is */
  input(universe: number, source: string, levels: Uint8Array | null, instead = false): void {
    this.wire.input(universe, source, levels, instead);
  }

  // --- the frame ---

  /** Universe pages written since they were last sent. */
  get dirtyPages(): Uint8Array {
    return this.wire.dirtyPages;
  }

  /** True when a fade is under way or something waits to be rendered. */
  get busy(): boolean {
    if (this.work.count > 0) return true;
    if (this.guarded.busy) return true;
    for (const list of this.lists.lists) if (list.busy) return true;
    for (const operator of this.hands.operators) if (operator.busy) return true;
    return false;
  }

  /** Renders one frame. @param now_s monotonic seconds @returns whether any byte or level changed */
  tick(now_s: number): boolean {
    this.goTo(now_s);
    const { lists } = this.lists;
    for (let i = 0; i < lists.length; i++) (lists[i] as Playback).wasDue = false;
    return this.render();
  }

  /**
   * Moves everything on to a moment, also one between two frames: what begins there takes no time from what is under way
   * (continuity.test.ts).
   */
  goTo(now_s: number): void {
    const step_s = this.effects.advance(now_s);
    this.regain(now_s);
    const { lists } = this.lists;
    for (let i = 0; i < lists.length; i++) this.advance(lists[i] as Playback, step_s);
    if (this.guarded.count > 0) this.guarded.advance(now_s, this.work);
    const { operators } = this.hands;
    for (let i = 0; i < operators.length; i++)
      (operators[i] as Operator).advance(now_s, step_s, this.work, this.mark);
  }

  /** Moves a list's fades, effects and releases on; what has moved is noted. */
  private advance(list: Playback, step_s: number): void {
    const { work } = this;
    const went_s = list.paused || list.hand !== null ? 0 : step_s * list.rate;
    list.effects.walk(went_s);
    if (list.effects.count > 0) {
      list.effects.advance(this.effects.now_s, work);
      list.rode = list.ridesOnly;
    }
    if (list.rode && list.effects.count === 0) this.end(list);
    list.clock_s += went_s;
    if (list.fades.count > 0) list.fades.advance(list.clock_s, work);
    if (list.carry !== null && list.carry.count > 0) list.carry.advance(list.clock_s, work);
    if (list.share === null || list.share.count === 0) return;
    this.leaving = list;
    list.share.advance(list.clock_s, work, this.hasGone);
  }
  /** The last effect of a playback of effects alone is over: it holds nothing any more. */
  private end(list: Playback): void {
    list.rode = false;
    for (let slot = 0; slot < list.owned.length; slot++) {
      if (list.owned[slot] !== 1) continue;
      list.disown(slot);
      this.mark(slot);
    }
    this.ended.push(list.id);
  }
  /** Playbacks of effects whose last round is over. */
  private readonly ended: string[] = [];
  /** Playbacks of effects alone that have ended since the last look, by themselves or because they were let go; each once. */
  takeEnded(): readonly string[] {
    if (this.ended.length === 0) return NONE_DUE;
    // One that was begun anew in the same frame goes on.
    return this.ended.splice(0).filter((id) => this.list(id).effects.count === 0);
  }
  /** The list whose releases are being moved on. */
  private leaving: Playback | null = null;
  private readonly hasGone = (slot: number): void => {
    this.leaving?.rested(slot);
    this.mark(slot);
  };

  /** Resolves and scales what is noted, and has it written. The hot path of the frame: locals, no calls where they can be spared. */
  private render(): boolean {
    const { dirty, marked, count } = this.work;
    if (count === 0) return false;
    const { merged, out, winner } = this.shared;
    const { mastered } = this.slots;
    const { under, inhibit } = this;
    const { kind: fixed, level: fixedLevel } = this.fixed;
    const gm = this.blackout ? 0 : this.master;
    // One list and nobody holding anything is the rule in a show: its level is the answer.
    const { lists } = this.lists;
    const isAlone = lists.length === 1 && this.hands.areEmpty && this.guarded.count === 0;
    const only = isAlone ? lists[0] : undefined;
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

  /** Merge of one slot: default, lists, guards, programmers in the order of touch. */
  private resolve(slot: number): number {
    const { lists, hands } = this;
    let played = lists.played(slot);
    this.shared.winner[slot] = lists.by === null ? -1 : lists.by.place;
    if (this.guarded.count > 0 && this.guarded.holds(slot) > 0) {
      played = this.guarded.over(slot, played);
      this.shared.winner[slot] = GUARDED;
    }
    this.under[slot] = played;
    const value = hands.over(slot, played);
    if (hands.heldBy >= 0) this.shared.winner[slot] = OPERATOR + hands.heldBy;
    return value;
  }

  // --- keeping and giving back ---

  /** A copy of everything that plays, cheap enough for the clock's thread; `describe` makes rows of it elsewhere. */
  copy(): EngineCopy {
    const { effects, lists, hands } = this;
    return {
      keys: this.slots.keys,
      now_s: effects.now_s,
      master: this.master,
      blackout: this.blackout,
      stamp: this.stamp,
      cycles: effects.counted(),
      guards: this.guarded.saved(),
      leaving: this.guarded.leaving(effects.now_s),
      lists: lists.lists.map((list) => copyOfList(list, effects.now_s)),
      programmers: hands.operators.map((operator) => copyOfOperator(operator)),
    };
  }

  save(): SavedEngine {
    return describe(this.copy());
  }

  /** Goes on from a saved state; slots that the patch no longer has are left out. Set the programs first. */
  restore(saved: SavedEngine, now_s: number): void {
    this.effects.goOn(saved.cycles ?? [], now_s);
    this.stamp = saved.stamp;
    const places = placesIn(saved, this.slots, this.effects);
    for (const list of saved.lists) restoreList(this.list(list.listId), list, places, now_s);
    for (const [at, level] of saved.guards ?? []) {
      const slot = places.slot(at);
      if (slot !== undefined) this.guarded.guard(slot, level);
    }
    for (const off of saved.leaving ?? []) {
      const slot = places.slot(off.slot);
      if (slot !== undefined) this.guarded.leave({ ...off, slot }, now_s);
    }
    for (const operator of saved.programmers)
      restoreOperator(this.programmer(operator.userId), operator, places, now_s);
    this.setMaster(saved.master, saved.blackout);
    this.markAll();
  }

  /** Lists by the number that `Shared.winner` gives. */
  get listIds(): string[] {
    return this.lists.lists.map((l) => l.id);
  }

  /** Operators by the number that `Shared.winner` gives less OPERATOR. */
  get operators(): string[] {
    return this.hands.operators.map((p) => p.userId);
  }

  // --- parts ---

  private list(listId: string): Playback {
    const found = this.lists.lists.find((l) => l.id === listId);
    if (found) return found;
    const list = new Playback(
      listId,
      this.slots.keys.length,
      this.lists.lists.length,
      this.effects,
    );
    this.setUp(list);
    this.lists.lists.push(list);
    if (list.ridesOnly) this.lists.riders++;
    // Another may be alone on stage just now.
    this.regain(this.effects.now_s);
    return list;
  }

  private programmer(userId: string): Operator {
    const found = this.hands.operators.find((p) => p.userId === userId);
    if (found) return found;
    const n = this.slots.keys.length;
    const p = new Operator(userId, n, this.effects);
    this.hands.operators.push(p);
    return p;
  }

  private markAll(): void {
    for (let slot = 0; slot < this.slots.keys.length; slot++) this.mark(slot);
  }
}
