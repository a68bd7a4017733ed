/** A fixture type as a file that other programs read. */
import { createHash } from 'node:crypto';
import { writeGdtf } from '@/core/gdtf/write';
import type { TypeRow } from '@/core/types/rows';
import { fileName } from './file-name';

/** An id for everybody, the same each time, of a type that no maker gave one. */
function idOf({ id, maker, name }: TypeRow): string {
  const hex = createHash('sha256').update(`${id}\n${maker}\n${name}`).digest('hex');
  return [
    hex.slice(0, 8),
    hex.slice(8, 12),
    `4${hex.slice(13, 16)}`,
    `8${hex.slice(17, 20)}`,
    hex.slice(20, 32),
  ].join('-');
}

export function gdtfFile(type: TypeRow): Response {
  const { id, ...rest } = type;
  void id;
  return new Response(new Uint8Array(writeGdtf(rest, idOf(type))), {
    headers: {
      'content-type': 'application/zip',
      'content-disposition': `attachment; filename="${fileName(`${type.maker} ${type.name}`, 'type.gdtf').replace('-type.gdtf', '.gdtf')}"`,
      'cache-control': 'no-store',
    },
  });
}
