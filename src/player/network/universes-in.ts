/** Universes of other desks as they come over the network: sACN and Art-Net, for hands, for merging, and for looking at. */
import { createSocket, type Socket } from 'node:dgram';
import { deskLifted, deskMoved } from '../../core/hands/desk.ts';
import type { Moved } from '../../core/hands/midi.ts';
import { formatPortAddress, readArtDmx } from '../../core/output/artnet.ts';
import { readSacn, sacnMulticast } from '../../core/output/sacn.ts';
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
import { joinEverywhere, ownAddresses, shut } from './udp.ts';

interface Settings {
  /** Our own source’s, without dashes: what we send ourselves is no desk. */
  cid: string;
  sacnPort: number;
  artnet: ArtnetPort;
  /** Whether we send this Art-Net port address ourselves: what comes back of it is ours. */
  isOurs: (portAddress: number) => boolean;
}

interface Universe extends Received {
  socket: Socket | null;
}

export interface UniversesIn {
  /** These ports (`sacn/5`, `artnet/0.0.4`) are listened to from now on for somebody, and no others. */
  want: (who: string, ports: ReadonlySet<string>, now_ms: number) => void;
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
  const wanted = new Map<string, ReadonlySet<string>>();
  let problem: string | null = null;
  let unicast: Socket | null = null;

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
    const port = `sacn/${data.universe}`;
    const u = universes.get(port);
    if (!u) return;
    const { name, priority, sequence, slots, cid } = data;
    if (data.terminated) lose(port, u, cid);
    else take(port, cid, { name, address, priority, sequence, slots });
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
  const openSacn = (port: string): Socket => {
    const universe = Number(port.split('/')[1]);
    const socket = sacnSocket(`sACN universe ${universe}`);
    const group = sacnMulticast(universe);
    // Bound to the group’s own address, so that packets for the simulated node are not taken from it.
    socket.bind(settings.sacnPort, group, () => joinEverywhere(socket, group));
    return socket;
  };
  settings.artnet.hear((bytes, from) => {
    const data = readArtDmx(bytes);
    if (!data) return;
    const port = `artnet/${formatPortAddress(data.portAddress)}`;
    // What nobody wants costs nothing: a network may carry hundreds of universes.
    if (!universes.has(port)) return;
    if (settings.isOurs(data.portAddress) && ownAddresses().includes(from.address)) return;
    take(port, from.address, {
      name: from.address,
      address: from.address,
      priority: 100,
      sequence: data.sequence,
      slots: data.slots,
    });
  });
  return {
    want: (who, ports, now_ms) => {
      wanted.set(who, ports);
      const all = new Set([...wanted.values()].flatMap((set) => [...set]));
      for (const [port, u] of universes) {
        if (!all.has(port)) {
          universes.delete(port);
          shut(u.socket);
          continue;
        }
        for (const key of lostSources(u, now_ms)) lose(port, u, key);
      }
      for (const port of all) {
        if (universes.has(port)) continue;
        const isSacn = port.startsWith('sacn/');
        universes.set(port, {
          ...nothingHeard(isSacn ? 'sacn' : 'artnet'),
          socket: isSacn ? openSacn(port) : null,
        });
      }
      if ([...all].some((p) => p.startsWith('sacn/'))) unicast ??= openUnicast();
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
      for (const u of universes.values()) shut(u.socket);
      shut(unicast);
    },
  };
}
