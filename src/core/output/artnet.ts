/** Art-Net 4 ArtDmx packets, prebuilt: a frame changes only sequence and slots. */
import { UNIVERSE_SLOTS } from '../dmx.ts';
import { artNet, isArtNet } from './bytes.ts';

const HEADER = 18;
const OP_DMX = 0x5000;
const SEQUENCE = 12;

/** A 512-slot ArtDmx packet. @param portAddress 0-32767: net in the high seven bits, then sub-net and universe, four each */
export function artnetPacket(portAddress: number): Uint8Array {
  const packet = artNet(OP_DMX, HEADER + UNIVERSE_SLOTS);
  packet[14] = portAddress & 255;
  packet[15] = (portAddress >> 8) & 127;
  packet[16] = UNIVERSE_SLOTS >> 8;
  packet[17] = UNIVERSE_SLOTS & 255;
  return packet;
}

/** Sequence counts 1 to 255; 0 would mean that the receiver should not look at it. */
export function artnetFrame(packet: Uint8Array, dmx: Uint8Array, from: number): Uint8Array {
  packet[SEQUENCE] = ((packet[SEQUENCE] ?? 0) % 255) + 1;
  for (let i = 0; i < UNIVERSE_SLOTS; i++) packet[HEADER + i] = dmx[from + i] as number;
  return packet;
}

/** `0.1.3` for net, sub-net and universe of a port address. */
export const formatPortAddress = (portAddress: number): string =>
  `${portAddress >> 8}.${(portAddress >> 4) & 15}.${portAddress & 15}`;

/** A port address written as `net.sub-net.universe`, or as one number; undefined for anything else. */
export function parsePortAddress(text: string): number | undefined {
  const dotted = /^(\d{1,3})\.(\d{1,2})\.(\d{1,2})$/.exec(text.trim());
  if (!dotted) return /^\d{1,5}$/.test(text.trim()) ? Number(text) : undefined;
  const [net, sub, universe] = [Number(dotted[1]), Number(dotted[2]), Number(dotted[3])];
  return net <= 127 && sub <= 15 && universe <= 15 ? (net << 8) | (sub << 4) | universe : undefined;
}

/** A frame of one port address, as it came. */
export interface ArtDmxReceived {
  portAddress: number;
  sequence: number;
  slots: Uint8Array;
}

/** Reads an ArtDmx packet; undefined for anything else. */
export function readArtDmx(packet: Uint8Array): ArtDmxReceived | undefined {
  if (packet.length < HEADER || !isArtNet(packet, OP_DMX)) return undefined;
  const length = ((packet[16] ?? 0) << 8) | (packet[17] ?? 0);
  if (length < 2 || length > UNIVERSE_SLOTS || packet.length < HEADER + length) return undefined;
  return {
    portAddress: (packet[14] ?? 0) | (((packet[15] ?? 0) & 127) << 8),
    sequence: packet[SEQUENCE] ?? 0,
    slots: packet.slice(HEADER, HEADER + length),
  };
}
