/** Units and lines of the plan while a hand has them, and putting them down. */
import { snapped } from '@/core/plan/arrange';
import type { LayoutRow, PieceRow } from '@/core/plan/rows';
import type { StagePoint } from '@/core/show/fields';
import type { Show } from '@/core/show/show';
import { edit } from '../state/edits';
import type { Lamp } from './light';

interface Metre {
  x: number;
  y: number;
}

/** What is under the hand and not yet put down. */
export interface Moving {
  fixtures?: ReadonlyMap<string, { x: number; y: number; z?: number }>;
  piece?: PieceRow;
  hang?: string;
  says: string;
}

/** Whole centimetres. */
export const cm = (v: number): number => Math.round(v * 100) / 100;
/** A drawing of one's own is arranged in steps of ten centimetres. */
const dm = (v: number): number => Math.round(v * 10) / 10;

/**
 * The lead goes with the hand and onto a bar that is near; the others keep their distance to it.
 * @param ids in the hand, the lead among them
 */
export function movedFixtures(
  { show, layout }: { show: Show; layout: LayoutRow | undefined },
  lead: Lamp,
  ids: readonly string[],
  by: Metre,
): Moving {
  // The lamps are drawn where the hand has them already: the start is what the show says.
  const of = (id: string): StagePoint => ({
    ...(show.fixtures.get(id)?.position ?? lead.fixture.position),
    ...layout?.places?.[id],
  });
  const own = layout?.places !== undefined;
  const home = of(lead.fixture.id);
  const wanted = { x: home.x + by.x, y: home.y + by.y, z: home.z };
  const { place, hang } = own
    ? { place: { ...wanted, x: dm(wanted.x), y: dm(wanted.y) }, hang: '' }
    : snapped(show.pieces.values(), wanted);
  const along = { x: place.x - home.x, y: place.y - home.y, z: place.z - home.z };
  const high = own ? '' : `, ${place.z.toFixed(1)} m up${hang ? ` on ${hang}` : ''}`;
  return {
    fixtures: new Map(
      ids.map((id) => {
        const at = of(id);
        return [id, { x: cm(at.x + along.x), y: cm(at.y + along.y), z: cm(at.z + along.z) }];
      }),
    ),
    hang,
    says: `${lead.fixture.number} at ${place.x.toFixed(2)} ${place.y.toFixed(2)}${high}`,
  };
}

/** A piece moved by some metres, and what that reads as. */
export const movedPiece = (piece: PieceRow, by: Metre): Moving => ({
  piece: { ...piece, points: piece.points.map((q) => ({ x: cm(q.x + by.x), y: cm(q.y + by.y) })) },
  says: `${piece.name || 'line'} by ${by.x.toFixed(2)} ${by.y.toFixed(2)} m`,
});

/** One edit: the line, places in a layout of its own, or where units hang. */
export async function putDown(moving: Moving, layout: LayoutRow | undefined): Promise<void> {
  const quiet = { quiet: true };
  if (moving.piece) {
    const { id, ...set } = moving.piece;
    await edit('set-piece', { id, set }, quiet);
    return;
  }
  if (!moving.fixtures) return;
  if (layout?.places) {
    const places = Object.fromEntries(
      [...moving.fixtures].map(([id, p]) => [id, { x: p.x, y: p.y }]),
    );
    await edit('set-layout', { id: layout.id, set: { places } }, quiet);
    return;
  }
  const fixtures = [...moving.fixtures].map(([id, position]) => ({
    id,
    set: { position, hang: moving.hang ?? '' },
  }));
  await edit('change-fixtures', { fixtures }, quiet);
}
