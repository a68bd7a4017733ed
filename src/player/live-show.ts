/**
 * One open show on the player's main thread: what plays and what operators hold, in the words of the show. The clock
 * does the arithmetic; this decides what it is told. Everything here is saved and comes back after a crash.
 */
import { formatCueNumber, parseCueNumber } from '../core/cues/number.ts';
import { cueAfter, cueBefore, stateAt, trackedAt, type Tracked } from '../core/cues/tracking.ts';
import { aRole } from '../core/edits/edit.ts';
import { concernedBy, effectOf, levelOf, type Valued } from '../core/looks/value.ts';
import { LIVE_ROLES, type AirState, type HeldValue, type ListStatus, type LiveCommand, type OverState, type PlaybackState, type SourceRun } from '../core/live/messages.ts';
import { OPERATOR, type Shared } from '../core/playback/engine.ts';
import { describe, type SavedEngine } from '../core/playback/saved.ts';
import { cueMoves, stateMoves, waveOf, type FindWave } from '../core/playback/moves.ts';
import { compileEffects, waveFinder } from '../core/playback/programs.ts';
import { compileSlots, slotIndex, universesOf, type Slots } from '../core/playback/slots.ts';
import { refuse, type Refusal } from '../core/refusal.ts';
import { means } from '../core/show/after.ts';
import { byNumber, LIT } from '../core/select/select.ts';
import { slotKey, type CueRow } from '../core/show/rows.ts';
import { firstList, showName, type MutableShow, type RowChange } from '../core/show/show.ts';
import { same, type Change } from '../core/show/undo.ts';
import { advance } from '../store/commit.ts';
import type { Actor } from './actor.ts';
import type { Clock } from './clock-client.ts';
import type { FromClock } from './clock-messages.ts';
import { swappedBy, type Swapped } from './held-values.ts';
import { Programmers, type SavedOperator } from './programmers.ts';
import { Overlays, type Parked } from './overlays.ts';
import { sourceRuns, stageReport } from './report.ts';

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
}

interface ListState {
  cueId: string | null;
  cueNumber: number | null;
}

/** What is kept in the database between one process and the next. */
export interface SavedShow {
  lists: [string, ListState][];
  programmers: [string, SavedOperator][];
  master: number;
  blackout: boolean;
  holder: PlaybackState['holder'];
  engine: SavedEngine | null;
  /** Absent in states from before there was any. */
  parked?: Parked[];
  tempo_bpm?: number;
}

type Answer = { ok: true; message?: string } | Refusal;
type Timing = Omit<ListStatus, 'id' | 'name' | 'cueId' | 'cueNumber' | 'nextId' | 'running'> & { at: number };

/** Tables that change which slots there are, or how they are written. */
const RIG_TABLES = new Set<RowChange['table']>(['fixtures', 'types']);
/** Fields of a fixture that neither slots nor bytes depend on: labels move nothing on stage. */
const SILENT: ReadonlySet<string> = new Set(['label', 'position', 'rotation', 'hang', 'circuitId', 'wasAt', 'wheels']);
function isElectric(change: RowChange): boolean {
  if (change.table !== 'fixtures' || !change.before || !change.after) return true;
  const before = change.before as unknown as Record<string, unknown>;
  const after = change.after as unknown as Record<string, unknown>;
  return [...new Set([...Object.keys(before), ...Object.keys(after)])].some((k) => !SILENT.has(k) && !same(before[k], after[k]));
}

/** Above this many touched slots one walk through the list is cheaper than one per slot. */
const WALK_ONCE_ABOVE = 20;

export class LiveShow {
  slots: Slots;
  version = 1;
  shared: Shared | null = null;
  master = 1;
  blackout = false;
  holder: PlaybackState['holder'] = null;
  private index: Map<string, number>;
  private operatorIds: string[] = [];
  private listIds: string[] = [];
  private readonly lists = new Map<string, ListState>();
  private readonly timing = new Map<string, Timing>();
  readonly programmers: Programmers;
  private readonly overlays: Overlays;
  private tempo_bpm = 120;
  private find: FindWave;

