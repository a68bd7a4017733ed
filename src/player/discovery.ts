/** Who else is on the network: asks Art-Net nodes (while somebody looks), tells and hears sACN universes. */
import { createSocket, type Socket } from 'node:dgram';
import type { OutputState } from '../core/live/messages.ts';
import {
  artPoll,
  readArtPollReply,
  readSacnDiscovery,
  SACN_DISCOVERY_EVERY_MS,
  SACN_DISCOVERY_GROUP,
  sacnDiscovery,
  type ArtNode,
  type SacnDiscovered,
} from '../core/output/discovery.ts';

interface Settings {
  cid: string;
  name: string;
  sacnPort: number;
  artnetPort: number;
  nodeHost: string;
  nodeSacnPort: number;
  nodeArtnetPort: number;
}

const POLL_EVERY_MS = 3000;
/** A node that does not answer three polls, a source that misses two of its announcements. */
const NODE_GONE_MS = 10_000;
const SOURCE_GONE_MS = 25_000;

interface Heard<T> {
  is: T;
  at_ms: number;
}

export class Discovery {
  private readonly nodes = new Map<string, Heard<ArtNode>>();
  private readonly sources = new Map<
    string,
    Heard<{ name: string; address: string; pages: Map<number, number[]> }>
  >();
  private readonly sockets: Socket[] = [];
  private readonly ask: Socket;
  private readonly deaf = new Set<string>();
  private readonly cid: string;
  private readonly announcing: NodeJS.Timeout;
  private polling: NodeJS.Timeout | null = null;

  constructor(
    private readonly settings: Settings,
    private readonly sending: () => { sacn: number[]; hosts: string[]; artnet: string[] },
  ) {
    this.cid = settings.cid.replaceAll('-', '');
    // Answers come to where the question came from, or to the protocol's own port: both are listened to.
    this.ask = this.open(
      'Art-Net replies',
      (s) => s.bind(0, () => s.setBroadcast(true)),
      (packet, from) => this.heardNode(packet, from),
    );
    this.open(
      'Art-Net replies to the standard port',
      (s) => s.bind(settings.artnetPort),
      (packet, from) => this.heardNode(packet, from),
      true,
    );
    // Bound to the group's own address, so that packets for the simulated node are not taken from it.
    this.open(
      'other sACN sources',
      (s) =>
        s.bind(settings.sacnPort, SACN_DISCOVERY_GROUP, () =>
          s.addMembership(SACN_DISCOVERY_GROUP),
        ),
      (packet, from) => this.heardSource(packet, from),
      true,
    );
    this.announcing = setInterval(() => this.announce(), SACN_DISCOVERY_EVERY_MS);
    setTimeout(() => this.announce(), 500).unref();
  }

  private open(
    what: string,
    bind: (socket: Socket) => void,
    heard: (packet: Uint8Array, from: string) => void,
    shared = false,
  ): Socket {
    const socket = createSocket({ type: 'udp4', reuseAddr: shared });
    socket.on('error', () => this.deaf.add(what));
    socket.on('message', (packet, from) => heard(packet, from.address));
    try {
      bind(socket);
    } catch {
      this.deaf.add(what);
    }
    socket.unref();
    this.sockets.push(socket);
    return socket;
  }

  private heardNode(packet: Uint8Array, from: string): void {
    const node = readArtPollReply(packet);
    if (node)
      this.nodes.set(`${from}/${node.shortName}/${node.outputs.join()}`, {
        is: { ...node, address: from },
        at_ms: performance.now(),
      });
  }

  private heardSource(packet: Uint8Array, from: string): void {
    const page: SacnDiscovered | undefined = readSacnDiscovery(packet);
    if (!page) return;
    const known = this.sources.get(page.cid)?.is.pages ?? new Map<number, number[]>();
    known.set(page.page, page.universes);
    for (const n of known.keys()) if (n > page.lastPage) known.delete(n);
    this.sources.set(page.cid, {
      is: { name: page.name, address: from, pages: known },
      at_ms: performance.now(),
    });
  }

  /** Polls only while somebody looks: nodes have better things to do. */
  wanted(is: boolean): void {
    if (is && !this.polling) {
      this.poll();
      this.polling = setInterval(() => this.poll(), POLL_EVERY_MS);
    } else if (!is && this.polling) {
      clearInterval(this.polling);
      this.polling = null;
    }
  }

  private poll(): void {
    const { artnet } = this.sending();
    const hosts = new Set([
      '255.255.255.255',
      ...artnet.filter((h) => h !== 'node' && h !== 'broadcast'),
    ]);
    const packet = artPoll();
    // An address that cannot be reached is a fact of the house's network, not a fault of the poll.
    this.ask.send(packet, this.settings.nodeArtnetPort, this.settings.nodeHost, () => undefined);
    for (const host of hosts)
      this.ask.send(packet, this.settings.artnetPort, host, () => undefined);
  }

  private announce(): void {
    const { sacn, hosts } = this.sending();
    if (sacn.length === 0) return;
    const source = { cid: Uint8Array.from(Buffer.from(this.cid, 'hex')), name: this.settings.name };
    for (const packet of sacnDiscovery(source, sacn)) {
      if (hosts.includes('node'))
        this.ask.send(packet, this.settings.nodeSacnPort, this.settings.nodeHost, () => undefined);
      for (const host of [SACN_DISCOVERY_GROUP, ...hosts.filter((h) => h !== 'node')])
        this.ask.send(packet, this.settings.sacnPort, host, () => undefined);
    }
  }

  state(): Pick<OutputState, 'nodes' | 'sources' | 'deaf'> {
    const now = performance.now();
    for (const [key, node] of this.nodes)
      if (now - node.at_ms > NODE_GONE_MS) this.nodes.delete(key);
    for (const [key, source] of this.sources)
      if (now - source.at_ms > SOURCE_GONE_MS) this.sources.delete(key);
    return {
      nodes: [...this.nodes.values()]
        .map((n) => ({ ...n.is, heard_s: (now - n.at_ms) / 1000 }))
        .sort(
          (a, b) => a.address.localeCompare(b.address) || (a.outputs[0] ?? 0) - (b.outputs[0] ?? 0),
        ),
      sources: [...this.sources].map(([cid, s]) => ({
        cid,
        name: s.is.name,
        address: s.is.address,
        universes: [...s.is.pages.values()].flat().sort((a, b) => a - b),
        own: cid === this.cid,
        heard_s: (now - s.at_ms) / 1000,
      })),
      deaf: [...this.deaf],
    };
  }

  close(): void {
    clearInterval(this.announcing);
    if (this.polling) clearInterval(this.polling);
    for (const socket of this.sockets) {
      try {
        socket.close();
      } catch {
        // It never opened.
      }
    }
  }
}
