/** Who else is on the network: asks Art-Net nodes and answers them, tells and hears sACN universes. */
import { createSocket } from 'node:dgram';
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
import { listen, ownAddresses, shut, staysIn, type Ear } from './udp.ts';

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
/** Where a house looks for others. */
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
/** From the beginning to the first announcement: what is sent is known by then. */
const FIRST_WORD_MS = 500;
/** Replies to one poll. */
const MOST_REPLIES = 64;

interface Seen<T> {
  is: T;
  at_ms: number;
}

/** Who else is on the network. */
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

/** Nodes that have answered lately. @param changed a node that was not there before, or puts something else out */
function nodesSeen(changed: () => void) {
  const nodes = new Map<string, Seen<ArtNode>>();
  const here = (): Seen<ArtNode>[] => {
    const now = performance.now();
    for (const [key, node] of nodes) if (now - node.at_ms > NODE_GONE_MS) nodes.delete(key);
    return [...nodes.values()];
  };
  return {
    take: (node: ArtNode, address: string): void => {
      const key = replyKey(address, node);
      const isNew = !nodes.has(key);
      if (isNew && nodes.size >= MOST_SEEN) return;
      nodes.set(key, { is: { ...node, address }, at_ms: performance.now() });
      if (isNew) changed();
    },
    asked: (): Map<number, string[]> => {
      const asked = new Map<number, string[]>();
      for (const { is } of here())
        for (const p of outputsOf(is))
          asked.set(p, [...new Set([...(asked.get(p) ?? []), is.address])].sort());
      return asked;
    },
    list: (cards: readonly Card[]): NodeSeen[] => {
      const now = performance.now();
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
  };
}

/** Sources of sACN that have told their universes lately. @param own the CID of this house, without dashes */
function sourcesSeen(own: string) {
  const sources = new Map<
    string,
    Seen<{ name: string; address: string; pages: Map<number, number[]> }>
  >();
  return {
    take: (packet: Uint8Array, address: string): void => {
      const page: SacnDiscovered | undefined = readSacnDiscovery(packet);
      if (!page || (!sources.has(page.cid) && sources.size >= MOST_SEEN)) return;
      const pages = sources.get(page.cid)?.is.pages ?? new Map<number, number[]>();
      pages.set(page.page, page.universes);
      for (const n of pages.keys()) if (n > page.lastPage) pages.delete(n);
      sources.set(page.cid, { is: { name: page.name, address, pages }, at_ms: performance.now() });
    },
    list: (cards: readonly Card[]): SourceSeen[] => {
      const now = performance.now();
      for (const [key, s] of sources) if (now - s.at_ms > SOURCE_GONE_MS) sources.delete(key);
      return [...sources].map(([cid, { is, at_ms }]) => ({
        cid,
        name: is.name,
        address: is.address,
        universes: [...is.pages.values()].flat().sort((a, b) => a - b),
        own: cid === own,
        card: cardTowards(cards, is.address)?.name ?? null,
        heard_s: (now - at_ms) / 1000,
      }));
    },
  };
}

/** Answers polls of others, no more than so many in a second. */
function answering({ artnet, artnetPort, nodeHost, network, sending }: DiscoveryNeeds) {
  let answers = ANSWERS_A_SECOND;
  const refill = setInterval(() => (answers = ANSWERS_A_SECOND), 1000);
  return {
    answer: (from: { address: string; port: number }): void => {
      const isOwn = from.port === artnetPort && ownAddresses().includes(from.address);
      if (isOwn || answers-- <= 0) return;
      const { cards, wires } = network();
      const towards = cardTowards(cards, from.address)?.addresses[0]?.address ?? nodeHost;
      for (const reply of repliesOf(towards, wires.sourceName, null, sending().artnetWires)) {
        artnet.send(reply, from.address, from.port);
        // The standard sends replies to its own port, wherever the question came from.
        if (from.port !== artnetPort) artnet.send(reply, from.address);
      }
    },
    close: () => clearInterval(refill),
  };
}

/** Asks all nodes: on every card, and those that routes name. */
function poll({ artnet, nodeHost, nodeArtnetPort, network, sending }: DiscoveryNeeds): void {
  const packet = artPoll();
  artnet.send(packet, nodeHost, nodeArtnetPort);
  const shouts = usable(network().cards).flatMap((c) => c.addresses.map(broadcastOf));
  const everybody = shouts.length > 0 ? shouts : [LIMITED_BROADCAST];
  for (const host of new Set([...everybody, ...sending().artnetHosts])) artnet.send(packet, host);
}

/** Tells which universes this house sends (E1.31 clause 8). @param own its CID, without dashes */
function announcing(needs: DiscoveryNeeds, own: string) {
  const mouth = createSocket({ type: 'udp4' });
  mouth.on('error', () => undefined);
  mouth.bind(0, () => mouth.setBroadcast(true));
  mouth.unref();
  const cid = Uint8Array.from(Buffer.from(own, 'hex'));
  const send = (packet: Uint8Array, host: string, port: number): void =>
    mouth.send(packet, port, host, () => undefined);
  const announce = (): void => {
    const { sacn, sacnHosts, toNode } = needs.sending();
    if (sacn.length === 0) return;
    const { cards, wires } = needs.network();
    const leaves = leavesBy(cards, wires.card);
    try {
      if (leaves.by === 'card') mouth.setMulticastInterface(leaves.address.address);
    } catch {
      // The card has gone in this moment.
    }
    for (const packet of sacnDiscovery({ cid, name: wires.sourceName }, sacn)) {
      if (toNode) send(packet, needs.nodeHost, needs.nodeSacnPort);
      if (leaves.by !== 'nothing')
        for (const host of [SACN_DISCOVERY_GROUP, ...sacnHosts]) send(packet, host, needs.sacnPort);
    }
  };
  const again = setInterval(announce, SACN_DISCOVERY_EVERY_MS);
  setTimeout(announce, FIRST_WORD_MS).unref();
  return {
    close: () => {
      clearInterval(again);
      shut(mouth);
    },
  };
}

/** Begins to ask and to listen. */
export function discover(needs: DiscoveryNeeds): Discovery {
  const { artnet } = needs;
  const own = needs.cid.replaceAll('-', '');
  const nodes = nodesSeen(() => needs.changed());
  const sources = sourcesSeen(own);
  const answers = answering(needs);
  artnet.hear((packet, from) => {
    if (isArtPoll(packet)) {
      answers.answer(from);
      return;
    }
    const node = readArtPollReply(packet);
    if (node) nodes.take(node, from.address);
  });
  const { ear, stay } = listenForSources(needs.sacnPort, sources.take);
  const announces = announcing(needs, own);
  const ask = (): void => {
    stay();
    poll(needs);
  };
  const polling = setInterval(ask, POLL_EVERY_MS);
  ask();
  return {
    asked: nodes.asked,
    nodes: () => nodes.list(needs.network().cards),
    sources: () => sources.list(needs.network().cards),
    deaf: () => [
      ...(ear.problem() === null ? [] : ['other sACN sources']),
      ...(artnet.problem() === null ? [] : ['Art-Net']),
    ],
    rename: (address, bindIndex, names) =>
      artnet.send(artAddress(names, bindIndex), address, artnetPortAt(needs, address)),
    poll: ask,
    close: () => {
      clearInterval(polling);
      answers.close();
      announces.close();
      ear.close();
    },
  };
}

/** Bound to the group's own address, so that packets for the simulated node are not taken from it. */
function listenForSources(
  port: number,
  heard: (packet: Uint8Array, from: string) => void,
): { ear: Ear; stay: () => void } {
  let stayOn: (addresses: readonly string[]) => void = () => undefined;
  const stay = (): void => stayOn(ownAddresses());
  const ear = listen(
    { port, address: SACN_DISCOVERY_GROUP },
    (packet, from) => heard(packet, from.address),
    (socket) => {
      stayOn = staysIn(socket, SACN_DISCOVERY_GROUP);
      stay();
    },
  );
  return { ear, stay };
}
