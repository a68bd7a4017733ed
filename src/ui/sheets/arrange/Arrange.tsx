/** Arranging a sheet: what is put on it at the left, the sheet, and what is chosen at the right. */
'use client';
import { DragOverlay, pointerWithin, type Active } from '@dnd-kit/core';
import { useState } from 'react';
import { boundsOf, freePlace, inRows } from '@/core/sheets/arrange';
import type { SheetRow } from '@/core/sheets/rows';
import { DragSpace, type HeldAt } from '../../parts/drag-space';
import { edit } from '../../state/edits';
import { BOARD, Board } from './Board';
import { copyPieces, Properties } from './Properties';
import { PlanShelf } from './PlanShelf';
import { PieceShelf, PLAN } from './Shelf';
import type { Thing } from './things';
import { useArranged } from './use-arranged';

const thingOf = (data: Record<string, unknown> | undefined): Thing | undefined =>
  data?.thing as Thing | undefined;

/** A sheet in the hand: things to put on it, and what its pieces are. */
export function Arrange({ sheet }: { sheet: SheetRow }) {
  const arranged = useArranged(sheet);
  const [held, setHeld] = useState<Thing | null>(null);
  const [shelf, setShelf] = useState('Pieces');

  const put = async (thing: Thing, at?: { x: number; y: number }): Promise<void> => {
    const all = [thing.is, ...(thing.more ?? [])];
    const boxes = inRows(all.length, thing.size, sheet.columns);
    const { w, h } = boundsOf(boxes);
    const place = at ?? freePlace(arranged.pieces, { w, h }, sheet);
    const x = Math.min(Math.max(0, Math.round(place.x)), Math.max(0, sheet.columns - w));
    const y = Math.min(Math.max(0, Math.round(place.y)), Math.max(0, sheet.rows - h));
    const z = Math.max(-1, ...arranged.pieces.map((p) => p.z)) + 1;
    const pieces = boxes.map((b, i) => ({ ...b, x: x + b.x, y: y + b.y, z: z + i, is: all[i] }));
    const answer = await edit('put-pieces', { sheet: sheet.id, pieces }, { quiet: true });
    if ('changes' in answer) arranged.choose(answer.changes.map((c) => c.id));
  };
  const dropped = (active: Active, { box: from, over }: HeldAt): void => {
    const thing = thingOf(active.data.current);
    const board = document.querySelector<HTMLElement>('[data-testid="sheet"]');
    if (!thing || over?.id !== BOARD || !board) return;
    const corner = board.getBoundingClientRect();
    const step = Number(board.dataset.step);
    void put(thing, { x: (from.left - corner.left) / step, y: (from.top - corner.top) / step });
  };
  return (
    <DragSpace
      detect={pointerWithin}
      onTake={(active) => setHeld(thingOf(active.data.current) ?? null)}
      onMove={(at) => at ?? setHeld(null)}
      onDrop={dropped}
    >
      <div className="flex h-full min-h-0">
        <PieceShelf
          sheetId={sheet.id}
          title={shelf}
          setTitle={setShelf}
          onPut={(t) => void put(t)}
        />
        <div className="flex min-w-0 flex-1 flex-col">
          <div className="min-h-0 flex-1 p-3">
            <Board
              sheet={sheet}
              arranged={arranged}
              onCopy={() => void copyPieces(sheet, arranged)}
            />
          </div>
          {shelf === PLAN && <PlanShelf onPut={(t) => void put(t)} />}
        </div>
        <Properties sheet={sheet} arranged={arranged} />
      </div>
      <DragOverlay dropAnimation={null}>
        {held && (
          <span className="block w-40 truncate rounded-md bg-standby px-2.5 py-1.5 text-[12.5px] font-medium text-ink">
            {held.name}
          </span>
        )}
      </DragOverlay>
    </DragSpace>
  );
}
