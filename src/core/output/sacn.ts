/** sACN data packets (ANSI E1.31-2018 clauses 5 to 7), prebuilt: a frame changes only sequence and slots. */
import { UNIVERSE_SLOTS } from '../dmx.ts';
import {
  ACN_IDENTIFIER,
  FLAGS,
  put16,
  utf8Within,
  type SacnSource,
  hexOf,
  word16,
} from './bytes.ts';

const HEADER = 126;
const SOURCE_NAME_LENGTH = 63;

const OPTIONS = 112;
const SEQUENCE = 111;
const SYNC = 109;
const STREAM_TERMINATED = 0x40;
/** A receiver that misses synchronisation goes on with what comes, and does not stand still (clause 6.2.6). */
const GOES_ON_WITHOUT_SYNC = 0x20;
const START_CODE = 125;
/** Start code of per-address priority: one priority for each slot, 0 where this source does not want it. */
const PER_ADDRESS_PRIORITY = 0xdd;

/**
 * A full 512-slot data packet of 638 bytes with all slots at 0.
 * @param universe 1-63999 @param priority 0-200 @param sync the universe whose synchronisation it waits for; 0: none
 */
export function sacnPacket(
  source: SacnSource,
  universe: number,
  priority: number,
  sync = 0,
): Uint8Array {
  const packet = new Uint8Array(HEADER + UNIVERSE_SLOTS);
  put16(packet, 0, 0x0010);
  packet.set(ACN_IDENTIFIER, 4);
  put16(packet, 16, FLAGS | (packet.length - 16));
  put16(packet, 20, 0x0004);
  packet.set(source.cid.subarray(0, 16), 22);
  put16(packet, 38, FLAGS | (packet.length - 38));
  put16(packet, 42, 0x0002);
  packet.set(utf8Within(source.name, SOURCE_NAME_LENGTH), 44);
  packet[108] = priority;
  put16(packet, SYNC, sync);
  put16(packet, 113, universe);
  put16(packet, 115, FLAGS | (packet.length - 115));
  packet[117] = 0x02;
  packet[118] = 0xa1;
  put16(packet, 121, 1);
  put16(packet, 123, UNIVERSE_SLOTS + 1);
  return packet;
}

const optionsOf = (packet: Uint8Array): number =>
  packet[SYNC] === 0 && packet[SYNC + 1] === 0 ? 0 : GOES_ON_WITHOUT_SYNC;

/** Priorities of each address of a universe, as a packet of its own. @param priorities 512 of 0-200 */
export function sacnPriorities(
  source: SacnSource,
  universe: number,
  priority: number,
  priorities: Uint8Array,
): Uint8Array {
  const packet = sacnPacket(source, universe, priority);
  packet[START_CODE] = PER_ADDRESS_PRIORITY;
  packet.set(priorities.subarray(0, UNIVERSE_SLOTS), HEADER);
  return packet;
}

/** Puts the next sequence number and the slots into a packet. @param page 512 bytes of `dmx` from `from` */
export function sacnFrame(packet: Uint8Array, dmx: Uint8Array, from: number): Uint8Array {
  packet[SEQUENCE] = ((packet[SEQUENCE] ?? 0) + 1) & 255;
  packet[OPTIONS] = optionsOf(packet);
  for (let i = 0; i < UNIVERSE_SLOTS; i++) packet[HEADER + i] = dmx[from + i] as number;
  return packet;
}

/** The packet as it was sent last, with the next sequence number and the stream-terminated option (clause 6.2.6). */
export function sacnTerminated(packet: Uint8Array): Uint8Array {
  packet[SEQUENCE] = ((packet[SEQUENCE] ?? 0) + 1) & 255;
  packet[OPTIONS] = optionsOf(packet) | STREAM_TERMINATED;
  return packet;
}

/** Clause 9.3.1: 239.255.hi.lo. */
export const sacnMulticast = (universe: number): string =>
  `239.255.${universe >> 8}.${universe & 255}`;

/** A data packet, as it came. */
export interface SacnReceived {
  cid: string;
  name: string;
  priority: number;
  sequence: number;
  universe: number;
  terminated: boolean;
  preview: boolean;
  /** The universe whose synchronisation it waits for; 0: none. */
  sync: number;
  slots: Uint8Array;
}

/** Reads a data packet; undefined for anything else or a start code other than 0. */
export const readSacn = (packet: Uint8Array): SacnReceived | undefined => readOf(packet, 0);
/** Reads the priorities of each address: `slots` are those. Undefined for anything else. */
export const readSacnPriorities = (packet: Uint8Array): SacnReceived | undefined =>
  readOf(packet, PER_ADDRESS_PRIORITY);

function readOf(packet: Uint8Array, startCode: number): SacnReceived | undefined {
  if (
    packet.length < HEADER ||
    word16(packet, 0) !== 0x0010 ||
    ACN_IDENTIFIER.some((b, i) => packet[4 + i] !== b)
  )
    return undefined;
  if (word16(packet, 20) !== 4 || word16(packet, 42) !== 2 || packet[117] !== 2) return undefined;
  if (packet[START_CODE] !== startCode) return undefined;
  const count = word16(packet, 123) - 1;
  if (count < 0 || packet.length < HEADER + count) return undefined;
  const nameEnd = packet.indexOf(0, 44);
  const options = packet[OPTIONS] ?? 0;
  return {
    cid: hexOf(packet.subarray(22, 38)),
    name: new TextDecoder().decode(packet.subarray(44, Math.min(nameEnd < 0 ? 108 : nameEnd, 108))),
    priority: packet[108] ?? 0,
    sequence: packet[SEQUENCE] ?? 0,
    universe: word16(packet, 113),
    terminated: (options & STREAM_TERMINATED) !== 0,
    preview: (options & 0x80) !== 0,
    sync: word16(packet, SYNC),
    slots: packet.slice(HEADER, HEADER + count),
  };
}

/** Clause 6.7.2: a packet 0 to 19 behind the last is out of order and dropped. */
export const isStale = (sequence: number, last: number): boolean => {
  const difference = ((sequence - last + 384) & 255) - 128;
  return difference <= 0 && difference > -20;
};
