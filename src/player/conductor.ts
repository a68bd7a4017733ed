/** The open shows of the clock: takes their messages, ticks their engines, says what happened. Knows no thread and no wire. */
import { Engine } from '../core/playback/engine.ts';
import type { Programs } from '../core/playback/programs.ts';
import type { PlaybackConfig } from '../core/playback/playback.ts';
import type { RouteRow } from '../core/routes/rows.ts';
import type { FromClock, Priorities, ShowMessage } from './clock-messages.ts';

export interface OpenShow {
  engine: Engine;
  version: number;
  routes: RouteRow[];
  priorities: Priorities;
  programs: Programs;
  configs: PlaybackConfig[];
  /** What comes in from other desks, by its source. */
  inputs: Map<string, { universe: number; levels: Uint8Array; instead: boolean }>;
  /** Who waits for a frame. */
  waiting: number[];
  /** Lists that were fading when they were last told about. */
  fading: Map<string, boolean>;
}

type Of<D extends ShowMessage['do']> = Extract<ShowMessage, { do: D }>;

export class Conductor {
  readonly shows = new Map<string, OpenShow>();

  constructor(
    private readonly say: (message: FromClock) => void,
    private readonly allocate?: (bytes: number) => ArrayBufferLike,
  ) {}

  private open(message: Of<'open'>, now_s: number): void {
    const { showId, slots, saved, version, routes, priorities, programs, configs } = message;
    const engine = new Engine(slots, this.allocate);
    engine.setPrograms(programs);
    engine.configure(configs);
    if (saved) engine.restore(saved, now_s);
    const open: OpenShow = {
      engine,
      version,
      routes,
      priorities,
      programs,
      configs,
      inputs: new Map(),
      waiting: [],
      fading: new Map(),
    };
    this.shows.set(showId, open);
    engine.tick(now_s);
    this.share(showId, open);
    for (const listId of engine.listIds) this.tellStatus(showId, open, listId);
  }

  /** Another rig: an engine for it goes on where the one before is. */
  private takeRig(open: OpenShow, { showId, slots, version }: Of<'rig'>, now_s: number): void {
    const { engine } = open;
    const next = new Engine(slots, this.allocate);
    engine.goTo(now_s);
    this.sayEnded(showId, engine);
    next.setPrograms(open.programs);
    next.configure(open.configs);
    next.restore(engine.save(), now_s);
    // A finger on a flash is still there, which after a restart it is not.
    for (const { listId, solo } of engine.flashes) next.setFlash(listId, true, solo, now_s);
    for (const [source, { universe, levels, instead }] of open.inputs)
      next.input(universe, source, levels, instead);
    next.tick(now_s);
    open.engine = next;
    open.version = version;
    this.share(showId, open);
  }

