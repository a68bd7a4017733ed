/**
 * Universes out of the house: prebuilt packets, changed universes at once and unchanged ones about once a second. A change
 * of what is on air fades from the last bytes sent to the new ones.
 */
import { UNIVERSE_SLOTS } from '../../core/dmx.ts';
import type { Nowhere } from '../../core/live/messages.ts';
import { artnetFrame } from '../../core/output/artnet.ts';
import type { SacnSource } from '../../core/output/bytes.ts';
import { sacnFrame, sacnTerminated } from '../../core/output/sacn.ts';
import { artSync, sacnSync, sacnSyncNext } from '../../core/output/sync.ts';
import type { Engine } from '../../core/playback/engine.ts';
import type { RouteRow } from '../../core/routes/rows.ts';
import { WIRES } from '../../core/wires/wires.ts';
import type { ClockSettings, LineCount } from '../clock-messages.ts';
import { AirFade, fieldsOf, type Field } from './air-fade.ts';
import {
  bytesOf,
  lineOf,
  nowhereOf,
  SEQUENCE_AT,
  syncDestinations,
  type Line,
  type LineNeeds,
} from './lines.ts';
import type { Network } from './network.ts';
import type { Failed, Post } from './post.ts';

/** E1.31 clause 6.6.2 asks for 800 to 1000 ms between repeated packets. */
const KEEP_ALIVE_MS = 900;
const TERMINATIONS = 3;
const NO_FIELDS: readonly Field[] = [];
const NO_TARGETS: readonly number[] = [];
const NO_PRIORITIES: ReadonlyMap<number, Uint8Array> = new Map();

/** Universes as packets: which lines there are, and what leaves with each frame. */
export class Output {
  private readonly post: Post;
  private readonly cid: Uint8Array;
  private network: Network = { cards: [], wires: WIRES, asked: new Map() };
  private priorities = NO_PRIORITIES;
  private engine: Engine | null = null;
  private routes: readonly RouteRow[] = [];
  private lines: Line[] = [];
  /** Streams that the show on air does not have: they fade to nothing, and end. */
  private leaving: Line[] = [];
  private lastSent_ms = new Float64Array(0);
  private routeKey = '';
  private readonly mixed = new Uint8Array(UNIVERSE_SLOTS);
  private syncPacket: Uint8Array | null = null;
  private readonly artSyncPacket = artSync();
  private syncTargets = NO_TARGETS;
  private artTargets = NO_TARGETS;
  /** Packets of data in the frame at hand. */
  private sacnNow = 0;
  private artnetNow = 0;
  packets = 0;
  errors = 0;
  problem: string | null = null;
  /** What is meant for lights and leads to none: the same object until it is something else. */
  nowhere: Nowhere | null = null;

  constructor(
    private readonly settings: ClockSettings,
    post: (failed: Failed) => Post,
  ) {
    this.cid = Uint8Array.from(Buffer.from(settings.cid.replaceAll('-', ''), 'hex'));
    this.post = post((target, problem, times) => this.noted(target, problem, times));
  }

  get onAir(): Engine | null {
    return this.engine;
  }

  private get source(): SacnSource {
    return { cid: this.cid, name: this.network.wires.sourceName };
  }

  /** Puts an engine's universes on the wire, or none; what was there fades over, stream by stream. */
  take(engine: Engine | null, routes: readonly RouteRow[], fade_ms: number, now_ms: number): void {
    const before = new Map(
      [...this.leaving, ...this.lines].map((line) => [
        line.name,
        {
          line,
          fade:
            fade_ms > 0
              ? new AirFade(bytesOf(line).slice(), this.meaningOf(line), now_ms, fade_ms)
              : null,
        },
      ]),
    );
    this.engine = engine;
    this.leaving = [];
    const old = [...before.values()].map(({ line }) => line);
    this.setLines(engine ? this.linesOf(engine, routes, old) : []);
    for (const line of this.lines)
      line.fade =
        before.get(line.name)?.fade ??
        (fade_ms > 0
          ? new AirFade(new Uint8Array(UNIVERSE_SLOTS), NO_FIELDS, now_ms, fade_ms)
          : null);
    const stays = new Set(this.lines.map((l) => l.name));
    const gone = [...before.values()].filter(({ line }) => !stays.has(line.name));
    if (fade_ms > 0) this.leaving = gone.map(({ line, fade }) => ({ ...line, page: -1, fade }));
    else this.terminate(gone.map(({ line }) => line));
    this.routeKey = JSON.stringify(routes);
    this.sendAll();
  }

