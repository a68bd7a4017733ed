/** One connected screen: its messages in, the show's messages out, and no more levels than it can take. */
import { UNIVERSE_SLOTS } from '../core/dmx.ts';
import { otherProgrammers, heldBy, programmerOf } from './programmers/seen.ts';
import type { Logger } from 'pino';
import type { WebSocket } from 'ws';
import { sayFirst } from '../core/said-wrong.ts';
import type { HandsState, InputSeen, RdmState, SoundsState } from '../core/live/messages.ts';
import {
  ClientMessage,
  encodeLevels,
  encodeUniverse,
  SOCKET_LIMITS,
  type AirState,
  type HeldValue,
  type ServerMessage,
  type View,
} from '../core/live/messages.ts';
import { type LiveCommand } from '../core/live/commands.ts';
import { Silence } from '../core/live/silence.ts';
import { Allowance } from '../core/limits.ts';
import { isRefusal, refuse, type Refusal } from '../core/refusal.ts';
import type { Role } from '../core/roles.ts';
import { ODD_TEXT, oddTextIn } from '../core/text.ts';
import { sheetsOf } from '../core/sheets/given.ts';
import { playedFrom } from '../core/sheets/pieces.ts';
import type { Actor } from './actor.ts';
import type { Why } from './left-light.ts';
import { failed } from './failed.ts';
import type { Answer } from './answer.ts';
import type { LiveShow } from './live-show.ts';
import { Said } from './said.ts';

/** Above this the screen does not keep up: levels wait, and come whole when it does. */
const SLOW_BYTES = 256 * 1024;
/** A socket that never reads is closed before it costs others memory. */
const STUCK_BYTES = 8 * 1024 * 1024;
/** A screen that has answered so many questions in a row with nothing is cut off; its network does not say so. */
const SILENT_LOOKS = 10;
/** Screens so far, to tell those of one person apart. */
let screens = 0;

/** Where a command came from, in the journal. */
const PLACE_WORDS: Record<string, string> = {
  rig: 'Rig',
  stage: 'Stage',
  book: 'the Book',
  run: 'Run',
  sheets: 'Sheets',
  sheet: 'a sheet in a window',
  crew: 'Crew',
  focus: 'the focus page',
  notes: 'the notes page',
  page: 'a sheet',
  go: 'the GO page',
  booth: 'the page of calls',
  caller: 'the caller’s page',
};
/** Places that are switched off with the remotes. */
const PAGES = new Set(['focus', 'page']);

type Of<T extends ClientMessage['type']> = Extract<ClientMessage, { type: T }>;

const NOT_KNOWN = 'This message is not one that the live socket knows. Nothing was changed.';
const TOO_MANY = 'Too many commands at once; this one was not carried out.';
const IS_LOCKED = 'This screen is locked. Give your PIN first; nothing was changed.';

/** A universe that has no bytes. */
const DARK = new Uint8Array(UNIVERSE_SLOTS);

/** What a screen needs of the house. */
interface Desk {
  command: (showId: string, actor: Actor, command: LiveCommand) => Promise<Answer>;
  left: (client: Client) => void;
  tellPresence: (showId: string) => void;
  /** A screen that is followed looks at something else. */
  viewed: (client: Client, view: View) => void;
  air: () => AirState;
  /** A screen has changed what it watches. */
  watched: (client: Client) => void;
  readonly notKept: string | null;
  readonly hands: { state: (show: LiveShow) => HandsState };
  readonly sounds: SoundsState;
}

interface Watching {
  universes: number[];
  sources: boolean;
  outputs: boolean;
  /** Another operator whose values this screen shows. */
  programmer: string | null;
  /** Plays the sounds of cues. */
  sound: boolean;
  follows: string | null;
}

/** What operators hold changes with every step of a drag: screens hear of it at most this often. */
const HELD_EVERY_MS = 80;
/** Thousands of values are told more seldom, so that telling them never delays a step. */
const HELD_PER_MS = 25;

