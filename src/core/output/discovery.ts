/** Finding each other: ArtPoll and its reply (Art-Net 4), sACN universe discovery (ANSI E1.31-2018 clause 8). */
import { ACN_IDENTIFIER, ART_NET_ID, FLAGS, put16, utf8Within, type SacnSource } from './bytes.ts';

// --- Art-Net ---

const OP_POLL = 0x2000;
const OP_POLL_REPLY = 0x2100;
const POLL_LENGTH = 14;
const REPLY_LENGTH = 239;
const ART_NET_PORT = 6454;

const isArtNet = (packet: Uint8Array, opcode: number): boolean =>
  packet.length >= 10 &&
  ART_NET_ID.every((b, i) => packet[i] === b) &&
  ((packet[8] ?? 0) | ((packet[9] ?? 0) << 8)) === opcode;

export function artPoll(): Uint8Array {
  const packet = new Uint8Array(POLL_LENGTH);
  packet.set(ART_NET_ID, 0);
  packet[9] = OP_POLL >> 8;
  packet[11] = 14;
  return packet;
}
export const isArtPoll = (packet: Uint8Array): boolean =>
  isArtNet(packet, OP_POLL) && packet.length >= POLL_LENGTH - 2;

export interface ArtNode {
  address: string;
  shortName: string;
  longName: string;
  /** The node's own word on how it is. */
  report: string;
  /** Port addresses that it puts out, 0-32767. */
  outputs: number[];
}

/** A reply for a node with up to four outputs; a node with more sends several. All must share net and sub-net. */
export function artPollReply(node: ArtNode): Uint8Array {
  const packet = new Uint8Array(REPLY_LENGTH);
  packet.set(ART_NET_ID, 0);
  packet[9] = OP_POLL_REPLY >> 8;
  packet.set(node.address.split('.').map(Number), 10);
  packet[14] = ART_NET_PORT & 255;
  packet[15] = ART_NET_PORT >> 8;
  const first = node.outputs[0] ?? 0;
  packet[18] = (first >> 8) & 127;
  packet[19] = (first >> 4) & 15;
  packet.set(utf8Within(node.shortName, 17), 26);
  packet.set(utf8Within(node.longName, 63), 44);
  packet.set(utf8Within(node.report, 63), 108);
  const outputs = node.outputs.slice(0, 4);
  packet[173] = outputs.length;
  outputs.forEach((portAddress, i) => {
    // Can put out DMX512 from the network; is doing so.
    packet[174 + i] = 0x80;
    packet[182 + i] = 0x80;
    packet[190 + i] = portAddress & 15;
  });
  return packet;
}

const textAt = (packet: Uint8Array, at: number, length: number): string => {
  const bytes = packet.subarray(at, at + length);
  const end = bytes.indexOf(0);
  return new TextDecoder().decode(end < 0 ? bytes : bytes.subarray(0, end));
};

/** Reads a reply; undefined for anything else. */
export function readArtPollReply(packet: Uint8Array): ArtNode | undefined {
  // Older nodes leave out what came later; up to SwOut it must be there.
  if (!isArtNet(packet, OP_POLL_REPLY) || packet.length < 194) return undefined;
  const outputs: number[] = [];
  for (let i = 0; i < Math.min(4, packet[173] ?? 0); i++) {
    if (((packet[174 + i] ?? 0) & 0x80) !== 0)
      outputs.push(
        ((packet[18] ?? 0) << 8) | (((packet[19] ?? 0) & 15) << 4) | ((packet[190 + i] ?? 0) & 15),
      );
  }
  return {
    address: [...packet.subarray(10, 14)].join('.'),
    shortName: textAt(packet, 26, 18),
    longName: textAt(packet, 44, 64),
    report: textAt(packet, 108, 64),
    outputs,
  };
}

// --- sACN ---

export const SACN_DISCOVERY_GROUP = '239.255.250.214';
/** Clause 8: a source tells its universes every 10 s. */
export const SACN_DISCOVERY_EVERY_MS = 10_000;
const PAGE = 512;
const HEADER = 120;

/** The list of universes of a source in pages of 512, sorted (clause 8.5). */
export function sacnDiscovery(source: SacnSource, universes: readonly number[]): Uint8Array[] {
  const sorted = [...new Set(universes)].sort((a, b) => a - b);
  const pages = Math.max(1, Math.ceil(sorted.length / PAGE));
  return Array.from({ length: pages }, (_, page) => {
    const list = sorted.slice(page * PAGE, (page + 1) * PAGE);
    const packet = new Uint8Array(HEADER + list.length * 2);
    put16(packet, 0, 0x0010);
    packet.set(ACN_IDENTIFIER, 4);
    put16(packet, 16, FLAGS | (packet.length - 16));
    put16(packet, 20, 0x0008);
    packet.set(source.cid.subarray(0, 16), 22);
    put16(packet, 38, FLAGS | (packet.length - 38));
    put16(packet, 42, 0x0002);
    packet.set(utf8Within(source.name, 63), 44);
    put16(packet, 112, FLAGS | (packet.length - 112));
    put16(packet, 116, 0x0001);
    packet[118] = page;
    packet[119] = pages - 1;
    list.forEach((universe, i) => put16(packet, HEADER + i * 2, universe));
    return packet;
  });
}

export interface SacnDiscovered {
  cid: string;
  name: string;
  page: number;
  lastPage: number;
  universes: number[];
}

/** Reads one page; undefined for anything else. */
export function readSacnDiscovery(packet: Uint8Array): SacnDiscovered | undefined {
  if (packet.length < HEADER || ACN_IDENTIFIER.some((b, i) => packet[4 + i] !== b))
    return undefined;
  const word = (at: number): number => ((packet[at] ?? 0) << 8) | (packet[at + 1] ?? 0);
  if (word(20) !== 8 || word(42) !== 2 || word(116) !== 1) return undefined;
  const universes: number[] = [];
  for (let at = HEADER; at + 1 < packet.length && universes.length < PAGE; at += 2)
    universes.push(word(at));
  return {
    cid: [...packet.subarray(22, 38)].map((b) => b.toString(16).padStart(2, '0')).join(''),
    name: textAt(packet, 44, 64),
    page: packet[118] ?? 0,
    lastPage: packet[119] ?? 0,
    universes,
  };
}
