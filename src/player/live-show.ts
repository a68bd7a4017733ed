/**
 * One open show on the player's main thread: what plays and what operators hold, in the words of the show. The clock
 * does the arithmetic; this decides what it is told. Everything here is saved and comes back after a crash.
 */
import { PLAYERS } from '../core/roles.ts';
import { cueCalled } from '../core/cues/called.ts';
import { prePositions } from '../core/cues/pre-position.ts';
import { cueAfter, trackedAt, type Tracked } from '../core/cues/tracking.ts';
import { effectOf, type Valued } from '../core/looks/value.ts';
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
import { OPERATOR } from '../core/playback/winner.ts';
import { describe, type SavedEngine } from '../core/playback/saved.ts';
import type { FindWave, Onto } from '../core/playback/moves.ts';
import { compileEffects, waveFinder } from '../core/playback/programs.ts';
import { compileSlots, slotIndex, universesOf, type Slots } from '../core/playback/slots.ts';
import { refuse } from '../core/refusal.ts';
import { byNumber, LIT } from '../core/select/select.ts';
import { sectionAt } from '../core/script/parse.ts';
import { PRIORITY } from '../core/lists/rows.ts';
import { slotKey, type CueRow } from '../core/cues/rows.ts';
import type { RouteRow } from '../core/routes/rows.ts';
import { firstList, showName, type MutableShow, type RowChange } from '../core/show/show.ts';
import { TABLES } from '../core/show/tables.ts';
import { means } from '../core/show/after.ts';
import { altered, type Change } from '../core/show/undo.ts';

import { advance } from '../store/commit.ts';
import type { Actor } from './actor.ts';
import { Arrivals, type Recording } from './arrivals.ts';
import type { Clock } from './clock-client.ts';
import type { FromClock } from './clock-messages.ts';
import { swappedBy, type Swapped } from './held-values.ts';
import { Programmers, type SavedOperator } from './programmers.ts';
import { CueActions, type Outside } from './cue-actions.ts';
import { faderPlayback, Faders, type SavedFader } from './faders.ts';
import { Overlays, type Focused, type Parked } from './overlays.ts';
import { Playbacks, type Answer, type ListState } from './playbacks.ts';
import type { SavedBoard } from './boards.ts';
import { LeftLights, type SavedLeft, type Why } from './left-light.ts';
import { mayNotCommand } from './may.ts';
import { isPlaying, needsBoard, thingOf } from '../core/live/boards.ts';
import type { Noted } from './noted.ts';
import { Together, type Word } from './together.ts';
import { sourceRuns, stageReport } from './report.ts';
import { carryOut } from './carry-out.ts';

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

/** What is kept in the database between one process and the next. */
export interface SavedShow {
  lists: [string, ListState][];
  programmers: [string, SavedOperator][];
  master: number;
  blackout: boolean;
  /** In states from before a show had several boards. */
  holder?: PlaybackState['holder'];
  boards?: SavedBoard[];
  left?: SavedLeft[];
  engine: SavedEngine | null;
  /** Absent in states from before there was any. */
  parked?: Parked[];
  focus?: Focused[];
  faders?: SavedFader[];
  recordings?: Recording[];
  remotes?: boolean;
  act?: PlaybackState['act'];
  scene?: PlaybackState['scene'];
  tempo_bpm?: number;
}

/** Nothing to send to: for shows that play without an outside, such as a rehearsal of checks. */
const NO_OUTSIDE: Outside = {
  osc: () => Promise.resolve(undefined),
  midi: () => Promise.resolve(undefined),
};

/** Whether a change decides which slots there are or how they are written: a label moves nothing on stage. */
function isElectric(change: RowChange): boolean {
  const { electric } = TABLES[change.table];
  if (!electric || !change.before || !change.after) return electric !== undefined;
  const except = electric.except as readonly string[];
  return altered(change).some((field) => !except.includes(field));
}

const REMOTE: Actor = { userId: 'remote', name: 'a remote control', role: 'operator', via: 'OSC' };

interface Masters {
  level?: number;
  blackout?: boolean;
}

