/** A fixture type as a file that other programs read. */
import { writeGdtf } from '@/core/gdtf/write';
import { uuidOfType } from '@/core/mvr/uuid';
import type { TypeRow } from '@/core/types/rows';
import { asFile } from './file-answer';
import { plainName } from './file-name';

/** A type as a GDTF archive, for download. */
export function gdtfFile(type: TypeRow): Response {
  const { id, ...rest } = type;
  const name = `${plainName(`${type.maker} ${type.name}`)}.gdtf`;
  return asFile('zip', name, new Uint8Array(writeGdtf(rest, uuidOfType(id))));
}