  private setLines(lines: Line[]): void {
    this.lines = lines;
    const nowhere = nowhereOf(lines);
    if (JSON.stringify(nowhere) !== JSON.stringify(this.nowhere)) this.nowhere = nowhere;
  }

  /** What the bytes of a stream mean by now. */
  private meaningOf(line: Line): readonly Field[] {
    return (
      (line.page >= 0 && this.engine ? fieldsOf(this.engine.slots)[line.page] : line.fade?.was) ??
      NO_FIELDS
    );
  }

  /** The engine was rebuilt for another patch: same show; a change of show that is under way goes on. */
  replace(engine: Engine, routes: readonly RouteRow[]): void {
    this.engine = engine;
    this.setRoutes(routes, true);
  }

  setRoutes(routes: readonly RouteRow[], force = false): void {
    const engine = this.engine;
    if (!engine) return;
    const key = JSON.stringify(routes);
    if (!force && key === this.routeKey) return;
    this.routeKey = key;
    const old = this.lines;
    const fades = new Map(old.map((l) => [l.name, l.fade]));
    this.setLines(this.linesOf(engine, routes, [...this.leaving, ...old]));
    const now = new Set(this.lines.map((l) => l.name));
    for (const line of this.lines) line.fade = fades.get(line.name) ?? null;
    this.leaving = this.leaving.filter((l) => !now.has(l.name));
    this.terminate(old.filter((l) => !now.has(l.name)));
    this.sendAll();
  }

  /** Cards, nodes or what the house says of its network are others now: the same streams leave another way. */
  setNetwork(network: Network): void {
    const isOtherCard = JSON.stringify(network.cards) !== JSON.stringify(this.network.cards);
    this.network = network;
    if (isOtherCard) this.post.renew();
    this.setRoutes(this.routes, true);
  }

  /** @param priorities by universe: what its addresses are worth, 255 for what the route says */
  setPriorities(priorities: ReadonlyMap<number, Uint8Array>): void {
    // Told with every change of the rig; most of them change nothing here.
    const isSame =
      priorities.size === this.priorities.size &&
      [...priorities].every(([u, p]) => this.priorities.get(u)?.every((b, i) => b === p[i]));
    if (isSame) return;
    this.priorities = priorities;
    this.setRoutes(this.routes, true);
  }

  /** What a universe sends is something else from now on: it goes over from what is on the wire. */
  fadeOver(universe: number, fade_ms: number, now_ms: number): void {
    const page = this.engine?.slots.universes.indexOf(universe) ?? -1;
    for (const line of this.lines)
      if (line.page === page)
        line.fade = new AirFade(bytesOf(line).slice(), this.meaningOf(line), now_ms, fade_ms);
  }

  private sendAll(): void {
    if (!this.engine) return;
    this.lastSent_ms = new Float64Array(this.engine.slots.universes.length);
    this.engine.dirtyPages.fill(1);
  }

