/**
 * One open show on the player's main thread: what plays and what operators hold, in the words of the show. The clock
 * does the arithmetic; this decides what it is told. Everything here is saved and comes back after a crash.
 */
import { isByUnit } from '../core/effects/lanes.ts';
import { followPalette, followLook, rigChanged } from './programmers/following.ts';
import { savedOperators } from './programmers/programmers.ts';
import { heldBy, programmerOf } from './programmers/seen.ts';
import { personLeft } from './programmers/selecting.ts';
import { trialsOfGone, underTrials } from './programmers/trying.ts';
import type {
  AirState,
  HeldValue,
  OverState,
  PlaybackState,
  SourceRun,
} from '../core/live/messages.ts';
import {
  isOfShow,
  LIVE,
  type CommandOf,
  type LiveCommand,
  type OfShow,
} from '../core/live/commands.ts';
import { type Shared } from '../core/playback/engine.ts';
import { describe, type EngineCopy } from '../core/playback/saved.ts';
import { type Slots } from '../core/playback/slots.ts';
import { refuse } from '../core/refusal.ts';
import { byNumber, LIT } from '../core/select/select.ts';
import { formatCueNumber } from '../core/cues/number.ts';
import { slotKey } from '../core/cues/rows.ts';
import { dueBetween } from '../core/occasions/next.ts';
import type { RouteRow } from '../core/routes/rows.ts';
import { showName, type MutableShow, type RowChange, type Show } from '../core/show/show.ts';
import { TABLES, type TableName } from '../core/show/tables.ts';
import { means } from '../core/show/after.ts';
import { altered, type Change } from '../core/show/undo.ts';

import { advance } from '../store/commit.ts';
import { fingerOf, REMOTE, type Actor } from './actor.ts';
import type { Arrivals } from './arrivals.ts';
import type { FromClock, ShowMessage } from './clock-messages.ts';
import { swappedBy, type Swapped } from './held-values.ts';
import type { Programmers } from './programmers/programmers.ts';
import type { CueActions } from './cue-actions.ts';
import type { Faders } from './faders.ts';
import { guardsOfRig, guardStates, type Guards } from './guards.ts';
import { endedPlayed, playedStatuses, refreshPlayed, savedPlayed, type Played } from './played.ts';
import type { Learning } from './hands/learning.ts';
import type { Overlays } from './overlays.ts';
import type { Playbacks } from './lists/playbacks.ts';
import { type Answer, type Done } from './answer.ts';
import type { LeftLights } from './left-light.ts';
import { type Why } from './left-light.ts';
import { WORTH_TABLES } from '../core/crew/worth.ts';
import { mayNotCommand } from './may.ts';
import { isPlaying, needsBoard, thingOf } from '../core/live/boards.ts';
import type { Noted } from './noted.ts';
import { readSlotKey } from '../core/cues/rows.ts';
import { seenLevels } from '../core/playback/seen.ts';
import { readWire } from '../core/playback/unwire.ts';
import { sourceAttribute } from '../core/rig/transform.ts';
import type { Together, Word } from './together.ts';
import { sourceRuns, stageReport } from './report.ts';
import { carryOut } from './carry-out.ts';
import {
  type Rig,
  routesOf,
  sentRoutes,
  takeShared,
  hasOtherUniverses,
  compileAgain,
  bytesOf,
  configsOf,
} from './rig.ts';
import type { SavedShow } from './saved-show.ts';
import type { Sources } from './sources.ts';
import type { Standing } from './standing.ts';

/** Who hears of what happens in a show. */
export interface Audience {
  playback: () => void;
  programmer: (userId: string) => void;
  slots: () => void;
  changed: (change: Change) => void;
  over: () => void;
  /** Something to be saved: at once, or soon. */
  touched: (urgency: 'now' | 'soon') => void;
  present: (userId: string) => boolean;
  /** Who is here now. */
  people: () => Pick<Actor, 'userId' | 'name' | 'role'>[];
  word: (userId: string, word: Word) => void;
  journal: (noted: Noted) => void;
  version: (name: string, by: Pick<Actor, 'userId' | 'name'>) => void;
  /** A sound for the screens that play sound. @returns how many there are */
  sound: (soundId: string) => number;
}

