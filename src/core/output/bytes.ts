/** What the packets of both protocols are written with. */
const ART_NET_ID = [0x41, 0x72, 0x74, 0x2d, 0x4e, 0x65, 0x74, 0];
/** By which packets of ANSI E1.17 are known (E1.31-2018 clause 5.3). */
export const ACN_IDENTIFIER = [0x41, 0x53, 0x43, 0x2d, 0x45, 0x31, 0x2e, 0x31, 0x37, 0, 0, 0];
/** High bits of every length field of E1.31. */
export const FLAGS = 0x7000;

/** Who sends. */
export interface SacnSource {
  /** 16 bytes, the same for this installation always (E1.31-2018 clause 5.6). */
  cid: Uint8Array;
  name: string;
}

/** Big-endian. */
export function put16(packet: Uint8Array, at: number, value: number): void {
  packet[at] = (value >> 8) & 255;
  packet[at + 1] = value & 255;
}

/** UTF-8 that ends at a character, not in one. */
export function utf8Within(text: string, bytes: number): Uint8Array {
  const encoder = new TextEncoder();
  let short = text;
  while (encoder.encode(short).length > bytes) short = short.slice(0, -1);
  return encoder.encode(short);
}

/** UDP ports of the protocols: ANSI E1.31 clause 9.2, Art-Net 4. */
export const SACN_PORT = 5568;
/** The UDP port of all Art-Net (Art-Net 4). */
export const ARTNET_PORT = 6454;

/** Text that a zero ends, or its field. */
export function textAt(packet: Uint8Array, at: number, length: number): string {
  const bytes = packet.subarray(at, at + length);
  const end = bytes.indexOf(0);
  return new TextDecoder().decode(end < 0 ? bytes : bytes.subarray(0, end));
}

/** Whether a packet is Art-Net of this opcode, which goes low byte first. */
export const isArtNet = (packet: Uint8Array, opcode: number): boolean =>
  packet.length >= 10 &&
  ART_NET_ID.every((b, i) => packet[i] === b) &&
  ((packet[8] ?? 0) | ((packet[9] ?? 0) << 8)) === opcode;

/** An Art-Net packet with its head: identifier, opcode, and protocol version 14 where it has one. */
export function artNet(opcode: number, length: number, hasVersion = true): Uint8Array {
  const packet = new Uint8Array(length);
  packet.set(ART_NET_ID, 0);
  packet[8] = opcode & 255;
  packet[9] = opcode >> 8;
  if (hasVersion) packet[11] = 14;
  return packet;
}

/** Two lower-case digits for each byte. */
export const hexOf = (bytes: Uint8Array): string =>
  [...bytes].map((b) => b.toString(16).padStart(2, '0')).join('');

/** Big-endian; 0 past the end. */
export const word16 = (packet: Uint8Array, at: number): number =>
  ((packet[at] ?? 0) << 8) | (packet[at + 1] ?? 0);
