/** Edits as they arrive in a show that plays: what of the stage goes along, and what becomes of the author's values. */
import { cueBefore, stateAt, trackedAt } from '../core/cues/tracking.ts';
import { concernedBy, levelOf } from '../core/looks/value.ts';
import { cueMoves, waveOf, type Onto } from '../core/playback/moves.ts';
import { means } from '../core/show/after.ts';
import { slotKey } from '../core/show/rows.ts';
import { firstList, type Show } from '../core/show/show.ts';
import type { Change } from '../core/show/undo.ts';
import type { ShowMessage } from './clock-messages.ts';
import type { Playbacks } from './playbacks.ts';
import type { Programmers } from './programmers.ts';

/** What arrives needs of the show that plays. */
interface Under {
  readonly id: string;
  readonly show: Show;
  readonly lists: Playbacks;
  readonly programmers: Programmers;
  onto: () => Onto;
  tell: (message: ShowMessage) => void;
  /** Something is to be saved soon. */
  saved: () => void;
}

/** Above this many touched slots one walk through the list is cheaper than one per slot. */
const WALK_ONCE_ABOVE = 20;

export class Arrivals {
  constructor(private readonly under: Under) {}

  /** What palettes, looks or effects say, or a unit that they are solved for, has changed: what follows them on stage goes along. */
  followMeaning(change: Change, touched: Map<string, Set<string>>): void {
    if (!change.rows.some((r) => means(r.table))) return;
    const concerned = concernedBy(this.under.show, change.rows);
    for (const v of this.under.show.values.values()) {
      const listId = concerned(v) ? this.under.show.cues.get(v.cueId)?.listId : undefined;
      if (listId === undefined) continue;
      const keys = touched.get(listId) ?? new Set<string>();
      keys.add(slotKey(v.fixtureId, v.attribute));
      touched.set(listId, keys);
    }
    this.under.programmers.followed(concerned);
  }

  /** Slots by list that a change concerns. Asked before it is applied. */
  touched(change: Change): Map<string, Set<string>> {
    const touched = new Map<string, Set<string>>();
    const touch = (listId: string | undefined, key: string): void => {
      if (listId === undefined) return;
      const keys = touched.get(listId) ?? new Set<string>();
      keys.add(key);
      touched.set(listId, keys);
    };
    const newCues = new Map(change.rows.flatMap((r) => (r.table === 'cues' && r.after ? [[r.id, r.after.listId] as const] : [])));
    for (const r of change.rows) {
      if (r.table === 'cues') for (const key of this.under.show.valuesOf(r.id).keys()) touch(this.under.show.cues.get(r.id)?.listId, key);
      // A list that tracks, or ceases to, shows something else wherever it is.
      if (r.table === 'lists' && r.before && r.after && r.before.tracking !== r.after.tracking) for (const cue of this.under.show.cuesOf(r.id)) for (const key of this.under.show.valuesOf(cue.id).keys()) touch(r.id, key);
      if (r.table !== 'values') continue;
      const row = r.after ?? r.before;
      if (row) touch(this.under.show.cues.get(row.cueId)?.listId ?? newCues.get(row.cueId), slotKey(row.fixtureId, row.attribute));
    }
    return touched;
  }

  /** What the cue on stage shows has been edited: the stage follows, a running fade ends at the new value. */
  retarget(touched: ReadonlyMap<string, ReadonlySet<string>>): void {
    const { index, find } = this.under.onto();
    for (const [listId, keys] of touched) {
      const at = this.under.lists.at(listId);
      if (at === null) continue;
      const state = keys.size > WALK_ONCE_ABOVE ? stateAt(this.under.show, listId, at) : undefined;
      const slots: number[] = [];
      const levels: number[] = [];
      const waves: { wave: number; phase: number }[] = [];
      for (const key of keys) {
        const slot = index.get(key);
        if (slot === undefined) continue;
        slots.push(slot);
        const tracked = state ? state.get(key) : trackedAt(this.under.show, listId, at, key);
        levels.push((tracked ? levelOf(this.under.show, tracked.value) : null) ?? NaN);
        waves.push(tracked ? waveOf(this.under.show, tracked.value, find) : { wave: -1, phase: 0 });
      }
      this.under.tell({ do: 'retarget', showId: this.under.id, listId, slots: Uint32Array.from(slots), levels: Float32Array.from(levels), wave: Int32Array.from(waves, (w) => w.wave), phase: Float32Array.from(waves, (w) => w.phase) });
    }
    if (touched.size > 0) this.under.saved();
  }

  /**
   * The author's values are in a cue now. If the stage looks as that cue does, the list stands in it and the programmer
   * is free, without a change on stage; otherwise the values stay held, marked as recorded, until they are let go.
   */
  recorded(change: Change): void {
    const row = change.rows.find((r) => r.table === 'cues' || r.table === 'values');
    const id = row?.table === 'values' ? (row.after ?? row.before)?.cueId : row?.id;
    const cue = id ? this.under.show.cues.get(id) : undefined;
    if (!cue) return;
    const done = this.under.programmers.inCue(change.userId, cue);
    const at = this.under.lists.at(cue.listId);
    const before = cueBefore(this.under.show, cue.listId, cue.number);
    const isHere = at === cue.number;
    // A blind operator writes the book, and leaves the stage alone; a list beside the first that does not play stays so.
    const idle = at === null && cue.listId !== firstList(this.under.show)?.id;
    if (idle || (!isHere && (before?.number ?? null) !== at) || this.under.programmers.isBlind(change.userId)) {
      this.under.programmers.markRecorded(change.userId, done);
      return;
    }
    if (!isHere) {
      const moves = cueMoves(this.under.show, this.under.onto(), cue);
      moves.up.fill(0);
      moves.down.fill(0);
      moves.delay.fill(0);
      this.under.lists.stand(cue.listId, cue, moves, { follows: false });
    }
    this.under.programmers.letGo({ userId: change.userId, name: change.userName }, done.map((v) => slotKey(v.fixtureId, v.attribute)), 0, false);
  }

  /** Values that went back to where they come from are what playback says now: the programmer is free of them, unless it is blind. */
  updated(change: Change): void {
    if (this.under.programmers.isBlind(change.userId)) return;
    const keys = change.rows.flatMap((r) => {
      if (r.table === 'values' && r.after) return [slotKey(r.after.fixtureId, r.after.attribute)];
      if (r.table !== 'palettes' || !r.after) return [];
      const before = r.before?.fixtures ?? {};
      return Object.entries(r.after.fixtures).flatMap(([fixtureId, own]) => Object.keys(own).filter((a) => before[fixtureId]?.[a] !== own[a]).map((a) => slotKey(fixtureId, a)));
    });
    this.under.programmers.letGo({ userId: change.userId, name: change.userName }, keys, 0, false);
  }
}
