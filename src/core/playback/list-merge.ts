/**
 * The first stage of the merge: what lists and faders make of a slot (docs/playback.md, How playbacks meet).
 *
 * Intensity: the highest of those that are merged so, against the one of the others with the highest priority that acted
 * last. All else: the highest priority, then the latest to act. Effects of the winner run on top; those that ride, of any list. What is being let go of
 * is there by its share (merge.test.ts asks all of it of a model; continuity.test.ts that nothing jumps).
 */
import { clamp } from '../numbers.ts';
import type { EffectClock } from './effect-clock.ts';
import type { Playback } from './playback.ts';
import { INTENSITY, type Slots } from './slots.ts';

/** Whether one list comes before another on a slot: the higher priority, then the latest to act. */
const beats = (a: Playback, b: Playback, slot: number): boolean =>
  a.priority > b.priority ||
  (a.priority === b.priority && (a.acted[slot] as number) > (b.acted[slot] as number));

/** Lists of a slot, the strongest first: how likely each is the first that is there, by their shares. */
class Ranked {
  readonly lists: Playback[] = [];
  readonly share: number[] = [];
  /** How many of the arrays count; they are never made anew (no-allocation.test.ts). */
  count = 0;
  /** That none of them is there. */
  none = 1;

  /** Puts it before what stands at a place. */
  insert(list: Playback, at: number): void {
    for (let i = this.count; i > at; i--) this.lists[i] = this.lists[i - 1] as Playback;
    this.lists[at] = list;
    this.count++;
  }

  weigh(slot: number): void {
    this.none = 1;
    for (let i = 0; i < this.count; i++) {
      const list = this.lists[i] as Playback;
      const there =
        list.releasing[slot] === 1 && list.share !== null ? (list.share.level[slot] as number) : 1;
      this.share[i] = this.none * there;
      this.none *= 1 - there;
    }
  }
}

/** The stage of lists: whose level a slot has. */
export class ListMerge {
  readonly lists: Playback[] = [];
  /** How many of them only ride. */
  riders = 0;
  /** Who gives what `played` said last; null for the default. */
  by: Playback | null = null;
  /** Of the last merge: its level, effects left out. */
  level = 0;
  /** Of what `played` said last: without what rides on it, which stays when another list takes the slot. */
  unridden = 0;
  /** Of what `played` said last: what shows there at the least, of all that may be there while something is on its way out. */
  least = 0;
  /** Of the last merge: the strongest of the lists that are not merged by the highest. */
  latest: Playback | null = null;
  /** Of the last merge: the highest of the lists that are merged so. */
  private highest: Playback | null = null;
  private readonly byHighest = new Ranked();
  private readonly byLatest = new Ranked();

  constructor(
    private readonly slots: Slots,
    private readonly clock: EffectClock,
  ) {}

  /**
   * What lists make of a slot, effects and what is on its way out left aside; `level` and `latest` say it.
   * @param except left out
   * @returns the winner, null for the default
   */
  merge(slot: number, except: Playback | null): Playback | null {
    let value = this.slots.defaults[slot] as number;
    let winner: Playback | null = null;
    let latest: Playback | null = null;
    let latestLevel = 0;
    const isIntensity = this.slots.family[slot] === INTENSITY;
    const { lists } = this;
    for (let i = 0; i < lists.length; i++) {
      const list = lists[i] as Playback;
      if (list.owned[slot] !== 1 || list.releasing[slot] === 1 || list === except) continue;
      if (list.ridesOnly) continue;
      const level = list.gives(slot, isIntensity);
      if (isIntensity && !list.ltp) {
        if (winner === null || level > value) {
          value = level;
          winner = list;
        }
      } else if (latest === null || beats(list, latest, slot)) {
        latest = list;
        latestLevel = level;
      }
    }
    this.latest = latest;
    this.highest = winner;
    if (latest !== null && (winner === null || latestLevel > value)) {
      value = latestLevel;
      winner = latest;
    }
    this.level = value;
    return winner;
  }

  /** What lists show on a slot now, with their effects and with what is on its way out; `by` says whose it is. */
  played(slot: number, except: Playback | null = null): number {
    const { lists } = this;
    this.by = this.merge(slot, except);
    let value = this.by === null ? this.level : this.withEffects(this.by, slot, this.level);
    this.least = value;
    for (let i = 0; i < lists.length; i++)
      if ((lists[i] as Playback).releases > 0) {
        value = this.withReleases(slot, value, except);
        break;
      }
    this.unridden = value;
    return this.clock.programs.rides || this.riders > 0 ? this.ridden(slot, value, except) : value;
  }