/** So long a screen waits for a change that it knows and the player does not yet; looked for so often. */
const SETTLES_MS = 2000;
const SETTLE_LOOK_MS = 5;

/** All that a volunteer's page is told. */
const FOR_PAGES = new Set<ServerMessage['type']>([
  'welcome',
  'playback',
  'role',
  'reply',
  'pong',
  'locked',
  'out',
  'air',
  'inbox',
]);

/** All that a locked screen is told: what plays. */
const FOR_LOCKED = new Set<ServerMessage['type']>([
  'welcome',
  'playback',
  'slots',
  'role',
  'reply',
  'pong',
  'locked',
  'out',
  'air',
]);

/** One screen at the player: what it may send, and what it is told. */
export class Client {
  place = '';
  cue: string | null = null;
  device = '';
  hand: string | null = null;
  /** Names of those who go along, as this screen was told. */
  followedBy = '';
  doing = '';
  /** When this screen was used last, by the process's clock. */
  used_ms = performance.now();
  readonly sessionId: string;
  /** Why it was closed, if the house did it. */
  why: Why = 'away';
  /** When its person's place in the show ends, in milliseconds since 1970. */
  leaves: number | null;
  private locked: boolean;
  watching: Watching = {
    universes: [],
    sources: false,
    outputs: false,
    programmer: null,
    sound: false,
    follows: null,
  };
  /** The last second of the outputs that this screen was told of; -1 for none. */
  secondsTold = -1;
  /** Bytes and sources as this screen last had them. */
  private readonly lastBytes = new Map<number, Uint8Array>();
  private readonly said = new Said();
  /** What this screen knows of its operator's values: the same objects as the player's. */
  private known = new Map<string, HeldValue>();
  private readonly pending = new Map<'programmer' | 'others', NodeJS.Timeout>();
  private live: LiveShow | null = null;
  private last = new Uint16Array(0);
  private version = -1;
  private whole = true;
  private readonly silence = new Silence(SILENT_LOOKS);
  private readonly allowance = new Allowance(
    SOCKET_LIMITS.commandsPerSecond * 2,
    SOCKET_LIMITS.commandsPerSecond,
    performance.now(),
  );

  constructor(
    private readonly socket: WebSocket,
    readonly showId: string,
    public actor: Actor,
    private readonly house: Desk,
    private readonly log: Logger,
    ticket: { sessionId: string; leaves: number | null; locked: boolean } = {
      sessionId: '',
      leaves: null,
      locked: false,
    },
  ) {
    this.sessionId = ticket.sessionId;
    this.leaves = ticket.leaves;
    this.locked = ticket.locked;
    this.actor = { ...actor, screen: `screen/${++screens}` };
    socket.on('message', (data, isBinary) => {
      this.silence.heard();
      void this.heard(data as Buffer, isBinary);
    });
    socket.on('pong', () => this.silence.heard());
    socket.on('close', () => {
      for (const timer of this.pending.values()) clearTimeout(timer);
      house.left(this);
    });
    socket.on('error', () => socket.terminate());
  }

  /** Once a second: asks whether it is there. One that is cut off is not told so by the network, and may hold a key down. */
  look(): void {
    if (this.silence.look()) {
      this.log.info({ user: this.actor.name }, 'a screen is cut off');
      this.socket.terminate();
    } else if (this.socket.readyState === this.socket.OPEN) this.socket.ping();
  }

  start(show: LiveShow): void {
    this.live = show;
    this.send({
      type: 'welcome',
      you: { userId: this.actor.userId, name: this.actor.name, role: this.actor.role },
      seq: show.copy.seq,
      version: show.version,
      keys: this.limited ? [] : show.slots.keys,
    });
    this.send({ type: 'locked', locked: this.locked });
    this.version = show.version;
    this.known.clear();
    this.said.forget('programmer');
    this.last = new Uint16Array(show.slots.keys.length);
    this.whole = true;
    this.sendPlayback(show);
    this.sendProgrammer(show);
    this.sendOthers(show);
    this.send({ type: 'air', ...this.house.air() });
    this.sendOver(show);
    this.send({ type: 'hands', ...this.house.hands.state(show) });
    this.send({ type: 'sounds', ...this.house.sounds });
  }

