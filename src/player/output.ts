/**
 * Universes out of the house: prebuilt packets, one UDP socket, changed universes at once and unchanged ones about
 * once a second. A change of what is on air fades from the last bytes sent to the new ones.
 */
import { createSocket, type Socket } from 'node:dgram';
import { artnetFrame, artnetPacket } from '../core/output/artnet.ts';
import type { SacnSource } from '../core/output/bytes.ts';
import { sacnFrame, sacnMulticast, sacnPacket } from '../core/output/sacn.ts';
import type { Engine } from '../core/playback/engine.ts';
import type { RouteRow } from '../core/show/rows.ts';
import type { ClockSettings, LineCount } from './clock-messages.ts';

/** E1.31 clause 6.6.2 asks for 800 to 1000 ms between repeated packets. */
const KEEP_ALIVE_MS = 900;
const TERMINATIONS = 3;
const PAGE = 512;

interface Line {
  protocol: RouteRow['protocol'];
  universe: number;
  page: number;
  host: string;
  port: number;
  packet: Uint8Array;
  count: LineCount;
  /** Told of each packet whether it left; one function per line, not one per packet. */
  sent: (error: Error | null) => void;
}

/** Place of the sequence in a packet: E1.31 clause 6.7.2, Art-Net 4 ArtDmx. */
const SEQUENCE_AT = { sacn: 111, artnet: 12 } as const;

const ART_NET_BROADCAST = '255.255.255.255';

export class Output {
  private readonly socket: Socket;
  private readonly source: SacnSource;
  private engine: Engine | null = null;
  private lines: Line[] = [];
  private lastSent_ms = new Float64Array(0);
  private routeKey = '';
  /** The bytes that are on the wire while one show gives way to another, and those they started from. */
  private mixed = new Uint8Array(0);
  private mixFrom = new Uint8Array(0);
  private mixStart_ms = 0;
  private mixFor_ms = 0;
  packets = 0;
  errors = 0;
  problem: string | null = null;

  constructor(private readonly settings: ClockSettings) {
    this.source = { cid: Uint8Array.from(Buffer.from(settings.cid.replaceAll('-', ''), 'hex')), name: settings.sourceName };
    // Destinations are addresses, never names: no look-up, which would cost a turn of the event loop per packet.
    this.socket = createSocket({ type: 'udp4', lookup: (host, _options, done) => done(null, host, 4) });
    this.socket.on('error', (error) => this.failed(error));
    this.socket.bind(0, () => {
      try {
        this.socket.setMulticastTTL(8);
        this.socket.setBroadcast(true);
        this.socket.setSendBufferSize(4 * 1024 * 1024);
      } catch (error) {
        this.failed(error as Error);
      }
    });
    this.socket.unref();
  }

  get onAir(): Engine | null {
    return this.engine;
  }

  /** Puts an engine's universes on the wire, or none. */
  take(engine: Engine | null, routes: readonly RouteRow[], fade_ms: number, now_ms: number): void {
    const before = this.bytesByUniverse();
    this.engine = engine;
    if (!engine) {
      this.fadeOut(before, fade_ms, now_ms);
      return;
    }
    this.setRoutes(routes, true);
    if (fade_ms <= 0) {
      this.mixFor_ms = 0;
      return;
    }
    const from = new Uint8Array(engine.shared.dmx.length);
    engine.slots.universes.forEach((u, page) => {
      const old = before.get(u);
      if (old) from.set(old, page * PAGE);
    });
    this.mixFrom = from;
    this.mixed = new Uint8Array(from.length);
    this.mixStart_ms = now_ms;
    this.mixFor_ms = fade_ms;
  }

  /** The engine was rebuilt for another patch: same show, no fade. */
  replace(engine: Engine, routes: readonly RouteRow[]): void {
    this.engine = engine;
    this.mixFor_ms = 0;
    this.setRoutes(routes, true);
  }

  setRoutes(routes: readonly RouteRow[], force = false): void {
    const engine = this.engine;
    if (!engine) return;
    const key = JSON.stringify(routes);
    if (!force && key === this.routeKey) return;
    this.routeKey = key;
    const old = this.lines;
    const name = (l: Pick<Line, 'protocol' | 'host' | 'port'>, wire: number): string => `${l.protocol}/${l.host}/${l.port}/${wire}`;
    const kept = new Map(old.map((l) => [name(l, wireOf(l)), l]));
    const counts = new Map(old.map((l) => [l.count.routeId, l.count]));
    this.lines = [];
    for (const route of routes) {
      const page = engine.slots.universes.indexOf(route.universe);
      if (!route.on || page < 0) continue;
      const port = route.protocol === 'sacn' ? this.settings.sacnPort : this.settings.artnetPort;
      const host = this.hostOf(route);
      const known = kept.get(name({ protocol: route.protocol, host, port }, route.wire));
      const packet = route.protocol === 'sacn' ? sacnPacket(this.source, route.wire, route.priority) : artnetPacket(route.wire);
      // A receiver follows the sequence; a changed route goes on counting.
      const at = SEQUENCE_AT[route.protocol];
      packet[at] = known ? (known.packet[at] ?? 0) : (this.starts[`${route.protocol}/${route.wire}`] ?? 0);
      const count = counts.get(route.id) ?? { routeId: route.id, packets: 0, errors: 0, problem: null };
      this.lines.push({ protocol: route.protocol, universe: route.universe, page, host, port, packet, count, sent: (error) => this.noted(count, error) });
    }
    const now = new Set(this.lines.map((l) => name(l, wireOf(l))));
    this.terminate(old.filter((l) => !now.has(name(l, wireOf(l)))));
    this.lastSent_ms = new Float64Array(engine.slots.universes.length);
    engine.dirtyPages.fill(1);
  }

