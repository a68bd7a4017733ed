/**
 * The house: every open show, who is connected to it, what is on air. It is put together in one function, from the top to
 * the bottom; the parts are plain: shows, people, saving, the output.
 */
import type { Logger } from 'pino';
import { PLAYERS } from '../core/roles.ts';
import { lookFrom } from '../core/occasions/look.ts';
import { isOfShow, LIVE, type CommandOf, type LiveCommand } from '../core/live/commands.ts';
import type { AirState, OutputState, SoundsState, View } from '../core/live/messages.ts';
import { oscCommand } from '../core/live/osc-commands.ts';
import { oscTouch } from '../core/sheets/osc.ts';
import { isRefusal, refuse, type Refusal } from '../core/refusal.ts';
import { AIR_CHANNEL, MEMBERS_CHANNEL } from '../store/channels.ts';
import { ShowStore } from '../store/commit.ts';
import type { Database } from '../store/database.ts';
import type { Feed } from '../store/feed.ts';
import { KEPT_REFUSALS, note as writeNote, refusals, type Happened } from '../store/journal.ts';
import { fingerOf, REMOTE, type Actor } from './actor.ts';
import { audienceOf } from './audience.ts';
import type { Client } from './client.ts';
import type { Clock } from './clock-client.ts';
import type { FromClock } from './clock-messages.ts';
import type { Outside } from './cue-actions.ts';
import type { Sending } from './network/discovery.ts';
import { makeInputs, type Inputs } from './network/inputs.ts';
import { askUnits, renameNode, takeIn } from './network/commands.ts';
import type { AtNetwork, NetworkHooks } from './network/network.ts';
import { failed } from './failed.ts';
import { Gathering } from './gathering.ts';
import { makeHands, type HandsAtPlayer } from './hands/hands.ts';
import type { Keeping } from './keeping.ts';
import type { LiveShow } from './live-show.ts';
import { mayNotCommand } from './may.ts';
import { OnAir } from './on-air.ts';
import { openShow } from './open-show.ts';
import { OpenShows } from './open-shows.ts';
import { PeopleNews, type News } from './people-news.ts';
import {
  hearSubscription,
  makeSubscribers,
  tellSubscribers,
  type Subscribers,
  type Where,
} from './osc-subscribers.ts';
import type { RouteRow } from '../core/routes/rows.ts';
import type { Answer } from './answer.ts';
import { Saves } from './saves.ts';
import { makeSoundMachine, type SoundMachine } from './sounds/machine.ts';
import { makeTimecodes, type Timecodes } from './timecode.ts';
import { makeTimecodeOut, type TimecodeOut } from './timecode-out.ts';
import { typeLine } from './typed-line.ts';

/** What a house is made of. */
export interface HouseNeeds {
  readonly db: Database;
  readonly log: Logger;
  readonly playerId: string;
  /** How this player is reached, as `host:port`. */
  readonly address: string;
  readonly keeping: Keeping;
  readonly outside: Outside;
  startClock: (heard: (message: FromClock) => void) => Clock;
  /** Listens to the database. */
  listen: (heard: (channel: string, payload: unknown) => void, missed: () => void) => Feed;
  /** Cards, who else is on the network, and what comes in. */
  watch: (hooks: NetworkHooks) => AtNetwork;
  /** Where remote controls are heard. */
  ears: () => OutputState['osc'];
  /** Where timecode goes that a list gives. */
  giveTimecode: Parameters<typeof makeTimecodeOut>[0];
  /** The process that sounds at this machine. */
  startSound: Parameters<typeof makeSoundMachine>[0];
  /** To a remote control that asked to be told. */
  toRemote: Subscribers['send'];
  /** Another player has taken the output while this one still sends. */
  displaced: () => void;
}

const BY_NAME: ReadonlySet<string> = new Set(['node', 'nodes', 'multicast', 'broadcast']);

