/** Universes of other desks as they come over the network: sACN and Art-Net, for hands, for merging, and for looking at. */
import type { RemoteInfo } from 'node:dgram';
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
import { listen, ownAddresses, staysIn, type Ear } from './udp.ts';

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
interface GroupEar {
  ear: Ear;
  /** Once it is open: on these addresses. */
  stay: (addresses: readonly string[]) => void;
}
/** So often it is looked whether a card has come. */
const CARDS_EVERY_MS = 1000;

/** Which universes are listened to, for whom. */
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

/** Who is told what is heard. */
export interface UniversesHeard {
  /** What somebody moved there. */
  moved: (port: string, moved: readonly Moved[]) => void;
  gone: (port: string) => void;
  /** What it shows is something else now. */
  shows: (port: string, slots: Uint8Array) => void;
}

/** The sockets that hear sACN: one for each universe, however many listen to it, and one for what is sent to this machine alone. */
function sacnEars(
  { sacnPort, cards }: Settings,
  hear: (packet: Uint8Array, address: string) => void,
) {
  const ears = new Map<string, GroupEar>();
  let unicast: Ear | null = null;
  let looked_ms = -Infinity;
  const heard = (packet: Buffer, from: RemoteInfo): void => hear(packet, from.address);
  const addresses = (): string[] => cards().flatMap((c) => c.addresses.map((a) => a.address));
  const openGroup = (port: string): GroupEar => {
    const group = sacnMulticast(Number(port.split('/')[1]));
    const made: GroupEar = {
      // Bound to the group’s own address, so that packets for the simulated node are not taken from it.
      ear: listen({ port: sacnPort, address: group }, heard, (socket) => {
        made.stay = staysIn(socket, group);
        made.stay(addresses());
      }),
      stay: () => undefined,
    };
    return made;
  };
  return {
    /** Listens to the universes of these ports, and to no others. */
    follow: (ports: ReadonlySet<string>, now_ms: number): void => {
      for (const port of ports) if (!ears.has(port)) ears.set(port, openGroup(port));
      for (const [port, { ear }] of ears) {
        if (ports.has(port)) continue;
        ears.delete(port);
        ear.close();
      }
      if (now_ms - looked_ms < CARDS_EVERY_MS) return;
      looked_ms = now_ms;
      for (const { stay } of ears.values()) stay(addresses());
    },
    /**
     * Hears what is sent to this machine alone, or no more. What comes by multicast may come here a second time, and is old
     * by then. The simulated node has an address of its own, and keeps its packets.
     */
    alone: (on: boolean): void => {
      if (on) unicast ??= listen({ port: sacnPort }, heard);
      else {
        unicast?.close();
        unicast = null;
      }
    },
    /** Of what is listened to now. */
    problem: (): string | null => {
      const said = unicast?.problem();
      if (said) return `sACN is not heard: ${said}.`;
      for (const [port, { ear }] of ears)
        if (ear.problem() !== null)
          return `sACN universe ${port.split('/')[1]} is not heard: ${ear.problem()}.`;
      return null;
    },
    close: (): void => {
      for (const { ear } of ears.values()) ear.close();
      unicast?.close();
    },
  };
}

/** Who wants to hear what. */
function wishes() {
  const wanted = new Map<string, ReadonlySet<string>>();
  /** Those who want what is sent to this machine alone too. */
  const alone = new Set<string>();
  return {
    set: (who: string, ports: ReadonlySet<string>, by?: 'multicast'): void => {
      wanted.set(who, ports);
      if (by === undefined) alone.add(who);
    },
    of: (who: string): readonly string[] => [...(wanted.get(who) ?? [])],
    all: (): Set<string> => new Set([...wanted.values()].flatMap((set) => [...set])),
    areAlone: (): boolean =>
      [...alone].some((who) => [...(wanted.get(who) ?? [])].some((p) => p.startsWith('sacn/'))),
  };
}

