/** Edits as they arrive in a show that plays: what of the stage goes along, and what becomes of the author's values. */
import { followed } from './programmers/following.ts';
import { inCue, isBlind, markRecorded } from './programmers/seen.ts';
import { letGo, giveBack } from './programmers/holding.ts';
import { cueBefore, stateAt, trackedAt } from '../core/cues/tracking.ts';
import { concernedBy, levelOf } from '../core/looks/value.ts';
import type { HeldValue } from '../core/live/messages.ts';
import type { Moves } from '../core/playback/list-moves.ts';
import { cueMoves, stateMoves, waveOf, type Onto } from '../core/playback/moves.ts';
import { means } from '../core/show/after.ts';
import { slotKey } from '../core/cues/rows.ts';
import { firstList, type RowChange, type Show } from '../core/show/show.ts';
import type { Change } from '../core/show/undo.ts';
import type { ShowMessage } from './clock-messages.ts';
import type { ListState } from './lists/states.ts';
import type { Playbacks } from './lists/playbacks.ts';
import type { Programmers } from './programmers/programmers.ts';

/** What arrives needs of the show that plays. */
interface ArrivalsNeeds {
  readonly id: string;
  readonly show: Show;
  readonly lists: Playbacks;
  readonly programmers: Programmers;
  onto: () => Onto;
  tell: (message: ShowMessage) => void;
  /** Something is to be saved soon. */
  saved: () => void;
}

/** What a recording did to the stage, so that undoing it can put that back. */
export interface Recording {
  seq: number;
  userId: string;
  userName: string;
  listId: string;
  cueId: string;
  /** Where the list stood before it went on into the recorded cue; absent where it stayed. */
  before?: ListState;
  /** What the author held, and was free of afterwards. */
  values: HeldValue[];
  isUndone: boolean;
}
function atOnce(moves: Moves): Moves {
  moves.up.fill(0);
  moves.down.fill(0);
  moves.delay.fill(0);
  return moves;
}

const RECORDINGS_KEPT = 10;
const RECORDED_VALUES_KEPT = 20_000;

/** Above this many touched slots one walk through the list is cheaper than one per slot. */
const WALK_ONCE_ABOVE = 20;

/** What of a recording was on stage when it was made, so that it arrives without a move. */
export class Arrivals {
  private readonly recordings: Recording[];
  /** Undoing and doing again, by number: which recording it was in the end. */
  private readonly roots = new Map<number, number>();

  constructor(
    private readonly needs: ArrivalsNeeds,
    saved: readonly Recording[],
  ) {
    this.recordings = [...saved];
  }

  saved(): Recording[] {
    return this.recordings;
  }

  /** What palettes, looks or effects say, or a unit that they are solved for, has changed: what follows them on stage goes along. */
  followMeaning(change: { rows: readonly RowChange[] }, touched: Map<string, Set<string>>): void {
    if (!change.rows.some((r) => means(r.table))) return;
    const concerned = concernedBy(this.needs.show, change.rows);
    for (const v of this.needs.show.values.values()) {
      const listId = concerned(v) ? this.needs.show.cues.get(v.cueId)?.listId : undefined;
      if (listId === undefined) continue;
      const keys = touched.get(listId) ?? new Set<string>();
      keys.add(slotKey(v.fixtureId, v.attribute));
      touched.set(listId, keys);
    }
    followed(
      this.needs.programmers,
      concerned,
      new Set(change.rows.flatMap((r) => (r.table === 'effects' ? [r.id] : []))),
    );
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
    const newCues = new Map(
      change.rows.flatMap((r) =>
        r.table === 'cues' && r.after ? [[r.id, r.after.listId] as const] : [],
      ),
    );
    for (const r of change.rows) {
      if (r.table === 'cues')
        for (const key of this.needs.show.valuesOf(r.id).keys())
          touch(this.needs.show.cues.get(r.id)?.listId, key);
      // A list that tracks, or ceases to, shows something else wherever it is.
      if (r.table === 'lists' && r.before && r.after && r.before.tracking !== r.after.tracking)
        for (const cue of this.needs.show.cuesOf(r.id))
          for (const key of this.needs.show.valuesOf(cue.id).keys()) touch(r.id, key);
      if (r.table !== 'values') continue;
      const row = r.after ?? r.before;
      if (row)
        touch(
          this.needs.show.cues.get(row.cueId)?.listId ?? newCues.get(row.cueId),
          slotKey(row.fixtureId, row.attribute),
        );
    }
    return touched;
  }

