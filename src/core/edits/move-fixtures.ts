/** Move: fixtures to consecutive addresses in their order, or all by the same number of channels; back onto the rig too. */
import { z } from 'zod';
import { isRefusal, refuse, type Refusal } from '../refusal.ts';
import { formatPoint, modeOf } from '../rig/addresses.ts';
import { placeUnits, shifted } from '../rig/place.ts';
import { Address, RowId, Universe, type FixtureRow, type PatchPoint } from '../show/rows.ts';
import type { Show } from '../show/show.ts';
import { changeFixtures } from './change-fixtures.ts';
import { defineEdit, EDITORS, numberRanges } from './edit.ts';

const Params = z.object({
  ids: z.array(RowId).min(1).max(10_000),
  to: z.union([
    z.object({ universe: Universe, address: Address, gap: z.number().int().min(0).max(511).default(0), overflow: z.boolean().default(false) }),
    z.object({ by: z.number().int().min(-131_072).max(131_072) }),
    /** Where each of them was before it came off the rig. */
    z.literal('back'),
  ]),
});
type Params = z.input<typeof Params>;

function targets(show: Show, rows: readonly FixtureRow[], to: z.output<typeof Params>['to']): { id: string; patch: PatchPoint[] }[] | Refusal {
  if (to === 'back') {
    const lost = rows.find((r) => r.patch.length === 0 && !r.wasAt);
    if (lost) return refuse('invalid', `${lost.number} was never at an address; say where it goes.`, { to: 'No address to go back to.' });
    return rows.filter((r) => r.patch.length === 0).map((r) => ({ id: r.id, patch: r.wasAt ?? [] }));
  }
  if ('by' in to) return shifted(rows, to.by);
  const units = rows.map((r) => ({ number: r.number, mode: modeOf(show, r) ?? { name: '', footprint: 1, channels: [] } }));
  const placed = placeUnits(show, units, { start: to, gap: to.gap, overflow: to.overflow }, new Set(rows.map((r) => r.id)));
  if (isRefusal(placed)) return placed;
  // The first address moves; a unit that is on the rig keeps its further addresses and its multi-patch.
  return rows.map((r, i) => ({ id: r.id, patch: r.patch.length > 0 ? [...(placed[i]?.slice(0, 1) ?? []), ...r.patch.slice(1)] : (placed[i] ?? []) }));
}

export const moveFixtures = defineEdit<Params>({
  name: 'move-fixtures',
  params: Params,
  roles: EDITORS,
  plan: (show, params, context) => {
    const p = Params.parse(params);
    const rows = [...new Set(p.ids)].flatMap((id) => show.fixtures.get(id) ?? []);
    if (rows.length !== new Set(p.ids).size) return refuse('not-found', 'One of these fixtures has been deleted meanwhile. Nothing was changed.');
    const moved = targets(show, rows, p.to);
    if (isRefusal(moved)) return moved;
    if (moved.length === 0) return refuse('nothing', 'These fixtures are on the rig already.');
    const planned = changeFixtures.plan(show, { fixtures: moved.map(({ id, patch }) => ({ id, set: { patch } })) }, context);
    if (isRefusal(planned)) return planned;
    const start = moved[0]?.patch[0];
    return { ...planned, summary: `Moved ${numberRanges(rows.map((r) => r.number))} to ${start ? formatPoint(start) : 'nowhere'}${p.to === 'back' ? ', back on the rig' : ''}` };
  },
});