export class LiveShow {
  slots: Slots;
  version = 1;
  shared: Shared | null = null;
  master = 1;
  blackout = false;
  private index: Map<string, number>;
  private operatorIds: string[] = [];
  private listIds: string[] = [];
  readonly lists: Playbacks;
  readonly faders: Faders;
  readonly actions: CueActions;
  remotes: boolean;
  private act: PlaybackState['act'] = null;
  private scene: PlaybackState['scene'] = null;
  readonly programmers: Programmers;
  readonly together: Together;
  readonly left: LeftLights;
  private readonly arrivals: Arrivals;
  readonly overlays: Overlays;
  private tempo_bpm = 120;
  private find: FindWave;

  constructor(
    readonly id: string,
    readonly copy: { show: MutableShow; seq: number },
    private readonly clock: Pick<Clock, 'tell' | 'copy'>,
    private readonly audience: Audience,
    saved: SavedShow | null,
    outside: Outside = NO_OUTSIDE,
    private readonly now_ms: () => number = () => performance.now(),
  ) {
    this.slots = compileSlots(copy.show);
    this.index = slotIndex(this.slots);
    this.remotes = saved?.remotes ?? false;
    this.act = saved?.act ?? null;
    this.scene = saved?.scene ?? null;
    if (saved) {
      this.tempo_bpm = saved.tempo_bpm ?? this.tempo_bpm;
      this.master = saved.master;
      this.blackout = saved.blackout;
    }
    const changed = (urgency: 'now' | 'soon'): void => {
      audience.playback();
      audience.touched(urgency);
    };
    const under = {
      id,
      show: copy.show,
      onto: () => this.onto(),
      slots: () => this.slots,
      tell: clock.tell.bind(clock),
      changed,
      now_ms: this.now_ms,
    };
    this.lists = new Playbacks(
      {
        ...under,
        act: (cue) => {
          this.enterSection(cue);
          this.actions.run(cue);
        },
        released: (listId) => {
          this.faders.listReleased(listId);
          if (listId !== firstList(copy.show)?.id) return;
          this.act = null;
          this.scene = null;
        },
      },
      saved?.lists ?? [],
    );
    this.faders = new Faders(
      { ...under, lists: this.lists, sized: () => this.sendPrograms() },
      saved?.faders ?? [],
    );
    this.actions = new CueActions({
      show: copy.show,
      lists: this.lists,
      faders: this.faders,
      outside,
      releaseLooks: () => this.faders.releaseAll(undefined),
      letOff: () => this.overlays.focus({ userId: '', name: '' }, undefined, 1, false, new Date()),
      remotes: (on) => this.setRemotes(on),
      macro: (fixtures, name) =>
        this.overlays.macro({ userId: '', name: 'a cue' }, fixtures, name, 0, fixtures.length),
      sound: audience.sound,
      reported: () => changed('soon'),
      now: () => new Date(),
    });
    const programs = compileEffects(copy.show, this.tempo_bpm, this.faders.sizes());
    this.find = waveFinder(programs);
    clock.tell({
      do: 'open',
      configs: this.configs(),
      showId: this.id,
      slots: this.slots,
      version: this.version,
      saved: saved?.engine ?? null,
      routes: [...copy.show.routes.values()],
      programs,
    });
    this.overlays = new Overlays(
      {
        ...this.asUnder(),
        slots: () => this.slots,
        levelNow: (slot) => this.shared?.out[slot] ?? 0,
        tell: (overrides) => clock.tell({ do: 'override', showId: this.id, overrides }),
        changed: () => this.overlaid(),
      },
      { parked: saved?.parked ?? [], focus: saved?.focus ?? [] },
    );
    this.programmers = new Programmers(
      {
        ...this.asUnder(),
        id: this.id,
        levelNow: (slot) => this.shared?.merged[slot] ?? 0,
        recordedAt: (slot) => this.recordedAt(slot),
        findWave: (effectId, attribute) => this.find(effectId, attribute),
        tell: (message) => clock.tell(message),
        highlight: (userId, name, at) => this.overlays.highlight(userId, name, at),
        othersPart: (actor, ids) => this.together.othersPart(actor, ids),
        both: (actor, other, values) => this.together.both(actor, other, values),
        present: audience.present,
        changed: (userId, urgency) => {
          audience.programmer(userId);
          audience.touched(urgency);
        },
      },
      saved?.programmers ?? [],
    );
    this.together = new Together(
      {
        show: copy.show,
        people: audience.people,
        present: audience.present,
        now_ms: this.now_ms,
        changed: () => changed('now'),
        tell: audience.playback,
        word: audience.word,
        journal: audience.journal,
        version: audience.version,
        play: (command, actor) => this.whoever(command, actor),
        next: (listId) => this.lists.next(listId)?.cue.id,
        faderLevel: (faderId) => this.faders.statuses().find((f) => f.id === faderId)?.level ?? 0,
        remotes: () => this.remotes,
      },
      saved?.boards ?? (saved?.holder ? [{ thing: 'show', ...saved.holder, since: '' }] : []),
    );
    this.left = new LeftLights(
      {
        holds: (userId) => this.programmers.holds(userId),
        holders: () => this.programmers.holders(),
        present: audience.present,
        someoneDecides: () => audience.people().some((p) => PLAYERS.includes(p.role)),
        takeOver: (from, to) => this.programmers.takeOver(from, to),
        letGo: (userId, name, fade_s) =>
          void this.programmers.letGo({ userId, name }, undefined, fade_s),
        now_ms: this.now_ms,
        changed: () => changed('now'),
        journal: audience.journal,
      },
      saved?.left ?? [],
    );
    this.arrivals = new Arrivals(
      {
        ...under,
        lists: this.lists,
        programmers: this.programmers,
        saved: () => audience.touched('soon'),
      },
      saved?.recordings ?? [],
    );
    if (this.overlays.any) this.overlays.send();
    this.faders.sendInhibit();
  }

