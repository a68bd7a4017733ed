/**
 * Faders of one open show: what each holds, where it stands, and what it gives. A fader that was released from
 * elsewhere waits until it is moved across what it gives (docs/playback.md).
 */
import { familyOf, attributesOf } from '../core/rig/attributes.ts';
import { membersOf } from '../core/groups/members.ts';
import type { FaderStatus } from '../core/live/messages.ts';
import type { Onto } from '../core/playback/moves.ts';
import type { Slots } from '../core/playback/slots.ts';
import { refuse } from '../core/refusal.ts';
import { modeOf } from '../core/fixtures/points.ts';
import { RELEASE_S } from '../core/lists/rows.ts';
import { slotKey } from '../core/cues/rows.ts';
import { hasKey, type FaderRow } from '../core/faders/rows.ts';
import type { Show } from '../core/show/show.ts';
import type { ShowMessage } from './clock-messages.ts';
import type { CommandOf } from '../core/live/commands.ts';
import type { Valued } from '../core/looks/value.ts';
import type { Actor } from './actor.ts';
import { anew, contentsOf, keysOf, lettingGo, movesTo } from './contents.ts';
import type { Answer } from './answer.ts';
import type { Playbacks } from './lists/playbacks.ts';

interface State {
  /** Where the fader stands. */
  level: number;
  /** What it gives. */
  real: number;
  waiting: boolean;
  flash: boolean;
  /** The look or group that it holds is up. */
  up?: boolean;
  /** What is no intensity has come in, where it comes at a level. */
  others?: boolean;
  /** Whose hand moved it last, and when. */
  hand?: { userId: string; name: string; at_ms: number };
  /** Keys of the slots that it gave when it last said what it holds. */
  gives?: ReadonlySet<string>;
}
/** A fader as it is saved. */
export type SavedFader = [string, Omit<State, 'flash' | 'gives' | 'hand'>];

interface FadersNeeds {
  readonly id: string;
  readonly show: Show;
  readonly lists: Playbacks;
  onto: () => Onto;
  slots: () => Slots;
  tell: (message: ShowMessage) => void;
  changed: (urgency: 'now' | 'soon') => void;
  now_ms: () => number;
  /** Sizes of effects have changed. */
  sized: () => void;
}

/** A hand that was on a fader so long ago has let it go. */
const IN_HAND_MS = 1000;
/** Where what is no intensity comes, if nothing else is said. */
const COME_AT = 0.5;

/** A rate fader: 10 % at its foot, 100 % in the middle, 1000 % at the top. */
const rateAt = (level: number): number => 10 ** (level * 2 - 1);
/** What the engine calls the playback of a fader. */
export const faderPlayback = (id: string): string => `fader:${id}`;

/** Faders of one show: where they stand, and what they give. */
export class Faders {
  private readonly states = new Map<string, State>();
  /** Keys that are held down: by whose fingers, of each fader. */
  private readonly fingers = new Map<string, Set<string>>();

  constructor(
    private readonly needs: FadersNeeds,
    saved: readonly SavedFader[],
  ) {
    for (const [id, state] of saved) this.states.set(id, { ...state, flash: false });
  }

  saved(): SavedFader[] {
    return [...this.states].map(([id, { flash, gives, hand, ...rest }]) => {
      void [flash, gives, hand];
      return [id, rest];
    });
  }

  private state(fader: FaderRow): State {
    const known = this.states.get(fader.id);
    if (known) return known;
    const level = restingLevel(fader);
    const fresh: State = { level, real: level, waiting: false, flash: false };
    this.states.set(fader.id, fresh);
    return fresh;
  }

  /** What each effect's size is times now. */
  sizes(): Map<string, number> {
    const sizes = new Map<string, number>();
    for (const f of this.needs.show.faders.values())
      if (f.holds.kind === 'effect' && f.mode === 'size')
        sizes.set(f.holds.id, (sizes.get(f.holds.id) ?? 1) * this.state(f).real);
    return sizes;
  }

  /** What each effect's speed is times now. */
  paces(): Map<string, number> {
    const paces = new Map<string, number>();
    for (const f of this.needs.show.faders.values())
      if (f.holds.kind === 'effect' && f.mode === 'rate')
        paces.set(f.holds.id, (paces.get(f.holds.id) ?? 1) * rateAt(this.state(f).real));
    return paces;
  }

  statuses(): FaderStatus[] {
    return [...this.needs.show.faders.values()]
      .sort((a, b) => a.number - b.number)
      .map((f) => {
        const { level, real, waiting, flash } = this.state(f);
        return { id: f.id, level, real, waiting, flash };
      });
  }

  byNumber(number: number): FaderRow | undefined {
    return [...this.needs.show.faders.values()].find((f) => f.number === number);
  }

