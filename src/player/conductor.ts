/** The open shows of the clock: takes their messages, ticks their engines, says what happened. Knows no thread and no wire. */
import { Engine } from '../core/playback/engine.ts';
import type { Programs } from '../core/playback/programs.ts';
import type { PlaybackConfig } from '../core/playback/playback.ts';
import type { RouteRow } from '../core/routes/rows.ts';
import type { FromClock, Priorities, ShowMessage } from './clock-messages.ts';

/** A show as the clock has it. */
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

/** Carries what the player says to the engines of open shows. */
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
    this.carryOut(open, message, now_s);
  }

  private carryOut<D extends ShowMessage['do']>(
    open: OpenShow,
    message: Of<D>,
    now_s: number,
  ): void {
    this.does[message.do](open, message, now_s);
  }

  /** What each message does to a show that is open; the type checker finds one that is missing. */
  private readonly does: {
    [D in ShowMessage['do']]: (open: OpenShow, message: Of<D>, now_s: number) => void;
  } = {
    open: (_, message, now_s) => this.open(message, now_s),
    rig: (open, message, now_s) => {
      this.takeRig(open, message, now_s);
    },
    routes: (open, message) => {
      open.routes = message.routes;
      open.priorities = message.priorities;
    },
    move: (open, message, now_s) => {
      open.engine.move(message.listId, message.moves, now_s, message.onTime);
      open.engine.follow(message.listId, message.follow_s, message.from);
      this.tellNames(message.showId, open);
      this.tellStatus(message.showId, open, message.listId);
    },
    seek: (open, message, now_s) => {
      open.engine.seek(message.listId, message.sought, now_s);
      open.engine.follow(message.listId, message.follow_s);
      this.tellNames(message.showId, open);
      this.tellStatus(message.showId, open, message.listId);
    },
    lists: (open, message) => {
      open.configs = message.configs;
      open.engine.configure(message.configs);
    },
    follow: (open, message) => {
      open.engine.follow(message.listId, message.follow_s);
      this.tellStatus(message.showId, open, message.listId);
    },
    release: (open, message, now_s) => {
      open.engine.release(message.listId, message.time_s, now_s);
      this.tellStatus(message.showId, open, message.listId);
    },
    rate: (open, message, now_s) => {
      open.engine.goTo(now_s);
      open.engine.setRate(message.listId, message.rate);
      this.tellStatus(message.showId, open, message.listId);
    },
    hand: (open, message) => {
      open.engine.lead(message.listId, message.position);
      this.tellStatus(message.showId, open, message.listId);
    },
    'list-master': (open, message, now_s) => {
      open.engine.setListMaster(message.listId, message.level, message.time_s, now_s);
      this.tellNames(message.showId, open);
    },
    presence: (open, message) => {
      open.engine.setPresence(message.listId, message.level, message.time_s);
    },
    flash: (open, message, now_s) => {
      open.engine.setFlash(message.listId, message.on, message.solo, now_s);
    },
    inhibit: (open, message) => {
      open.engine.setInhibit(message.levels);
    },
    retarget: (open, message) => {
      message.slots.forEach((slot, i) =>
        open.engine.retarget(message.listId, slot, {
          level: message.levels[i] ?? NaN,
          wave: message.wave[i] ?? -1,
          phase: message.phase[i] ?? 0,
          presence: message.presence,
          asBefore: message.asBefore,
        }),
      );
    },
    programs: (open, message) => {
      open.programs = message.programs;
      open.engine.setPrograms(message.programs);
    },
    blind: (open, message) => {
      open.engine.setBlind(message.userId, message.blind);
    },
    pause: (open, message, now_s) => {
      open.engine.goTo(now_s);
      open.engine.setPaused(message.listId, message.paused);
      this.tellStatus(message.showId, open, message.listId);
    },
    hold: (open, message, now_s) => {
      open.engine.hold(message.userId, message.holds, now_s);
      this.tellNames(message.showId, open);
    },
    letgo: (open, message, now_s) => {
      open.engine.letGo(message.userId, message.slots, message.fade_s, now_s);
    },
    guard: (open, message, now_s) => {
      open.engine.guard(message.slots, message.fade_s, now_s);
    },
    input: (open, message) => {
      const { universe, source, levels, instead } = message;
      if (levels) open.inputs.set(source, { universe, levels, instead });
      else open.inputs.delete(source);
      open.engine.input(universe, source, levels, instead);
    },
    override: (open, message) => {
      open.engine.override(message.overrides);
    },
    master: (open, message) => {
      open.engine.setMaster(message.level, message.blackout);
    },
    frame: (open, message) => {
      open.waiting.push(message.id);
    },
    copy: (open, message) => {
      this.say({ is: 'copied', id: message.id, copy: open.engine.copy() });
    },
  };

  /** Renders every show; says which follows have come and which fades have ended. */
  tick(now_s: number): void {
    for (const [showId, open] of this.shows) {
      open.engine.tick(now_s);
      // Nobody waits in most frames, and those make no garbage.
      if (open.waiting.length > 0)
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
