/** Who else is on the network: asks Art-Net nodes and answers them, tells and hears sACN universes. */
import { createSocket, type Socket } from 'node:dgram';
import {
  ART_STYLE,
  artAddress,
  artPoll,
  artPollReply,
  inReplies,
  isArtPoll,
  outputsOf,
  readArtPollReply,
  type ArtNames,
  type ArtNode,
} from '../../core/output/art-poll.ts';
import {
  readSacnDiscovery,
  SACN_DISCOVERY_EVERY_MS,
  SACN_DISCOVERY_GROUP,
  sacnDiscovery,
  type SacnDiscovered,
} from '../../core/output/sacn-discovery.ts';
import { broadcastOf, cardTowards, leavesBy, usable, type Card } from '../../core/wires/cards.ts';
import type { Wires } from '../../core/wires/wires.ts';
import type { NodeSeen, SourceSeen } from '../../core/live/messages.ts';
import type { ArtnetPort } from './artnet-port.ts';
import { ownAddresses, shut, staysIn } from './udp.ts';

/** Universes on the wire now, and where they go, for telling others. */
export interface Sending {
  sacn: number[];
  /** Addresses that get sACN for themselves alone. */
  sacnHosts: string[];
  /** sACN goes to the simulated node. */
  toNode: boolean;
  artnetWires: number[];
  artnetHosts: string[];
}
export interface DiscoverySettings {
  cid: string;
  sacnPort: number;
  artnetPort: number;
  nodeHost: string;
  nodeSacnPort: number;
  nodeArtnetPort: number;
}
/** Nodes are on the protocol's own port; the simulated one is where it found room. */
export const artnetPortAt = (s: DiscoverySettings, host: string): number =>
  host === s.nodeHost ? s.nodeArtnetPort : s.artnetPort;

interface DiscoveryNeeds extends DiscoverySettings {
  artnet: ArtnetPort;
  network: () => { cards: readonly Card[]; wires: Wires };
  sending: () => Sending;
  /** A node that was not there before, or puts something else out. */
  changed: () => void;
}

const POLL_EVERY_MS = 2800;
/** A node that does not answer three polls, a source that misses two of its announcements. */
const NODE_GONE_MS = 3 * POLL_EVERY_MS + 600;
const SOURCE_GONE_MS = 25_000;
/** Replies to a poll and sources that are remembered; more is noise. */
const MOST_SEEN = 500;
/** Polls that are answered in a second: a flood of them is not made larger. */
const ANSWERS_A_SECOND = 10;
const LIMITED_BROADCAST = '255.255.255.255';
/** Replies to one poll. */
const MOST_REPLIES = 64;

interface Seen<T> {
  is: T;
  at_ms: number;
}

export interface Discovery {
  /** By port address: the nodes that put it out. */
  asked: () => Map<number, string[]>;
  nodes: () => NodeSeen[];
  sources: () => SourceSeen[];
  /** What cannot be heard. */
  deaf: () => string[];
  /** Gives a device other names; it answers with them. */
  rename: (address: string, bindIndex: number, names: ArtNames) => void;
  poll: () => void;
  close: () => void;
}

/** A device answers once for each four ports: which of its replies it is. */
const replyKey = (from: string, node: ArtNode): string =>
  `${from}/${node.bindIndex}/${node.ports.map((p) => p.portAddress).join()}`;

/** Our own reply: what this house puts onto the network. */
function repliesOf(
  address: string,
  name: string,
  problem: string | null,
  portAddresses: readonly number[],
): Uint8Array[] {
  const groups = inReplies(portAddresses);
  return (groups.length > 0 ? groups : [[]]).slice(0, MOST_REPLIES).map((group, i) =>
    artPollReply({
      address,
      shortName: name,
      longName: name,
      report: `#0001 [0] ${problem ?? 'sending'}`,
      ports: group.map((portAddress) => ({
        way: 'in',
        portAddress,
        active: problem === null,
        merges: false,
        fault: '',
      })),
      style: ART_STYLE.controller,
      rdm: false,
      mac: '',
      bindIndex: i + 1,
    }),
  );
}

