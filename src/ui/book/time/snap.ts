/** Where something that is dragged along a track comes to rest. */
import type { ListTime } from '@/core/time/rows';
import { nearestBeat } from '@/core/time/tempo';
import { toMillisecond } from '@/core/time/moment';
import type { Snap } from '../../state/track';

/** Nearer than this in pixels a mark or the cursor draws it. */
const DRAWS_PX = 12;

/** @param free the hand says that it wants no snapping @returns a moment that is not before the beginning */
export function snapped(
  at_s: number,
  o: { snap: Snap; free: boolean; time: ListTime; cursor_s: number; scale: number },
): number {
  const near = (moments: readonly number[]): number => {
    const best = [...moments].sort((a, b) => Math.abs(a - at_s) - Math.abs(b - at_s))[0];
    return best !== undefined && Math.abs(best - at_s) * o.scale <= DRAWS_PX ? best : at_s;
  };
  const wanted = (): number => {
    if (o.free || o.snap === 'free') return at_s;
    if (o.snap === 'beat') return nearestBeat(o.time.tempo, at_s);
    return near(o.snap === 'mark' ? o.time.marks.map((m) => m.at_s) : [o.cursor_s]);
  };
  return toMillisecond(Math.max(0, wanted()));
}