/** What a live show is made of; `open-show.ts` makes it. */
export interface LiveParts {
  id: string;
  /** The show's rows, which edits change in place, and the last change in them. */
  copy: { show: MutableShow; seq: number };
  rig: Rig;
  standing: Standing;
  audience: Audience;
  tell: (message: ShowMessage) => void;
  copyEngine: () => Promise<EngineCopy | null>;
  /** How many steps of lists, and lettings go, the clock has been told. */
  steps: () => number;
  /** Effects, or their tempo, have changed: the clock goes on with them where they are. */
  sendPrograms: () => void;
  lists: Playbacks;
  faders: Faders;
  played: Played;
  actions: CueActions;
  programmers: Programmers;
  together: Together;
  left: LeftLights;
  arrivals: Arrivals;
  overlays: Overlays;
  guards: Guards;
  sources: Sources;
}

/** Whether a change decides which slots there are or how they are written: a label moves nothing on stage. */
function isElectric(change: RowChange): boolean {
  const { electric } = TABLES[change.table];
  if (!electric || !change.before || !change.after) return electric !== undefined;
  const except = electric.except as readonly string[];
  return altered(change).some((field) => !except.includes(field));
}

/** Somebody who takes steps faster than the clock answers is kept as near as it comes. */
const MOST_TRIES = 5;

interface Masters {
  level?: number;
  blackout?: boolean;
}

/** An open show: the parts that play it. */
export class LiveShow {
  readonly id: string;
  readonly copy: { show: MutableShow; seq: number };
  readonly lists: Playbacks;
  readonly faders: Faders;
  readonly played: Played;
  readonly actions: CueActions;
  readonly programmers: Programmers;
  readonly together: Together;
  readonly left: LeftLights;
  readonly overlays: Overlays;
  readonly guards: Guards;
  readonly learning: Learning = new Map();

  constructor(private readonly parts: LiveParts) {
    this.id = parts.id;
    this.copy = parts.copy;
    this.lists = parts.lists;
    this.faders = parts.faders;
    this.played = parts.played;
    this.actions = parts.actions;
    this.programmers = parts.programmers;
    this.together = parts.together;
    this.left = parts.left;
    this.overlays = parts.overlays;
    this.guards = parts.guards;
  }

  get show(): MutableShow {
    return this.copy.show;
  }
  get name(): string {
    return showName(this.show);
  }
  get slots(): Slots {
    return this.parts.rig.slots;
  }
  get version(): number {
    return this.parts.rig.version;
  }
  get shared(): Shared | null {
    return this.parts.rig.shared;
  }
  get remotes(): boolean {
    return this.parts.standing.remotes;
  }
  /** Routes that are switched on, of universes that are patched: what leaves when the show is on air. */
  sent(): RouteRow[] {
    return sentRoutes(this.parts.rig, this.show);
  }

  // --- what the clock says ---

  heard(message: FromClock): void {
    const { rig, audience } = this.parts;
    if (message.is === 'shared') {
      if (takeShared(rig, message)) audience.slots();
    } else if (message.is === 'names') {
      rig.operators = message.operators;
      rig.lists = message.lists;
    } else if (message.is === 'status') {
      this.lists.heard(message);
      audience.playback();
      audience.touched('soon');
    } else if (message.is === 'due') {
      this.lists.due(message.listId);
    } else if (message.is === 'ended') {
      endedPlayed(this.played, message.listId);
    }
  }

  // --- commands ---

  command(actor: Actor, command: CommandOf<OfShow>): Answer {
    return (
      mayNotCommand(actor, command.command, this.remotes) ??
      (needsBoard(command) ? this.together.onBoard(actor, command) : null) ??
      this.whoever(command, actor)
    );
  }

