/** Things in a row or a grid that a hand puts in order: dragged by pointer and finger, moved by Alt and the arrow keys. */
'use client';
import { closestCenter } from '@dnd-kit/core';
import { arrayMove, rectSortingStrategy, SortableContext, useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import type { ReactNode } from 'react';
import { DragSpace } from './drag-space';

const ARROWS: Readonly<Record<string, number>> = {
  ArrowLeft: -1,
  ArrowUp: -1,
  ArrowRight: 1,
  ArrowDown: 1,
};

/**
 * @param ids all of them in their order, also those that are not drawn
 * @param onOrder the new order, once for each drag or key; absent where nothing may be moved
 */
export function Sortable({
  ids,
  onOrder,
  children,
}: {
  ids: readonly string[];
  onOrder: ((ids: string[]) => void) | undefined;
  children: ReactNode;
}) {
  const move = (id: string, to: number): void => {
    const from = ids.indexOf(id);
    if (from >= 0 && to >= 0 && to < ids.length && from !== to)
      onOrder?.(arrayMove([...ids], from, to));
  };
  const byKey = (e: React.KeyboardEvent): void => {
    const step = ARROWS[e.key];
    const id = (e.target as HTMLElement).closest<HTMLElement>('[data-sortable]')?.dataset.sortable;
    if (!e.altKey || step === undefined || id === undefined || !onOrder) return;
    e.preventDefault();
    e.stopPropagation();
    move(id, ids.indexOf(id) + step);
  };
  return (
    <DragSpace
      detect={closestCenter}
      onDrop={({ id }, { over }) => over && move(String(id), ids.indexOf(over.id))}
    >
      <SortableContext items={[...ids]} strategy={rectSortingStrategy} disabled={!onOrder}>
        <div className="contents" onKeyDown={byKey}>
          {children}
        </div>
      </SortableContext>
    </DragSpace>
  );
}

/** What is taken hold of, where that is not all of it: put on the part that is the handle. */
export type Handle = ReturnType<typeof useSortable>['listeners'];

/** One of them. @param children with a handle of their own, or taken hold of anywhere */
export function SortableItem({
  id,
  className = '',
  children,
}: {
  id: string;
  className?: string;
  children: ReactNode | ((handle: Handle) => ReactNode);
}) {
  const { setNodeRef, listeners, transform, transition, isDragging } = useSortable({ id });
  const own = typeof children === 'function';
  return (
    <div
      ref={setNodeRef}
      data-sortable={id}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`${className} ${isDragging ? 'relative z-10 opacity-80' : ''}`}
      {...(own ? {} : listeners)}
    >
      {own ? children(listeners) : children}
    </div>
  );
}
