/** What other people do with the sheet's rows and cells, and what they like. */
'use client';
import { useMemo } from 'react';
import type { Column } from '@/core/cues/sheet';
import type { CueRow } from '@/core/cues/rows';
import { marksOf } from '../../frame/spine-rows';
import { useScreen, useShow } from '../../state/store';

/** A cell in which somebody else writes. */
export interface Ghost {
  hand: string;
  row: number;
  column: number;
}

/** The cell as others' screens find it; a field's label follows. */
export const cellHand = (
  cue: CueRow | undefined,
  column: Column | undefined,
): string | undefined => (cue && column ? `cells/${cue.id}/${column.id}` : undefined);

/** The cell of a hand, without its field; nothing where it is in none of these. */
function ghostOf(
  hand: string | undefined,
  cues: readonly CueRow[],
  columns: readonly Column[],
): Ghost[] {
  if (!hand?.startsWith('cells/')) return [];
  const [, cueId, ...rest] = hand.split('/');
  const columnId = rest.slice(0, -1).join('/');
  const row = cues.findIndex((c) => c.id === cueId);
  const column = columns.findIndex((c) => c.id === columnId);
  return row < 0 || column < 0 ? [] : [{ hand, row, column }];
}

/** @returns who looks at which cue, by its id, and the cells that others write in */
export function useOthers(
  cues: readonly CueRow[],
  columns: readonly Column[],
): { here: ReadonlyMap<string, readonly string[]>; ghosts: readonly Ghost[] } {
  const people = useScreen((s) => s.people);
  const me = useScreen((s) => s.you.userId);
  const others = useMemo(() => people.filter((p) => p.userId !== me), [people, me]);
  const here = useMemo(() => marksOf(others), [others]);
  const ghosts = useMemo(
    () =>
      others
        .flatMap((p) => p.hands)
        .flatMap(({ hand }) => ghostOf(hand ?? undefined, cues, columns)),
    [others, cues, columns],
  );
  return { here, ghosts };
}

/** Who likes a cue, in words. */
export interface Liked {
  words: string;
  /** The cue has changed since. */
  lost: boolean;
}

/** @returns who likes which cue, by its id */
export function useLiked(): ReadonlyMap<string, Liked> {
  const show = useShow();
  const likes = show.version('likes');
  return useMemo(() => {
    void likes;
    return new Map(
      [...show.likes.values()].map((l) => [
        l.cueId,
        {
          words: l.lost ? `${l.by.name} liked it; it has changed since` : `${l.by.name} likes it`,
          lost: l.lost !== undefined,
        },
      ]),
    );
  }, [show, likes]);
}