  /**
   * What a finger holds it may always let go of, whatever has become of its right, the board or the remotes meanwhile.
   * @returns whether that is what the command does; then it is done
   */
  lift(actor: Actor, command: LiveCommand): boolean {
    const finger = fingerOf(actor);
    if (command.command === 'flash' && !command.on)
      return this.faders.lift(this.faders.byNumber(command.fader), finger);
    if (command.command !== 'touch' || command.on !== false) return false;
    const is = this.show.sheetpieces.get(command.piece)?.is;
    return is?.kind === 'fader' && this.faders.lift(this.show.faders.get(is.fader), finger);
  }

  /** A screen or a hand that is there no more holds nothing. */
  gone(finger: string): void {
    this.faders.liftAll(finger);
  }

  /** A remote control plays, whoever is on the board, while remotes are switched on. */
  fromRemote(command: LiveCommand): Answer {
    if (!this.remotes) return refuse('remotes', 'Remote controls are off for this show.');
    // What a touched piece plays is a matter of the piece; whatever it is, it plays.
    const plays = isOfShow(command) && (isPlaying(command) || command.command === 'touch');
    return plays
      ? this.whoever(command, REMOTE)
      : refuse('forbidden', 'A remote control only plays.');
  }

  /** Does it, whoever is on the board; what goes on is noted with who did it. */
  whoever(command: CommandOf<OfShow>, actor: Actor): Answer {
    const answer = carryOut(this, command, actor);
    const { journal } = LIVE[command.command];
    const thing = thingOf(this.show, command);
    if ('ok' in answer && journal && thing !== 'show' && 'list' in thing)
      this.together.went(actor, journal, thing.list, this.lists.state(thing.list).cueId);
    return answer;
  }

  get blackout(): boolean {
    return this.parts.standing.blackout;
  }

  tellWord(userId: string, word: Word): void {
    this.parts.audience.word(userId, word);
  }

  setTempo(bpm: number): Answer {
    this.parts.standing.tempo_bpm = bpm;
    this.parts.sendPrograms();
    return this.stands('soon');
  }

  setMaster({ level, blackout }: Masters): Answer {
    const { standing, tell } = this.parts;
    standing.master = level ?? standing.master;
    standing.blackout = blackout ?? standing.blackout;
    tell({
      do: 'master',
      showId: this.id,
      level: standing.master,
      blackout: standing.blackout,
    });
    return this.stands('soon');
  }

  setRemotes(on: boolean): Answer {
    this.parts.standing.remotes = on;
    return {
      ...this.stands('now'),
      message: on ? 'Remote controls may play this show' : 'Remote controls are off',
    };
  }

  /** What stands over the show has changed: told and kept. */
  private stands(urgency: 'now' | 'soon'): Done {
    this.parts.audience.playback();
    this.parts.audience.touched(urgency);
    return { ok: true };
  }

  // --- edits, as they arrive ---

  /** @returns false when a change is missing in between and the show must be caught up first */
  apply(change: Change): boolean {
    if (change.seq <= this.copy.seq) return true;
    const { arrivals, rig, tell, audience } = this.parts;
    const touched = arrivals.touched(change);
    const swapped = swappedBy(this.show, change.rows);
    if (!advance(this.copy, change)) return false;
    const routed = change.rows.some((r) => r.table === 'routes');
    if (routed || change.rows.some((r) => WORTH_TABLES.has(r.table)))
      tell({ do: 'routes', showId: this.id, ...routesOf(this.show) });
    // A universe that is sent has bytes, also without a fixture on it.
    const others = routed && hasOtherUniverses(rig, this.show);
    if (others || change.rows.some(isElectric)) this.rebuild(swapped);
    // The cue on stage is gone: its levels stay until GO goes on.
    for (const listId of this.lists.followEdits(change.rows)) touched.delete(listId);
    if (change.rows.some((r) => shapesEffects(this.show, r.table))) this.parts.sendPrograms();
    underTrials(this.programmers, change.rows);
    arrivals.followMeaning(change, touched);
    arrivals.retarget(touched);
    if (change.rows.some((r) => r.table === 'lists' || r.table === 'faders'))
      tell({ do: 'lists', showId: this.id, configs: configsOf(this.show) });
    if (change.rows.some((r) => r.table === 'faders' || means(r.table))) this.refresh();
    if (change.edit === 'record-cue') arrivals.recorded(change);
    if (change.edit === 'undo' || change.edit === 'redo') arrivals.reversed(change);
    if (change.edit === 'update-source') arrivals.updated(change);
    const [recorded] = change.rows;
    if (change.edit === 'record-palette' && recorded?.table === 'palettes' && recorded.after)
      followPalette(this.programmers, change.userId, recorded.after);
    if (change.edit === 'record-look' && recorded?.table === 'looks' && recorded.after)
      followLook(this.programmers, change.userId, recorded.id);
    audience.changed(change);
    if (change.rows.some((r) => r.table === 'cues' || r.table === 'lists' || r.table === 'faders'))
      audience.playback();
    return true;
  }