  // --- commands ---

  /** @param by whose hand; another’s that is on it stands against all but what takes it */
  set(
    { fader: number, level, time, take = false }: CommandOf<'fader'>,
    by: Pick<Actor, 'userId' | 'name' | 'atPage'>,
  ): Answer {
    const fader = this.byNumber(number);
    if (!fader) return refuse('not-found', `There is no fader ${number}.`, { fader: 'Unknown.' });
    const state = this.state(fader);
    const { hand } = state;
    const now = this.needs.now_ms();
    const isHand = !take || by.atPage === true;
    if (isHand && hand && hand.userId !== by.userId && now - hand.at_ms < IN_HAND_MS)
      return refuse(
        'conflict',
        `${hand.name} has fader ${number} “${fader.name}” in hand. It stays as they move it.`,
      );
    state.hand = { userId: by.userId, name: by.name, at_ms: now };
    return this.move(fader, level, time ?? 0, take);
  }

  /** @param take at once, also when it waits to be picked up by a hand */
  move(fader: FaderRow, level: number, time_s: number, take: boolean): Answer {
    const state = this.state(fader);
    const before = state.level;
    state.level = level;
    if (take) state.waiting = false;
    if (state.waiting) {
      // Picked up when it crosses what it gives, or meets it.
      const crossed = (before - state.real) * (level - state.real) <= 0;
      if (!crossed) {
        this.needs.changed('soon');
        return {
          ok: true,
          message: `Fader ${fader.number} waits: move it across ${Math.round(state.real * 100)} % to pick it up`,
        };
      }
      state.waiting = false;
    }
    this.give(fader, state, level, time_s);
    this.needs.changed('soon');
    return { ok: true };
  }

  private give(fader: FaderRow, state: State, level: number, time_s: number): void {
    const was = state.real;
    state.real = level;
    const { holds } = fader;
    if (fader.mode === 'rate') {
      if (holds.kind === 'list') this.needs.lists.setRate(holds.id, rateAt(level));
      else this.needs.sized();
      return;
    }
    if (holds.kind === 'effect') {
      this.needs.sized();
      return;
    }
    if (fader.mode === 'inhibiting') {
      this.sendInhibit();
      return;
    }
    if (holds.kind === 'list') {
      // A list that waits to be raised comes up from nothing.
      if (was === 0 && fader.startsWhenRaised && time_s > 0)
        this.needs.lists.setMaster(holds.id, 0, 0);
      this.needs.lists.setMaster(holds.id, level, time_s);
      if (
        was === 0 &&
        level > 0 &&
        fader.startsWhenRaised &&
        this.needs.lists.at(holds.id) === null
      )
        this.needs.lists.start(holds.id, fader.inListTime ? undefined : 0);
      if (level === 0 && was > 0 && fader.releasesAtZero) {
        // It is at zero by its own hand: there is nothing to pick up.
        this.needs.lists.release(holds.id, time_s);
        state.real = 0;
        state.waiting = false;
      }
      return;
    }
    const id = faderPlayback(fader.id);
    if (level > 0 && !state.up) this.raise(fader, state);
    this.needs.tell({ do: 'list-master', showId: this.needs.id, listId: id, level, time_s });
    if (level === 0 && state.up && !state.flash) this.lower(fader, state, time_s);
    else if (state.up) this.othersTo(fader, state, state.flash ? 1 : level, time_s);
  }

  /** It lets go; what is no intensity in its own time, where it has one. */
  private lower(fader: FaderRow, state: State, time_s: number): void {
    const { id: showId, show, onto, tell } = this.needs;
    const listId = faderPlayback(fader.id);
    const own = fader.others?.come === 'raised' ? fader.others.time_s : undefined;
    const values = this.says(fader, state);
    state.up = false;
    state.others = false;
    if (own === undefined) {
      tell({ do: 'release', showId, listId, time_s });
      return;
    }
    const moves = movesTo(show, onto(), values, (v) =>
      familyOf(v.attribute) === 'intensity' ? time_s : own,
    );
    tell({ do: 'move', showId, listId, moves: lettingGo(moves), follow_s: null });
  }

  /** What is no intensity, where it does not simply come with the raising. @param level where the fader is, or is led to */
  private othersTo(fader: FaderRow, state: State, level: number, time_s: number): void {
    const { id: showId, show, onto, tell } = this.needs;
    const listId = faderPlayback(fader.id);
    const { others } = fader;
    if (others?.come === 'travel') tell({ do: 'presence', showId, listId, level, time_s });
    if (others?.come !== 'at') return;
    const wanted = level >= (others.at ?? COME_AT);
    if (wanted === (state.others ?? false)) return;
    const rest = contentsOf(show, fader.holds).filter((v) => familyOf(v.attribute) !== 'intensity');
    const moves = movesTo(show, onto(), rest, others.time_s ?? 0);
    state.others = wanted;
    state.gives = keysOf(this.says(fader, state));
    tell({
      do: 'move',
      showId,
      listId,
      moves: wanted ? moves : lettingGo(moves),
      follow_s: null,
    });
  }