interface HouseParts {
  readonly needs: HouseNeeds;
  readonly clock: Clock;
  readonly store: ShowStore;
  readonly gathering: Gathering;
  readonly open: OpenShows;
  readonly saves: Saves;
  readonly onAir: OnAir;
  readonly people: PeopleNews;
  readonly feed: Feed;
  readonly network: AtNetwork;
  readonly inputs: Inputs;
  readonly hands: HandsAtPlayer;
  readonly timecodes: Timecodes;
  readonly timecodeOut: TimecodeOut;
  readonly sounds: SoundMachine;
  readonly subscribers: Subscribers;
  note: (showId: string, happened: Happened) => void;
}

/** Wires a house together, without opening a show. */
export function makeHouse(needs: HouseNeeds): House {
  const { db, log, playerId, keeping } = needs;
  const clock = needs.startClock((message) => house.clockSaid(message));
  const gathering = new Gathering();
  /** Written when the database has time; playing never waits for it. */
  const note = (showId: string, happened: Happened): void =>
    void writeNote(db, showId, { ...happened, at: new Date() }).catch((error: unknown) =>
      log.warn({ error: String(error), text: happened.text }, 'could not write the journal'),
    );
  const open: OpenShows = new OpenShows({
    db,
    log,
    make: async (showId, copy) => {
      const kept = await keeping.read(showId);
      if (kept && kept.lost.length > 0)
        log.warn({ showId, lost: kept.lost }, 'parts of what played could not be read');
      const show: LiveShow = openShow({
        id: showId,
        copy,
        clock,
        audience: audienceOf(showId, () => show, { db, log, gathering, saves, note, sounds }),
        saved: kept?.saved ?? null,
        outside: needs.outside,
      });
      return show;
    },
    caughtUp: (showId) => onAir.lookAgain(showId),
  });
  const { shows } = open;
  const saves = new Saves({ shows, keeping, playerId, log });
  const onAir = new OnAir({
    db,
    clock,
    shows,
    open: (showId) => open.open(showId),
    note,
    tell: (air) => {
      for (const client of gathering.clients) client.send({ type: 'air', ...air });
    },
  });
  const people = new PeopleNews({ db, log, shows, gathering });
  const timecodes = makeTimecodes(() => performance.now());
  const hands = makeHands({
    timecodes,
    onAir: () => onAir.show,
    shows: () => shows.values(),
    play: (show, actor, command) => house.byHand(show, actor, command),
    tell: (show, state) =>
      gathering.to(show.id, (c) => {
        c.send({ type: 'hands', ...state });
      }),
  });
  const sounds = makeSoundMachine(
    needs.startSound,
    (state) => {
      for (const client of gathering.clients) client.send({ type: 'sounds', ...state });
    },
    ({ time, way }) => void timecodes.heard('ltc', time, { way, stands: false }),
  );
  const network = needs.watch({
    sending: () => house.sending(),
    artnet: (packet) => timecodes.artnet(packet),
    tell: (now) => clock.tell({ do: 'network', network: now }),
    moved: (port, moved) => hands.moved(port, moved),
    gone: (port) => {
      hands.gone(port);
      inputs.gone(port);
    },
    shows: (port, slots) => inputs.shows(port, slots),
  });
  const inputs = makeInputs({
    onAir: () => onAir.show,
    shows: () => shows.values(),
    tell: (message) => clock.tell(message),
    ports: () => network.universes(),
    cards: () => network.cards(),
    now_ms: () => performance.now(),
  });
  const feed = needs.listen(
    (channel, payload) => house.heard(channel, payload),
    () => house.caughtOff(),
  );
  const house: House = new House({
    needs,
    clock,
    store: new ShowStore(db),
    gathering,
    open,
    saves,
    onAir,
    people,
    feed,
    network,
    inputs,
    hands,
    timecodes,
    timecodeOut: makeTimecodeOut(needs.giveTimecode),
    sounds,
    subscribers: makeSubscribers(needs.toRemote),
    note,
  });
  return house;
}

/** Everything that one player plays, and who is at it. */
export class House {
  constructor(private readonly parts: HouseParts) {}