export function discover(needs: DiscoveryNeeds): Discovery {
  const nodes = new Map<string, Seen<ArtNode>>();
  const sources = new Map<
    string,
    Seen<{ name: string; address: string; pages: Map<number, number[]> }>
  >();
  const deaf = new Set<string>();
  const cid = needs.cid.replaceAll('-', '');
  const { artnet } = needs;

  let answers = ANSWERS_A_SECOND;
  const answerPoll = (from: { address: string; port: number }): void => {
    if (answers-- <= 0) return;
    const { cards, wires } = needs.network();
    const towards = cardTowards(cards, from.address)?.addresses[0]?.address ?? needs.nodeHost;
    const { artnetWires } = needs.sending();
    for (const reply of repliesOf(towards, wires.sourceName, null, artnetWires)) {
      artnet.send(reply, from.address, from.port);
      // The standard sends replies to its own port, wherever the question came from.
      if (from.port !== needs.artnetPort) artnet.send(reply, from.address);
    }
  };
  artnet.hear((packet, from) => {
    if (isArtPoll(packet)) {
      const isOwn = from.port === needs.artnetPort && ownAddresses().includes(from.address);
      if (!isOwn) answerPoll(from);
      return;
    }
    const node = readArtPollReply(packet);
    if (!node) return;
    const key = replyKey(from.address, node);
    const isNew = !nodes.has(key);
    if (isNew && nodes.size >= MOST_SEEN) return;
    nodes.set(key, { is: { ...node, address: from.address }, at_ms: performance.now() });
    if (isNew) needs.changed();
  });

  const heardSource = (packet: Uint8Array, from: string): void => {
    const page: SacnDiscovered | undefined = readSacnDiscovery(packet);
    if (!page || (!sources.has(page.cid) && sources.size >= MOST_SEEN)) return;
    const pages = sources.get(page.cid)?.is.pages ?? new Map<number, number[]>();
    pages.set(page.page, page.universes);
    for (const n of pages.keys()) if (n > page.lastPage) pages.delete(n);
    sources.set(page.cid, {
      is: { name: page.name, address: from, pages },
      at_ms: performance.now(),
    });
  };
  const { ear, stay } = listenForSources(needs.sacnPort, heardSource, () =>
    deaf.add('other sACN sources'),
  );
  const mouth = createSocket({ type: 'udp4' });
  mouth.on('error', () => undefined);
  mouth.bind(0, () => mouth.setBroadcast(true));
  mouth.unref();

  const poll = (): void => {
    stay();
    const packet = artPoll();
    artnet.send(packet, needs.nodeHost, needs.nodeArtnetPort);
    const shouts = usable(needs.network().cards).flatMap((c) => c.addresses.map(broadcastOf));
    const { artnetHosts } = needs.sending();
    for (const host of new Set([
      ...(shouts.length > 0 ? shouts : [LIMITED_BROADCAST]),
      ...artnetHosts,
    ]))
      artnet.send(packet, host);
  };
  const announce = (): void => {
    const { sacn, sacnHosts, toNode } = needs.sending();
    if (sacn.length === 0) return;
    const { cards, wires } = needs.network();
    const leaves = leavesBy(cards, wires.card);
    const source = { cid: Uint8Array.from(Buffer.from(cid, 'hex')), name: wires.sourceName };
    const send = (packet: Uint8Array, host: string, port: number): void =>
      mouth.send(packet, port, host, () => undefined);
    try {
      if (leaves.by === 'card') mouth.setMulticastInterface(leaves.address.address);
    } catch {
      // The card has gone in this moment.
    }
    for (const packet of sacnDiscovery(source, sacn)) {
      if (toNode) send(packet, needs.nodeHost, needs.nodeSacnPort);
      if (leaves.by !== 'nothing')
        for (const host of [SACN_DISCOVERY_GROUP, ...sacnHosts]) send(packet, host, needs.sacnPort);
    }
  };
  const polling = setInterval(poll, POLL_EVERY_MS);
  const answering = setInterval(() => (answers = ANSWERS_A_SECOND), 1000);
  const announcing = setInterval(announce, SACN_DISCOVERY_EVERY_MS);
  setTimeout(announce, 500).unref();
  poll();

  const here = (): Seen<ArtNode>[] => {
    const now = performance.now();
    for (const [key, node] of nodes) if (now - node.at_ms > NODE_GONE_MS) nodes.delete(key);
    return [...nodes.values()];
  };
  return {
    asked: () => {
      const asked = new Map<number, string[]>();
      for (const { is } of here())
        for (const p of outputsOf(is))
          asked.set(p, [...new Set([...(asked.get(p) ?? []), is.address])].sort());
      return asked;
    },
    nodes: () => {
      const now = performance.now();
      const { cards } = needs.network();
      return here()
        .map(({ is, at_ms }) => ({
          ...is,
          card: cardTowards(cards, is.address)?.name ?? null,
          heard_s: (now - at_ms) / 1000,
        }))
        .sort(
          (a, b) =>
            a.address.localeCompare(b.address) ||
            (a.ports[0]?.portAddress ?? 0) - (b.ports[0]?.portAddress ?? 0),
        );
    },
    sources: () => {
      const now = performance.now();
      const { cards } = needs.network();
      for (const [key, s] of sources) if (now - s.at_ms > SOURCE_GONE_MS) sources.delete(key);
      return [...sources].map(([key, s]) => ({
        cid: key,
        name: s.is.name,
        address: s.is.address,
        universes: [...s.is.pages.values()].flat().sort((a, b) => a - b),
        own: key === cid,
        card: cardTowards(cards, s.is.address)?.name ?? null,
        heard_s: (now - s.at_ms) / 1000,
      }));
    },
    deaf: () => [...deaf, ...(artnet.problem() === null ? [] : ['Art-Net'])],
    rename: (address, bindIndex, names) =>
      artnet.send(artAddress(names, bindIndex), address, artnetPortAt(needs, address)),
    poll,
    close: () => {
      clearInterval(polling);
      clearInterval(answering);
      clearInterval(announcing);
      for (const socket of [ear, mouth]) shut(socket);
    },
  };
}

/** Bound to the group's own address, so that packets for the simulated node are not taken from it. */
function listenForSources(
  port: number,
  heard: (packet: Uint8Array, from: string) => void,
  failed: () => void,
): { ear: Socket; stay: () => void } {
  const ear = createSocket({ type: 'udp4', reuseAddr: true });
  const stayOn = staysIn(ear, SACN_DISCOVERY_GROUP);
  let isOpen = false;
  const stay = (): void => {
    if (isOpen) stayOn(ownAddresses());
  };
  ear.on('error', failed);
  ear.on('close', () => (isOpen = false));
  ear.on('message', (packet, from) => heard(packet, from.address));
  ear.bind(port, SACN_DISCOVERY_GROUP, () => {
    isOpen = true;
    stay();
  });
  ear.unref();
  return { ear, stay };
}
