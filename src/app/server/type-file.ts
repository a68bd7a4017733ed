/** A fixture type as a file that other programs read. */
import { writeGdtf } from '@/core/gdtf/write';
import { uuidOfType } from '@/core/mvr/uuid';
import type { TypeRow } from '@/core/types/rows';
import { fileName } from './file-name';

export function gdtfFile(type: TypeRow): Response {
  const { id, ...rest } = type;
  return new Response(new Uint8Array(writeGdtf(rest, uuidOfType(id))), {
    headers: {
      'content-type': 'application/zip',
      'content-disposition': `attachment; filename="${fileName(`${type.maker} ${type.name}`, 'type.gdtf').replace('-type.gdtf', '.gdtf')}"`,
      'cache-control': 'no-store',
    },
  });
}