  /** @param now_s monotonic seconds */
  handle(message: ShowMessage, now_s: number): void {
    const { showId } = message;
    if (message.do === 'open') {
      this.open(message, now_s);
      return;
    }
    const open = this.shows.get(showId);
    if (!open) {
      if (message.do === 'copy') this.say({ is: 'copied', id: message.id, copy: null });
      if (message.do === 'frame') this.say({ is: 'framed', id: message.id });
      return;
    }
    const { engine } = open;
    switch (message.do) {
      case 'rig':
        this.takeRig(open, message, now_s);
        break;
      case 'routes':
        open.routes = message.routes;
        open.priorities = message.priorities;
        break;
      case 'move':
        engine.move(message.listId, message.moves, now_s, message.onTime);
        engine.follow(message.listId, message.follow_s, message.from);
        this.tellNames(showId, open);
        this.tellStatus(showId, open, message.listId);
        break;
      case 'seek':
        engine.seek(message.listId, message.sought, now_s);
        engine.follow(message.listId, message.follow_s);
        this.tellNames(showId, open);
        this.tellStatus(showId, open, message.listId);
        break;
      case 'lists':
        open.configs = message.configs;
        engine.configure(message.configs);
        break;
      case 'follow':
        engine.follow(message.listId, message.follow_s);
        this.tellStatus(showId, open, message.listId);
        break;
      case 'release':
        engine.release(message.listId, message.time_s, now_s);
        this.tellStatus(showId, open, message.listId);
        break;
      case 'rate':
        engine.goTo(now_s);
        engine.setRate(message.listId, message.rate);
        this.tellStatus(showId, open, message.listId);
        break;
      case 'hand':
        engine.lead(message.listId, message.position);
        this.tellStatus(showId, open, message.listId);
        break;
      case 'list-master':
        engine.setListMaster(message.listId, message.level, message.time_s, now_s);
        this.tellNames(showId, open);
        break;
      case 'presence':
        engine.setPresence(message.listId, message.level, message.time_s);
        break;
      case 'flash':
        engine.setFlash(message.listId, message.on, message.solo, now_s);
        break;
      case 'inhibit':
        engine.setInhibit(message.levels);
        break;
      case 'retarget':
        message.slots.forEach((slot, i) =>
          engine.retarget(message.listId, slot, {
            level: message.levels[i] ?? NaN,
            wave: message.wave[i] ?? -1,
            phase: message.phase[i] ?? 0,
            presence: message.presence,
            asBefore: message.asBefore,
          }),
        );
        break;
      case 'programs':
        open.programs = message.programs;
        engine.setPrograms(message.programs);
        break;
      case 'blind':
        engine.setBlind(message.userId, message.blind);
        break;
      case 'pause':
        engine.goTo(now_s);
        engine.setPaused(message.listId, message.paused);
        this.tellStatus(showId, open, message.listId);
        break;
      case 'hold':
        engine.hold(message.userId, message.holds, now_s);
        this.tellNames(showId, open);
        break;
      case 'letgo':
        engine.letGo(message.userId, message.slots, message.fade_s, now_s);
        break;
      case 'guard':
        engine.guard(message.slots, message.fade_s, now_s);
        break;
      case 'input': {
        const { universe, source, levels, instead } = message;
        if (levels) open.inputs.set(source, { universe, levels, instead });
        else open.inputs.delete(source);
        engine.input(universe, source, levels, instead);
        break;
      }
      case 'override':
        engine.override(message.overrides);
        break;
      case 'master':
        engine.setMaster(message.level, message.blackout);
        break;
      case 'frame':
        open.waiting.push(message.id);
        break;
      case 'copy':
        this.say({ is: 'copied', id: message.id, copy: engine.copy() });
        break;
    }
  }

  /** Renders every show; says which follows have come and which fades have ended. */
  tick(now_s: number): void {
    for (const [showId, open] of this.shows) {
      open.engine.tick(now_s);
      for (const id of open.waiting.splice(0)) this.say({ is: 'framed', id });
      this.sayDue(showId, open.engine);
      this.sayEnded(showId, open.engine);
      for (const [listId, was] of open.fading) {
        if (was && open.engine.status(listId).fading === 0) this.tellStatus(showId, open, listId);
      }
    }
  }

  /** When the next follow of any list comes, in seconds; Infinity where none does by itself. */
  get nextDue_s(): number {
    let next = Infinity;
    for (const { engine } of this.shows.values()) next = Math.min(next, engine.nextDue_s);
    return next;
  }

  /** Between two frames: says which follows have come, so that what they begin is in the next one (conductor.test.ts). */
  notice(now_s: number): void {
    for (const [showId, { engine }] of this.shows) {
      if (engine.nextDue_s > now_s) continue;
      engine.goTo(now_s);
      this.sayDue(showId, engine);
    }
  }

  private sayDue(showId: string, engine: Engine): void {
    for (const listId of engine.takeDue()) this.say({ is: 'due', showId, listId });
  }

  private sayEnded(showId: string, engine: Engine): void {
    for (const listId of engine.takeEnded()) this.say({ is: 'ended', showId, listId });
  }

  private share(showId: string, open: OpenShow): void {
    this.say({
      is: 'shared',
      showId,
      version: open.version,
      shared: open.engine.shared,
      operators: open.engine.operators,
      lists: open.engine.listIds,
    });
  }

  private tellNames(showId: string, open: OpenShow): void {
    this.say({ is: 'names', showId, operators: open.engine.operators, lists: open.engine.listIds });
  }

  private tellStatus(showId: string, open: OpenShow, listId: string): void {
    const { fading, ...status } = open.engine.status(listId);
    open.fading.set(listId, fading > 0);
    this.say({ is: 'status', showId, listId, ...status, fading: fading > 0 });
  }
}