  /** Rows that are tried: they play, and are not in the show. What is kept comes as an edit and stands under them. */
  lay(rows: readonly RowChange[]): void {
    const { arrivals } = this.parts;
    this.show.apply(rows);
    this.parts.sendPrograms();
    const touched = new Map<string, Set<string>>();
    arrivals.followMeaning({ rows }, touched);
    arrivals.retarget(touched);
    this.refresh();
  }

  /** What is up besides lists says anew what it says. */
  private refresh(): void {
    this.faders.refresh();
    refreshPlayed(this.played);
  }

  private rebuild(swapped: readonly Swapped[]): void {
    const { rig, tell } = this.parts;
    compileAgain(rig, this.show);
    tell({ do: 'rig', showId: this.id, slots: rig.slots, version: rig.version });
    this.overlays.rigChanged();
    guardsOfRig(this.guards);
    this.refresh();
    rigChanged(this.programmers, swapped);
  }

  // --- what others see ---

  held(userId: string): { values: HeldValue[]; selection: string[] } {
    return {
      values: [...heldBy(this.programmers, userId).values()],
      selection: programmerOf(this.programmers, userId).selection,
    };
  }

  /** As it plays, before its own curves and limits; undefined for what the unit has not. */
  levelOf(fixtureId: string, attribute: string): number | undefined {
    const { shared, index } = this.parts.rig;
    const unit = this.show.fixtures.get(fixtureId);
    const slot = unit && index.get(slotKey(fixtureId, sourceAttribute(unit, attribute)));
    return slot === undefined ? undefined : shared?.merged[slot];
  }

  /** Fixtures that are lit now, by number. */
  lit(): string[] {
    const { shared, index } = this.parts.rig;
    if (!shared) return [];
    return byNumber(this.show)
      .filter((f) => (shared.merged[index.get(slotKey(f.id, 'Dimmer')) ?? -1] ?? 0) >= LIT)
      .map((f) => f.id);
  }

  get holder(): PlaybackState['holder'] {
    const held = this.together.boards.holder();
    return held ? { userId: held.userId, name: held.name } : null;
  }

  playback(): PlaybackState {
    return {
      ...this.parts.standing,
      holder: this.holder,
      boards: this.together.boards.states(),
      left: this.left.states(),
      ...this.together.calls.states(),
      reports: this.actions.reports,
      lists: this.lists.statuses(),
      faders: this.faders.statuses(),
      played: playedStatuses(this.played),
    };
  }

  /** Where the level of a slot comes from, in words. */
  source(slot: number, shared: Shared): string {
    return this.parts.sources.of(slot, shared);
  }

  over(userId: string): OverState {
    return { ...this.overlays.state(userId), guarded: guardStates(this.guards) };
  }

  /** Somebody came, with a role that plays: what they hold is in their own hands again. */
  personCame(userId: string): void {
    this.left.back(userId);
    this.together.boards.presence(userId, true);
    this.parts.audience.programmer(userId);
  }

  /** Who may not play any more is on no board, and what they hold is for others to decide. */
  withdrawn(userId: string, why: Why): void {
    this.together.boards.withdrawn(userId);
    this.left.went(userId, why);
  }

