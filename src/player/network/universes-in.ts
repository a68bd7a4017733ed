/** Universes of other desks as they come over the network: sACN and Art-Net, for hands, for merging, and for looking at. */
import { createSocket, type Socket } from 'node:dgram';
import { deskLifted, deskMoved } from '../../core/hands/desk.ts';
import type { Moved } from '../../core/hands/midi.ts';
import { heardBy } from '../../core/inputs/rows.ts';
import { formatPortAddress, readArtDmx } from '../../core/output/artnet.ts';
import { readSacn, sacnMulticast } from '../../core/output/sacn.ts';
import { cameBy, type Card } from '../../core/wires/cards.ts';
import {
  hearSource,
  loseSource,
  lostSources,
  nothingHeard,
  shownBy,
  type Received,
  type Source,
} from '../../core/wires/received.ts';
import type { ArtnetPort } from './artnet-port.ts';
import { ownAddresses, shut, staysIn } from './udp.ts';

interface Settings {
  /** Our own source’s, without dashes: what we send ourselves is no desk. */
  cid: string;
  sacnPort: number;
  artnet: ArtnetPort;
  /** Whether we send this Art-Net port address ourselves: what comes back of it is ours. */
  isOurs: (portAddress: number) => boolean;
  cards: () => readonly Card[];
}

interface Universe extends Received {
  /** The card by which it comes; null: by any. */
  card: string | null;
}
/** A multicast group that is listened to. */
interface Ear {
  socket: Socket;
  /** Once it is open: on these addresses. */
  stay: (addresses: readonly string[]) => void;
}
/** So often it is looked whether a card has come. */
const CARDS_EVERY_MS = 1000;

export interface UniversesIn {
  /**
   * These (`sacn/5`, `artnet/0.0.4`, `sacn/5 by eth1`) are listened to from now on for somebody, and no others.
   * @param by where what is sent to this machine alone does not matter: two programs of one machine cannot both have it
   */
  want: (who: string, ports: ReadonlySet<string>, now_ms: number, by?: 'multicast') => void;
  /** Those of somebody's that are heard now. */
  names: (who: string) => readonly string[];
  /** What a port shows now, and by whom; null where nobody is heard. */
  shown: (port: string) => Source | null;
  /** All who send it, those of the highest priority first. */
  sources: (port: string) => readonly Source[];
  problem: () => string | null;
  close: () => void;
}

export interface UniversesHeard {
  /** What somebody moved there. */
  moved: (port: string, moved: readonly Moved[]) => void;
  gone: (port: string) => void;
  /** What it shows is something else now. */
  shows: (port: string, slots: Uint8Array) => void;
}