/** What is heard of each universe that somebody wants, by which card, and what came of it. */
function received(settings: Settings, heard: UniversesHeard) {
  const universes = new Map<string, Universe>();
  /** Of a port, as it is named in packets: as what it is listened to. */
  const heardOf = new Map<string, string[]>();
  const lose = (port: string, u: Universe, key: string): void => {
    const last = loseSource(u, key);
    if (!last) return;
    const lifted = deskLifted(last);
    if (lifted.length > 0) heard.moved(port, lifted);
    heard.gone(port);
  };
  const take = (port: string, u: Universe, key: string, source: Omit<Source, 'at_ms'>): void => {
    const did = hearSource(u, key, { ...source, at_ms: performance.now() });
    if (did.is === 'old' || did.is === 'beside') return;
    heard.shows(port, source.slots);
    if (did.is !== 'next') return;
    const moved = deskMoved(did.before, source.slots);
    if (moved.length > 0) heard.moved(port, moved);
  };
  return {
    universes,
    /** What nobody wants costs nothing: a network may carry hundreds of universes. */
    isWanted: (port: string): boolean => heardOf.has(port),
    ports: (): ReadonlySet<string> => new Set(heardOf.keys()),
    /** These from now on, and no others; whoever is silent in the others is lost. */
    keep: (all: ReadonlySet<string>, now_ms: number): void => {
      for (const [as, u] of universes)
        if (!all.has(as)) universes.delete(as);
        else for (const key of lostSources(u, now_ms)) lose(as, u, key);
      for (const as of all) {
        if (universes.has(as)) continue;
        const protocol = as.startsWith('sacn/') ? 'sacn' : 'artnet';
        universes.set(as, { ...nothingHeard(protocol), card: heardBy(as).card });
      }
      heardOf.clear();
      for (const as of universes.keys()) {
        const { port } = heardBy(as);
        heardOf.set(port, [...(heardOf.get(port) ?? []), as]);
      }
    },
    /** A packet that came from an address, to those who listen by the card that it came by. @param source null: it ends */
    heard: (
      port: string,
      key: string,
      address: string,
      source: Omit<Source, 'at_ms' | 'address'> | null,
    ): void => {
      for (const as of heardOf.get(port) ?? []) {
        const u = universes.get(as);
        if (!u || (u.card !== null && !cameBy(settings.cards(), u.card, address))) continue;
        if (source) take(as, u, key, { ...source, address });
        else lose(as, u, key);
      }
    },
  };
}

/** None listened to yet. */
export function universesIn(settings: Settings, heard: UniversesHeard): UniversesIn {
  const wanted = wishes();
  const here = received(settings, heard);
  const ears = sacnEars(settings, (packet, address) => {
    const data = readSacn(packet);
    if (!data || data.preview || data.cid === settings.cid) return;
    const { name, priority, sequence, slots, cid, terminated } = data;
    const source = terminated ? null : { name, priority, sequence, slots };
    here.heard(`sacn/${data.universe}`, cid, address, source);
  });
  settings.artnet.hear((bytes, { address }) => {
    const data = readArtDmx(bytes);
    if (!data) return;
    const port = `artnet/${formatPortAddress(data.portAddress)}`;
    if (!here.isWanted(port)) return;
    if (settings.isOurs(data.portAddress) && ownAddresses().includes(address)) return;
    const { sequence, slots } = data;
    here.heard(port, address, address, { name: address, priority: 100, sequence, slots });
  });
  return {
    want: (who, ports, now_ms, by) => {
      wanted.set(who, ports, by);
      const all = wanted.all();
      here.keep(all, now_ms);
      ears.follow(new Set([...here.ports()].filter((p) => p.startsWith('sacn/'))), now_ms);
      ears.alone(wanted.areAlone());
    },
    names: (who) => wanted.of(who).filter((port) => shownBy(here.universes.get(port)) !== null),
    shown: (port) => shownBy(here.universes.get(port)),
    sources: (port) =>
      [...(here.universes.get(port)?.sources.values() ?? [])].sort(
        (a, b) => b.priority - a.priority,
      ),
    problem: () => ears.problem() ?? settings.artnet.problem(),
    close: ears.close,
  };
}
