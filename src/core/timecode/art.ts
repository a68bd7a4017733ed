/** ArtTimeCode (Art-Net 4, OpTimeCode 0x9700). */
import { ART_NET_ID as ID } from '../output/bytes.ts';
import { isTimecode, type Timecode } from './rate.ts';
import { RATES } from './rows.ts';

const OP = 0x9700;
const LENGTH = 19;

export function artTimeCode({ h, m, s, f, rate }: Timecode): Uint8Array {
  const packet = new Uint8Array(LENGTH);
  packet.set(ID, 0);
  packet[8] = OP & 255;
  packet[9] = OP >> 8;
  packet[11] = 14;
  packet.set([f, s, m, h, RATES.indexOf(rate)], 14);
  return packet;
}

/** Undefined for anything else, and for a time that is none. */
export function readArtTimeCode(packet: Uint8Array): Timecode | undefined {
  if (packet.length < LENGTH || ID.some((b, i) => packet[i] !== b)) return undefined;
  if (((packet[8] ?? 0) | ((packet[9] ?? 0) << 8)) !== OP) return undefined;
  const [f = 0, s = 0, m = 0, h = 0, type = 0] = packet.subarray(14, LENGTH);
  const rate = RATES[type];
  const time = rate && { h, m, s, f, rate };
  return time && isTimecode(time) ? time : undefined;
}
