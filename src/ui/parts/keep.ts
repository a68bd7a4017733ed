/** What this browser keeps of a person's arrangement and of what they have not written yet; what comes back is checked. */
import type { z } from 'zod';

/** What this browser keeps; on the server nothing is kept. */
export const keep: Pick<Storage, 'getItem' | 'setItem'> =
  typeof window === 'undefined'
    ? { getItem: () => null, setItem: () => undefined }
    : window.localStorage;

/** What was kept under a key; null where there is nothing, or nothing that is whole. */
export function kept<T>(
  from: Pick<Storage, 'getItem'>,
  key: string,
  schema: z.ZodType<T>,
): T | null {
  try {
    return schema.parse(JSON.parse(from.getItem(key) ?? 'null'));
  } catch {
    return null;
  }
}
