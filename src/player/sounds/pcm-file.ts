/** Sounds of the player’s machine, decoded once into files beside the data: from there any moment is read at once, whatever they are packed as. */
import { closeSync, createWriteStream, openSync, readSync, statSync } from 'node:fs';
import { mkdir, readdir, rename, rm, stat, utimes } from 'node:fs/promises';
import { once } from 'node:events';
import { join } from 'node:path';
import type { SoundFile } from '../../core/sounds/rows.ts';
import type { SoundReader } from '../../store/sounds/kept.ts';
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

/**
 * Decodes a sound, whole or not at all; one that is there already is not decoded again.
 * @param told share of it that is done
 */
export async function makeReady(
  folder: string,
  file: SoundFile,
  reader: SoundReader,
  told: (share: number) => void,
): Promise<void> {
  await mkdir(folder, { recursive: true, mode: 0o700 });
  const path = fileOf(folder, file.sha256);
  if (await stat(path).catch(() => undefined)) {
    const now = new Date();
    await utimes(path, now, now);
    return;
  }
  const out = createWriteStream(`${path}.part`, { mode: 0o600 });
  let frames = 0;
  try {
    for await (const { channels } of pcmOf(file.kind, reader)) {
      frames += channels[0]?.length ?? 0;
      if (!out.write(interleaved(channels))) await once(out, 'drain');
      told(Math.min(0.99, frames / Math.max(1, file.length_s * file.rate_hz)));
    }
  } catch {
    // As far as it can be decoded; where it was measured that was said.
  }
  out.end();
  await once(out, 'close');
  await rename(`${path}.part`, path);
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