  constructor(
    readonly id: string,
    readonly copy: { show: MutableShow; seq: number },
    private readonly clock: Pick<Clock, 'tell' | 'copy'>,
    private readonly audience: Audience,
    saved: SavedShow | null,
  ) {
    this.slots = compileSlots(copy.show);
    this.index = slotIndex(this.slots);
    if (saved) {
      for (const [id, state] of saved.lists) this.lists.set(id, state);
      this.tempo_bpm = saved.tempo_bpm ?? this.tempo_bpm;
      this.master = saved.master;
      this.blackout = saved.blackout;
      this.holder = saved.holder;
    }
    const programs = compileEffects(copy.show, this.tempo_bpm);
    this.find = waveFinder(programs);
    clock.tell({ do: 'open', showId: this.id, slots: this.slots, version: this.version, saved: saved?.engine ?? null, routes: [...copy.show.routes.values()], programs });
    this.overlays = new Overlays(
      { ...this.asUnder(), slots: () => this.slots, levelNow: (slot) => this.shared?.out[slot] ?? 0, tell: (overrides) => clock.tell({ do: 'override', showId: this.id, overrides }), changed: () => this.overlaid() },
      saved?.parked ?? [],
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
        changed: (userId, urgency) => {
          audience.programmer(userId);
          audience.touched(urgency);
        },
      },
      saved?.programmers ?? [],
    );
    if (this.overlays.any) this.overlays.send();
  }

  get show(): MutableShow {
    return this.copy.show;
  }
  get name(): string {
    return showName(this.show);
  }

  // --- what lies over it all ---

  private asUnder(): { show: MutableShow; slotOf: (key: string) => number | undefined } {
    return { show: this.copy.show, slotOf: (key) => this.index.get(key) };
  }

  private overlaid(): void {
    this.audience.over();
    this.audience.touched('soon');
  }

  /** Effects, or their tempo, have changed: the clock goes on with them where they are. */
  private sendPrograms(): void {
    const programs = compileEffects(this.show, this.tempo_bpm);
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
      this.timing.set(message.listId, { elapsed_s: message.elapsed_s, total_s: message.total_s, paused: message.paused, at: performance.now() });
      this.audience.playback();
      this.audience.touched('soon');
    } else if (message.is === 'due') {
      this.go(message.listId);
    }
  }

  // --- commands ---

  command(actor: Actor, command: Exclude<LiveCommand, { command: 'type' | 'air' }>): Answer {
    if (!LIVE_ROLES[command.command].includes(actor.role)) return refuse('forbidden', `${aRole(actor.role)} can look at this show, but not play or change it.`);
    switch (command.command) {
      case 'go':
        return this.onBoard(actor) ?? this.go(this.listId(command.list));
      case 'back':
        return this.onBoard(actor) ?? this.back(this.listId(command.list));
      case 'pause':
        return this.onBoard(actor) ?? this.pause(this.listId(command.list));
      case 'goto':
        return this.onBoard(actor) ?? this.goTo(this.listId(command.list), command.cue, command.time);
      case 'master':
        return this.onBoard(actor) ?? this.setMaster(command.level, this.blackout);
      case 'blackout':
        return this.onBoard(actor) ?? this.setMaster(this.master, command.on);
      case 'board':
        return this.board(actor, command.do);
      case 'check':
        return this.overlays.check(actor, command.universe, command.address, command.value);
      case 'park':
        return this.overlays.park(actor, command.fixtures, command.attribute, command.level, command.on);
      case 'macro':
        return this.overlays.macro(actor, command.fixtures, command.macro, command.stagger_s, command.together);
      case 'macro-cancel':
        return this.overlays.cancelMacro(command.id);
      case 'tempo':
        return this.onBoard(actor) ?? this.setTempo(command.bpm);
      default:
        return this.programmers.command(actor, command);
    }
  }

  private setTempo(bpm: number): Answer {
    this.tempo_bpm = bpm;
    this.sendPrograms();
    this.audience.playback();
    this.audience.touched('soon');
    return { ok: true };
  }

  private listId(named: string | undefined): string {
    return named ?? firstList(this.show)?.id ?? '';
  }

  /** The first to play takes the board; while that person is here, nobody else plays. */
  private onBoard(actor: Actor): Refusal | null {
    if (this.holder && this.holder.userId !== actor.userId && this.audience.present(this.holder.userId)) {
      return refuse('board', `${this.holder.name} is on the board. Ask for it, or take it.`);
    }
    if (this.holder?.userId !== actor.userId) {
      this.holder = { userId: actor.userId, name: actor.name };
      this.audience.playback();
    }
    return null;
  }

  private board(actor: Actor, what: 'take' | 'leave'): Answer {
    if (what === 'take') this.holder = { userId: actor.userId, name: actor.name };
    else if (this.holder?.userId === actor.userId) this.holder = null;
    this.audience.playback();
    this.audience.touched('now');
    return { ok: true };
  }

  private nextCue(listId: string): CueRow | undefined {
    return cueAfter(this.show, listId, this.lists.get(listId)?.cueNumber ?? 0);
  }

  private go(listId: string): Answer {
    if (!this.show.lists.has(listId)) return refuse('not-found', 'There is no such cue list.', { list: 'Unknown.' });
    const cue = this.nextCue(listId);
    if (!cue) {
      const empty = this.show.cuesOf(listId).length === 0;
      return refuse('end', empty ? 'This list has no cues yet: record one first.' : 'This was the last cue; the list stays where it is.');
    }
    this.stand(listId, cue, cueMoves(this.show, this.index, this.slots.family, cue, this.find));
    return { ok: true, message: `Cue ${formatCueNumber(cue.number)}` };
  }

  private back(listId: string): Answer {
    const at = this.lists.get(listId)?.cueNumber ?? null;
    const cue = at === null ? undefined : cueBefore(this.show, listId, at);
    if (!cue) return refuse('end', 'There is no cue before this one.');
    this.stand(listId, cue, stateMoves(this.show, this.index, this.slots.family, listId, cue, this.show.lists.get(listId)?.back_s ?? 2, this.find), false);
    return { ok: true, message: `Back in cue ${formatCueNumber(cue.number)}` };
  }

  private goTo(listId: string, text: string, time: number | undefined): Answer {
    const number = parseCueNumber(text);
    if (number === undefined) return refuse('invalid', `“${text}” is not a cue number; they look like 2, 2.5 or 10.125.`, { cue: 'Not a cue number.' });
    const cue = this.show.cuesOf(listId).find((c) => c.number === number);
    if (!cue) return refuse('not-found', `There is no cue ${formatCueNumber(number)}.`, { cue: 'Unknown.' });
    this.stand(listId, cue, stateMoves(this.show, this.index, this.slots.family, listId, cue, time, this.find));
    return { ok: true, message: `Cue ${formatCueNumber(cue.number)}` };
  }

  private stand(listId: string, cue: CueRow, moves: ReturnType<typeof cueMoves>, follows = true): void {
    this.clock.tell({ do: 'pause', showId: this.id, listId, paused: false });
    this.clock.tell({ do: 'move', showId: this.id, listId, moves, follow_s: follows ? cue.follow_s : null });
    this.lists.set(listId, { cueId: cue.id, cueNumber: cue.number });
    this.audience.playback();
    this.audience.touched('now');
  }

  private pause(listId: string): Answer {
    const paused = !(this.timing.get(listId)?.paused ?? false);
    this.clock.tell({ do: 'pause', showId: this.id, listId, paused });
    this.audience.touched('now');
    return { ok: true, message: paused ? 'Paused' : 'Going on' };
  }

  private setMaster(level: number, blackout: boolean): Answer {
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
    const touched = this.touchedSlots(change);
    const swapped = swappedBy(this.show, change.rows);
    if (!advance(this.copy, change)) return false;
    const routed = change.rows.some((r) => r.table === 'routes');
    if (routed) this.clock.tell({ do: 'routes', showId: this.id, routes: [...this.show.routes.values()] });
    // A universe that is sent has bytes, also without a fixture on it.
    const others = routed && universesOf(this.show).join() !== this.slots.universes.join();
    if (others || change.rows.some((r) => RIG_TABLES.has(r.table) && isElectric(r))) this.rebuild(swapped);
    this.followCues(change.rows);
    this.followMeaning(change, touched);
    this.retarget(touched);
    if (change.edit === 'record-cue') this.recorded(change);
    const [recorded] = change.rows;
    if (change.edit === 'record-palette' && recorded?.table === 'palettes' && recorded.after) this.programmers.followPalette(change.userId, recorded.after);
    if (change.edit === 'record-look' && recorded?.table === 'looks' && recorded.after) this.programmers.followLook(change.userId, recorded.id);
    this.audience.changed(change);
    if (change.rows.some((r) => r.table === 'cues' || r.table === 'lists')) this.audience.playback();
    return true;
  }

  private rebuild(swapped: readonly Swapped[]): void {
    this.slots = compileSlots(this.show);
    this.index = slotIndex(this.slots);
    this.version++;
    this.shared = null;
    this.clock.tell({ do: 'rig', showId: this.id, slots: this.slots, version: this.version });
    this.overlays.rigChanged();
    this.programmers.rigChanged(swapped);
  }

  /** The cue on stage keeps its number when it is renumbered, and leaves its number behind when it is deleted. */
  private followCues(rows: readonly RowChange[]): void {
    for (const state of this.lists.values()) {
      const row = rows.find((r) => r.table === 'cues' && r.id === state.cueId);
      if (!row || row.table !== 'cues') continue;
      if (row.after) state.cueNumber = row.after.number;
      else state.cueId = null;
    }
  }

  /** What palettes, looks or effects say, or a unit that they are solved for, has changed: what follows them on stage goes along. */
  private followMeaning(change: Change, touched: Map<string, Set<string>>): void {
    if (!change.rows.some((r) => means(r.table))) return;
    if (change.rows.some((r) => r.table === 'effects')) this.sendPrograms();
    const concerned = concernedBy(this.show, change.rows);
    for (const v of this.show.values.values()) {
      const listId = concerned(v) ? this.show.cues.get(v.cueId)?.listId : undefined;
      if (listId === undefined) continue;
      const keys = touched.get(listId) ?? new Set<string>();
      keys.add(slotKey(v.fixtureId, v.attribute));
      touched.set(listId, keys);
    }
    this.programmers.followed(concerned);
  }

  private touchedSlots(change: Change): Map<string, Set<string>> {
    const touched = new Map<string, Set<string>>();
    const touch = (listId: string | undefined, key: string): void => {
      if (listId === undefined) return;
      const keys = touched.get(listId) ?? new Set<string>();
      keys.add(key);
      touched.set(listId, keys);
    };
    const newCues = new Map(change.rows.flatMap((r) => (r.table === 'cues' && r.after ? [[r.id, r.after.listId] as const] : [])));
    for (const r of change.rows) {
      if (r.table === 'cues') for (const key of this.show.valuesOf(r.id).keys()) touch(this.show.cues.get(r.id)?.listId, key);
      if (r.table !== 'values') continue;
      const row = r.after ?? r.before;
      if (row) touch(this.show.cues.get(row.cueId)?.listId ?? newCues.get(row.cueId), slotKey(row.fixtureId, row.attribute));
    }
    return touched;
  }

  /** What the cue on stage shows has been edited: the stage follows, a running fade ends at the new value. */
  private retarget(touched: ReadonlyMap<string, ReadonlySet<string>>): void {
    for (const [listId, keys] of touched) {
      const at = this.lists.get(listId)?.cueNumber ?? null;
      if (at === null) continue;
      const state = keys.size > WALK_ONCE_ABOVE ? stateAt(this.show, listId, at) : undefined;
      const slots: number[] = [];
      const levels: number[] = [];
      const waves: { wave: number; phase: number }[] = [];
      for (const key of keys) {
        const slot = this.index.get(key);
        if (slot === undefined) continue;
        slots.push(slot);
        const tracked = state ? state.get(key) : trackedAt(this.show, listId, at, key);
        levels.push((tracked ? levelOf(this.show, tracked.value) : null) ?? NaN);
        waves.push(tracked ? waveOf(this.show, tracked.value, this.find) : { wave: -1, phase: 0 });
      }
      this.clock.tell({ do: 'retarget', showId: this.id, listId, slots: Uint32Array.from(slots), levels: Float32Array.from(levels), wave: Int32Array.from(waves, (w) => w.wave), phase: Float32Array.from(waves, (w) => w.phase) });
    }
    if (touched.size > 0) this.audience.touched('soon');
  }

  /**
   * The author's values are in a cue now. If the stage looks as that cue does, the list stands in it and the programmer
   * is free, without a change on stage; otherwise the values stay held, marked as recorded, until they are let go.
   */
  private recorded(change: Change): void {
    const row = change.rows.find((r) => r.table === 'cues' || r.table === 'values');
    const id = row?.table === 'values' ? (row.after ?? row.before)?.cueId : row?.id;
    const cue = id ? this.show.cues.get(id) : undefined;
    if (!cue) return;
    const done = this.programmers.inCue(change.userId, cue);
    const at = this.lists.get(cue.listId)?.cueNumber ?? null;
    const before = cueBefore(this.show, cue.listId, cue.number);
    const isHere = at === cue.number;
    // A blind operator writes the book, and leaves the stage alone.
    if ((!isHere && (before?.number ?? null) !== at) || this.programmers.isBlind(change.userId)) {
      this.programmers.markRecorded(change.userId, done);
      return;
    }
    if (!isHere) {
      const moves = cueMoves(this.show, this.index, this.slots.family, cue, this.find);
      moves.up.fill(0);
      moves.down.fill(0);
      moves.delay.fill(0);
      this.stand(cue.listId, cue, moves, false);
    }
    this.programmers.letGo({ userId: change.userId, name: change.userName }, done.map((v) => slotKey(v.fixtureId, v.attribute)), 0, false);
  }

  // --- what others see ---

  held(userId: string): { values: HeldValue[]; selection: string[] } {
    return { values: [...this.programmers.held(userId).values()], selection: this.programmers.state(userId).selection };
  }

  /** Fixtures that are lit now, by number. */
  lit(): string[] {
    const { shared } = this;
    if (!shared) return [];
    return byNumber(this.show).filter((f) => (shared.merged[this.index.get(slotKey(f.id, 'Dimmer')) ?? -1] ?? 0) >= LIT).map((f) => f.id);
  }

  playback(): PlaybackState {
    const lists = [...this.show.lists.values()].sort((a, b) => a.number - b.number);
    return {
      tempo_bpm: this.tempo_bpm,
      master: this.master,
      blackout: this.blackout,
      holder: this.holder,
      lists: lists.map((list): ListStatus => {
        const state = this.lists.get(list.id);
        const t = this.timing.get(list.id);
        const since = t && !t.paused ? (performance.now() - t.at) / 1000 : 0;
        const elapsed_s = t ? Math.min(t.elapsed_s + since, t.total_s) : 0;
        return {
          id: list.id,
          name: list.name,
          cueId: state?.cueId ?? null,
          cueNumber: state?.cueNumber ?? null,
          nextId: this.nextCue(list.id)?.id ?? null,
          elapsed_s,
          total_s: t?.total_s ?? 0,
          paused: t?.paused ?? false,
          running: t !== undefined && elapsed_s < t.total_s,
        };
      }),
    };
  }

  /** Where the level of a slot comes from, in words. */
  source(slot: number, shared: Shared): string {
    const winner = shared.winner[slot] ?? -1;
    if (winner < -1) return this.overlays.sourceOfSlot(this.slots.keys[slot] ?? '', winner);
    if (winner < 0) return 'default';
    if (winner >= OPERATOR) return this.heldSource(this.operatorIds[winner - OPERATOR] ?? '', this.slots.keys[slot] ?? '');
    const listId = this.listIds[winner] ?? '';
    const at = this.lists.get(listId)?.cueNumber ?? null;
    const tracked = at === null ? undefined : trackedAt(this.show, listId, at, this.slots.keys[slot] ?? '');
    if (!tracked) return `list ${this.show.lists.get(listId)?.name ?? ''}`;
    return (tracked.cue.number === at ? `cue ${formatCueNumber(at)}` : `tracks from cue ${formatCueNumber(tracked.cue.number)}`) + this.following(tracked.value);
  }

  private heldSource(userId: string, key: string): string {
    const value = this.programmers.held(userId).get(key);
    return `programmer of ${this.programmers.nameOf(userId)}${value ? this.following(value) : ''}`;
  }

  /** `, look 4 Storm, effect 2 Breathe`: what a value follows, in words. */
  private following(value: Valued): string {
    const look = value.look === undefined ? undefined : this.show.looks.get(value.look);
    const palette = look ?? (value.palette === undefined ? undefined : this.show.palettes.get(value.palette));
    const use = effectOf(this.show, value);
    const effect = use ? this.show.effects.get(use.id) : undefined;
    return (palette ? `, ${look ? 'look' : 'palette'} ${palette.number} ${palette.name}` : '') + (effect ? `, effect ${effect.number} ${effect.name}` : '');
  }

  /** What the list that wins a slot recorded there, if one does. */
  private recordedAt(slot: number): Tracked | undefined {
    const winner = this.shared?.winner[slot] ?? -1;
    if (winner < 0 || winner >= OPERATOR) return undefined;
    const listId = this.listIds[winner] ?? '';
    const at = this.lists.get(listId)?.cueNumber ?? null;
    return at === null ? undefined : trackedAt(this.show, listId, at, this.slots.keys[slot] ?? '');
  }

  over(userId: string): OverState {
    return this.overlays.state(userId);
  }

  /** Nothing that a person forced stays when their last screen is gone. */
  personLeft(userId: string): void {
    this.overlays.endChecks(userId);
    this.programmers.personLeft(userId);
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
      lists: [...this.lists],
      programmers: this.programmers.saved(),
      tempo_bpm: this.tempo_bpm,
      master: this.master,
      blackout: this.blackout,
      holder: this.holder,
      engine: copy ? describe(copy) : null,
      parked: this.overlays.saved(),
    };
  }

  get fading(): boolean {
    return this.playback().lists.some((l) => l.running && !l.paused);
  }
}
