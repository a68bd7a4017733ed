/** The show file, `.wingman`: a ZIP of JSON that a person can read (docs/show-file.md). What it is, for whoever writes or reads one. */
import { z } from 'zod';
import type { MutableShow } from '../show/show.ts';
import type { Change } from '../show/undo.ts';
import { SoundFile, type SoundRow } from '../sounds/rows.ts';

/** Raised by a table that comes with it (`since`), and whenever rows say what an earlier Wingman would lose or not understand. */
export const SCHEMA = 8;
/** Bytes of the largest show file. */
export const FILE_LIMIT = 64 * 1024 * 1024;
/** With its sounds: what a ZIP without extensions can hold (APPNOTE 4.4.8), and room for what is no sound. */
export const SHOW_FILE_LIMIT = 4 * 1024 * 1024 * 1024 - 64 * 1024 * 1024;

export const Manifest = z.object({
  format: z.literal('wingman-show'),
  schema: z.number().int().min(1),
  /** ISO 8601, UTC. */
  made: z.string().max(40),
  by: z.string().max(200),
  show: z.object({
    id: z.string().min(1).max(120),
    name: z.string().max(200),
    venue: z.string().max(200),
  }),
  /** Number of the last change that is in it. */
  seq: z.number().int().min(0),
  /** What it was copied from, and that show's last change then. */
  origin: z.object({ id: z.string().min(1).max(120), seq: z.number().int().min(0) }).nullable(),
  counts: z.record(z.string(), z.number()),
  /** SHA-256 of each entry, in hexadecimal. */
  checksums: z.record(z.string(), z.string().regex(/^[0-9a-f]{64}$/)),
  /** Files of sounds, known by their own sums: beside the entries above, or, of a back-up, in its folder. */
  sounds: z
    .array(SoundFile.pick({ sha256: true, kind: true, bytes: true }))
    .max(200)
    .default([]),
});
export type Manifest = z.infer<typeof Manifest>;

/** A show file that was read and is whole. */
export interface ShowFile {
  manifest: Manifest;
  show: MutableShow;
  /** Everything since the show was made or copied, oldest first. */
  changes: Change[];
}

/** Entries of a show file by their names, without those of sounds. */
export type Entries = Map<string, Uint8Array>;

/** What makes a file no good: its words are what whoever brought it reads. */
export class BadFile extends Error {}
export const NOT_OURS = 'This is not a Wingman show file, or it is broken. Nothing was changed.';

/** In hexadecimal. */
export async function sha256(bytes: Uint8Array): Promise<string> {
  const digest = await crypto.subtle.digest('SHA-256', bytes as Uint8Array<ArrayBuffer>);
  return [...new Uint8Array(digest)].map((b) => b.toString(16).padStart(2, '0')).join('');
}

/** Files of sounds that rows speak of, each once. */
export function soundsOf(rows: Iterable<SoundRow>): Manifest['sounds'] {
  const files = [...rows].flatMap((s) => s.file ?? []);
  return [...new Map(files.map((f) => [f.sha256, f])).values()].map(({ sha256, kind, bytes }) => ({
    sha256,
    kind,
    bytes,
  }));
}
