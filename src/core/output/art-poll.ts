/** Art-Net 4: who is there, what their ports do, and what they are called (ArtPoll, ArtPollReply, ArtAddress). */
import { ARTNET_PORT, artNet, hexOf, isArtNet, textAt, utf8Within } from './bytes.ts';

const OP_POLL = 0x2000;
const OP_POLL_REPLY = 0x2100;
const OP_ADDRESS = 0x6000;
const POLL_LENGTH = 14;
const REPLY_LENGTH = 239;
/** Older nodes leave out what came later; up to SwOut it must be there. */
const REPLY_LEAST = 194;
const ADDRESS_LENGTH = 107;
const PORTS_A_REPLY = 4;
/** Bytes of a node’s short name without its closing zero (Art-Net 4, ArtPollReply). */
export const SHORT_NAME_BYTES = 17;
/** Bytes of a node’s long name without its closing zero (Art-Net 4, ArtPollReply). */
export const LONG_NAME_BYTES = 63;

/** Where things are in an ArtPollReply. */
const AT = {
  address: 10,
  port: 14,
  net: 18,
  subNet: 19,
  status: 23,
  esta: 24,
  shortName: 26,
  longName: 44,
  report: 108,
  ports: 173,
  types: 174,
  goodInput: 178,
  goodOutput: 182,
  swIn: 186,
  swOut: 190,
  style: 200,
  mac: 201,
  bindAddress: 207,
  bindIndex: 211,
  status2: 212,
} as const;

const CAN_PUT_OUT = 0x80;
const CAN_TAKE_IN = 0x40;
const IS_PUTTING_OUT = 0x80;
const MERGES = 0x08;
const IS_SHORTED = 0x04;
const IS_RECEIVING = 0x80;
const HAS_RECEIVE_ERRORS = 0x04;
const SPEAKS_RDM = 0x02;
/** Status2: port addresses of 15 bits. */
const IS_ARTNET_3 = 0x08;

/** Styles of a device: a node, a controller as this one. */
export const ART_STYLE = { node: 0x00, controller: 0x01 } as const;

/** An ArtPoll: who is there? (Art-Net 4) */
export function artPoll(): Uint8Array {
  return artNet(OP_POLL, POLL_LENGTH);
}
/** Whether a packet asks who is there. */
export const isArtPoll = (packet: Uint8Array): boolean =>
  isArtNet(packet, OP_POLL) && packet.length >= POLL_LENGTH - 2;

/** One port of a node: it puts a universe out, or takes one in. */
export interface ArtPort {
  way: 'out' | 'in';
  /** 0-32767. */
  portAddress: number;
  /** Light goes through it now. */
  active: boolean;
  /** It merges several sources. */
  merges: boolean;
  /** What its own electronics complain of; empty where they do not. */
  fault: '' | 'short circuit' | 'receive errors';
}

/** A node as its ArtPollReply says. */
export interface ArtNode {
  address: string;
  shortName: string;
  longName: string;
  /** The node's own word on how it is. */
  report: string;
  ports: readonly ArtPort[];
  style: number;
  /** It carries RDM to what hangs there. */
  rdm: boolean;
  /** Twelve hex digits; empty where it does not say. */
  mac: string;
  /** Of several replies of one device, from 1; 0 where there is only one. */
  bindIndex: number;
}

/** Port addresses that it puts out: the universes that it asks for. */
export const outputsOf = (node: Pick<ArtNode, 'ports'>): number[] =>
  node.ports.filter((p) => p.way === 'out').map((p) => p.portAddress);

/**
 * A reply for a device with up to four ports each way; one with more sends several. All share net and sub-net.
 * @throws never: what has no room is left out
 */
export function artPollReply(node: ArtNode): Uint8Array {
  const packet = artNet(OP_POLL_REPLY, REPLY_LENGTH, false);
  packet.set(node.address.split('.').map(Number), AT.address);
  packet[AT.port] = ARTNET_PORT & 255;
  packet[AT.port + 1] = ARTNET_PORT >> 8;
  const first = node.ports[0]?.portAddress ?? 0;
  packet[AT.net] = (first >> 8) & 127;
  packet[AT.subNet] = (first >> 4) & 15;
  packet[AT.status] = node.rdm ? SPEAKS_RDM : 0;
  packet.set(utf8Within(node.shortName, SHORT_NAME_BYTES), AT.shortName);
  packet.set(utf8Within(node.longName, LONG_NAME_BYTES), AT.longName);
  packet.set(utf8Within(node.report, LONG_NAME_BYTES), AT.report);
  putPorts(packet, node.ports);
  packet[AT.style] = node.style;
  if (/^[\da-f]{12}$/.test(node.mac))
    for (let i = 0; i < 6; i++)
      packet[AT.mac + i] = Number.parseInt(node.mac.slice(i * 2, i * 2 + 2), 16);
  packet[AT.bindIndex] = node.bindIndex;
  packet[AT.status2] = IS_ARTNET_3;
  return packet;
}