  get clients(): ReadonlySet<Client> {
    return this.parts.gathering.clients;
  }
  get clock(): Clock {
    return this.parts.clock;
  }
  get feedIsUp(): boolean {
    return this.parts.feed.connected();
  }
  /** Why nothing is being kept, in a sentence; null while all is. */
  get notKept(): string | null {
    return this.parts.needs.keeping.problem(this.feedIsUp);
  }
  private get shows(): ReadonlyMap<string, LiveShow> {
    return this.parts.open.shows;
  }

  open(showId: string): Promise<LiveShow | undefined> {
    return this.parts.open.open(showId);
  }

  clockSaid(message: FromClock): void {
    if (message.is === 'output') this.parts.onAir.trouble(message.problem, message.nowhere);
    else if ('showId' in message) this.shows.get(message.showId)?.heard(message);
  }

  // --- commands ---

  async command(showId: string, actor: Actor, command: LiveCommand): Promise<Answer> {
    const show = await this.open(showId);
    if (!show) return refuse('not-found', 'This show does not exist.');
    const answer = await this.carryOut(show, actor, command);
    if (isRefusal(answer) && KEPT_REFUSALS.has(answer.code))
      this.refused(showId, actor, command.command, answer);
    return answer;
  }

  private refused(showId: string, actor: Actor, what: string, { code, message }: Refusal): void {
    if (!refusals.take(actor.userId, performance.now())) return;
    this.parts.note(showId, {
      kind: 'refused',
      userId: actor.userId,
      userName: actor.name,
      text: message,
      data: { code, command: what, from: actor.via ?? 'a screen' },
    });
  }

  private async carryOut(show: LiveShow, actor: Actor, command: LiveCommand): Promise<Answer> {
    const { onAir } = this.parts;
    if (show.lift(actor, command)) return { ok: true };
    const no = mayNotCommand(actor, command.command, show.remotes);
    if (no) return no;
    if (command.command === 'air')
      return onAir.set(show, actor, command.on, command.preview ?? false);
    if (command.command === 'type')
      return this.type(show, actor, command.text, (by, next) => this.command(show.id, by, next));
    if (command.command === 'timecode') return this.timecode(show, actor, command);
    if (command.command === 'rdm') return await askUnits(this.parts, show, actor, command);
    if (command.command === 'take-in') return takeIn(this.parts.inputs, show, actor, command.input);
    if (command.command === 'rename-node') return renameNode(this.parts, show, actor, command);
    const answer = show.command(actor, command);
    return LIVE[command.command].goesOn ? onAir.warned(show, answer) : answer;
  }

  /** A line is done step by step. @param command carries out what of it is live */
  private type(
    show: LiveShow,
    actor: Actor,
    text: string,
    command: (actor: Actor, command: LiveCommand) => Promise<Answer>,
  ): Promise<Answer> {
    const { store, open } = this.parts;
    return typeLine(show, actor, text, { store, command, caughtUp: () => open.catchUp(show.id) });
  }

  /** Timecode from a screen: for the show on air, by the right of whoever is there, over nobody's board. */
  private timecode(show: LiveShow, actor: Actor, command: CommandOf<'timecode'>): Answer {
    if (this.parts.onAir.show !== show)
      return refuse('invalid', 'Timecode leads the show that is on air; this one is not.');
    const no = show.together.onBoard(actor, command);
    if (no) return no;
    const { h, m, s, f, rate, way, stands, from } = command;
    return this.parts.timecodes.heard(from, { h, m, s, f, rate }, { way, stands });
  }

  /** Ten times a second: what other desks send, or send no more. */
  lookAtInputs(): void {
    this.parts.inputs.look();
  }

  /** Every few milliseconds: timecode out. */
  giveTimecode(): void {
    this.parts.timecodeOut.tick(this.parts.onAir.show);
  }

  /** Several times a second: where tracks with sound are. */
  giveSound(): void {
    this.parts.sounds.tick(this.parts.onAir.show);
  }
  get sounds(): SoundsState {
    return this.parts.sounds.state();
  }