  sendOver(show: LiveShow): void {
    this.send({ type: 'over', ...show.over(this.actor.userId) });
  }

  /** A volunteer's screen knows its pages, and nothing else of the show. */
  private get limited(): boolean {
    return this.actor.role === 'volunteer';
  }

  send(message: ServerMessage): void {
    if (
      this.socket.readyState !== this.socket.OPEN ||
      (this.limited && !FOR_PAGES.has(message.type)) ||
      (this.locked && !FOR_LOCKED.has(message.type))
    )
      return;
    if (this.socket.bufferedAmount > STUCK_BYTES) {
      this.log.warn({ user: this.actor.name }, 'closed a socket that does not read');
      this.socket.terminate();
      return;
    }
    this.socket.send(JSON.stringify(message));
  }

  sendPlayback(show: LiveShow): void {
    const playback = show.playback();
    if (!this.limited) {
      this.send({ type: 'playback', ...playback });
      return;
    }
    const { lists, faders, played } = playedFrom(
      show.show,
      sheetsOf(show.show, { role: this.actor.role, pages: this.actor.pages ?? [] }).map(
        (s) => s.id,
      ),
    );
    this.send({
      type: 'playback',
      ...playback,
      lists: playback.lists.filter((l) => lists.has(l.id)),
      faders: playback.faders.filter((f) => faders.has(f.id)),
      played: playback.played.filter((p) => played.has(p.id)),
      reports: [],
      left: [],
      boards: playback.boards.filter(
        (b) => b.thing === 'show' || ('list' in b.thing && lists.has(b.thing.list)),
      ),
      calls: [],
      passed: {},
      act: null,
      scene: null,
    });
  }

  /** What this operator holds has changed: told at once, and then not again for a moment. */
  sendProgrammer(show: LiveShow): void {
    this.soon('programmer', () => this.tellProgrammer(show));
  }

  sendOthers(show: LiveShow): void {
    this.soon('others', () => {
      this.send({
        type: 'others',
        programmers: otherProgrammers(show.programmers, this.actor.userId),
      });
      const watched = this.watching.programmer;
      if (watched === null) return 0;
      const values = [...heldBy(show.programmers, watched).values()];
      this.send({ type: 'other', userId: watched, values });
      return values.length;
    });
  }

  /** @param tell says how many values it told */
  private soon(what: 'programmer' | 'others', tell: () => number): void {
    if (this.pending.has(what)) {
      this.again.add(what);
      return;
    }
    const told = tell();
    this.pending.set(
      what,
      setTimeout(
        () => {
          this.pending.delete(what);
          if (this.again.delete(what)) this.soon(what, tell);
        },
        Math.max(HELD_EVERY_MS, told / HELD_PER_MS),
      ),
    );
  }
  private readonly again = new Set<string>();

  private tellProgrammer(show: LiveShow): number {
    const held = heldBy(show.programmers, this.actor.userId);
    const state = programmerOf(show.programmers, this.actor.userId);
    const changed: HeldValue[] = [];
    for (const [key, value] of held) {
      if (this.known.get(key) === value) continue;
      this.known.set(key, value);
      changed.push(value);
    }
    const gone =
      this.known.size > held.size ? [...this.known.keys()].filter((key) => !held.has(key)) : [];
    for (const key of gone) this.known.delete(key);
    const isNew = this.said.isNew('programmer', state);
    if (changed.length === 0 && gone.length === 0 && !isNew) return 0;
    this.send({ type: 'programmer', changed, gone, ...state });
    return changed.length;
  }

