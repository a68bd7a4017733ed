/**
 * An MP4 whose tables come last, read as if they came first: phones and recorders write it so, and nothing of it can be
 * decoded before them (ISO/IEC 14496-12, 8.2.1).
 */
import type { SoundReader } from './kept.ts';

interface Box {
  type: string;
  at: number;
  size: number;
}

const HEAD = 16;
/** Tables of two hours are a few megabytes. */
const MOST_TABLES = 64 * 1024 * 1024;
const MOST_BOXES = 4096;
/** Boxes that lead to the tables of where samples lie. */
const ON_THE_WAY = new Set(['moov', 'trak', 'mdia', 'minf', 'stbl']);

async function boxesOf({ size, read }: SoundReader): Promise<Box[]> {
  const found: Box[] = [];
  for (let at = 0; at + 8 <= size && found.length < MOST_BOXES;) {
    const head = Buffer.from(await read(at, at + HEAD));
    const short = head.readUInt32BE(0);
    const long = short === 1 && head.length >= HEAD ? Number(head.readBigUInt64BE(8)) : short;
    const length = short === 0 ? size - at : long;
    if (length < 8) break;
    found.push({ type: head.toString('latin1', 4, 8), at, size: Math.min(length, size - at) });
    at += length;
  }
  return found;
}

/**
 * Where samples lie, moved by as much as the tables that come before them now.
 * @param until what lies there or later stays where it is: it came after the tables before, too
 * @param left levels that may come inside this one
 */
function shift(
  tables: Buffer,
  [from, to]: readonly [number, number],
  until: number,
  left = ON_THE_WAY.size,
): void {
  const by = tables.length;
  for (let at = from; at + 8 <= to;) {
    const size = tables.readUInt32BE(at);
    const type = tables.toString('latin1', at + 4, at + 8);
    if (size < 8 || at + size > to) return;
    const body = at + 8;
    if (ON_THE_WAY.has(type) && left > 0) shift(tables, [body, at + size], until, left - 1);
    else if (type === 'stco' || type === 'co64') {
      const wide = type === 'co64' ? 8 : 4;
      const most = Math.floor((size - HEAD) / wide);
      const count = Math.min(size >= HEAD ? tables.readUInt32BE(body + 4) : 0, most);
      for (let i = 0; i < count; i++) {
        const entry = body + 8 + i * wide;
        const lies = wide === 8 ? tables.readBigUInt64BE(entry) : tables.readUInt32BE(entry);
        if (lies >= until) continue;
        if (typeof lies === 'bigint') tables.writeBigUInt64BE(lies + BigInt(by), entry);
        else tables.writeUInt32BE((lies + by) >>> 0, entry);
      }
    }
    at += size;
  }
}

/** The same file where its tables come first already, or it has none. */
export async function inOrder(file: SoundReader): Promise<SoundReader> {
  const boxes = await boxesOf(file);
  const tables = boxes.find((b) => b.type === 'moov');
  const samples = boxes.find((b) => b.type === 'mdat');
  if (!tables || !samples || tables.at < samples.at || tables.size > MOST_TABLES) return file;
  const moov = Buffer.from(await file.read(tables.at, tables.at + tables.size));
  // A last box may leave its length out (4.2): it is the last no more.
  if (moov.readUInt32BE(0) === 0) moov.writeUInt32BE(moov.length, 0);
  shift(moov, [0, moov.length], tables.at);
  const parts: { at: number; size: number; read: SoundReader['read'] }[] = [];
  const rest = (from: number, to: number, at: number): void => {
    if (to > from)
      parts.push({ at, size: to - from, read: (a, b) => file.read(from + a, from + b) });
  };
  // What was before the samples, the tables, and everything else in its order.
  rest(0, samples.at, 0);
  parts.push({
    at: samples.at,
    size: moov.length,
    read: (a, b) => Promise.resolve(moov.subarray(a, b)),
  });
  rest(samples.at, tables.at, samples.at + moov.length);
  rest(tables.at + tables.size, file.size, tables.at + moov.length);
  return {
    size: file.size,
    read: async (from, to) => {
      const found: Uint8Array[] = [];
      for (const part of parts) {
        const [a, b] = [Math.max(from, part.at), Math.min(to, part.at + part.size)];
        if (a < b) found.push(await part.read(a - part.at, b - part.at));
      }
      return Buffer.concat(found);
    },
  };
}