  /** OSC from a remote control plays the show on air, while its remotes are switched on. */
  remote(address: string, args: (number | string)[], from: Where): void {
    if (hearSubscription(this.parts.subscribers, address, args, from, performance.now())) return;
    const { show } = this.parts.onAir;
    if (!show) return;
    const touched = oscTouch(show.show, address, args);
    const command = touched === undefined ? oscCommand(show.show, address, args) : touched;
    if (!command) return;
    const answer = show.fromRemote(command);
    if (isRefusal(answer)) this.refused(show.id, REMOTE, address, answer);
  }

  /** What plays, to the hands at this machine and to remote controls that asked; nothing while remotes are off. */
  tellHands(): void {
    const { hands, subscribers, onAir } = this.parts;
    hands.tell();
    if (subscribers.all.size === 0 || !onAir.show?.remotes) return;
    tellSubscribers(subscribers, onAir.show.show, onAir.show.playback(), performance.now());
  }

  get hands(): HandsAtPlayer {
    return this.parts.hands;
  }

  /** A hand at this machine; nobody waits for what it is answered. */
  byHand(show: LiveShow, actor: Actor, command: LiveCommand): void {
    if (show.lift(actor, command)) return;
    void this.playedByHand(show, actor, command)
      .catch((error: unknown) => failed(error, this.parts.needs.log))
      .then((answer) => {
        if (isRefusal(answer) && KEPT_REFUSALS.has(answer.code))
          this.refused(show.id, actor, command.command, answer);
      });
  }

  /** Over whoever is on the board, as remote controls play; a line that it has, too (house-hears.test.ts). */
  private async playedByHand(show: LiveShow, actor: Actor, command: LiveCommand): Promise<Answer> {
    const no = mayNotCommand(actor, command.command, show.remotes);
    if (no) return no;
    if (command.command === 'type')
      return this.type(show, actor, command.text, (by, next) => this.playedByHand(show, by, next));
    return isOfShow(command) ? show.whoever(command, actor) : this.carryOut(show, actor, command);
  }

  private lookedAt = new Date();

  /** Lets cues go whose time of day has come, and what the calendar of the show on air says. */
  lookAtClock(): void {
    const now = new Date();
    const { from, looked } = lookFrom(this.lookedAt, now);
    this.lookedAt = looked;
    if (from >= now) return;
    const { show } = this.parts.onAir;
    if (show && this.onAir) show.occasionsCame(from, now);
    for (const open of this.shows.values()) open.lists.clockCame(from, now);
  }

  // --- on air ---

  air(): AirState {
    return this.parts.onAir.state();
  }
  get onAir(): boolean {
    return this.parts.onAir.sends;
  }
  async takeOutput(): Promise<void> {
    await this.parts.network.begin();
    await this.parts.onAir.take();
  }
  get network(): AtNetwork {
    return this.parts.network;
  }
  /** While another player is on air: keeps the show that is on air at hand. */
  async follow(): Promise<void> {
    if (!this.onAir) await this.parts.open.follow();
  }

  // --- the database's news ---

  heard(channel: string, payload: unknown): void {
    const { needs, onAir, people, open, network } = this.parts;
    const message = payload as (News & { player?: string; wires?: true }) | null;
    if (channel === MEMBERS_CHANNEL) people.heard(message ?? {});
    else if (channel !== AIR_CHANNEL) {
      if (message?.show && this.shows.has(message.show)) void open.catchUp(message.show);
    } else if (message?.wires) void network.readAgain();
    else if (message?.show !== undefined) void onAir.heard(message.show);
    else if (message?.player !== undefined && this.onAir && message.player !== needs.address)
      needs.displaced();
  }

  /** After a lost connection anything may have been missed: changes, and who may be here. */
  caughtOff(): void {
    for (const id of this.shows.keys()) void this.parts.open.catchUp(id);
    void this.parts.network.readAgain();
    void this.lookAtSessions();
  }

  // --- people ---

