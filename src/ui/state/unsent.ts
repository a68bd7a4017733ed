/**
 * Edits that the house has not answered: kept by this browser from the first try that failed until one is answered, through
 * a reload, and offered to who made them. They are sent again under their own ids, so nothing happens twice, and with what
 * had been seen when they were made, so that work of others since then is asked about.
 */
import { z } from 'zod';
import { create } from 'zustand';
import { keep, kept } from '../parts/keep';

const KEY = 'wingman-unsent';
/** More than this is not kept, and said. */
const MOST = 200;

const UnsentSchema = z.object({
  editId: z.string().max(60),
  showId: z.string(),
  userId: z.string(),
  edit: z.string(),
  params: z.unknown(),
  seen: z.number(),
  summary: z.string(),
  at: z.string(),
});
export type Unsent = z.infer<typeof UnsentSchema>;

const read = (): Unsent[] => kept(keep, KEY, z.array(UnsentSchema).max(MOST)) ?? [];

/** All of this browser's, oldest first; and those that are being sent right now. */
export const useUnsent = create<{ all: readonly Unsent[]; sending: ReadonlySet<string> }>(() => ({
  all: read(),
  sending: new Set(),
}));

/** @returns whether this browser could keep it */
function write(all: readonly Unsent[]): boolean {
  useUnsent.setState({ all });
  try {
    keep.setItem(KEY, JSON.stringify(all));
    return true;
  } catch {
    return false;
  }
}

// Another window of the same browser sends or lets go as well.
if (typeof window !== 'undefined')
  window.addEventListener('storage', (e) => {
    if (e.key === KEY) useUnsent.setState({ all: read() });
  });

/** @returns whether it will still be there after a reload */
export function keepUnsent(entry: Unsent): boolean {
  const before = read();
  if (before.some((u) => u.editId === entry.editId)) return true;
  return before.length < MOST && write([...before, entry]);
}

/** An edit has arrived, or is wanted no more. */
export function dropUnsent(editId: string): void {
  const all = read();
  if (all.some((u) => u.editId === editId)) write(all.filter((u) => u.editId !== editId));
}

/** An edit is on its way, or no more. */
export const sendingNow = (editId: string, on: boolean): void =>
  useUnsent.setState(({ sending }) => {
    const next = new Set(sending);
    if (on) next.add(editId);
    else next.delete(editId);
    return { sending: next };
  });