  /** Streams of a show, each once whatever its routes say; those that were there go on counting. */
  private linesOf(engine: Engine, routes: readonly RouteRow[], old: readonly Line[]): Line[] {
    const needs: LineNeeds = {
      settings: this.settings,
      network: this.network,
      source: this.source,
      priorities: this.priorities,
      target: (to) => this.post.target(to),
    };
    const kept = new Map(old.map((l) => [l.name, l]));
    const counts = new Map(old.map((l) => [l.count.routeId, l.count]));
    const lines = new Map<string, Line>();
    for (const route of routes) {
      const page = engine.slots.universes.indexOf(route.universe);
      if (!route.on || page < 0) continue;
      const line = lineOf(route, page, counts.get(route.id), needs);
      const known = kept.get(line.name);
      // A receiver follows the sequence; a changed route goes on counting, and from the bytes that it last had.
      line.packet[SEQUENCE_AT[line.protocol]] = known
        ? (known.packet[SEQUENCE_AT[line.protocol]] ?? 0)
        : (this.starts[`${line.protocol}/${line.wire}`] ?? 0);
      if (known) bytesOf(line).set(bytesOf(known));
      if (!lines.has(line.name)) lines.set(line.name, line);
    }
    this.routes = routes;
    this.setSync(routes, needs);
    return [...lines.values()];
  }

  private setSync(routes: readonly RouteRow[], needs: LineNeeds): void {
    const { sync, artSync: isWanted } = this.network.wires;
    const targets = (protocol: RouteRow['protocol']): number[] => [
      ...new Set(syncDestinations(routes, protocol, needs).map((to) => this.post.target(to))),
    ];
    this.syncPacket = sync === 0 ? null : goingOn(this.syncPacket, sacnSync(this.cid, sync));
    this.syncTargets = sync === 0 ? NO_TARGETS : targets('sacn');
    this.artTargets = isWanted ? targets('artnet') : NO_TARGETS;
  }

  /** Lines that are made from now on count on from here: another player sent these universes before, with the same CID. */
  goOnFrom(starts: Record<string, number>): void {
    this.starts = starts;
  }
  private starts: Record<string, number> = {};

  /** Last sequence of each line, by `protocol/number on the wire`. */
  sequences(): Record<string, number> {
    return Object.fromEntries(
      [...this.leaving, ...this.lines].map((l) => [
        `${l.protocol}/${l.wire}`,
        l.packet[SEQUENCE_AT[l.protocol]] ?? 0,
      ]),
    );
  }

  /** Packets and errors by route, since it was made. */
  counts(): LineCount[] {
    return this.lines.map((l) => ({ ...l.count }));
  }

  /** Sends what is due. Call once a frame, after the engine's tick. */
  send(now_ms: number): void {
    this.sacnNow = 0;
    this.artnetNow = 0;
    if (this.leaving.length > 0) this.sendLeaving(now_ms);
    if (this.engine) this.sendDue(this.engine, now_ms);
    this.sendSync();
    this.post.flush();
  }

  private sendDue(engine: Engine, now_ms: number): void {
    const { dmx } = engine.shared;
    for (const line of this.lines) {
      if (line.each && now_ms - line.eachSent_ms >= KEEP_ALIVE_MS)
        this.sendPriorities(line, line.each, now_ms);
      if (line.fade !== null) this.sendFading(line, line.fade, engine, now_ms);
      else if (
        engine.dirtyPages[line.page] !== 0 ||
        now_ms - (this.lastSent_ms[line.page] as number) >= KEEP_ALIVE_MS
      )
        this.write(line, dmx, line.page * UNIVERSE_SLOTS);
    }
    // Nodes that show what they have at an ArtSync never wait for it with a universe that changed alone.
    if (this.artTargets.length > 0 && this.artnetNow === 1) this.sendBeside(dmx);
    for (let page = 0; page < engine.dirtyPages.length; page++) {
      if (
        engine.dirtyPages[page] === 0 &&
        now_ms - (this.lastSent_ms[page] as number) < KEEP_ALIVE_MS
      )
        continue;
      this.lastSent_ms[page] = now_ms;
      engine.dirtyPages[page] = 0;
    }
  }

