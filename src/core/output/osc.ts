/** OSC 1.0 messages (opensoundcontrol.org, specification 1.0): what the desk sends and hears, by `osc-min`. */
import { fromBuffer, toBuffer } from 'osc-min';

/** A message of Open Sound Control 1.0. */
export interface OscMessage {
  address: string;
  args: (number | string)[];
}

const INT32 = 2 ** 31;
/** OSC strings are ASCII; anything else is written as a question mark rather than broken. */
const ascii = (text: string): string => text.replaceAll(/[^\0-\x7e]/gu, '?');

/** @param args whole numbers go as int32, others as float32, texts as strings */
export function oscMessage(address: string, args: readonly (number | string)[]): Uint8Array {
  const view = toBuffer({
    address: ascii(address),
    args: args.map((value) => {
      if (typeof value === 'string') return { type: 'string' as const, value: ascii(value) };
      const whole = Number.isInteger(value) && Math.abs(value) < INT32;
      return whole ? { type: 'integer' as const, value } : { type: 'float' as const, value };
    }),
  });
  return new Uint8Array(view.buffer, view.byteOffset, view.byteLength);
}

/** Undefined for what is not one well-formed message of strings, numbers, yes and no. Bundles are not taken. */
export function readOsc(packet: Uint8Array): OscMessage | undefined {
  try {
    const read = fromBuffer(packet);
    if (read.oscType !== 'message' || !read.address.startsWith('/')) return undefined;
    const args: (number | string)[] = [];
    for (const arg of read.args) {
      if (arg.type === 'true' || arg.type === 'false') args.push(arg.type === 'true' ? 1 : 0);
      else if (arg.type === 'string' || arg.type === 'integer' || arg.type === 'float')
        args.push(arg.value);
      else return undefined;
    }
    return { address: read.address, args };
  } catch {
    // The package throws for what is cut short or padded wrongly.
    return undefined;
  }
}