  get show(): MutableShow {
    return this.copy.show;
  }
  /** Routes that are switched on, of universes that are patched: what leaves when the show is on air. */
  sent(): RouteRow[] {
    return [...this.show.routes.values()].filter(
      (r) => r.on && this.slots.universes.includes(r.universe),
    );
  }

  get name(): string {
    return showName(this.show);
  }

  // --- what lies over it all ---

  private asUnder(): { show: MutableShow; slotOf: (key: string) => number | undefined } {
    return { show: this.copy.show, slotOf: (key) => this.index.get(key) };
  }

  /** The rig as it is played on. */
  private onto(): Onto {
    return { index: this.index, family: this.slots.family, find: this.find };
  }

  /** How lists and faders meet in the merge. */
  private configs(): { id: string; ltp: boolean; priority: number }[] {
    const lists = [...this.show.lists.values()].map((l) => ({
      id: l.id,
      ltp: l.intensity === 'ltp',
      priority: l.priority ?? PRIORITY,
    }));
    const faders = [...this.show.faders.values()].map((f) => ({
      id: faderPlayback(f.id),
      ltp: false,
      priority: f.priority ?? PRIORITY,
    }));
    return [...lists, ...faders];
  }

  /** Running times count from the cue that began the act and the scene. */
  private enterSection(cue: CueRow): void {
    if (cue.listId !== firstList(this.show)?.id) return;
    for (const call of this.show.calls.values()) {
      if (call.cueId !== cue.id) continue;
      const script = this.show.scripts.get(call.scriptId);
      if (!script || script.format === 'order') continue;
      const { act, scene } = sectionAt(script, call.from);
      const since = new Date().toISOString();
      if (act !== (this.act?.name ?? '')) this.act = act === '' ? null : { name: act, since };
      if (scene !== (this.scene?.name ?? ''))
        this.scene = scene === '' ? null : { name: scene, since };
      return;
    }
  }

  setRemotes(on: boolean): Answer {
    this.remotes = on;
    this.audience.playback();
    this.audience.touched('now');
    return {
      ok: true,
      message: on ? 'Remote controls may play this show' : 'Remote controls are off',
    };
  }

