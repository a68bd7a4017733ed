/** RDM over Art-Net 4: which units hang at a port (ArtTodRequest, ArtTodData), and messages to them (ArtRdm). */
import { uidBytes, uidText, type Uid } from '../rdm/packet.ts';
import { artNet, isArtNet } from './bytes.ts';

const OP_TOD_REQUEST = 0x8000;
const OP_TOD_DATA = 0x8100;
const OP_TOD_CONTROL = 0x8200;
const OP_RDM = 0x8300;
const REQUEST_LENGTH = 56;
const CONTROL_LENGTH = 24;
const DATA_HEADER = 28;
const RDM_HEADER = 24;
const UID_BYTES = 6;
/** UIDs in one packet of a table. */
const UIDS_A_PACKET = 200;
const RDM_VERSION = 1;
const FLUSH = 1;
const IS_UNKNOWN = 0xff;
const START_CODE = 0xcc;

const netOf = (portAddress: number): number => (portAddress >> 8) & 127;
const low = (portAddress: number): number => portAddress & 255;

/** Asks which units hang at a port. @param portAddress 0-32767 */
export function artTodRequest(portAddress: number): Uint8Array {
  const packet = artNet(OP_TOD_REQUEST, REQUEST_LENGTH);
  packet[21] = netOf(portAddress);
  packet[23] = 1;
  packet[24] = low(portAddress);
  return packet;
}
/** The port addresses that are asked about; undefined for anything else. */
export function readArtTodRequest(packet: Uint8Array): number[] | undefined {
  if (!isArtNet(packet, OP_TOD_REQUEST) || packet.length < DATA_HEADER - 3) return undefined;
  const count = Math.min(32, packet[23] ?? 0);
  return [...packet.subarray(24, 24 + count)].map((a) => ((packet[21] ?? 0) << 8) | a);
}

/** Has a node look again who hangs there. */
export function artTodFlush(portAddress: number): Uint8Array {
  const packet = artNet(OP_TOD_CONTROL, CONTROL_LENGTH);
  packet[21] = netOf(portAddress);
  packet[22] = FLUSH;
  packet[23] = low(portAddress);
  return packet;
}
/** The port address whose table of devices is to be made anew; undefined for any other packet. */
export function readArtTodFlush(packet: Uint8Array): number | undefined {
  if (!isArtNet(packet, OP_TOD_CONTROL) || packet.length < CONTROL_LENGTH) return undefined;
  return packet[22] === FLUSH ? ((packet[21] ?? 0) << 8) | (packet[23] ?? 0) : undefined;
}

/** The table of a port, in packets of up to 200 units. */
export function artTodData(portAddress: number, port: number, uids: readonly Uid[]): Uint8Array[] {
  const count = Math.max(1, Math.ceil(uids.length / UIDS_A_PACKET));
  return Array.from({ length: count }, (_, block) => {
    const some = uids.slice(block * UIDS_A_PACKET, (block + 1) * UIDS_A_PACKET);
    const packet = artNet(OP_TOD_DATA, DATA_HEADER + some.length * UID_BYTES);
    packet.set([RDM_VERSION, port], 12);
    packet[21] = netOf(portAddress);
    packet[23] = low(portAddress);
    packet.set([uids.length >> 8, uids.length & 255, block, some.length], 24);
    some.forEach((uid, i) => packet.set(uidBytes(uid), DATA_HEADER + i * UID_BYTES));
    return packet;
  });
}

/** A part of a node’s table of devices (Art-Net 4, ArtTodData). */
export interface TodData {
  portAddress: number;
  /** How many there are in all, and which packet of them this is, from 0. */
  total: number;
  block: number;
  uids: Uid[];
}
/** Devices at a port address (Art-Net 4, ArtTodData); undefined for any other packet. */
export function readArtTodData(packet: Uint8Array): TodData | undefined {
  if (!isArtNet(packet, OP_TOD_DATA) || packet.length < DATA_HEADER) return undefined;
  const byte = (at: number): number => packet[at] ?? 0;
  if (byte(22) === IS_UNKNOWN) return undefined;
  const room = Math.floor((packet.length - DATA_HEADER) / UID_BYTES);
  const count = Math.min(byte(27), UIDS_A_PACKET, room);
  return {
    portAddress: (byte(21) << 8) | byte(23),
    total: (byte(24) << 8) | byte(25),
    block: byte(26),
    uids: Array.from({ length: count }, (_, i) =>
      uidText(packet.subarray(DATA_HEADER + i * UID_BYTES)),
    ),
  };
}

/** An RDM message on its way by a port. @param rdm the whole packet, with its start code */
export function artRdm(portAddress: number, rdm: Uint8Array): Uint8Array {
  const packet = artNet(OP_RDM, RDM_HEADER + rdm.length - 1);
  packet[12] = RDM_VERSION;
  packet[21] = netOf(portAddress);
  packet[23] = low(portAddress);
  packet.set(rdm.subarray(1), RDM_HEADER);
  return packet;
}
/** The message of one, with its start code again. */
export function readArtRdm(
  packet: Uint8Array,
): { portAddress: number; rdm: Uint8Array } | undefined {
  if (!isArtNet(packet, OP_RDM) || packet.length <= RDM_HEADER) return undefined;
  return {
    portAddress: ((packet[21] ?? 0) << 8) | (packet[23] ?? 0),
    rdm: Uint8Array.from([START_CODE, ...packet.subarray(RDM_HEADER)]),
  };
}
