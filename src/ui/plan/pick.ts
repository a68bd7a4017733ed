/** What lies under the hand on the plan. */
import { ontoPiece } from '@/core/plan/arrange';
import type { PieceRow } from '@/core/plan/rows';
import type { Lamp } from './light';
import { toMetre, toPixel, type View } from './view';

/** On the screen, from the canvas's corner. */
export interface Pixel {
  x: number;
  y: number;
}

const HIT_PX = 17;
/** Strips are drawn so much wider than they are tall. */
const STRIP_WIDE = 1.8;
const PIECE_HIT_M = 0.25;
const PIECE_HIT_PX = 6;

/** The nearest unit under the hand. */
export function lampAt(lamps: readonly Lamp[], view: View, p: Pixel): Lamp | null {
  let best: Lamp | null = null;
  let distance = HIT_PX;
  for (const lamp of lamps) {
    const q = toPixel(view, lamp.fixture.position);
    const d = Math.hypot(
      Math.abs(q.x - p.x) / (lamp.shape === 'strip' ? STRIP_WIDE : 1),
      q.y - p.y,
    );
    if (d < distance) {
      best = lamp;
      distance = d;
    }
  }
  return best;
}

/** The first line of the plan under the hand. */
export function pieceAt(pieces: readonly PieceRow[], view: View, p: Pixel): PieceRow | null {
  const m = toMetre(view, p);
  const near_m = Math.max(PIECE_HIT_M, PIECE_HIT_PX / view.scale);
  return pieces.find((row) => ontoPiece(row, m).distance < near_m) ?? null;
}

/** Ids of the units whose middles something holds, by number. */
export const lampsWithin = (
  lamps: readonly Lamp[],
  view: View,
  holds: (p: Pixel) => boolean,
): string[] =>
  lamps
    .filter((l) => holds(toPixel(view, l.fixture.position)))
    .map((l) => l.fixture)
    .sort((x, y) => x.number - y.number)
    .map((f) => f.id);
