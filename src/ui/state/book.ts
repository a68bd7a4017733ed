/** What the Book is looking at: which list and cue, whether it goes along with playback, which cells are chosen. */
import { useMemo } from 'react';
import { create } from 'zustand';
import type { CueRow } from '@/core/cues/rows';
import type { Family } from '@/core/show/fields';
import { firstList } from '@/core/show/show';
import { useScreen, useShow } from './store';
import { useParts } from './use-parts';

/** Cells of the cue sheet that are chosen. */
export interface Cells {
  /** Anchor and end, rows and columns of the sheet. */
  row: number;
  column: number;
  toRow: number;
  toColumn: number;
}

interface BookState {
  /** Null: the first list. */
  listId: string | null;
  /** The cue that is looked at while the Book does not go along. */
  cueId: string | null;
  /** Goes along with playback; else it stays where it is: blind. */
  follow: boolean;
  /** Cues chosen for something done to many. */
  chosen: readonly string[];
  family: Family;
  unfolded: ReadonlySet<string>;
  cells: Cells | null;
  search: string;
  /** Cues of the consequences that are being shown. */
  marked: readonly string[];
}

/** What the Book is looking at. */
export const useBook = create<BookState>(() => ({
  listId: null,
  cueId: null,
  follow: true,
  chosen: [],
  family: 'intensity',
  unfolded: new Set(),
  cells: null,
  search: '',
  marked: [],
}));

/** The list that the Book shows, also for commands that record from here. */
export function bookListId(): string {
  const { show } = useScreen.getState();
  const { listId } = useBook.getState();
  return listId !== null && show.lists.has(listId) ? listId : (firstList(show)?.id ?? '');
}

function inList(chosen: readonly string[], cues: readonly CueRow[]): readonly string[] {
  if (chosen.length === 0) return chosen;
  const ids = new Set<string>(cues.map((c) => c.id));
  return chosen.filter((c) => ids.has(c));
}

/** The Book's list, its cues, and the cue that it looks at. */
export function useBookList() {
  const show = useShow();
  const { listId, cueId, follow, chosen } = useParts(
    useBook,
    'listId',
    'cueId',
    'follow',
    'chosen',
  );
  const id = listId !== null && show.lists.has(listId) ? listId : (firstList(show)?.id ?? '');
  const list = show.lists.get(id);
  const status = useScreen((s) => s.playback.lists.find((l) => l.id === id));
  const cues = show.cuesOf(id);
  const own = cueId ? show.cues.get(cueId) : undefined;
  const playing = status?.cueId ? show.cues.get(status.cueId) : undefined;
  const lookedAt = own?.listId === id ? own : undefined;
  const cue = follow ? playing : lookedAt;
  const here = useMemo(() => inList(chosen, cues), [chosen, cues]);
  return {
    list,
    listId: id,
    status,
    cues,
    cue,
    chosen: here,
  };
}

/** Looks at a cue: the Book stays there until it goes along again. */
export function lookAt(cueId: string): void {
  const { show, playback } = useScreen.getState();
  const cue = show.cues.get(cueId);
  const playing = playback.lists.find((l) => l.id === cue?.listId)?.cueId === cueId;
  useBook.setState({
    cueId,
    follow: playing,
    chosen: [cueId],
    ...(cue ? { listId: cue.listId } : {}),
  });
}

/** The cues that something is done to: the chosen ones, or the one that is looked at. */
export function actedOn(
  chosen: readonly string[],
  cue: { id: string } | undefined,
): readonly string[] {
  if (chosen.length > 0) return chosen;
  return cue ? [cue.id] : [];
}
