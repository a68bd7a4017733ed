/**
 * Between what plays and what hands hold: guarded slots stay as playback had them, whatever plays; hands still move
 * them (docs/playback.md, Guarded; guards.test.ts). Let off, they fade to what plays by then.
 */
import { clamp } from '../numbers.ts';
import { curveIndex, Fades, type Work } from './fades.ts';
import type { SavedGuard, SavedLeaving } from './saved.ts';
import type { Slots } from './slots.ts';

const LINEAR = curveIndex('linear');

/** The stage of guarded slots, and how they are let off. */
export class GuardedSlots {
  /** By slot: 1 while it is guarded. */
  private readonly on: Uint8Array;
  private readonly level: Float32Array;
  /** How much of the level shows: 1 while guarded, on its way to 0 when it is let off. */
  private readonly share: Fades;
  /** Slots that are guarded or on their way out; 0 lets the frame leave this stage out. */
  count = 0;

  constructor(private readonly slots: Slots) {
    const size = slots.keys.length;
    this.on = new Uint8Array(size);
    this.level = new Float32Array(size);
    this.share = new Fades(size);
  }

  get busy(): boolean {
    return this.share.count > 0;
  }

  /**
   * Guards these where they are; what was guarded and is not named fades to what plays.
   * @param played what hands lie over now, by slot: where a hand is on its way, what is beneath it must not move
   */
  set(
    named: Uint32Array,
    fade_s: number,
    played: Float32Array,
    now_s: number,
    mark: (slot: number) => void,
  ): void {
    const stays = new Uint8Array(this.on.length);
    for (const slot of named) if (slot < stays.length) stays[slot] = 1;
    for (let slot = 0; slot < stays.length; slot++) {
      if (stays[slot] === this.on[slot]) continue;
      if (stays[slot] === 1) this.guard(slot, played[slot] as number);
      else this.letOff(slot, fade_s, now_s);
      mark(slot);
    }
    this.recount();
  }

  guard(slot: number, level: number): void {
    if (this.on[slot] === 0 && this.share.level[slot] === 0) this.count++;
    this.on[slot] = 1;
    this.level[slot] = level;
    this.share.stand(slot, 1);
  }

  private letOff(slot: number, fade_s: number, now_s: number): void {
    const snap = this.slots.snap[slot] as number;
    this.on[slot] = 0;
    this.share.move(
      slot,
      0,
      now_s + (snap === 2 ? fade_s : 0),
      snap === 0 ? fade_s : 0,
      LINEAR,
      now_s,
    );
  }

  private recount(): void {
    this.count = 0;
    for (let slot = 0; slot < this.on.length; slot++)
      if (this.on[slot] === 1 || (this.share.level[slot] as number) > 0) this.count++;
  }

  /** How much of a slot is guarded now, 0…1. */
  holds(slot: number): number {
    return this.share.level[slot] as number;
  }

  /** What is there instead of what plays. */
  over(slot: number, played: number): number {
    const share = this.share.level[slot] as number;
    if (share === 0) return played;
    return played * (1 - share) + (this.level[slot] as number) * share;
  }

  advance(now_s: number, work: Work): void {
    if (this.share.count === 0) return;
    this.share.advance(now_s, work);
    if (this.share.count === 0) this.recount();
  }

  /** Those that are let off and still on their way: since when, how long they take, and from how much of them. */
  leaving(now_s: number): SavedLeaving[] {
    const { level, share } = this;
    const kept: SavedLeaving[] = [];
    for (let slot = 0; slot < this.on.length; slot++)
      if (this.on[slot] === 0 && share.isActive(slot))
        kept.push({
          slot,
          level: level[slot] as number,
          from: share.from[slot] as number,
          since_s: now_s - (share.start[slot] as number),
          duration_s: share.duration[slot] as number,
        });
    return kept;
  }

  /** Goes on being let off. */
  leave({ slot, level, from, since_s, duration_s }: SavedLeaving, now_s: number): void {
    this.level[slot] = level;
    this.share.stand(slot, from);
    this.share.goOn(slot, 0, now_s - since_s, duration_s, LINEAR);
    const gone = duration_s > 0 ? clamp(since_s / duration_s) : 1;
    this.share.level[slot] = from * (since_s < 0 ? 1 : 1 - gone);
    this.recount();
  }

  saved(): SavedGuard[] {
    const kept: SavedGuard[] = [];
    for (let slot = 0; slot < this.on.length; slot++)
      if (this.on[slot] === 1) kept.push([slot, this.level[slot] as number]);
    return kept;
  }
}
