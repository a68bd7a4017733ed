/** Tells parts that keep a copy of the show, such as a worker's, which rows have changed. */
import type { RowChange } from '@/core/show/show';

const listeners = new Set<(rows: RowChange[]) => void>();

/** Hears of every change of the show. @returns what ends that */
export function onChanges(listener: (rows: RowChange[]) => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** Tells everybody who hears. */
export function tellChanges(rows: RowChange[]): void {
  for (const listener of listeners) listener(rows);
}