  sendSlots(show: LiveShow): void {
    if (this.version !== show.version)
      this.send({ type: 'slots', version: show.version, keys: show.slots.keys });
    this.version = show.version;
    this.last = new Uint16Array(show.slots.keys.length);
    this.whole = true;
  }

  /** @param seen levels by slot, as they are seen on stage */
  sendLevels(show: LiveShow, seen: Float32Array | undefined): void {
    if (
      this.limited ||
      !seen ||
      this.version !== show.version ||
      this.socket.readyState !== this.socket.OPEN
    )
      return;
    if (this.socket.bufferedAmount > SLOW_BYTES) {
      this.whole = true;
      return;
    }
    const frame = encodeLevels(seen, this.last, show.version, this.whole);
    this.whole = false;
    if (frame) this.socket.send(frame);
    if (this.locked) return;
    for (const universe of this.watching.universes)
      this.sendUniverse(universe, show.bytesOf(universe) ?? DARK);
  }

  private sendUniverse(universe: number, bytes: Uint8Array): void {
    const last = this.lastBytes.get(universe);
    if (last?.every((b, i) => b === bytes[i])) return;
    this.lastBytes.set(universe, bytes.slice());
    this.socket.send(encodeUniverse(universe, bytes));
  }

  /** Where the bytes come from; slower than the bytes, for people to read. */
  sendSources(show: LiveShow): void {
    if (!this.watching.sources || this.locked) return;
    for (const universe of this.watching.universes) {
      const runs = show.sourcesOf(universe);
      if (this.said.isNew(`sources/${universe}`, runs))
        this.send({ type: 'sources', universe, runs });
    }
  }

  /** What comes in from other desks, beside the bytes or the outputs. */
  sendInputs(inputs: () => InputSeen[]): void {
    if ((!this.watching.sources && !this.watching.outputs) || this.locked) return;
    const now = inputs();
    // Nothing to begin with is what a screen takes for granted.
    if (now.length === 0 && !this.said.has('inputs')) return;
    if (this.said.isNew('inputs', now)) this.send({ type: 'inputs', inputs: now });
  }

  /** What hangs at the nodes, where it is something else than before. */
  sendUnits(rdm: RdmState | undefined): void {
    // Whoever has looked at outputs once is told for as long as they are here: findings are made of it.
    if (!rdm?.looked && !rdm?.looking) return;
    if (this.locked || (!this.watching.outputs && !this.said.has('units'))) return;
    if (this.said.isNew('units', rdm)) this.send({ type: 'rdm', ...rdm });
  }

  /** A changed role counts at once; without one the screen is shown out. */
  setRole(of: { role: Role; pages: readonly string[]; until: number | null } | null): void {
    if (!of) {
      this.why = 'removed';
      this.send({ type: 'role', role: null });
      this.socket.close(4403, 'no longer one of this show’s people');
      return;
    }
    this.leaves = of.until;
    if (of.role === this.actor.role && of.pages.join() === (this.actor.pages ?? []).join()) return;
    this.actor = { ...this.actor, role: of.role, pages: of.pages };
    this.send({ type: 'role', role: of.role });
    if (this.live) this.sendPlayback(this.live);
  }

  /** A screen that is opened again is told everything anew: it was told next to nothing meanwhile. */
  setLocked(locked: boolean): void {
    if (locked === this.locked) return;
    this.locked = locked;
    if (locked || !this.live) this.send({ type: 'locked', locked });
    else this.start(this.live);
  }

  /** The session has ended, here or anywhere. */
  showOut(): void {
    this.why = 'out';
    this.send({ type: 'out' });
    this.socket.close(4401, 'signed out');
  }

  close(): void {
    this.socket.close(1012, 'the player is stopping');
  }

