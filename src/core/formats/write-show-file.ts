/** A show, written as a show file. */
import { strToU8, zipSync, type Zippable } from 'fflate';
import { breathe } from '../breathe.ts';
import type { MutableShow } from '../show/show.ts';
import { TABLE_NAMES, TABLES, type AnyRow } from '../show/tables.ts';
import type { Change } from '../show/undo.ts';
import { fromBase64 } from './base64.ts';
import { SCHEMA, sha256, soundsOf, type Entries, type Manifest } from './show-file.ts';

/** Rows repeat themselves so much that more effort makes a file hardly smaller. */
const PACKED = 3;

/** What stands in a show file beside its rows. */
export interface WriteOptions {
  id: string;
  name: string;
  venue: string;
  seq: number;
  origin: Manifest['origin'];
  by: string;
  /** ISO 8601, UTC. */
  made: string;
}

/** A show as a file. @param changes its log, so that a copy can be merged back */
export async function writeShowFile(
  show: MutableShow,
  changes: readonly Change[],
  o: WriteOptions,
): Promise<Uint8Array> {
  const entries: Record<string, Uint8Array> = {};
  const counts: Record<string, number> = {};
  for (const table of TABLE_NAMES) {
    const rows: AnyRow[] = [...show[table].values()];
    counts[table] = rows.length;
    const plain = TABLES[table].asset
      ? rows.map((row) => {
          const { data, ...rest } = row as AnyRow & { data?: string };
          if (data === undefined) return rest;
          const [, kind = '', base64 = ''] =
            /^data:[a-z]+\/([a-z-]+);base64,(.*)$/s.exec(data) ?? [];
          const asset = `assets/${row.id.replace(/[^A-Za-z0-9_-]/g, '_')}.${kind}`;
          entries[asset] = fromBase64(base64);
          return { ...rest, asset };
        })
      : rows;
    // One row a line: what changed between two files can be read by eye.
    await breathe();
    entries[`tables/${table}.json`] = strToU8(
      `[${plain.map((r) => `\n${JSON.stringify(r)}`).join(',')}\n]\n`,
    );
  }
  entries['changes.json'] = strToU8(
    `[${changes.map((c) => `\n${JSON.stringify(c)}`).join(',')}\n]\n`,
  );
  const checksums: Record<string, string> = {};
  for (const [name, bytes] of Object.entries(entries)) checksums[name] = await sha256(bytes);
  const manifest: Manifest = {
    format: 'wingman-show',
    schema: SCHEMA,
    made: o.made,
    by: o.by,
    show: { id: o.id, name: o.name, venue: o.venue },
    seq: o.seq,
    origin: o.origin,
    counts,
    checksums,
    sounds: soundsOf(show.sounds.values()),
  };
  const files: Zippable = { 'manifest.json': strToU8(`${JSON.stringify(manifest, null, 2)}\n`) };
  // Pictures and sounds are packed already.
  for (const [name, bytes] of Object.entries(entries))
    files[name] = name.startsWith('assets/') ? [bytes, { level: 0 }] : bytes;
  return zipSync(files, { level: PACKED, mtime: new Date(o.made) });
}

/** The same entries as a file again, without sounds. */
export const packEntries = (entries: Entries): Uint8Array =>
  zipSync(Object.fromEntries(entries), { level: PACKED });
