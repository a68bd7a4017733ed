/**
 * More entries at the end of a ZIP, as they are, whose bytes come from elsewhere: sizes and checksums are known before, so
 * that a file of gigabytes is written as it is sent, and read the same way (APPNOTE 6.3.10, 4.3).
 */

export interface Appended {
  name: string;
  bytes: number;
  /** CRC-32 of it (ISO 3309), as a number from 0. */
  crc32: number;
}

const LOCAL = 0x04034b50;
const CENTRAL = 0x02014b50;
const END = 0x06054b50;
const LOCAL_BYTES = 30;
const CENTRAL_BYTES = 46;
const END_BYTES = 22;
const VERSION = 20;
/** The first of January 1980: sounds are known by what is in them. */
const DATE = 0x0021;
/** Names are UTF-8. */
const FLAGS = 0x0800;

const encode = (text: string): Uint8Array => new TextEncoder().encode(text);

/** What both headers say of an entry, from the version that is needed on. */
function common(view: DataView, at: number, e: Appended, nameLength: number): void {
  view.setUint16(at, VERSION, true);
  view.setUint16(at + 2, FLAGS, true);
  view.setUint16(at + 4, 0, true);
  view.setUint16(at + 8, DATE, true);
  view.setUint32(at + 10, e.crc32, true);
  view.setUint32(at + 14, e.bytes, true);
  view.setUint32(at + 18, e.bytes, true);
  view.setUint16(at + 22, nameLength, true);
}

function localHeader(e: Appended): Uint8Array {
  const name = encode(e.name);
  const out = new Uint8Array(LOCAL_BYTES + name.length);
  const view = new DataView(out.buffer);
  view.setUint32(0, LOCAL, true);
  common(view, 4, e, name.length);
  out.set(name, LOCAL_BYTES);
  return out;
}

function centralHeader(e: Appended, offset: number): Uint8Array {
  const name = encode(e.name);
  const out = new Uint8Array(CENTRAL_BYTES + name.length);
  const view = new DataView(out.buffer);
  view.setUint32(0, CENTRAL, true);
  view.setUint16(4, VERSION, true);
  common(view, 6, e, name.length);
  view.setUint32(42, offset, true);
  out.set(name, CENTRAL_BYTES);
  return out;
}

/**
 * A ZIP with more in it: bytes to write, and entries whose own bytes go between them, in this order.
 * @param zip without a comment, as `zipSync` writes it
 * @throws RangeError where it is no such ZIP
 */
export function appendStored(
  zip: Uint8Array,
  entries: readonly Appended[],
): { parts: (Uint8Array | Appended)[]; bytes: number } {
  const at = zip.length - END_BYTES;
  const end = new DataView(zip.buffer, zip.byteOffset + Math.max(0, at));
  if (at < 0 || end.getUint32(0, true) !== END) throw new RangeError('not a ZIP without a comment');
  const [count, start] = [end.getUint16(10, true), end.getUint32(16, true)];
  const parts: (Uint8Array | Appended)[] = [zip.subarray(0, start)];
  const index: Uint8Array[] = [zip.subarray(start, at)];
  let offset = start;
  for (const e of entries) {
    const head = localHeader(e);
    parts.push(head, e);
    index.push(centralHeader(e, offset));
    offset += head.length + e.bytes;
  }
  const indexBytes = index.reduce((sum, i) => sum + i.length, 0);
  const last = new Uint8Array(END_BYTES);
  const view = new DataView(last.buffer);
  view.setUint32(0, END, true);
  view.setUint16(8, count + entries.length, true);
  view.setUint16(10, count + entries.length, true);
  view.setUint32(12, indexBytes, true);
  view.setUint32(16, offset, true);
  return { parts: [...parts, ...index, last], bytes: offset + indexBytes + END_BYTES };
}