  /** Lists that go by the calendar. @param from left out, to within */
  occasionsCame(from: Date, to: Date): void {
    const place = this.show.settings.get('show')?.place;
    for (const { list, does, cue, name } of dueBetween(
      this.show.occasions.values(),
      from,
      to,
      place,
    )) {
      const number = this.show.cues.get(cue ?? '')?.number;
      if (does === 'go') this.lists.go(list, null);
      else if (does === 'release') this.lists.release(list, undefined);
      else if (does === 'play') this.lists.track(list, { do: 'play', at_s: 0 });
      else if (number !== undefined) this.lists.goTo(list, formatCueNumber(number), undefined);
      this.parts.audience.journal({
        kind: 'go',
        by: { userId: 'calendar', name: 'the calendar' },
        text: `“${name}” came: ${this.show.lists.get(list)?.name ?? ''}`,
      });
    }
  }

  /** Once a second. */
  lookAtPeople(): void {
    this.together.look();
    if (this.left.look()) this.parts.audience.playback();
  }

  /** Nothing that a person forced stays when their last screen is gone. */
  personLeft(userId: string, why: Why = 'away'): void {
    this.left.went(userId, why);
    this.parts.audience.programmer(userId);
    this.overlays.endChecks(userId);
    personLeft(this.programmers, userId);
    trialsOfGone(this.programmers, userId);
    this.together.boards.presence(userId, false);
  }

  /** Where each byte of a universe comes from, as runs of addresses. */
  sourcesOf(universe: number): SourceRun[] {
    return sourceRuns(this, universe, (address) => this.overlays.sourceOfByte(universe, address));
  }

  /** Levels as they are seen on stage; undefined while nothing plays. Where other desks are merged, with what they send. */
  seen(): Float32Array | undefined {
    const { slots, shared } = this.parts.rig;
    if (!shared) return undefined;
    const merged = [...this.show.inputs.values()].filter((i) => i.merge !== 'look');
    if (merged.length === 0) return shared.out;
    const universes = new Set(merged.map((i) => i.universe));
    return seenLevels(slots, shared.out, universes, (u) => this.bytesOf(u));
  }

  /** A universe's bytes as they are sent, or undefined when it has none. */
  bytesOf(universe: number): Uint8Array | undefined {
    return bytesOf(this.parts.rig, universe);
  }

  /** What bytes of a universe would be as levels of the units that are patched there. */
  valuesOf(
    universe: number,
    bytes: Uint8Array,
  ): { fixtureId: string; attribute: string; level: number }[] {
    const { slots } = this.parts.rig;
    return [...readWire(slots, universe, bytes)].map(([slot, level]) => ({
      ...readSlotKey(slots.keys[slot] ?? ''),
      level,
    }));
  }

  /** What is on stage now, for `GET /api/shows/:id/stage`. */
  stage(air: AirState): Record<string, unknown> {
    return stageReport(this, air.showId === this.id);
  }

  async saved(): Promise<SavedShow> {
    const copy = await this.copyAsItStands();
    return {
      lists: this.lists.saved(),
      faders: this.faders.saved(),
      played: savedPlayed(this.played),
      guards: guardStates(this.guards),
      ...this.parts.standing,
      programmers: savedOperators(this.programmers),
      recordings: this.parts.arrivals.saved(),
      boards: this.together.boards.saved(),
      left: this.left.saved(),
      engine: copy ? describe(copy) : null,
      ...this.overlays.saved(),
    };
  }

  /** What plays, as the lists stand: where one takes a step while the clock answers, it is asked again (live-show.test.ts). */
  private async copyAsItStands(): Promise<EngineCopy | null> {
    for (let tries = 1; ; tries++) {
      const { steps, copyEngine } = this.parts;
      const before = steps();
      const copy = await copyEngine();
      if (steps() === before || tries === MOST_TRIES) return copy;
    }
  }

  get fading(): boolean {
    return this.playback().lists.some((l) => l.running && !l.paused);
  }
}

/** Whether a change of a table may change what effects do: steps go where palettes say, and on each unit elsewhere. */
const shapesEffects = (show: Show, table: TableName): boolean =>
  table === 'effects' ||
  ((table === 'palettes' || table === 'fixtures' || table === 'types' || table === 'groups') &&
    [...show.effects.values()].some((e) => e.tracks.some(isByUnit)));