  private overlaid(): void {
    this.audience.over();
    this.audience.touched('soon');
  }

  /** Effects, or their tempo, have changed: the clock goes on with them where they are. */
  private sendPrograms(): void {
    const programs = compileEffects(this.show, this.tempo_bpm, this.faders.sizes());
    this.find = waveFinder(programs);
    this.clock.tell({ do: 'programs', showId: this.id, programs });
  }

  // --- what the clock says ---

  heard(message: FromClock): void {
    if (message.is === 'shared') {
      this.operatorIds = message.operators;
      this.listIds = message.lists;
      if (message.version !== this.version) return;
      this.shared = message.shared;
      this.audience.slots();
    } else if (message.is === 'names') {
      this.operatorIds = message.operators;
      this.listIds = message.lists;
    } else if (message.is === 'status') {
      this.lists.heard(message);
      this.audience.playback();
      this.audience.touched('soon');
    } else if (message.is === 'due') {
      this.lists.go(message.listId, null);
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

  /** A remote control plays, whoever is on the board, while remotes are switched on. */
  fromRemote(command: LiveCommand): Answer {
    if (!this.remotes) return refuse('remotes', 'Remote controls are off for this show.');
    return isOfShow(command) && isPlaying(command)
      ? this.whoever(command, REMOTE)
      : refuse('forbidden', 'A remote control only plays.');
  }

  /** Does it, whoever is on the board; what goes on is noted with who did it. */
  private whoever(command: CommandOf<OfShow>, actor: Actor): Answer {
    const answer = carryOut(this, command, actor);
    const { journal } = LIVE[command.command];
    const thing = thingOf(this.show, command);
    if ('ok' in answer && journal && thing !== 'show' && 'list' in thing)
      this.together.went(actor, journal, thing.list, this.lists.state(thing.list).cueId);
    return answer;
  }

  setTempo(bpm: number): Answer {
    this.tempo_bpm = bpm;
    this.sendPrograms();
    this.audience.playback();
    this.audience.touched('soon');
    return { ok: true };
  }

  setMaster({ level = this.master, blackout = this.blackout }: Masters): Answer {
    this.master = level;
    this.blackout = blackout;
    this.clock.tell({ do: 'master', showId: this.id, level, blackout });
    this.audience.playback();
    this.audience.touched('soon');
    return { ok: true };
  }

  // --- edits, as they arrive ---

  /** @returns false when a change is missing in between and the show must be caught up first */
  apply(change: Change): boolean {
    if (change.seq <= this.copy.seq) return true;
    const touched = this.arrivals.touched(change);
    const swapped = swappedBy(this.show, change.rows);
    if (!advance(this.copy, change)) return false;
    const routed = change.rows.some((r) => r.table === 'routes');
    if (routed)
      this.clock.tell({ do: 'routes', showId: this.id, routes: [...this.show.routes.values()] });
    // A universe that is sent has bytes, also without a fixture on it.
    const others = routed && universesOf(this.show).join() !== this.slots.universes.join();
    if (others || change.rows.some(isElectric)) this.rebuild(swapped);
    // The cue on stage is gone: its levels stay until GO goes on.
    for (const listId of this.lists.followEdits(change.rows)) touched.delete(listId);
    if (change.rows.some((r) => r.table === 'effects')) this.sendPrograms();
    this.arrivals.followMeaning(change, touched);
    this.arrivals.retarget(touched);
    if (change.rows.some((r) => r.table === 'lists' || r.table === 'faders'))
      this.clock.tell({ do: 'lists', showId: this.id, configs: this.configs() });
    if (change.rows.some((r) => r.table === 'faders' || means(r.table))) this.faders.refresh();
    if (change.edit === 'record-cue') this.arrivals.recorded(change);
    if (change.edit === 'undo' || change.edit === 'redo') this.arrivals.reversed(change);
    if (change.edit === 'update-source') this.arrivals.updated(change);
    const [recorded] = change.rows;
    if (change.edit === 'record-palette' && recorded?.table === 'palettes' && recorded.after)
      this.programmers.followPalette(change.userId, recorded.after);
    if (change.edit === 'record-look' && recorded?.table === 'looks' && recorded.after)
      this.programmers.followLook(change.userId, recorded.id);
    this.audience.changed(change);
    if (change.rows.some((r) => r.table === 'cues' || r.table === 'lists' || r.table === 'faders'))
      this.audience.playback();
    return true;
  }

  private rebuild(swapped: readonly Swapped[]): void {
    this.slots = compileSlots(this.show);
    this.index = slotIndex(this.slots);
    this.version++;
    this.shared = null;
    this.clock.tell({ do: 'rig', showId: this.id, slots: this.slots, version: this.version });
    this.overlays.rigChanged();
    this.faders.refresh();
    this.programmers.rigChanged(swapped);
  }

  // --- what others see ---

  held(userId: string): { values: HeldValue[]; selection: string[] } {
    return {
      values: [...this.programmers.held(userId).values()],
      selection: this.programmers.state(userId).selection,
    };
  }

  /** Fixtures that are lit now, by number. */
  lit(): string[] {
    const { shared } = this;
    if (!shared) return [];
    return byNumber(this.show)
      .filter((f) => (shared.merged[this.index.get(slotKey(f.id, 'Dimmer')) ?? -1] ?? 0) >= LIT)
      .map((f) => f.id);
  }

  get holder(): PlaybackState['holder'] {
    const held = this.together.boards.holder();
    return held ? { userId: held.userId, name: held.name } : null;
  }

  playback(): PlaybackState {
    return {
      tempo_bpm: this.tempo_bpm,
      master: this.master,
      blackout: this.blackout,
      holder: this.holder,
      boards: this.together.boards.states(),
      left: this.left.states(),
      ...this.together.calls.states(),
      remotes: this.remotes,
      act: this.act,
      scene: this.scene,
      reports: this.actions.reports,
      lists: this.lists.statuses(),
      faders: this.faders.statuses(),
    };
  }

  /** Where the level of a slot comes from, in words. */
  source(slot: number, shared: Shared): string {
    const winner = shared.winner[slot] ?? -1;
    if (winner < -1) return this.overlays.sourceOfSlot(this.slots.keys[slot] ?? '', winner);
    if (winner < 0) return 'default';
    if (winner >= OPERATOR)
      return this.heldSource(
        this.operatorIds[winner - OPERATOR] ?? '',
        this.slots.keys[slot] ?? '',
      );
    const listId = this.listIds[winner] ?? '';
    const at = this.lists.at(listId);
    if (listId.startsWith('fader:')) return this.faderSource(listId);
    const early = this.earlyOf(listId).get(this.slots.keys[slot] ?? '');
    if (early)
      return `moves early for ${cueCalled(this.show, { listId, number: early.number })}${this.following(early.value)}`;
    const tracked =
      at === null ? undefined : trackedAt(this.show, listId, at, this.slots.keys[slot] ?? '');
    if (!tracked) return `list ${this.show.lists.get(listId)?.name ?? ''}`;
    return (
      (tracked.cue.number === at ? '' : 'tracks from ') +
      cueCalled(this.show, { listId, number: tracked.cue.number }) +
      this.following(tracked.value)
    );
  }

  /** By list: for which cue and state of the show, and the slots. */
  private readonly early = new Map<
    string,
    { of: string; slots: Map<string, { number: number; value: Valued }> }
  >();

  /** Slots of a list that have moved already for its next cue, found once for each cue and state of the show. */
  private earlyOf(listId: string): Map<string, { number: number; value: Valued }> {
    const { cueId } = this.lists.state(listId);
    const of = `${cueId ?? ''}/${this.copy.seq}`;
    const known = this.early.get(listId);
    if (known?.of === of) return known.slots;
    const cue = cueId === null ? undefined : this.show.cues.get(cueId);
    const next = cue ? cueAfter(this.show, listId, cue.number) : undefined;
    const slots = new Map(
      cue && next
        ? prePositions(this.show, cue).map((e) => [e.key, { number: next.number, value: e.value }])
        : [],
    );
    this.early.set(listId, { of, slots });
    return slots;
  }

  private faderSource(playback: string): string {
    const fader = [...this.show.faders.values()].find((f) => faderPlayback(f.id) === playback);
    return fader ? `fader ${fader.number} “${fader.name}”` : 'a fader';
  }

  private heldSource(userId: string, key: string): string {
    const value = this.programmers.held(userId).get(key);
    return `programmer of ${this.programmers.nameOf(userId)}${value ? this.following(value) : ''}`;
  }

  /** `, look 4 Storm, effect 2 Breathe`: what a value follows, in words. */
  private following(value: Valued): string {
    const look = value.look === undefined ? undefined : this.show.looks.get(value.look);
    const palette =
      look ?? (value.palette === undefined ? undefined : this.show.palettes.get(value.palette));
    const use = effectOf(this.show, value);
    const effect = use ? this.show.effects.get(use.id) : undefined;
    return (
      (palette ? `, ${look ? 'look' : 'palette'} ${palette.number} ${palette.name}` : '') +
      (effect ? `, effect ${effect.number} ${effect.name}` : '')
    );
  }

  /** What the list that wins a slot recorded there, if one does. */
  private recordedAt(slot: number): Tracked | undefined {
    const winner = this.shared?.winner[slot] ?? -1;
    if (winner < 0 || winner >= OPERATOR) return undefined;
    const listId = this.listIds[winner] ?? '';
    const at = this.lists.at(listId);
    return at === null ? undefined : trackedAt(this.show, listId, at, this.slots.keys[slot] ?? '');
  }

  over(userId: string): OverState {
    return this.overlays.state(userId);
  }

  /** Somebody came, with a role that plays: what they hold is in their own hands again. */
  personCame(userId: string): void {
    this.left.back(userId);
    this.together.boards.presence(userId, true);
    this.audience.programmer(userId);
  }

  /** Who may not play any more is on no board, and what they hold is for others to decide. */
  withdrawn(userId: string, why: Why): void {
    this.together.boards.withdrawn(userId);
    this.left.went(userId, why);
  }

  /** Once a second. */
  lookAtPeople(): void {
    this.together.look();
    if (this.left.look()) this.audience.playback();
  }

  /** Nothing that a person forced stays when their last screen is gone. */
  personLeft(userId: string, why: Why = 'away'): void {
    this.left.went(userId, why);
    this.audience.programmer(userId);
    this.overlays.endChecks(userId);
    this.programmers.personLeft(userId);
    this.together.boards.presence(userId, false);
  }

  /** Where each byte of a universe comes from, as runs of addresses. */
  sourcesOf(universe: number): SourceRun[] {
    return sourceRuns(this, universe, (address) => this.overlays.sourceOfByte(universe, address));
  }

  /** A universe's bytes as they are sent, or undefined when it has none. */
  bytesOf(universe: number): Uint8Array | undefined {
    const page = this.slots.universes.indexOf(universe);
    return page < 0 ? undefined : this.shared?.dmx.subarray(page * 512, (page + 1) * 512);
  }

  /** What is on stage now, for `GET /api/shows/:id/stage`. */
  stage(air: AirState): Record<string, unknown> {
    return stageReport(this, air.showId === this.id);
  }

  async saved(): Promise<SavedShow> {
    const copy = await this.clock.copy(this.id);
    return {
      lists: this.lists.saved(),
      faders: this.faders.saved(),
      remotes: this.remotes,
      act: this.act,
      scene: this.scene,
      programmers: this.programmers.saved(),
      recordings: this.arrivals.saved(),
      tempo_bpm: this.tempo_bpm,
      master: this.master,
      blackout: this.blackout,
      boards: this.together.boards.saved(),
      left: this.left.saved(),
      engine: copy ? describe(copy) : null,
      ...this.overlays.saved(),
    };
  }

  get fading(): boolean {
    return this.playback().lists.some((l) => l.running && !l.paused);
  }
}