function putPorts(packet: Uint8Array, ports: readonly ArtPort[]): void {
  const outs = ports.filter((p) => p.way === 'out').slice(0, PORTS_A_REPLY);
  const ins = ports.filter((p) => p.way === 'in').slice(0, PORTS_A_REPLY);
  packet[AT.ports] = Math.max(outs.length, ins.length);
  outs.forEach((p, i) => {
    packet[AT.types + i] = CAN_PUT_OUT;
    packet[AT.goodOutput + i] =
      (p.active ? IS_PUTTING_OUT : 0) |
      (p.merges ? MERGES : 0) |
      (p.fault === 'short circuit' ? IS_SHORTED : 0);
    packet[AT.swOut + i] = p.portAddress & 15;
  });
  ins.forEach((p, i) => {
    packet[AT.types + i] = (packet[AT.types + i] ?? 0) | CAN_TAKE_IN;
    packet[AT.goodInput + i] =
      (p.active ? IS_RECEIVING : 0) | (p.fault === 'receive errors' ? HAS_RECEIVE_ERRORS : 0);
    packet[AT.swIn + i] = p.portAddress & 15;
  });
}

/** Port addresses as replies have room for them: of one net and sub-net, up to four each, in their order. */
export function inReplies(portAddresses: readonly number[]): number[][] {
  const bySubNet = new Map<number, number[]>();
  for (const p of [...new Set(portAddresses)].sort((a, b) => a - b))
    bySubNet.set(p >> 4, [...(bySubNet.get(p >> 4) ?? []), p]);
  return [...bySubNet.values()].flatMap((all) =>
    Array.from({ length: Math.ceil(all.length / PORTS_A_REPLY) }, (_, i) =>
      all.slice(i * PORTS_A_REPLY, (i + 1) * PORTS_A_REPLY),
    ),
  );
}

/** Reads a reply; undefined for anything else. */
export function readArtPollReply(packet: Uint8Array): ArtNode | undefined {
  if (!isArtNet(packet, OP_POLL_REPLY) || packet.length < REPLY_LEAST) return undefined;
  const byte = (at: number): number => packet[at] ?? 0;
  return {
    address: [...packet.subarray(AT.address, AT.address + 4)].join('.'),
    shortName: textAt(packet, AT.shortName, SHORT_NAME_BYTES + 1),
    longName: textAt(packet, AT.longName, LONG_NAME_BYTES + 1),
    report: textAt(packet, AT.report, LONG_NAME_BYTES + 1),
    ports: portsIn(packet),
    style: byte(AT.style),
    rdm: (byte(AT.status) & SPEAKS_RDM) !== 0,
    mac: macIn(packet),
    bindIndex: byte(AT.bindIndex),
  };
}

function portsIn(packet: Uint8Array): ArtPort[] {
  const byte = (at: number): number => packet[at] ?? 0;
  const base = ((byte(AT.net) & 127) << 8) | ((byte(AT.subNet) & 15) << 4);
  const outs: ArtPort[] = [];
  const ins: ArtPort[] = [];
  for (let i = 0; i < Math.min(PORTS_A_REPLY, byte(AT.ports)); i++) {
    const type = byte(AT.types + i);
    const good = byte(AT.goodOutput + i);
    const heard = byte(AT.goodInput + i);
    if ((type & CAN_PUT_OUT) !== 0)
      outs.push({
        way: 'out',
        portAddress: base | (byte(AT.swOut + i) & 15),
        active: (good & IS_PUTTING_OUT) !== 0,
        merges: (good & MERGES) !== 0,
        fault: (good & IS_SHORTED) !== 0 ? 'short circuit' : '',
      });
    if ((type & CAN_TAKE_IN) !== 0)
      ins.push({
        way: 'in',
        portAddress: base | (byte(AT.swIn + i) & 15),
        active: (heard & IS_RECEIVING) !== 0,
        merges: false,
        fault: (heard & HAS_RECEIVE_ERRORS) !== 0 ? 'receive errors' : '',
      });
  }
  return [...outs, ...ins];
}

function macIn(packet: Uint8Array): string {
  const bytes = packet.subarray(AT.mac, AT.mac + 6);
  return bytes.length < 6 || bytes.every((b) => b === 0) ? '' : hexOf(bytes);
}

/** No change: a field of ArtAddress that is left as it is. */
const LEAVE = 0x7f;

/** What a node is called. */
export interface ArtNames {
  shortName: string;
  longName: string;
}

/** Gives a device other names, and leaves all else as it is. @param bindIndex which of its replies it is */
export function artAddress(names: ArtNames, bindIndex: number): Uint8Array {
  const packet = artNet(OP_ADDRESS, ADDRESS_LENGTH);
  packet[12] = LEAVE;
  packet[13] = bindIndex;
  packet.set(utf8Within(names.shortName, SHORT_NAME_BYTES), 14);
  packet.set(utf8Within(names.longName, LONG_NAME_BYTES), 32);
  packet.fill(LEAVE, 96, 105);
  return packet;
}

/** Reads the names that a device is to have; empty ones stay. Undefined for anything else. */
export function readArtAddress(packet: Uint8Array): (ArtNames & { bindIndex: number }) | undefined {
  if (!isArtNet(packet, OP_ADDRESS) || packet.length < ADDRESS_LENGTH) return undefined;
  return {
    bindIndex: packet[13] ?? 0,
    shortName: textAt(packet, 14, SHORT_NAME_BYTES + 1),
    longName: textAt(packet, 32, LONG_NAME_BYTES + 1),
  };
}