  /** What it gives now, slot by slot. */
  private says(fader: FaderRow, state: State): Valued[] {
    const all = contentsOf(this.needs.show, fader.holds);
    return fader.others?.come === 'at' && !state.others
      ? all.filter((v) => familyOf(v.attribute) === 'intensity')
      : all;
  }

  /** A look or a group comes up: all that it says, at once; its intensity by the fader. */
  private raise(fader: FaderRow, state: State): void {
    state.up = true;
    state.others = false;
    this.needs.tell({
      do: 'list-master',
      showId: this.needs.id,
      listId: faderPlayback(fader.id),
      level: state.flash ? state.real : 0,
      time_s: 0,
    });
    const { show } = this.needs;
    const values = this.says(fader, state);
    state.gives = keysOf(values);
    const own = fader.others?.come === 'raised' ? (fader.others.time_s ?? 0) : 0;
    this.needs.tell({
      do: 'move',
      showId: this.needs.id,
      listId: faderPlayback(fader.id),
      moves: movesTo(show, this.needs.onto(), values, (v) =>
        familyOf(v.attribute) === 'intensity' ? 0 : own,
      ),
      follow_s: null,
    });
    // From nothing, also where it is led up in a time.
    if (fader.others?.come === 'travel') this.othersTo(fader, state, 0, 0);
  }

  /** What a fader that is up says has changed: it says it anew, and nobody's touch is later for it. */
  private sayAnew(fader: FaderRow, state: State): void {
    const { show } = this.needs;
    const values = this.says(fader, state);
    const says = anew(show, this.needs.onto(), values, state.gives ?? new Set());
    state.gives = keysOf(values);
    this.needs.tell({
      do: 'retarget',
      showId: this.needs.id,
      listId: faderPlayback(fader.id),
      ...says,
      asBefore: true,
      ...(fader.others?.come === 'travel' ? { presence: state.flash ? 1 : state.real } : {}),
    });
  }

  /** A key that two hold is up when both have lifted. @param on pressed, or lifted @param finger whose it is */
  flash(number: number, on: boolean, finger: string, by: string | null = null): Answer {
    const fader = this.byNumber(number);
    if (!fader) return refuse('not-found', `There is no fader ${number}.`, { fader: 'Unknown.' });
    if (!hasKey(fader))
      return refuse('invalid', `Fader ${number} “${fader.name}” has nothing to flash.`);
    if (fader.flash === 'toggle' || fader.flash === 'go')
      return on ? this.keyed(fader, by) : { ok: true };
    const fingers = this.fingers.get(fader.id) ?? new Set();
    if (on) this.fingers.set(fader.id, fingers.add(finger));
    else fingers.delete(finger);
    if (on || fingers.size === 0) this.press(fader, on);
    return { ok: true };
  }

  /** Lifts a finger that is on a key, whatever has become of its right meanwhile. @returns whether it was */
  lift(fader: FaderRow | undefined, finger: string): boolean {
    const fingers = fader && this.fingers.get(fader.id);
    if (!fader || !fingers?.delete(finger)) return false;
    if (fingers.size === 0) this.press(fader, false);
    return true;
  }

  /** Whoever held something is there no more. */
  liftAll(finger: string): void {
    for (const id of this.fingers.keys()) this.lift(this.needs.show.faders.get(id), finger);
  }

  /** A key that does its work as it is pressed. */
  private keyed(fader: FaderRow, by: string | null): Answer {
    if (fader.flash === 'go') return this.needs.lists.go(fader.holds.id, by);
    return this.move(fader, this.state(fader).real > 0 ? 0 : 1, 0, true);
  }

  press(fader: FaderRow, on: boolean): void {
    if (fader.flash === 'toggle' || fader.flash === 'go') {
      if (on) this.keyed(fader, null);
      return;
    }
    const state = this.state(fader);
    // What a cue lifts is nobody's any more.
    if (!on) this.fingers.delete(fader.id);
    if (state.flash === on) return;
    state.flash = on;
    const { holds } = fader;
    const playback = holds.kind === 'list' ? holds.id : faderPlayback(fader.id);
    if (holds.kind !== 'list' && on && !state.up) this.raise(fader, state);
    if (holds.kind === 'list' && on && this.needs.lists.at(holds.id) === null) {
      this.needs.lists.go(holds.id, null);
      state.up = true;
    }
    this.needs.tell({
      do: 'flash',
      showId: this.needs.id,
      listId: playback,
      on,
      solo: fader.flash === 'solo',
    });
    if (holds.kind !== 'list' && state.up) this.othersTo(fader, state, on ? 1 : state.real, 0);
    if (!on && holds.kind === 'list' && state.up) {
      // It was started by the flash, and goes with it.
      state.up = false;
      if (state.real === 0 || fader.startsWhenRaised) this.needs.lists.release(holds.id, 0);
    }
    if (!on && holds.kind !== 'list' && state.up && state.real === 0) {
      state.up = false;
      this.needs.tell({ do: 'release', showId: this.needs.id, listId: playback, time_s: 0 });
    }
    this.needs.changed('soon');
  }

