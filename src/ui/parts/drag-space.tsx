/** Things that a hand takes from one place to another, by pointer or finger: they lie where it is when it lets go. */
'use client';
import {
  DndContext,
  MouseSensor,
  TouchSensor,
  useSensor,
  useSensors,
  type Active,
  type ClientRect,
  type CollisionDetection,
  type SensorDescriptor,
  type SensorOptions,
} from '@dnd-kit/core';
import { useEffect, useRef, type ReactNode } from 'react';

/** So far a press trembles before it is a drag. */
const DRAG_PX = 6;
/** So long a finger rests before it drags: before that it scrolls. */
const HOLD_MS = 250;
// Each is one object for good: with another, everything that can be taken or dropped upon would be drawn again.
const BY_MOUSE = { activationConstraint: { distance: DRAG_PX } };
const BY_FINGER = { activationConstraint: { delay: HOLD_MS, tolerance: DRAG_PX } };
const BY_NOTHING: SensorDescriptor<SensorOptions>[] = [];
const MOVES = ['mousemove', 'mouseup', 'touchmove', 'touchend'] as const;

/** Where a hand holds a thing, in pixels of the window. */
export interface HeldAt {
  over: { id: string; rect: ClientRect } | null;
  /** The thing itself. */
  box: ClientRect;
}

type Seen = Parameters<CollisionDetection>[0];

const shifted = (r: ClientRect, x: number, y: number): ClientRect => ({
  ...r,
  left: r.left + x,
  right: r.right + x,
  top: r.top + y,
  bottom: r.bottom + y,
});

/**
 * Where the hand is. What is drawn comes after it, so a hand that lets go right after its last step would leave the thing one
 * step short (drag-space.test.tsx): what was drawn last is moved on to where the hand was heard last.
 */
function useHand(detect: CollisionDetection) {
  const drawn = useRef<Seen | null>(null);
  const hand = useRef<{ x: number; y: number } | null>(null);
  const leave = useRef<() => void>(() => undefined);
  useEffect(() => () => leave.current(), []);
  const hear = (event: Event): void => {
    // The finger that was there first leads, whatever others do.
    const { touches, changedTouches } = event as Partial<TouchEvent>;
    const { clientX: x, clientY: y } = touches?.[0] ?? changedTouches?.[0] ?? (event as MouseEvent);
    hand.current = { x, y };
  };
  return {
    seen: (args: Seen) => {
      drawn.current = args;
      return detect(args);
    },
    take: (): void => {
      [drawn.current, hand.current] = [null, null];
      for (const move of MOVES) window.addEventListener(move, hear, true);
      leave.current = () => {
        for (const move of MOVES) window.removeEventListener(move, hear, true);
      };
    },
    leave: (): void => leave.current(),
    /** @returns null before anything was drawn of it */
    at: (): HeldAt | null => {
      const last = drawn.current;
      if (!last) return null;
      const from = last.pointerCoordinates;
      const to = hand.current ?? from;
      const [x, y] = from && to ? [to.x - from.x, to.y - from.y] : [0, 0];
      const box = shifted(last.collisionRect, x, y);
      const [first] = detect({ ...last, collisionRect: box, pointerCoordinates: to });
      const rect = first && last.droppableRects.get(first.id);
      return { box, over: rect ? { id: String(first.id), rect } : null };
    },
  };
}

/**
 * A mouse that has gone some way takes hold, and a finger that has rested.
 * @param detect what a thing is over
 * @param onMove as it goes, and null when it is no longer held
 * @param apart what is said of it stands outside of what is here: in a table there are only rows
 */
export function DragSpace({
  detect,
  may = true,
  apart = false,
  onTake,
  onMove,
  onDrop,
  children,
}: {
  detect: CollisionDetection;
  may?: boolean;
  apart?: boolean;
  onTake?: (thing: Active) => void;
  onMove?: (at: HeldAt | null) => void;
  onDrop: (thing: Active, at: HeldAt) => void;
  children: ReactNode;
}) {
  const hand = useHand(detect);
  const sensors = useSensors(useSensor(MouseSensor, BY_MOUSE), useSensor(TouchSensor, BY_FINGER));
  const end = (): void => {
    hand.leave();
    onMove?.(null);
  };
  return (
    <DndContext
      sensors={may ? sensors : BY_NOTHING}
      collisionDetection={hand.seen}
      accessibility={apart && typeof document !== 'undefined' ? { container: document.body } : {}}
      onDragStart={({ active }) => {
        hand.take();
        onTake?.(active);
      }}
      onDragMove={() => onMove?.(hand.at())}
      onDragEnd={({ active }) => {
        const at = hand.at();
        end();
        if (at) onDrop(active, at);
      }}
      onDragCancel={end}
    >
      {children}
    </DndContext>
  );
}