  /** Once a second. */
  lookAtPeople(): void {
    this.parts.people.lookAtTime(Date.now());
    for (const client of this.clients) client.look();
  }
  /** Now and then, and after the database was away. */
  lookAtSessions(): Promise<void> {
    return this.parts.people.lookAtSessions();
  }

  joined(client: Client): void {
    const { gathering } = this.parts;
    gathering.clients.add(client);
    if (PLAYERS.includes(client.actor.role))
      this.shows.get(client.showId)?.personCame(client.actor.userId);
    gathering.tellPresence(client.showId);
    gathering.tellFollowed(client.showId);
  }

  left(client: Client): void {
    const { gathering } = this.parts;
    const { showId, actor, why } = client;
    gathering.clients.delete(client);
    this.shows.get(showId)?.gone(fingerOf(actor));
    if (!gathering.isHere(showId, actor.userId))
      this.shows.get(showId)?.personLeft(actor.userId, why);
    if (client.watching.follows !== null) gathering.tellFollowed(showId);
    gathering.tellPresence(showId);
  }

  tellPresence(showId: string): void {
    this.parts.gathering.tellPresence(showId);
  }
  viewed(client: Client, view: View): void {
    this.parts.gathering.viewed(client, view);
  }

  // --- levels and outputs to screens ---

  sendLevels(): void {
    // Once for each show, however many look at it.
    const seen = new Map<LiveShow, Float32Array | undefined>();
    for (const client of this.clients) {
      const show = this.shows.get(client.showId);
      if (!show) continue;
      if (!seen.has(show)) seen.set(show, show.seen());
      client.sendLevels(show, seen.get(show));
    }
  }

  /** A screen has changed what it watches. */
  watched(client?: Client): void {
    if (client) this.parts.gathering.tellFollowed(client.showId);
    void this.sendOutputs();
  }

  /** Sources of bytes, and the state of the outputs, to the screens that show them. */
  async sendOutputs(): Promise<void> {
    for (const client of this.clients) {
      const show = this.shows.get(client.showId);
      if (!show) continue;
      client.sendSources(show);
      client.sendInputs(() => this.parts.inputs.seen(show));
      client.sendUnits(this.parts.network.rdm()?.state());
    }
    const looking = [...this.clients].filter((c) => c.watching.outputs);
    if (looking.length === 0) return;
    const { clock, network, needs, onAir } = this.parts;
    const [{ lines }, seconds] = await Promise.all([
      clock.stats(),
      clock.seconds(Math.min(...looking.map((c) => c.secondsTold))),
    ]);
    const shared = { ...network.state(), osc: needs.ears() };
    for (const client of looking) {
      const after = client.secondsTold;
      client.secondsTold = seconds.at(-1)?.second ?? after;
      client.send({
        type: 'outputs',
        seconds: seconds.filter((s) => s.second > after),
        lines: onAir.is(client.showId) ? lines : [],
        ...shared,
      });
    }
  }

  sending(): Sending {
    const { onAir } = this.parts;
    const routes = onAir.sends ? (onAir.show?.sent() ?? []) : [];
    const of = (protocol: RouteRow['protocol']): RouteRow[] =>
      routes.filter((r) => r.protocol === protocol);
    const hosts = (all: readonly RouteRow[]): string[] => [
      ...new Set(all.map((r) => r.destination).filter((d) => !BY_NAME.has(d))),
    ];
    const [sacn, artnet] = [of('sacn'), of('artnet')];
    return {
      sacn: sacn.map((r) => r.wire),
      sacnHosts: hosts(sacn),
      toNode: sacn.some((r) => r.destination === 'node'),
      artnetWires: artnet.map((r) => r.wire),
      artnetHosts: hosts(artnet),
    };
  }

  /** Saves every show once more, for a clean stop. @returns what could not be saved, in sentences */
  saveAll(): Promise<string[]> {
    return this.parts.saves.all();
  }

  /** Looks at the network no more. */
  endLooking(): void {
    this.parts.network.close();
  }
}
