/** Packets that make several universes one moment: sACN synchronisation and ArtSync. */
import { ACN_IDENTIFIER, artNet, FLAGS, isArtNet, put16, hexOf, word16 } from './bytes.ts';

const SACN_LENGTH = 49;
const SEQUENCE = 44;
const OP_SYNC = 0x5200;
const ART_LENGTH = 14;

/** A synchronisation packet of 49 bytes (E1.31-2018 clause 6.3). @param universe 1-63999, of the packets that wait for it */
export function sacnSync(cid: Uint8Array, universe: number): Uint8Array {
  const packet = new Uint8Array(SACN_LENGTH);
  put16(packet, 0, 0x0010);
  packet.set(ACN_IDENTIFIER, 4);
  put16(packet, 16, FLAGS | (SACN_LENGTH - 16));
  put16(packet, 20, 0x0008);
  packet.set(cid.subarray(0, 16), 22);
  put16(packet, 38, FLAGS | (SACN_LENGTH - 38));
  put16(packet, 42, 0x0001);
  put16(packet, 45, universe);
  return packet;
}

/** The next one: its sequence counts by itself. */
export function sacnSyncNext(packet: Uint8Array): Uint8Array {
  packet[SEQUENCE] = ((packet[SEQUENCE] ?? 0) + 1) & 255;
  return packet;
}

/** Reads one; undefined for anything else. */
export function readSacnSync(
  packet: Uint8Array,
): { cid: string; sequence: number; universe: number } | undefined {
  if (packet.length < SACN_LENGTH || ACN_IDENTIFIER.some((b, i) => packet[4 + i] !== b))
    return undefined;
  if (word16(packet, 20) !== 8 || word16(packet, 42) !== 1) return undefined;
  return {
    cid: hexOf(packet.subarray(22, 38)),
    sequence: packet[SEQUENCE] ?? 0,
    universe: word16(packet, 45),
  };
}

/** ArtSync: nodes show what they were sent. 14 bytes, always the same. */
export const artSync = (): Uint8Array => artNet(OP_SYNC, ART_LENGTH);
/** Whether a packet is an ArtSync. */
export const isArtSync = (packet: Uint8Array): boolean =>
  isArtNet(packet, OP_SYNC) && packet.length >= ART_LENGTH;