  /** What the cue on stage shows has been edited: the stage follows, a running fade ends at the new value. */
  retarget(touched: ReadonlyMap<string, ReadonlySet<string>>): void {
    const { index, find } = this.needs.onto();
    for (const [listId, keys] of touched) {
      const at = this.needs.lists.at(listId);
      if (at === null) continue;
      const state = keys.size > WALK_ONCE_ABOVE ? stateAt(this.needs.show, listId, at) : undefined;
      const slots: number[] = [];
      const levels: number[] = [];
      const waves: { wave: number; phase: number }[] = [];
      for (const key of keys) {
        const slot = index.get(key);
        if (slot === undefined) continue;
        slots.push(slot);
        const tracked = state ? state.get(key) : trackedAt(this.needs.show, listId, at, key);
        levels.push((tracked ? levelOf(this.needs.show, tracked.value) : null) ?? NaN);
        waves.push(tracked ? waveOf(this.needs.show, tracked.value, find) : { wave: -1, phase: 0 });
      }
      this.needs.tell({
        do: 'retarget',
        showId: this.needs.id,
        listId,
        slots: Uint32Array.from(slots),
        levels: Float32Array.from(levels),
        wave: Int32Array.from(waves, (w) => w.wave),
        phase: Float32Array.from(waves, (w) => w.phase),
      });
    }
    if (touched.size > 0) this.needs.saved();
  }

  /**
   * The author's values are in a cue now. If the stage looks as that cue does, the list stands in it and the programmer
   * is free, without a change on stage; otherwise the values stay held, marked as recorded, until they are let go.
   */
  recorded(change: Change): void {
    const row = change.rows.find((r) => r.table === 'cues' || r.table === 'values');
    const id = row?.table === 'values' ? (row.after ?? row.before)?.cueId : row?.id;
    const cue = id ? this.needs.show.cues.get(id) : undefined;
    if (!cue) return;
    const done = inCue(this.needs.programmers, change.userId, cue);
    const at = this.needs.lists.at(cue.listId);
    const before = cueBefore(this.needs.show, cue.listId, cue.number);
    const isHere = at === cue.number;
    // A blind operator writes the book, and leaves the stage alone; a list beside the first that does not play stays so.
    const idle = at === null && cue.listId !== firstList(this.needs.show)?.id;
    if (
      idle ||
      (!isHere && (before?.number ?? null) !== at) ||
      isBlind(this.needs.programmers, change.userId)
    ) {
      markRecorded(this.needs.programmers, change.userId, done);
      return;
    }
    if (change.edit === 'record-cue')
      this.remember({
        seq: change.seq,
        userId: change.userId,
        userName: change.userName,
        listId: cue.listId,
        cueId: cue.id,
        ...(isHere ? {} : { before: { ...this.needs.lists.state(cue.listId) } }),
        values: done,
        isUndone: false,
      });
    if (!isHere)
      this.needs.lists.standIn(cue, atOnce(cueMoves(this.needs.show, this.needs.onto(), cue)));
    letGo(
      this.needs.programmers,
      { userId: change.userId, name: change.userName },
      done.map((v) => slotKey(v.fixtureId, v.attribute)),
      0,
      false,
    );
  }

  private remember(recording: Recording): void {
    this.recordings.push(recording);
    const held = (): number => this.recordings.reduce((n, r) => n + r.values.length, 0);
    while (
      this.recordings.length > RECORDINGS_KEPT ||
      (this.recordings.length > 1 && held() > RECORDED_VALUES_KEPT)
    )
      this.recordings.shift();
  }

  /**
   * A recording was undone, or done again. While the list stands in the cue, undoing puts it back where it was and gives
   * the author the values back: the stage is as before the recording. Later, the values can be brought back.
   */
  reversed(change: Change): void {
    if (change.reverts === null) return;
    const root = this.roots.get(change.reverts) ?? change.reverts;
    this.roots.set(change.seq, root);
    const recording = this.recordings.find((r) => r.seq === root);
    if (!recording) return;
    recording.isUndone = !recording.isUndone;
    const { userId, userName: name, listId, cueId, before, values } = recording;
    if (!recording.isUndone) {
      this.recorded({ ...change, userId, userName: name });
      return;
    }
    const { lists, programmers, show } = this.needs;
    const row = change.rows.find((r) => r.table === 'cues' && r.id === cueId);
    const number = row?.table === 'cues' ? row.before?.number : show.cues.get(cueId)?.number;
    const stands = number !== undefined && lists.at(listId) === number;
    if (stands && before) {
      const cue = before.cueId === null ? undefined : show.cues.get(before.cueId);
      lists.putBack(listId, before, atOnce(stateMoves(show, this.needs.onto(), listId, cue, 0)));
    }
    giveBack(programmers, { userId, name }, values, stands);
  }

  /** Values that went back to where they come from are what playback says now: the programmer is free of them, unless it is blind. */
  updated(change: Change): void {
    if (isBlind(this.needs.programmers, change.userId)) return;
    const keys = change.rows.flatMap((r) => {
      if (r.table === 'values' && r.after) return [slotKey(r.after.fixtureId, r.after.attribute)];
      if (r.table !== 'palettes' || !r.after) return [];
      const before = r.before?.fixtures ?? {};
      return Object.entries(r.after.fixtures).flatMap(([fixtureId, own]) =>
        Object.keys(own)
          .filter((a) => before[fixtureId]?.[a] !== own[a])
          .map((a) => slotKey(fixtureId, a)),
      );
    });
    letGo(this.needs.programmers, { userId: change.userId, name: change.userName }, keys, 0, false);
  }
}