export function universesIn(settings: Settings, heard: UniversesHeard): UniversesIn {
  const universes = new Map<string, Universe>();
  /** Of a port, as it is named in packets: as what it is listened to. */
  const heardOf = new Map<string, string[]>();
  const ears = new Map<string, Ear>();
  let looked_ms = -Infinity;
  const wanted = new Map<string, ReadonlySet<string>>();
  /** Those who want what is sent to this machine alone too. */
  const alone = new Set<string>();
  let problem: string | null = null;
  let unicast: Socket | null = null;

  /** As what a packet is listened to that came from an address. */
  const heardFrom = (port: string, address: string): readonly string[] =>
    (heardOf.get(port) ?? []).filter((as) => {
      const card = universes.get(as)?.card ?? null;
      return card === null || cameBy(settings.cards(), card, address);
    });
  const take = (port: string, key: string, source: Omit<Source, 'at_ms'>): void => {
    const u = universes.get(port);
    if (!u) return;
    const did = hearSource(u, key, { ...source, at_ms: performance.now() });
    if (did.is === 'old' || did.is === 'beside') return;
    heard.shows(port, source.slots);
    if (did.is !== 'next') return;
    const moved = deskMoved(did.before, source.slots);
    if (moved.length > 0) heard.moved(port, moved);
  };
  const lose = (port: string, u: Universe, key: string): void => {
    const last = loseSource(u, key);
    if (!last) return;
    const lifted = deskLifted(last);
    if (lifted.length > 0) heard.moved(port, lifted);
    heard.gone(port);
  };

  const hearSacn = (packet: Uint8Array, address: string): void => {
    const data = readSacn(packet);
    if (!data || data.preview || data.cid === settings.cid) return;
    const { name, priority, sequence, slots, cid } = data;
    for (const as of heardFrom(`sacn/${data.universe}`, address))
      if (data.terminated) lose(as, universes.get(as) as Universe, cid);
      else take(as, cid, { name, address, priority, sequence, slots });
  };
  const sacnSocket = (what: string): Socket => {
    const socket = createSocket({ type: 'udp4', reuseAddr: true });
    socket.on('error', (error) => {
      problem = `${what} is not heard: ${error.message}.`;
    });
    socket.on('message', (packet, from) => hearSacn(packet, from.address));
    return socket;
  };
  /**
   * What is sent to this machine alone. What comes by multicast may come here a second time, and is old by then. The
   * simulated node has an address of its own, and keeps its packets.
   */
  const openUnicast = (): Socket => {
    const socket = sacnSocket('sACN');
    socket.bind(settings.sacnPort);
    return socket;
  };
  const addresses = (): string[] =>
    settings.cards().flatMap((c) => c.addresses.map((a) => a.address));
  const openSacn = (port: string): Ear => {
    const universe = Number(port.split('/')[1]);
    const socket = sacnSocket(`sACN universe ${universe}`);
    const group = sacnMulticast(universe);
    const ear: Ear = { socket, stay: () => undefined };
    // Bound to the group’s own address, so that packets for the simulated node are not taken from it.
    socket.bind(settings.sacnPort, group, () => {
      ear.stay = staysIn(socket, group);
      ear.stay(addresses());
    });
    return ear;
  };
  /** One socket for each sACN universe, however many listen to it. */
  const listen = (): void => {
    heardOf.clear();
    for (const as of universes.keys()) {
      const { port } = heardBy(as);
      heardOf.set(port, [...(heardOf.get(port) ?? []), as]);
      if (port.startsWith('sacn/') && !ears.has(port)) ears.set(port, openSacn(port));
    }
    for (const [port, { socket }] of ears) {
      if (heardOf.has(port)) continue;
      ears.delete(port);
      shut(socket);
    }
  };
  settings.artnet.hear((bytes, from) => {
    const data = readArtDmx(bytes);
    if (!data) return;
    const port = `artnet/${formatPortAddress(data.portAddress)}`;
    // What nobody wants costs nothing: a network may carry hundreds of universes.
    if (!heardOf.has(port)) return;
    const { address } = from;
    if (settings.isOurs(data.portAddress) && ownAddresses().includes(address)) return;
    const { sequence, slots } = data;
    for (const as of heardFrom(port, address))
      take(as, address, { name: address, address, priority: 100, sequence, slots });
  });
  return {
    want: (who, ports, now_ms, by) => {
      wanted.set(who, ports);
      if (by === undefined) alone.add(who);
      const all = new Set([...wanted.values()].flatMap((set) => [...set]));
      for (const [as, u] of universes)
        if (!all.has(as)) universes.delete(as);
        else for (const key of lostSources(u, now_ms)) lose(as, u, key);
      for (const as of all) {
        if (universes.has(as)) continue;
        universes.set(as, {
          ...nothingHeard(as.startsWith('sacn/') ? 'sacn' : 'artnet'),
          card: heardBy(as).card,
        });
      }
      listen();
      if (now_ms - looked_ms >= CARDS_EVERY_MS) {
        looked_ms = now_ms;
        for (const { stay } of ears.values()) stay(addresses());
      }
      const isSentHere = [...alone].some((w) =>
        [...(wanted.get(w) ?? [])].some((p) => p.startsWith('sacn/')),
      );
      if (isSentHere) unicast ??= openUnicast();
      else {
        shut(unicast);
        unicast = null;
      }
      if (all.size === 0) problem = null;
    },
    names: (who) =>
      [...(wanted.get(who) ?? [])].filter((port) => shownBy(universes.get(port)) !== null),
    shown: (port) => shownBy(universes.get(port)),
    sources: (port) =>
      [...(universes.get(port)?.sources.values() ?? [])].sort((a, b) => b.priority - a.priority),
    problem: () => problem ?? settings.artnet.problem(),
    close: () => {
      for (const { socket } of ears.values()) shut(socket);
      shut(unicast);
    },
  };
}
