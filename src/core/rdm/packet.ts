/** RDM messages (ANSI E1.20-2010 clause 6.2): who asks whom for what, with a checksum. */

import { hexOf } from '../output/bytes.ts';

/** Sixteen bits of a maker and thirty-two of a device, as `7a70:00000001`. */
export type Uid = string;

const START_CODE = 0xcc;
const SUB_START_CODE = 0x01;
const HEADER = 24;
const CHECKSUM = 2;
const MOST_DATA = 231;

/** Command classes (table A-1). */
export const COMMAND = { get: 0x20, getResponse: 0x21, set: 0x30, setResponse: 0x31 } as const;
/** What a responder says of a question (clause 6.3). */
export const RESPONSE = { ack: 0, timer: 1, nack: 2, overflow: 3 } as const;

/** One message, to a device or from it. */
export interface RdmMessage {
  to: Uid;
  from: Uid;
  /** Counts up with each question; an answer carries that of its question. */
  transaction: number;
  /** The port that asks, from 1; in an answer what it is, of `RESPONSE`. */
  port: number;
  command: number;
  parameter: number;
  /** Up to 231 bytes. */
  data: Uint8Array;
}

/** Six bytes of a UID (ANSI E1.20, 5.1). */
export const uidBytes = (uid: Uid): Uint8Array =>
  Uint8Array.from((uid.replace(':', '').match(/../g) ?? []).map((h) => Number.parseInt(h, 16)));

/** A UID as it is written: manufacturer and device, in hexadecimal. */
export function uidText(bytes: Uint8Array): Uid {
  const hex = hexOf(bytes.subarray(0, 6));
  return `${hex.slice(0, 4)}:${hex.slice(4)}`;
}
/** A UID in words: the maker’s number and the device’s, in hexadecimal. */
export const UID_PATTERN = /^[\da-f]{4}:[\da-f]{8}$/;
/** Whether a text is a UID as it is written. */
export const isUid = (text: string): boolean => UID_PATTERN.test(text);

const sumOf = (bytes: Uint8Array): number => bytes.reduce((sum, b) => (sum + b) & 0xffff, 0);

/** A whole packet with its start code. */
export function rdmPacket(m: RdmMessage): Uint8Array {
  const data = m.data.subarray(0, MOST_DATA);
  const packet = new Uint8Array(HEADER + data.length + CHECKSUM);
  packet.set([START_CODE, SUB_START_CODE, HEADER + data.length], 0);
  packet.set(uidBytes(m.to), 3);
  packet.set(uidBytes(m.from), 9);
  packet.set([m.transaction & 255, m.port & 255, 0, 0, 0, m.command], 15);
  packet.set([m.parameter >> 8, m.parameter & 255, data.length], 21);
  packet.set(data, HEADER);
  const sum = sumOf(packet.subarray(0, HEADER + data.length));
  packet.set([sum >> 8, sum & 255], HEADER + data.length);
  return packet;
}

/** Reads a packet with its start code; undefined where a length or the checksum does not hold. */
export function readRdm(packet: Uint8Array): RdmMessage | undefined {
  const byte = (at: number): number => packet[at] ?? 0;
  const length = byte(2);
  if (byte(0) !== START_CODE || byte(1) !== SUB_START_CODE) return undefined;
  if (length < HEADER || packet.length < length + CHECKSUM) return undefined;
  if (byte(23) !== length - HEADER) return undefined;
  if (sumOf(packet.subarray(0, length)) !== ((byte(length) << 8) | byte(length + 1)))
    return undefined;
  return {
    to: uidText(packet.subarray(3, 9)),
    from: uidText(packet.subarray(9, 15)),
    transaction: byte(15),
    port: byte(16),
    command: byte(20),
    parameter: (byte(21) << 8) | byte(22),
    data: packet.slice(HEADER, length),
  };
}
