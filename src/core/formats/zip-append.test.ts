/** A ZIP with more in it, header by header (APPNOTE 6.3.10, 4.3.7, 4.3.12, 4.3.16). */
import { strToU8, unzipSync, zipSync } from 'fflate';
import { crc32 } from 'node:zlib';
import { appendStored, type Appended } from './zip-append.ts';

const BYTES = strToU8('light on water');
const entry = (name: string): Appended => ({ name, bytes: BYTES.length, crc32: crc32(BYTES) });
const whole = (parts: readonly (Uint8Array | Appended)[]): Buffer =>
  Buffer.concat(parts.map((part) => (part instanceof Uint8Array ? part : BYTES)));
const zip = zipSync({ 'manifest.json': strToU8('{}'), 'tables/cues.json': strToU8('[]') });

test('other programs find all of it, as it was', () => {
  const { parts, bytes } = appendStored(zip, [entry('sounds/a.wav'), entry('sounds/é.wav')]);
  const file = whole(parts);
  expect(file.length).toBe(bytes);
  const found = unzipSync(file);
  expect(Object.keys(found)).toEqual([
    'manifest.json',
    'tables/cues.json',
    'sounds/a.wav',
    'sounds/é.wav',
  ]);
  expect(found['sounds/é.wav']).toEqual(BYTES);
});

test('every header is one, and says the same as the other of its entry', () => {
  const file = whole(appendStored(zip, [entry('sounds/a.wav'), entry('sounds/b.wav')]).parts);
  const end = file.length - 22;
  expect(file.readUInt32LE(end)).toBe(0x06054b50);
  expect([file.readUInt16LE(end + 8), file.readUInt16LE(end + 10)]).toEqual([4, 4]);
  let at = file.readUInt32LE(end + 16);
  expect(at + file.readUInt32LE(end + 12)).toBe(end);
  for (let i = 0; i < 4; i++) {
    expect(file.readUInt32LE(at)).toBe(0x02014b50);
    const length = file.readUInt16LE(at + 28);
    const local = file.readUInt32LE(at + 42);
    expect(file.readUInt32LE(local)).toBe(0x04034b50);
    // Version, flags, method, time, date, checksum, both sizes, the name's length; then the name.
    expect(file.subarray(local + 4, local + 28)).toEqual(file.subarray(at + 6, at + 30));
    expect(file.subarray(local + 30, local + 30 + length)).toEqual(
      file.subarray(at + 46, at + 46 + length),
    );
    at += 46 + length + file.readUInt16LE(at + 30) + file.readUInt16LE(at + 32);
  }
  expect(at).toBe(end);
});

test('nothing more is the same file; what is no ZIP, or has a comment, is none', () => {
  expect(whole(appendStored(zip, []).parts)).toEqual(Buffer.from(zip));
  const commented = Buffer.concat([zip, strToU8('!')]);
  for (const bytes of [new Uint8Array(0), new Uint8Array(22), strToU8('no ZIP'), commented])
    expect(() => appendStored(bytes, [entry('sounds/a.wav')])).toThrow(RangeError);
});