  /** Lists that a fader keeps through release. */
  keptLists(): Set<string> {
    return new Set(
      [...this.needs.show.faders.values()].flatMap((f) =>
        f.keepsThroughRelease && f.holds.kind === 'list' ? [f.holds.id] : [],
      ),
    );
  }

  /** Looks and groups on faders let go, but those that keep through release. @returns how many */
  releaseAll(time: number | undefined): number {
    let released = 0;
    for (const fader of this.needs.show.faders.values()) {
      const state = this.state(fader);
      if (
        fader.keepsThroughRelease ||
        fader.holds.kind === 'list' ||
        fader.mode !== 'proportional' ||
        !state.up
      )
        continue;
      released++;
      state.up = false;
      this.waits(state);
      this.needs.tell({
        do: 'release',
        showId: this.needs.id,
        listId: faderPlayback(fader.id),
        time_s: time ?? RELEASE_S,
      });
    }
    if (released > 0) this.needs.changed('now');
    return released;
  }

  /** A list has let go by itself or from elsewhere: the fader that stands up gives nothing any more. */
  listReleased(listId: string): void {
    for (const fader of this.needs.show.faders.values()) {
      if (
        fader.holds.kind !== 'list' ||
        fader.holds.id !== listId ||
        fader.mode !== 'proportional' ||
        !fader.startsWhenRaised
      )
        continue;
      this.waits(this.state(fader));
    }
  }

  private waits(state: State): void {
    state.real = 0;
    state.waiting = state.level > 0;
  }

  // --- what lies beneath changes ---

  /** Inhibiting faders over the rig, as what they leave of each slot. */
  sendInhibit(): void {
    const { show } = this.needs;
    const slots = this.needs.slots();
    const inhibiting = [...show.faders.values()].filter((f) => f.mode === 'inhibiting');
    const levels = new Float32Array(slots.keys.length).fill(1);
    const { index } = this.needs.onto();
    for (const fader of inhibiting) {
      const { real } = this.state(fader);
      if (real === 1) continue;
      const fixtures = new Set(this.fixturesOf(fader));
      for (const fixtureId of fixtures) {
        const fixture = show.fixtures.get(fixtureId);
        const mode = fixture ? modeOf(show, fixture) : undefined;
        for (const attribute of mode ? attributesOf(mode) : []) {
          const slot =
            familyOf(attribute) === 'intensity'
              ? index.get(slotKey(fixtureId, attribute))
              : undefined;
          if (slot !== undefined) levels[slot] = (levels[slot] as number) * real;
        }
      }
    }
    this.needs.tell({ do: 'inhibit', showId: this.needs.id, levels });
  }

  private fixturesOf({ holds }: FaderRow): string[] {
    const { show } = this.needs;
    if (holds.kind === 'group') {
      const group = show.groups.get(holds.id);
      return group ? membersOf(show, group) : [];
    }
    if (holds.kind !== 'list') return contentsOf(show, holds).map((v) => v.fixtureId);
    return show
      .cuesOf(holds.id)
      .flatMap((c) => [...show.valuesOf(c.id).values()].map((v) => v.fixtureId));
  }

  /** A fader, its look or its group, or the rig has changed: what is up says it anew. */
  refresh(): void {
    for (const [id, state] of [...this.states]) {
      const fader = this.needs.show.faders.get(id);
      if (fader) {
        if (state.up && fader.holds.kind !== 'list') this.sayAnew(fader, state);
        continue;
      }
      this.states.delete(id);
      this.needs.tell({
        do: 'release',
        showId: this.needs.id,
        listId: faderPlayback(id),
        time_s: RELEASE_S,
      });
    }
    this.sendInhibit();
  }
}

/** Where a fader stands until somebody moves it: what it does not take away. */
function restingLevel(fader: FaderRow): number {
  if (fader.mode === 'rate') return 0.5;
  if (fader.mode === 'inhibiting' || fader.mode === 'size') return 1;
  return fader.holds.kind === 'list' && !fader.startsWhenRaised ? 1 : 0;
}
