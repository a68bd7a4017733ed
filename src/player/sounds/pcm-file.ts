/** Sounds of the player’s machine, decoded once into files beside the data: from there any moment is read at once, whatever they are packed as. */
import { closeSync, openSync, readSync, statSync } from 'node:fs';
import { mkdir, open, readdir, rename, rm, stat, utimes } from 'node:fs/promises';
import { join } from 'node:path';
import type { SoundFile } from '../../core/sounds/rows.ts';
import { remembering, type SoundReader } from '../../store/sounds/kept.ts';
import { pcmOf } from '../../store/sounds/decode.ts';
import type { Samples } from './samples.ts';

const FRAME_BYTES = 4;
const FULL = 32_767;
const UNUSED_MS = 30 * 24 * 3600 * 1000;

const fileOf = (folder: string, sum: string): string => join(folder, `${sum}.pcm`);

/** More than two channels are heard as the first two; one on both sides. */
function interleaved(channels: readonly Float32Array[]): Buffer {
  const [left = new Float32Array(0), right = left] = channels;
  const out = new Int16Array(left.length * 2);
  for (let i = 0; i < left.length; i++) {
    out[i * 2] = Math.max(-1, Math.min(1, left[i] ?? 0)) * FULL;
    out[i * 2 + 1] = Math.max(-1, Math.min(1, right[i] ?? 0)) * FULL;
  }
  return Buffer.from(out.buffer);
}

/** Rounding of a length that was measured, in seconds. */
const ROUNDED_S = 0.05;
const framesOf = (file: SoundFile): number => Math.max(1, file.length_s * file.rate_hz);
const isWhole = (file: SoundFile, frames: number): boolean =>
  frames >= framesOf(file) - ROUNDED_S * file.rate_hz;

/** @throws where it cannot be written, or where less than was measured can be read */
async function decodeInto(
  path: string,
  file: SoundFile,
  from: SoundReader,
  told: (share: number) => void,
): Promise<void> {
  const reader = remembering(from);
  const out = await open(path, 'w', 0o600);
  let frames = 0;
  try {
    const decoded = pcmOf(file.kind, reader);
    for (;;) {
      // As far as it can be decoded; where it was measured that was said.
      const next = await decoded.next().catch(() => null);
      // What goes on at another rate was left out there too.
      if (!next || next.done || Math.round(next.value.rate_hz) !== file.rate_hz) break;
      frames += next.value.channels[0]?.length ?? 0;
      await out.appendFile(interleaved(next.value.channels));
      told(Math.min(0.99, frames / framesOf(file)));
    }
  } finally {
    await out.close();
  }
  const failed = reader.failed();
  if (failed) throw failed;
  if (!isWhole(file, frames))
    throw new Error(`${frames} of ${Math.round(framesOf(file))} frames could be decoded`);
}

/**
 * Decodes a sound, whole or not at all (`pcm-file.test.ts`); one that is there already is not decoded again.
 * @param told share of it that is done
 * @throws where it cannot be read as far as it was measured, or not be written: nothing of it is kept then
 */
export async function makeReady(
  folder: string,
  file: SoundFile,
  reader: SoundReader,
  told: (share: number) => void,
): Promise<void> {
  await mkdir(folder, { recursive: true, mode: 0o700 });
  const path = fileOf(folder, file.sha256);
  const there = await stat(path).catch(() => undefined);
  // One that an earlier version left cut short is decoded anew.
  if (there && isWhole(file, there.size / FRAME_BYTES)) {
    const now = new Date();
    await utimes(path, now, now);
    return;
  }
  const part = `${path}.part`;
  try {
    await decodeInto(part, file, reader, told);
    await rename(part, path);
  } catch (error) {
    await rm(part, { force: true }).catch(() => undefined);
    throw error;
  }
}

/** Takes away what nobody has played for a month. */
export async function dropUnused(folder: string, now_ms: number): Promise<void> {
  for (const name of await readdir(folder).catch(() => [])) {
    const about = await stat(join(folder, name)).catch(() => undefined);
    if (about && now_ms - about.mtimeMs > UNUSED_MS) await rm(join(folder, name), { force: true });
  }
}

/** @throws where it is not ready */
export function openSamples(folder: string, file: SoundFile): Samples & { close: () => void } {
  const path = fileOf(folder, file.sha256);
  const length = Math.floor(statSync(path).size / FRAME_BYTES);
  const handle = openSync(path, 'r');
  let buffer = Buffer.alloc(0);
  return {
    rate_hz: file.rate_hz,
    length,
    read: (from, left, right) => {
      left.fill(0);
      right.fill(0);
      const first = Math.max(0, from);
      const count = Math.min(length, from + left.length) - first;
      if (count <= 0) return;
      if (buffer.length < count * FRAME_BYTES) buffer = Buffer.alloc(count * FRAME_BYTES * 2);
      readSync(handle, buffer, 0, count * FRAME_BYTES, first * FRAME_BYTES);
      for (let i = 0; i < count; i++) {
        left[first - from + i] = buffer.readInt16LE(i * FRAME_BYTES) / FULL;
        right[first - from + i] = buffer.readInt16LE(i * FRAME_BYTES + 2) / FULL;
      }
    },
    close: () => closeSync(handle),
  };
}
