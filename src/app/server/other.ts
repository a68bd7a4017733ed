/** The other side of a merge or an import: another show of the one who asks, or a file that was taken in. */
import { z } from 'zod';
import { isRefusal, refuse, type Refusal } from '@/core/refusal';
import { incomingFile, otherFromFile, otherFromShow, type Other } from '@/store/files';
import { roleOf } from '@/store/shows';
import { server } from './context';

export const Source = z.union([z.object({ show: z.string().max(120) }), z.object({ file: z.string().max(120) })]);

export async function otherSide(userId: string, from: z.infer<typeof Source>): Promise<Other | Refusal> {
  const { db, store } = server();
  if ('file' in from) {
    const file = await incomingFile(db, userId, from.file);
    return isRefusal(file) ? file : otherFromFile(file);
  }
  const role = await roleOf(db, from.show, userId);
  if (!role || role === 'volunteer') return refuse('not-found', 'The other show does not exist, or you are not one of its people.');
  return otherFromShow(store, from.show);
}
