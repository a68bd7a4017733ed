/** ArtTimeCode (Art-Net 4, OpTimeCode 0x9700). */
import { artNet, isArtNet } from '../output/bytes.ts';
import { isTimecode, type Timecode } from './rate.ts';
import { RATES } from './rows.ts';

const OP = 0x9700;
const LENGTH = 19;

/** An ArtTimeCode packet (Art-Net 4). */
export function artTimeCode({ h, m, s, f, rate }: Timecode): Uint8Array {
  const packet = artNet(OP, LENGTH);
  packet.set([f, s, m, h, RATES.indexOf(rate)], 14);
  return packet;
}

/** Undefined for anything else, and for a time that is none. */
export function readArtTimeCode(packet: Uint8Array): Timecode | undefined {
  if (packet.length < LENGTH || !isArtNet(packet, OP)) return undefined;
  const [f = 0, s = 0, m = 0, h = 0, type = 0] = packet.subarray(14, LENGTH);
  const rate = RATES[type];
  const time = rate && { h, m, s, f, rate };
  return time && isTimecode(time) ? time : undefined;
}