  private hostOf(route: RouteRow): string {
    if (route.destination === 'node') return this.settings.nodeHost;
    if (route.destination === 'multicast') return sacnMulticast(route.wire);
    return route.destination === 'broadcast' ? ART_NET_BROADCAST : route.destination;
  }

  /** Lines that are made from now on count on from here: another player sent these universes before, with the same CID. */
  goOnFrom(starts: Record<string, number>): void {
    this.starts = starts;
  }
  private starts: Record<string, number> = {};

  /** Last sequence of each line, by `protocol/number on the wire`. */
  sequences(): Record<string, number> {
    return Object.fromEntries(this.lines.map((l) => [`${l.protocol}/${wireOf(l)}`, l.packet[SEQUENCE_AT[l.protocol]] ?? 0]));
  }

  /** Packets and errors by route, since it was made. */
  counts(): LineCount[] {
    return this.lines.map((l) => ({ ...l.count }));
  }

  /** Sends what is due. Call once a frame, after the engine's tick. */
  send(now_ms: number): void {
    const engine = this.engine;
    if (!engine) {
      this.sendFadeOut(now_ms);
      return;
    }
    const bytes = this.bytesNow(engine, now_ms);
    for (const line of this.lines) {
      if (engine.dirtyPages[line.page] === 0 && now_ms - (this.lastSent_ms[line.page] as number) < KEEP_ALIVE_MS) continue;
      this.write(line, bytes, line.page * PAGE);
    }
    for (let page = 0; page < engine.dirtyPages.length; page++) {
      if (engine.dirtyPages[page] === 0 && now_ms - (this.lastSent_ms[page] as number) < KEEP_ALIVE_MS) continue;
      this.lastSent_ms[page] = now_ms;
      engine.dirtyPages[page] = 0;
    }
  }

  /** On stop: the stream-terminated option three times (E1.31 clause 6.2.6), so that receivers need not wait. */
  close(done: () => void): void {
    const engine = this.engine;
    this.terminate(this.lines, engine ? engine.shared.dmx : this.mixed);
    this.lines = [];
    // Sends are handed to the kernel at once; closing lets those that were not go first.
    setTimeout(() => this.socket.close(done), 20);
  }

  private bytesNow(engine: Engine, now_ms: number): Uint8Array {
    const target = engine.shared.dmx;
    if (this.mixFor_ms <= 0) return target;
    const t = (now_ms - this.mixStart_ms) / this.mixFor_ms;
    engine.dirtyPages.fill(1);
    if (t >= 1) {
      this.mixFor_ms = 0;
      return target;
    }
    for (let i = 0; i < target.length; i++) this.mixed[i] = (this.mixFrom[i] as number) + ((target[i] as number) - (this.mixFrom[i] as number)) * t;
    return this.mixed;
  }

  private bytesByUniverse(): Map<number, Uint8Array> {
    const engine = this.engine;
    if (!engine) return new Map();
    const bytes = this.mixFor_ms > 0 ? this.mixed : engine.shared.dmx;
    return new Map(engine.slots.universes.map((u, page) => [u, bytes.slice(page * PAGE, (page + 1) * PAGE)]));
  }

  private fadeOut(before: Map<number, Uint8Array>, fade_ms: number, now_ms: number): void {
    const universes = [...before.keys()];
    this.lines = this.lines.map((l) => ({ ...l, page: universes.indexOf(l.universe) }));
    this.mixFrom = new Uint8Array(universes.length * PAGE);
    universes.forEach((u, page) => this.mixFrom.set(before.get(u) ?? [], page * PAGE));
    this.mixed = new Uint8Array(this.mixFrom.length);
    this.mixStart_ms = now_ms;
    this.mixFor_ms = fade_ms;
    this.routeKey = '';
  }

  private sendFadeOut(now_ms: number): void {
    if (this.lines.length === 0) return;
    const rest = this.mixFor_ms <= 0 ? 0 : Math.max(0, 1 - (now_ms - this.mixStart_ms) / this.mixFor_ms);
    for (let i = 0; i < this.mixed.length; i++) this.mixed[i] = (this.mixFrom[i] as number) * rest;
    for (const line of this.lines) this.write(line, this.mixed, line.page * PAGE);
    if (rest > 0) return;
    this.terminate(this.lines, this.mixed);
    this.lines = [];
  }

  private terminate(lines: readonly Line[], bytes: Uint8Array = this.mixed): void {
    for (let i = 0; i < TERMINATIONS; i++) {
      for (const line of lines) if (line.protocol === 'sacn') this.write(line, bytes, line.page * PAGE, true);
    }
  }

  private write(line: Line, bytes: Uint8Array, from: number, terminated = false): void {
    const packet = line.protocol === 'sacn' ? sacnFrame(line.packet, bytes, from, terminated) : artnetFrame(line.packet, bytes, from);
    try {
      this.socket.send(packet, 0, packet.length, line.port, line.host, line.sent);
      this.packets++;
      line.count.packets++;
    } catch (error) {
      this.noted(line.count, error as Error);
    }
  }

  private noted(count: LineCount, error: Error | null): void {
    if (error) {
      count.errors++;
      count.problem = error.message;
      this.failed(error);
      return;
    }
    if (this.problem !== null) this.problem = null;
    if (count.problem !== null) count.problem = null;
  }

  private failed(error: Error): void {
    this.errors++;
    this.problem = error.message;
  }
}

const wireOf = (line: Line): number => (line.protocol === 'sacn' ? ((line.packet[113] ?? 0) << 8) | (line.packet[114] ?? 0) : (line.packet[14] ?? 0) | ((line.packet[15] ?? 0) << 8));
