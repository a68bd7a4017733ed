/** Sounds of back-ups: each file once beside the back-ups of its show, for as long as one of them has it. */
import { createReadStream } from 'node:fs';
import { mkdir, open, readdir, readFile, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { readShowFile } from '../../core/formats/read-show-file.ts';
import { type Manifest } from '../../core/formats/show-file.ts';
import { isRefusal } from '../../core/refusal.ts';
import type { Database } from '../database.ts';
import { dropSound, missingSounds, PIECE_BYTES, receiveSound, soundAnywhere } from './kept.ts';
import { takeInSound } from './measure.ts';

const soundsFolder = (folder: string): string => join(folder, 'sounds');
const FILE = /^[0-9a-f]{64}$/;

/** Writes those that are not there yet, each whole or not at all. */
export async function writeSounds(
  db: Database,
  folder: string,
  sums: readonly string[],
): Promise<void> {
  if (sums.length === 0) return;
  await mkdir(soundsFolder(folder), { recursive: true, mode: 0o700 });
  for (const sum of sums) {
    const path = join(soundsFolder(folder), sum);
    const kept = await soundAnywhere(db, sum);
    const there = await stat(path).catch(() => undefined);
    if (!kept || there?.size === kept.about.bytes) continue;
    const out = await open(`${path}.part`, 'w', 0o600);
    try {
      for (let at = 0; at < kept.reader.size; at += PIECE_BYTES)
        await out.appendFile(await kept.reader.read(at, at + PIECE_BYTES));
    } finally {
      await out.close();
    }
    await rename(`${path}.part`, path);
  }
}

/** Takes away what no back-up has any more. @param left names of the back-ups that stay */
export async function dropUnused(folder: string, left: readonly string[]): Promise<void> {
  const there = (await readdir(soundsFolder(folder)).catch(() => [])).filter((f) => FILE.test(f));
  if (there.length === 0) return;
  const used = new Set<string>();
  for (const name of left) {
    const file = await readShowFile(new Uint8Array(await readFile(join(folder, name))));
    // One that cannot be read may need any of them.
    if (isRefusal(file)) return;
    for (const { sha256 } of file.manifest.sounds) used.add(sha256);
  }
  for (const sum of there)
    if (!used.has(sum)) await rm(join(soundsFolder(folder), sum), { force: true });
}

/** Takes in again what of these is no longer kept and lies beside the back-ups. */
export async function bringBack(
  db: Database,
  folder: string,
  sounds: Manifest['sounds'],
): Promise<void> {
  for (const sum of await missingSounds(
    db,
    sounds.map((s) => s.sha256),
  )) {
    const path = join(soundsFolder(folder), sum);
    if (!(await stat(path).catch(() => undefined))) continue;
    const arrived = await receiveSound(db, createReadStream(path));
    if (isRefusal(arrived)) continue;
    const taken = arrived.sha256 === sum ? await takeInSound(db, arrived) : undefined;
    if (!taken || isRefusal(taken)) await dropSound(db, arrived.id);
  }
}
