/** Universes of other desks as they come over the network: sACN and Art-Net received for hands. */
import { createSocket, type Socket } from 'node:dgram';
import { networkInterfaces } from 'node:os';
import { deskLifted, deskMoved, type DeskState } from '../../core/hands/desk.ts';
import type { Moved } from '../../core/hands/midi.ts';
import { formatPortAddress, readArtDmx } from '../../core/output/artnet.ts';
import { isStale, readSacn, sacnMulticast } from '../../core/output/sacn.ts';

/** E1.31 clause 6.7.1, and as long as Art-Net nodes wait. */
const LOST_MS = { sacn: 2500, artnet: 10_000 } as const;

interface Settings {
  /** Our own source’s, without dashes: what we send ourselves is no desk. */
  cid: string;
  sacnPort: number;
  artnetPort: number;
}

interface Source {
  slots: DeskState;
  priority: number;
  sequence: number;
  at_ms: number;
}

interface Universe {
  protocol: keyof typeof LOST_MS;
  socket: Socket | null;
  sources: Map<string, Source>;
  /** The source that is followed: the highest priority, and of those who came first. */
  from: string | null;
}

export interface DeskPorts {
  /** These universes are listened to from now on, and no others. */
  want: (ports: ReadonlySet<string>, now_ms: number, alsoArtnet: boolean) => void;
  /** Those that are heard now. */
  names: () => readonly string[];
  problem: () => string | null;
  close: () => void;
}

const ownAddresses = (): string[] =>
  Object.values(networkInterfaces())
    .flat()
    .flatMap((i) => (i?.family === 'IPv4' ? [i.address] : []));

export function deskPorts(
  settings: Settings,
  heard: (port: string, moved: readonly Moved[]) => void,
  gone: (port: string) => void,
  /** Every Art-Net packet, for those who want something else of it. */
  packet: (packet: Uint8Array) => void,
): DeskPorts {
  const universes = new Map<string, Universe>();
  let artnet: Socket | null = null;
  let problem: string | null = null;

  const take = (
    port: string,
    key: string,
    priority: number,
    sequence: number,
    slots: Uint8Array,
  ) => {
    const u = universes.get(port);
    if (!u) return;
    const known = u.sources.get(key);
    if (known && u.protocol === 'sacn' && isStale(sequence, known.sequence)) return;
    const before = known?.slots ?? null;
    u.sources.set(key, { slots, priority, sequence, at_ms: performance.now() });
    const best = [...u.sources].sort((a, b) => b[1].priority - a[1].priority)[0]?.[0] ?? key;
    // Another source leads: where it stands moves nothing.
    if (u.from !== best) u.from = best;
    else if (best === key) {
      const moved = deskMoved(before, slots);
      if (moved.length > 0) heard(port, moved);
    }
  };
  const lose = (port: string, u: Universe, key: string): void => {
    const source = u.sources.get(key);
    u.sources.delete(key);
    if (u.from !== key || !source) return;
    u.from = null;
    const lifted = deskLifted(source.slots);
    if (lifted.length > 0) heard(port, lifted);
    gone(port);
  };

  const openSacn = (port: string): Socket => {
    const universe = Number(port.split('/')[1]);
    const socket = createSocket({ type: 'udp4', reuseAddr: true });
    socket.on('error', (error) => {
      problem = `sACN universe ${universe} is not heard: ${error.message}.`;
    });
    socket.on('message', (packet) => {
      const data = readSacn(packet);
      if (data?.universe !== universe || data.preview || data.cid === settings.cid) return;
      const u = universes.get(port);
      if (data.terminated && u) lose(port, u, data.cid);
      else take(port, data.cid, data.priority, data.sequence, data.slots);
    });
    const group = sacnMulticast(universe);
    // Bound to the group’s own address, so that packets for the simulated node are not taken from it.
    socket.bind(settings.sacnPort, group, () => {
      for (const address of ownAddresses()) {
        try {
          socket.addMembership(group, address);
        } catch {
          // A card that takes no multicast hears none.
        }
      }
    });
    return socket;
  };
  const openArtnet = (): Socket => {
    const socket = createSocket({ type: 'udp4', reuseAddr: true });
    socket.on('error', (error) => {
      problem = `Art-Net is not heard: ${error.message}.`;
    });
    socket.on('message', (bytes, from) => {
      packet(bytes);
      const data = readArtDmx(bytes);
      if (!data || ownAddresses().includes(from.address)) return;
      const port = `artnet/${formatPortAddress(data.portAddress)}`;
      if (universes.has(port)) take(port, from.address, 100, data.sequence, data.slots);
    });
    socket.bind(settings.artnetPort);
    return socket;
  };
  const shut = (socket: Socket | null): void => {
    try {
      socket?.close();
    } catch {
      // It never opened.
    }
  };

  return {
    want: (ports, now_ms, alsoArtnet) => {
      for (const [port, u] of universes) {
        if (!ports.has(port)) {
          universes.delete(port);
          shut(u.socket);
          continue;
        }
        for (const [key, source] of u.sources)
          if (now_ms - source.at_ms > LOST_MS[u.protocol]) lose(port, u, key);
      }
      for (const port of ports) {
        if (universes.has(port)) continue;
        const protocol = port.startsWith('sacn/') ? 'sacn' : 'artnet';
        const socket = protocol === 'sacn' ? openSacn(port) : null;
        universes.set(port, { protocol, socket, sources: new Map(), from: null });
      }
      const wantsArtnet = alsoArtnet || [...ports].some((p) => p.startsWith('artnet/'));
      if (wantsArtnet) artnet ??= openArtnet();
      else {
        shut(artnet);
        artnet = null;
      }
      if (ports.size === 0) problem = null;
    },
    names: () => [...universes].flatMap(([port, u]) => (u.from === null ? [] : [port])),
    problem: () => problem,
    close: () => {
      for (const u of universes.values()) shut(u.socket);
      shut(artnet);
    },
  };
}
