/** Zoom and place of the plan by the wheel and by two fingers. */
import { useEffect, type RefObject } from 'react';
import { useStage } from '../state/stage';
import type { Pixel } from './pick';
import { zoomedAt, type Bounds, type View } from './view';

const WHEEL_STEP = 1.0016;

/** A view and what there is to be seen. */
export interface Seen {
  view: View;
  bounds: Bounds;
  size: { width: number; height: number };
}

/** The wheel may not scroll the page, so it is listened to by hand. @param fixed the plan stays as it is */
export function useWheelZoom(
  box: RefObject<HTMLDivElement | null>,
  fixed: boolean,
  { view, bounds, size }: Seen,
): void {
  useEffect(() => {
    const element = box.current;
    if (!element || fixed) return;
    const wheel = (e: WheelEvent): void => {
      e.preventDefault();
      const r = element.getBoundingClientRect();
      const at = { x: e.clientX - r.left, y: e.clientY - r.top };
      useStage.setState({ view2d: zoomedAt(view, bounds, size, at, WHEEL_STEP ** -e.deltaY) });
    };
    element.addEventListener('wheel', wheel, { passive: false });
    return () => element.removeEventListener('wheel', wheel);
  }, [box, fixed, view, bounds, size]);
}

/** Two fingers move and zoom at once: one went from `before` to `now` while the other stayed. */
export function pinched(
  { view, bounds, size }: Seen,
  before: Pixel,
  now: Pixel,
  other: Pixel,
): void {
  const apart = Math.hypot(now.x - other.x, now.y - other.y);
  const wasApart = Math.max(1, Math.hypot(before.x - other.x, before.y - other.y));
  const factor = apart / wasApart;
  const middle = { x: (now.x + other.x) / 2, y: (now.y + other.y) / 2 };
  const zoomed = zoomedAt(view, bounds, size, middle, factor);
  const scale = view.scale * factor;
  useStage.setState({
    view2d: {
      ...zoomed,
      x: zoomed.x - (now.x - before.x) / 2 / scale,
      y: zoomed.y + (now.y - before.y) / 2 / scale,
    },
  });
}