  /** Another Art-Net universe as it is, so that the frame has several. */
  private sendBeside(dmx: Uint8Array): void {
    for (const line of this.lines) {
      if (line.protocol !== 'artnet' || line === this.lastArtnet || line.targets.length === 0)
        continue;
      this.write(line, dmx, line.page * UNIVERSE_SLOTS);
      return;
    }
  }
  private lastArtnet: Line | null = null;

  /** Several universes become one moment; an ArtSync never follows a single one. */
  private sendSync(): void {
    if (this.syncPacket && this.sacnNow > 0)
      this.putAll(this.syncTargets, sacnSyncNext(this.syncPacket));
    if (this.artnetNow > 1) this.putAll(this.artTargets, this.artSyncPacket);
  }

  /** The sequence is the universe's, whatever the start code (E1.31 clause 6.2.5). */
  private sendPriorities(line: Line, each: Uint8Array, now_ms: number): void {
    const at = SEQUENCE_AT.sacn;
    const next = ((line.packet[at] ?? 0) + 1) & 255;
    line.packet[at] = next;
    each[at] = next;
    line.eachSent_ms = now_ms;
    this.put(line, each);
  }

  private sendFading(line: Line, fade: AirFade, engine: Engine, now_ms: number): void {
    const t = fade.at(now_ms);
    fade.mix(
      this.mixed,
      t,
      engine.shared.dmx,
      line.page * UNIVERSE_SLOTS,
      fieldsOf(engine.slots)[line.page] ?? NO_FIELDS,
    );
    this.write(line, this.mixed, 0);
    if (t >= 1) line.fade = null;
  }

  private sendLeaving(now_ms: number): void {
    const ended: Line[] = [];
    for (const line of this.leaving) {
      const t = line.fade?.at(now_ms) ?? 1;
      line.fade?.mix(this.mixed, t, null, 0, NO_FIELDS);
      this.write(line, this.mixed, 0);
      if (t >= 1) ended.push(line);
    }
    this.terminate(ended);
    this.leaving = this.leaving.filter((l) => !ended.includes(l));
  }

  /** On stop: the stream-terminated option three times (E1.31 clause 6.2.6), so that receivers need not wait. */
  close(done: () => void): void {
    this.terminate([...this.leaving, ...this.lines]);
    this.lines = [];
    this.leaving = [];
    this.post.flush();
    void this.post.close().then(done);
  }

  /** Terminated packets carry the last look: a receiver that does not know the option shows nothing else (output.test.ts). */
  private terminate(lines: readonly Line[]): void {
    for (let i = 0; i < TERMINATIONS; i++) {
      for (const line of lines)
        if (line.protocol === 'sacn') this.put(line, sacnTerminated(line.packet));
    }
  }

  private write(line: Line, bytes: Uint8Array, from: number): void {
    if (line.protocol === 'sacn') {
      this.sacnNow++;
      this.put(line, sacnFrame(line.packet, bytes, from));
      return;
    }
    this.artnetNow++;
    this.lastArtnet = line;
    this.put(line, artnetFrame(line.packet, bytes, from));
  }

  private put(line: Line, packet: Uint8Array): void {
    this.putAll(line.targets, packet);
    line.count.packets += line.targets.length;
  }

  private putAll(targets: readonly number[], packet: Uint8Array): void {
    for (const target of targets) {
      this.post.put(target, packet);
      this.packets++;
    }
  }

  /** What the network says of a destination. */
  private noted(target: number, problem: string | null, times: number): void {
    this.errors += times;
    const lines = [...this.leaving, ...this.lines].filter((l) => l.targets.includes(target));
    for (const { count } of lines) {
      count.errors += times;
      if (count.problem !== problem) count.problem = problem;
    }
    if (problem !== null) this.problem = problem;
    else if (this.problem !== null && this.lines.every((l) => l.count.problem === null))
      this.problem = null;
  }
}

/** Of the same universe, the one that counts already. */
const goingOn = (before: Uint8Array | null, now: Uint8Array): Uint8Array =>
  before && before[45] === now[45] && before[46] === now[46] ? before : now;
