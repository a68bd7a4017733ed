/** MP4 whose tables come last, byte by byte: boxes of ISO/IEC 14496-12 by hand. */
import type { SoundReader } from './kept.ts';
import { inOrder } from './m4a.ts';

const box = (type: string, body: Buffer | number[] = []): Buffer => {
  const head = Buffer.alloc(8);
  head.writeUInt32BE(8 + body.length);
  head.write(type, 4, 'latin1');
  return Buffer.concat([head, Buffer.from(body)]);
};
/** Tables that say where samples lie, in 32 or 64 bits. */
const tables = (kind: 'stco' | 'co64', places: readonly number[]): Buffer => {
  const wide = kind === 'co64' ? 8 : 4;
  const body = Buffer.alloc(8 + places.length * wide);
  body.writeUInt32BE(places.length, 4);
  places.forEach((place, i) => {
    if (wide === 8) body.writeBigUInt64BE(BigInt(place), 8 + i * 8);
    else body.writeUInt32BE(place, 8 + i * 4);
  });
  const inside = box('stbl', Buffer.concat([box('stsd', [1, 2]), box(kind, body)]));
  return box('moov', box('trak', box('mdia', box('minf', inside))));
};
const reader = (bytes: Buffer): SoundReader => ({
  size: bytes.length,
  read: (from, to) => Promise.resolve(bytes.subarray(from, to)),
});
/** All of it, read in steps of so many bytes. */
const whole = async (file: SoundReader, step = 7): Promise<Buffer> => {
  const found: Uint8Array[] = [];
  for (let at = 0; at < file.size; at += step)
    found.push(await file.read(at, Math.min(at + step, file.size)));
  return Buffer.concat(found);
};
const START = box('ftyp', [1, 2, 3, 4]);
const SAMPLES = box('mdat', [10, 11, 12, 13, 14, 15]);

describe.each(['stco', 'co64'] as const)('tables that come last, as %s', (kind) => {
  const at = START.length + 8;
  const size = tables(kind, [0, 0]).length;

  test('come first, and say where samples lie by then; what comes after them stays in its place', async () => {
    const end = box('free', [7, 7, 7]);
    const file = Buffer.concat([START, SAMPLES, tables(kind, [at, at + 4]), end]);
    const read = await inOrder(reader(file));
    expect(read.size).toBe(file.length);
    for (const step of [1, 7, 4096])
      expect(await whole(read, step)).toEqual(
        Buffer.concat([START, tables(kind, [at + size, at + 4 + size]), SAMPLES, end]),
      );
  });

  test('a box between samples and tables keeps its place behind the samples', async () => {
    const between = box('free');
    const read = await inOrder(
      reader(Buffer.concat([START, SAMPLES, between, tables(kind, [at])])),
    );
    expect(await whole(read)).toEqual(
      Buffer.concat([START, tables(kind, [at + tables(kind, [0]).length]), SAMPLES, between]),
    );
  });

  test('samples that lie after the tables already are not moved', async () => {
    const more = box('mdat', [20, 21]);
    const after = START.length + SAMPLES.length + size + 8;
    const file = Buffer.concat([START, SAMPLES, tables(kind, [at, after]), more]);
    expect(await whole(await inOrder(reader(file)))).toEqual(
      Buffer.concat([START, tables(kind, [at + size, after]), SAMPLES, more]),
    );
  });

  test('a last box that leaves its length out has it once it is no longer the last', async () => {
    const open = tables(kind, [at]);
    open.writeUInt32BE(0);
    expect(await whole(await inOrder(reader(Buffer.concat([START, SAMPLES, open]))))).toEqual(
      Buffer.concat([START, tables(kind, [at + open.length]), SAMPLES]),
    );
  });

  test('more places than the table has room for: those that are there are moved, and nothing behind', async () => {
    const lies = tables(kind, [at]);
    const count = lies.length - (kind === 'co64' ? 8 : 4) - 4;
    lies.writeUInt32BE(5000, count);
    const moved = tables(kind, [at + lies.length]);
    moved.writeUInt32BE(5000, count);
    expect(await whole(await inOrder(reader(Buffer.concat([START, SAMPLES, lies]))))).toEqual(
      Buffer.concat([START, moved, SAMPLES]),
    );
  });
});

test('what has its tables first, or none, or no samples, is read as it is', async () => {
  for (const parts of [
    [START, tables('stco', [100]), SAMPLES],
    [START, SAMPLES],
    [START, tables('stco', [100])],
    [Buffer.from([0, 0, 0])],
    [],
  ]) {
    const file = reader(Buffer.concat(parts));
    expect(await inOrder(file)).toBe(file);
  }
});

test('samples longer than 32 bits can say lead on to the tables behind them', async () => {
  const head = Buffer.alloc(16);
  head.writeUInt32BE(1);
  head.write('mdat', 4, 'latin1');
  head.writeBigUInt64BE(20n, 8);
  const samples = Buffer.concat([head, Buffer.from([1, 2, 3, 4])]);
  const at = START.length + 16;
  const moov = tables('co64', [at]);
  expect(await whole(await inOrder(reader(Buffer.concat([START, samples, moov]))))).toEqual(
    Buffer.concat([START, tables('co64', [at + moov.length]), samples]),
  );
});
