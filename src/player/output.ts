/**
 * Universes out of the house: prebuilt packets, one UDP socket, changed universes at once and unchanged ones about
 * once a second. A change of what is on air fades from the last bytes sent to the new ones.
 */
import { createSocket, type Socket } from 'node:dgram';
import { artnetFrame, artnetPacket } from '../core/output/artnet.ts';
import type { SacnSource } from '../core/output/bytes.ts';
import { sacnFrame, sacnMulticast, sacnPacket, sacnTerminated } from '../core/output/sacn.ts';
import type { Engine } from '../core/playback/engine.ts';
import type { RouteRow } from '../core/routes/rows.ts';
import { AirFade, fieldsOf, PAGE, type Field } from './air-fade.ts';
import type { ClockSettings, LineCount } from './clock-messages.ts';

/** E1.31 clause 6.6.2 asks for 800 to 1000 ms between repeated packets. */
const KEEP_ALIVE_MS = 900;
const TERMINATIONS = 3;

interface Line {
  protocol: RouteRow['protocol'];
  /** In the engine's order; -1 where the engine does not have it, and the stream is on its way out. */
  page: number;
  host: string;
  port: number;
  packet: Uint8Array;
  count: LineCount;
  /** On its way from what was on air before. */
  fade: AirFade | null;
  /** Told of each packet whether it left; one function per line, not one per packet. */
  sent: (error: Error | null) => void;
}

/** Place of the sequence in a packet: E1.31 clause 6.7.2, Art-Net 4 ArtDmx. */
const SEQUENCE_AT = { sacn: 111, artnet: 12 } as const;
const DATA_AT = { sacn: 126, artnet: 18 } as const;

const ART_NET_BROADCAST = '255.255.255.255';
const NO_FIELDS: readonly Field[] = [];

const wireOf = ({ protocol, packet }: Line): number =>
  protocol === 'sacn'
    ? ((packet[113] ?? 0) << 8) | (packet[114] ?? 0)
    : (packet[14] ?? 0) | ((packet[15] ?? 0) << 8);
/** Two lines of one name are one stream. */
const nameOf = (line: Line): string => `${line.protocol}/${line.host}/${line.port}/${wireOf(line)}`;
/** What is on the wire. */
const bytesOf = ({ packet, protocol }: Line): Uint8Array =>
  packet.subarray(DATA_AT[protocol], DATA_AT[protocol] + PAGE);

export class Output {
  private readonly socket: Socket;
  private readonly source: SacnSource;
  private engine: Engine | null = null;
  private lines: Line[] = [];
  /** Streams that the show on air does not have: they fade to nothing, and end. */
  private leaving: Line[] = [];
  private lastSent_ms = new Float64Array(0);
  private routeKey = '';
  private readonly mixed = new Uint8Array(PAGE);
  packets = 0;
  errors = 0;
  problem: string | null = null;

