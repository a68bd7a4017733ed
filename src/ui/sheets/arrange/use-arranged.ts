/** Pieces while they are arranged: what is chosen, where a hand has them, and each gesture written as one edit. */
'use client';
import { useCallback, useEffect, useMemo, useRef } from 'react';
import { useLed } from '../../parts/use-led';
import { fitting, moved, resized, touchedBy, type Box } from '@/core/sheets/arrange';
import type { PieceRow, PutPiece, SheetRow } from '@/core/sheets/rows';
import { edit } from '../../state/edits';
import { seqNow, since } from '../../state/looked';
import { useSheets } from '../../state/sheets';
import { usePieces } from '../Surface';

/** A piece as the edit that puts it wants it. */
export const asPut = ({ sheet, ...piece }: PieceRow): PutPiece => {
  void sheet;
  return piece;
};

/** Writes pieces, and the sheet's size where they need more of it. @returns whether they were taken */
export async function writePieces(sheet: SheetRow, pieces: readonly PutPiece[]): Promise<boolean> {
  if (pieces.length === 0) return true;
  const size = fitting(pieces, sheet);
  if (size.columns !== sheet.columns || size.rows !== sheet.rows) {
    const { id, number, ...set } = sheet;
    void number;
    await edit('set-sheet', { id, set: { ...set, ...size } }, { quiet: true });
  }
  const answer = await edit(
    'put-pieces',
    { sheet: sheet.id, pieces: [...pieces] },
    { quiet: true },
  );
  return 'changes' in answer;
}

/** The chosen ones with all that they are together with. */
export function withTheirs(pieces: readonly PieceRow[], ids: readonly string[]): string[] {
  const chosen = new Set(ids);
  const joined = new Set(
    pieces.flatMap((p) => (chosen.has(p.id) && p.together ? [p.together] : [])),
  );
  return pieces
    .filter((p) => chosen.has(p.id) || (p.together !== undefined && joined.has(p.together)))
    .map((p) => p.id);
}

/** So long a hand rests after a run of steps. */
const REST_MS = 350;

interface Held {
  kind: 'move' | 'size';
  ids: readonly string[];
  seen: number;
}

/** Pieces in the hand, before they are kept where they lie. */
export function useArranged(sheet: SheetRow) {
  const pieces = usePieces(sheet.id);
  const wanted = useSheets((s) => s.chosen);
  const chosen = useMemo(
    () => wanted.filter((id) => pieces.some((p) => p.id === id)),
    [wanted, pieces],
  );
  const led = useLed<ReadonlyMap<string, PieceRow> | null>(null);
  const { shown: ghost, put: setGhost } = led;
  const held = useRef<Held | null>(null);

  const choose = useCallback(
    (ids: readonly string[]) => useSheets.setState({ chosen: withTheirs(pieces, ids) }),
    [pieces],
  );
  // Steps by keys are written when the hand rests: a run of them is one edit, and none is counted from before the last.
  const stepped = useRef<{ ids: readonly string[]; x: number; y: number; seen: number } | null>(
    null,
  );
  const resting = useRef<ReturnType<typeof setTimeout>>(undefined);
  const flush = useCallback(async (): Promise<void> => {
    clearTimeout(resting.current);
    const run = stepped.current;
    stepped.current = null;
    if (!run) return;
    const those = pieces.filter((p) => run.ids.includes(p.id));
    const next = moved(those, run, sheet, true).filter(
      (p, i) => p.x !== those[i]?.x || p.y !== those[i]?.y,
    );
    await since(run.seen, () => writePieces(sheet, next.map(asPut)));
    setGhost(null);
  }, [pieces, sheet, setGhost]);
  const latest = useRef(flush);
  useEffect(() => {
    latest.current = flush;
  }, [flush]);
  useEffect(() => () => void latest.current(), []);
  const nudge = (by: { x: number; y: number }): void => {
    const run = stepped.current ?? { ids: chosen, x: 0, y: 0, seen: seqNow() };
    run.x += by.x;
    run.y += by.y;
    stepped.current = run;
    const those = pieces.filter((p) => run.ids.includes(p.id));
    setGhost(new Map(moved(those, run, sheet, true).map((p) => [p.id, p])));
    clearTimeout(resting.current);
    resting.current = setTimeout(() => void latest.current(), REST_MS);
  };
  const begin = (kind: Held['kind'], ids: readonly string[]): void => {
    void flush();
    held.current = { kind, ids: withTheirs(pieces, ids), seen: seqNow() };
  };
  /** @param by in steps since it began */
  const goOn = (by: { x: number; y: number }, isFree: boolean): void => {
    const now = held.current;
    if (!now) return;
    // The one that was taken hold of leads onto the grid.
    const [lead, ...others] = now.ids.flatMap((id) => pieces.find((p) => p.id === id) ?? []);
    if (!lead) return;
    const next =
      now.kind === 'size'
        ? [resized(lead, by, sheet, isFree)]
        : moved([lead, ...others], by, sheet, isFree);
    setGhost(new Map(next.map((p) => [p.id, p])));
  };
  const end = (isTorn: boolean): void => {
    const now = held.current;
    held.current = null;
    const done = (): void => setGhost(null);
    const last = led.now();
    if (!now || !last || isTorn) {
      done();
      return;
    }
    const changed = [...last.values()].filter((p) => {
      const was = pieces.find((x) => x.id === p.id);
      return was && (was.x !== p.x || was.y !== p.y || was.w !== p.w || was.h !== p.h);
    });
    void since(now.seen, () => writePieces(sheet, changed.map(asPut))).finally(done);
  };
  return {
    pieces: ghost ? pieces.map((p) => ghost.get(p.id) ?? p) : pieces,
    chosen,
    choose,
    begin,
    goOn,
    end,
    nudge,
    /** Ends when steps by keys are written. */
    flush,
    within: (box: Box) => touchedBy(pieces, box).map((p) => p.id),
  };
}
/** All that arranging knows. */
export type Arranged = ReturnType<typeof useArranged>;
