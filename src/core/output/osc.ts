/** OSC 1.0 messages: strings and numbers, padded to four bytes (opensoundcontrol.org, specification 1.0). */

const padded = (length: number): number => (length + 4) & ~3;

function string(text: string): Uint8Array {
  // OSC strings are ASCII; anything else is written as a question mark rather than broken.
  const bytes = Uint8Array.from(text, (c) => (c.charCodeAt(0) > 126 ? 63 : c.charCodeAt(0)));
  const out = new Uint8Array(padded(bytes.length));
  out.set(bytes);
  return out;
}

/** @param args whole numbers go as int32, others as float32, texts as strings */
export function oscMessage(address: string, args: readonly (number | string)[]): Uint8Array {
  const isInt = (n: number): boolean => Number.isInteger(n) && Math.abs(n) < 2 ** 31;
  const tags = `,${args.map((a) => (typeof a === 'string' ? 's' : isInt(a) ? 'i' : 'f')).join('')}`;
  const parts = [
    string(address),
    string(tags),
    ...args.map((a) => {
      if (typeof a === 'string') return string(a);
      const view = new DataView(new ArrayBuffer(4));
      if (isInt(a)) view.setInt32(0, a);
      else view.setFloat32(0, a);
      return new Uint8Array(view.buffer);
    }),
  ];
  const out = new Uint8Array(parts.reduce((n, p) => n + p.length, 0));
  let at = 0;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  return out;
}

/** Undefined for what is not one well-formed message. Bundles are not taken. */
export function readOsc(
  packet: Uint8Array,
): { address: string; args: (number | string)[] } | undefined {
  const view = new DataView(packet.buffer, packet.byteOffset, packet.byteLength);
  let at = 0;
  const take = (): string | undefined => {
    const end = packet.indexOf(0, at);
    if (end < 0) return undefined;
    const text = String.fromCharCode(...packet.subarray(at, end));
    at += padded(end - at);
    return text;
  };
  const address = packet[0] === 0x2f ? take() : undefined;
  if (address === undefined) return undefined;
  // Old senders leave the type tags out when there are no arguments.
  const tags = at >= packet.length ? ',' : take();
  if (!tags?.startsWith(',')) return undefined;
  const args: (number | string)[] = [];
  for (const tag of tags.slice(1)) {
    if (tag === 's') {
      const text = take();
      if (text === undefined) return undefined;
      args.push(text);
    } else if (tag === 'T' || tag === 'F') args.push(tag === 'T' ? 1 : 0);
    else if (tag === 'i' || tag === 'f') {
      if (at + 4 > packet.length) return undefined;
      args.push(tag === 'i' ? view.getInt32(at) : view.getFloat32(at));
      at += 4;
    } else return undefined;
  }
  return { address, args };
}
