/** Cues taken by their numbers and put elsewhere in the list; what tracks is kept as a move keeps it. */
'use client';
import { closestCenter, useDraggable, useDroppable, type Active } from '@dnd-kit/core';
import { useState, type ReactNode } from 'react';
import type { CueRow } from '@/core/cues/rows';
import { DragSpace, type HeldAt } from '../../parts/drag-space';
import { edit } from '../../state/edits';
import { ROW } from '../draw-sheet';
import { LEFT } from './use-canvas';

/** Between which rows a drag would put its cues: the row before which they come, counted from 0; null where they are. */
function placeOf({ box, over }: HeldAt, cues: readonly CueRow[]): number | null {
  if (!over) return null;
  const row = cues.findIndex((c) => c.id === over.id);
  const below = box.top + box.height / 2 > over.rect.top + over.rect.height / 2;
  return row < 0 ? null : row + (below ? 1 : 0);
}

/** A space in which cues are dragged. */
export function MovedCues({
  cues,
  chosen,
  may,
  children,
}: {
  cues: readonly CueRow[];
  /** They go together, where the one that is taken is among them. */
  chosen: readonly string[];
  may: boolean;
  children: ReactNode;
}) {
  const [place, setPlace] = useState<number | null>(null);
  const end = (active: Active, at: HeldAt): void => {
    const to = placeOf(at, cues);
    const id = String(active.id);
    const ids = chosen.includes(id) ? chosen : [id];
    if (to === null) return;
    // After the last before that place which stays where it is.
    const before = cues
      .slice(0, to)
      .filter((c) => !ids.includes(c.id))
      .at(-1);
    const row = cues.findIndex((c) => c.id === ids[0]);
    if (ids.length === 1 && (to === row || to === row + 1)) return;
    const inOrder = cues.filter((c) => ids.includes(c.id)).map((c) => c.id);
    void edit('move-cues', { ids: inOrder, after: before?.number ?? 0 });
  };
  return (
    <DragSpace
      detect={closestCenter}
      may={may}
      apart
      onMove={(at) => setPlace(at && placeOf(at, cues))}
      onDrop={end}
    >
      {children}
      {place !== null && (
        <i
          data-testid="cue-place"
          className="pointer-events-none absolute left-0 z-20 h-0.5 bg-standby"
          style={{ width: LEFT, top: place * ROW - 1 }}
        />
      )}
    </DragSpace>
  );
}

/** A row over which cues are dropped. */
export const useCuePlace = (id: string): ((node: HTMLElement | null) => void) =>
  useDroppable({ id }).setNodeRef;

/** The number by which a cue is taken. */
export function CueHandle({ id, children }: { id: string; children: ReactNode }) {
  const { setNodeRef, listeners, isDragging } = useDraggable({ id });
  return (
    <span
      ref={setNodeRef}
      className={isDragging ? 'opacity-60' : ''}
      title="Drag it to another place in the list"
      {...listeners}
    >
      {children}
    </span>
  );
}