  private withEffects(list: Playback, slot: number, level: number): number {
    return list.effects.count > 0 ? clamp(list.effects.applied(slot, level, 1, 'own')) : level;
  }

  /** What rides on whatever plays, of every list that has it here; of one that lets go, by its share. */
  private ridden(slot: number, played: number, except: Playback | null): number {
    const { lists } = this;
    let value = played;
    for (let i = 0; i < lists.length; i++) {
      const list = lists[i] as Playback;
      if (list === except || list.effects.count === 0) continue;
      const share =
        list.releasing[slot] === 1 && list.share !== null ? (list.share.level[slot] as number) : 1;
      value = clamp(list.effects.applied(slot, value, share, list.ridesOnly ? 'all' : 'riding'));
    }
    return value;
  }

  /** Ranks what is on its way out on a slot with what stays. @returns false where nothing is on its way out */
  private rank(slot: number, isIntensity: boolean, except: Playback | null): boolean {
    const { byHighest, byLatest, lists } = this;
    byHighest.count = 0;
    byLatest.count = 0;
    for (let i = 0; i < lists.length; i++) {
      const list = lists[i] as Playback;
      if (list.releasing[slot] !== 1 || list === except || list.ridesOnly) continue;
      this.place(list, slot, isIntensity);
    }
    if (byHighest.count + byLatest.count === 0) return false;
    if (this.highest !== null) this.place(this.highest, slot, isIntensity);
    if (this.latest !== null) this.place(this.latest, slot, isIntensity);
    byHighest.weigh(slot);
    byLatest.weigh(slot);
    return true;
  }

  private place(list: Playback, slot: number, isIntensity: boolean): void {
    if (isIntensity && !list.ltp) this.placeByLevel(list, slot);
    else this.placeByTime(list, slot);
  }

  private placeByLevel(list: Playback, slot: number): void {
    const { lists, count } = this.byHighest;
    const level = list.gives(slot, true);
    let at = 0;
    while (at < count && (lists[at] as Playback).gives(slot, true) >= level) at++;
    this.byHighest.insert(list, at);
  }

  private placeByTime(list: Playback, slot: number): void {
    const { lists, count } = this.byLatest;
    let at = 0;
    while (at < count && !beats(list, lists[at] as Playback, slot)) at++;
    this.byLatest.insert(list, at);
  }

  /**
   * What is being let go of is there by its share, so that the rest comes through continuously however it moves: the mean
   * of what would show with it and without it, over all that is on its way out.
   */
  private withReleases(slot: number, value: number, except: Playback | null): number {
    const isIntensity = this.slots.family[slot] === INTENSITY;
    if (!this.rank(slot, isIntensity, except)) return value;
    const { byHighest, byLatest } = this;
    this.by = null;
    this.least = Infinity;
    let mean = 0;
    for (let h = 0; h <= byHighest.count; h++) {
      const highest = h < byHighest.count ? (byHighest.lists[h] as Playback) : null;
      const highShare = highest === null ? byHighest.none : (byHighest.share[h] as number);
      for (let l = 0; l <= byLatest.count; l++) {
        const latest = l < byLatest.count ? (byLatest.lists[l] as Playback) : null;
        const share = highShare * (latest === null ? byLatest.none : (byLatest.share[l] as number));
        const by = stronger(highest, latest, slot, isIntensity);
        this.by ??= by;
        if (share === 0) continue;
        const shown = this.shown(by, slot, isIntensity);
        if (shown < this.least) this.least = shown;
        mean += share * shown;
      }
    }
    return mean;
  }

  private shown(by: Playback | null, slot: number, isIntensity: boolean): number {
    return by === null
      ? (this.slots.defaults[slot] as number)
      : this.withEffects(by, slot, by.gives(slot, isIntensity));
  }
}

/** Of the highest and the latest, the one that gives more. */
function stronger(
  highest: Playback | null,
  latest: Playback | null,
  slot: number,
  isIntensity: boolean,
): Playback | null {
  if (highest === null || latest === null) return highest ?? latest;
  return latest.gives(slot, isIntensity) > highest.gives(slot, isIntensity) ? latest : highest;
}