  constructor(private readonly settings: ClockSettings) {
    this.source = {
      cid: Uint8Array.from(Buffer.from(settings.cid.replaceAll('-', ''), 'hex')),
      name: settings.sourceName,
    };
    // Destinations are addresses, never names: no look-up, which would cost a turn of the event loop per packet.
    this.socket = createSocket({
      type: 'udp4',
      lookup: (host, _options, done) => done(null, host, 4),
    });
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

  /** Puts an engine's universes on the wire, or none; what was there fades over, stream by stream. */
  take(engine: Engine | null, routes: readonly RouteRow[], fade_ms: number, now_ms: number): void {
    const before = new Map(
      [...this.leaving, ...this.lines].map((line) => [
        nameOf(line),
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
    this.lines = engine ? this.linesOf(engine, routes, old) : [];
    for (const line of this.lines)
      line.fade =
        before.get(nameOf(line))?.fade ??
        (fade_ms > 0 ? new AirFade(new Uint8Array(PAGE), NO_FIELDS, now_ms, fade_ms) : null);
    const stays = new Set(this.lines.map(nameOf));
    const gone = [...before.values()].filter(({ line }) => !stays.has(nameOf(line)));
    if (fade_ms > 0) this.leaving = gone.map(({ line, fade }) => ({ ...line, page: -1, fade }));
    else this.terminate(gone.map(({ line }) => line));
    this.routeKey = JSON.stringify(routes);
    this.sendAll();
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
    const fades = new Map(old.map((l) => [nameOf(l), l.fade]));
    this.lines = this.linesOf(engine, routes, [...this.leaving, ...old]);
    const now = new Set(this.lines.map(nameOf));
    for (const line of this.lines) line.fade = fades.get(nameOf(line)) ?? null;
    this.leaving = this.leaving.filter((l) => !now.has(nameOf(l)));
    this.terminate(old.filter((l) => !now.has(nameOf(l))));
    this.sendAll();
  }

  private sendAll(): void {
    if (!this.engine) return;
    this.lastSent_ms = new Float64Array(this.engine.slots.universes.length);
    this.engine.dirtyPages.fill(1);
  }

  /** Streams of a show, each once whatever its routes say; those that were there go on counting. */
  private linesOf(engine: Engine, routes: readonly RouteRow[], old: readonly Line[]): Line[] {
    const kept = new Map(old.map((l) => [nameOf(l), l]));
    const counts = new Map(old.map((l) => [l.count.routeId, l.count]));
    const lines = new Map<string, Line>();
    for (const route of routes) {
      const page = engine.slots.universes.indexOf(route.universe);
      if (!route.on || page < 0) continue;
      const packet =
        route.protocol === 'sacn'
          ? sacnPacket(this.source, route.wire, route.priority)
          : artnetPacket(route.wire);
      const count = counts.get(route.id) ?? {
        routeId: route.id,
        packets: 0,
        errors: 0,
        problem: null,
      };
      const line: Line = {
        protocol: route.protocol,
        page,
        host: this.hostOf(route),
        port: this.portOf(route),
        packet,
        count,
        fade: null,
        sent: (error) => this.noted(count, error),
      };
      const known = kept.get(nameOf(line));
      // A receiver follows the sequence; a changed route goes on counting, and from the bytes that it last had.
      const at = SEQUENCE_AT[route.protocol];
      packet[at] = known
        ? (known.packet[at] ?? 0)
        : (this.starts[`${route.protocol}/${route.wire}`] ?? 0);
      if (known) bytesOf(line).set(bytesOf(known));
      if (!lines.has(nameOf(line))) lines.set(nameOf(line), line);
    }
    return [...lines.values()];
  }

  /** Lights are on the protocols' own ports, always; the simulated node is where it found room. */
  private portOf({ protocol, destination }: RouteRow): number {
    const { sacnPort, artnetPort, nodeSacnPort, nodeArtnetPort } = this.settings;
    if (destination === 'node') return protocol === 'sacn' ? nodeSacnPort : nodeArtnetPort;
    return protocol === 'sacn' ? sacnPort : artnetPort;
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
    return Object.fromEntries(
      [...this.leaving, ...this.lines].map((l) => [
        `${l.protocol}/${wireOf(l)}`,
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
    if (this.leaving.length > 0) this.sendLeaving(now_ms);
    const { engine } = this;
    if (!engine) return;
    const { dmx } = engine.shared;
    for (const line of this.lines) {
      if (line.fade !== null) this.sendFading(line, line.fade, engine, now_ms);
      else if (
        engine.dirtyPages[line.page] !== 0 ||
        now_ms - (this.lastSent_ms[line.page] as number) >= KEEP_ALIVE_MS
      )
        this.write(line, dmx, line.page * PAGE);
    }
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

  private sendFading(line: Line, fade: AirFade, engine: Engine, now_ms: number): void {
    const t = fade.at(now_ms);
    fade.mix(
      this.mixed,
      t,
      engine.shared.dmx,
      line.page * PAGE,
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
    // Sends are handed to the kernel at once; closing lets those that were not go first.
    setTimeout(() => this.socket.close(done), 20);
  }

  /** Terminated packets carry the last look: a receiver that does not know the option shows nothing else (output.test.ts). */
  private terminate(lines: readonly Line[]): void {
    for (let i = 0; i < TERMINATIONS; i++) {
      for (const line of lines)
        if (line.protocol === 'sacn') this.put(line, sacnTerminated(line.packet));
    }
  }

  private write(line: Line, bytes: Uint8Array, from: number): void {
    this.put(
      line,
      line.protocol === 'sacn'
        ? sacnFrame(line.packet, bytes, from)
        : artnetFrame(line.packet, bytes, from),
    );
  }

  private put(line: Line, packet: Uint8Array): void {
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