  private async heard(data: Buffer, isBinary: boolean): Promise<void> {
    const parsed = isBinary ? undefined : this.parse(data);
    if (!parsed) return this.refuse(null, refuse('invalid', NOT_KNOWN));
    if ('error' in parsed) return this.refuse(parsed.id, refuse('invalid', parsed.error));
    if (parsed.type === 'ping') return this.pong(parsed.at);
    // Before all that may refuse it: a key that is lifted is up.
    if (parsed.type === 'command' && this.live?.lift(this.actor, parsed.command))
      return this.send({ type: 'reply', id: parsed.id, ok: true });
    if (!this.allowance.take(performance.now()))
      return this.refuse('id' in parsed ? parsed.id : null, refuse('rate', TOO_MANY));
    switch (parsed.type) {
      case 'watch':
        return this.watch(parsed);
      case 'presence':
        return this.isAt(parsed);
      case 'view':
        if (!this.locked && !this.limited) this.house.viewed(this, parsed.view);
        return;
      default:
        if (this.locked) return this.refuse(parsed.id, refuse('locked', IS_LOCKED));
        await this.asked(parsed);
    }
  }

  private refuse(id: number | null, { code, message }: Refusal): void {
    this.send({ type: 'reply', id, ok: false, code, message });
  }

  private pong(at: number): void {
    const { notKept } = this.house;
    this.send({ type: 'pong', at, clock: Date.now(), ticks: performance.now(), notKept });
  }

  private watch({ type: _, ...watching }: Of<'watch'>): void {
    if (watching.outputs && !this.watching.outputs) this.secondsTold = -1;
    this.watching = watching;
    this.lastBytes.clear();
    this.said.forget('sources/');
    this.house.watched(this);
    if (this.live && watching.programmer !== null) this.sendOthers(this.live);
  }

  private isAt({ place, cue, device, hand, doing }: Of<'presence'>): void {
    this.place = place;
    this.cue = cue;
    this.device = device;
    this.hand = hand;
    this.doing = doing;
    this.used_ms = performance.now();
    this.actor = {
      ...this.actor,
      via: `${PLACE_WORDS[place] ?? 'a screen'} on ${device || 'a computer'}`,
      remote: PAGES.has(place),
    };
    this.house.tellPresence(this.showId);
  }

  /** What waits for an answer. */
  private async asked(asked: Of<'command' | 'settle'>): Promise<void> {
    const { id } = asked;
    if (asked.type === 'settle') {
      await this.settled(asked.seq);
      this.send({ type: 'reply', id, ok: true });
      return;
    }
    this.used_ms = performance.now();
    try {
      const answer = await this.house.command(this.showId, this.actor, asked.command);
      if (isRefusal(answer)) this.refuse(id, answer);
      else {
        const { message, warning } = answer;
        const more = { ...(message ? { message } : {}), ...(warning ? { warning } : {}) };
        this.send({ type: 'reply', id, ok: true, ...more });
      }
    } catch (error) {
      this.refuse(id, failed(error, this.log));
    }
  }

  /** Waits for a change that is on its way, not for ever, and tells what is held now without the usual pause. */
  private async settled(seq: number): Promise<void> {
    const end = performance.now() + SETTLES_MS;
    while (this.live && this.live.copy.seq < seq && performance.now() < end)
      await new Promise((resolve) => setTimeout(resolve, SETTLE_LOOK_MS));
    if (this.live) this.tellProgrammer(this.live);
  }

  private parse(data: Buffer): ClientMessage | { error: string; id: number | null } | undefined {
    let json: unknown;
    try {
      json = JSON.parse(data.toString('utf8'));
    } catch {
      return undefined;
    }
    const parsed = oddTextIn(json) === undefined ? ClientMessage.safeParse(json) : undefined;
    if (parsed?.success) return parsed.data;
    const id =
      typeof json === 'object' && json !== null && 'id' in json && typeof json.id === 'number'
        ? json.id
        : null;
    if (!parsed) return { error: ODD_TEXT, id };
    return { error: sayFirst(parsed.error), id };
  }
}
