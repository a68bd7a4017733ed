/** A picture of a person's own: read and made safe in a worker, and taken into the show. */
import { isRefusal } from '@/core/refusal';
import { edit } from '../state/edits';
import { notice } from '../state/messages';
import { readFile } from './read-file';

const NAME_LENGTH = 120;

/** @param layout that it is put under at once @returns its id; undefined where it was refused, which is said */
export async function addPicture(file: File, layout?: string): Promise<string | undefined> {
  const data = await readFile('background', file);
  if (isRefusal(data)) {
    notice.error(data.message);
    return undefined;
  }
  const name = file.name.slice(0, NAME_LENGTH);
  const answer = await edit('add-picture', { name, data, ...(layout ? { layout } : {}) });
  return 'changes' in answer ? answer.changes.find((c) => c.table === 'pictures')?.id : undefined;
}
