/** Move: fixtures to consecutive addresses in their order, or all by the same number of channels; back onto the rig too. */
import { z } from 'zod';
import { isRefusal, refuse, type Refusal } from '../refusal.ts';
import { clashAt, nextFree, occupied } from '../rig/addresses.ts';
import { absolute, formatPoint, modeOf, widthAt, type Range } from '../fixtures/points.ts';
import { footprintOf } from '../rig/attributes.ts';
import { placeUnits, shifted } from '../rig/place.ts';
import { Address, RowId, Universe } from '../show/fields.ts';
import type { FixtureRow, PatchPoint } from '../fixtures/rows.ts';
import type { Mode } from '../types/rows.ts';
import type { Show } from '../show/show.ts';
import { changeFixtures } from './change-fixtures.ts';
import { defineEdit, EDITORS } from './edit.ts';
import { numberRanges } from '../words.ts';

const Params = z.object({
  ids: z.array(RowId).min(1).max(10_000),
  to: z.union([
    z.object({
      universe: Universe,
      address: Address,
      gap: z.number().int().min(0).max(511).default(0),
      overflow: z.boolean().default(false),
    }),
    z.object({ by: z.number().int().min(-131_072).max(131_072) }),
    /** Where each of them was before it came off the rig. */
    z.literal('back'),
    /** The same; where that is taken by now, to the next free addresses after it. */
    z.literal('back-or-next'),
  ]),
});
type Params = z.input<typeof Params>;

function targets(
  show: Show,
  rows: readonly FixtureRow[],
  to: z.output<typeof Params>['to'],
): { id: string; patch: PatchPoint[] }[] | Refusal {
  if (to === 'back') {
    const lost = rows.find((r) => r.patch.length === 0 && !r.wasAt);
    if (lost)
      return refuse('invalid', `${lost.number} was never at an address; say where it goes.`, {
        to: 'No address to go back to.',
      });
    return rows
      .filter((r) => r.patch.length === 0)
      .map((r) => ({ id: r.id, patch: r.wasAt ?? [] }));
  }
  if (to === 'back-or-next')
    return backOrNext(
      show,
      rows.filter((r) => r.patch.length === 0),
    );
  if ('by' in to) return shifted(rows, to.by);
  const units = rows.map((r) => ({
    number: r.number,
    mode: modeOf(show, r) ?? { name: '', footprint: 1, channels: [] },
  }));
  const placed = placeUnits(
    show,
    units,
    { start: to, gap: to.gap, overflow: to.overflow },
    new Set(rows.map((r) => r.id)),
  );
  if (isRefusal(placed)) return placed;
  // The first address moves; a unit that is on the rig keeps its further addresses and its multi-patch.
  return rows.map((r, i) => ({
    id: r.id,
    patch:
      r.patch.length > 0
        ? [...(placed[i]?.slice(0, 1) ?? []), ...r.patch.slice(1)]
        : (placed[i] ?? []),
  }));
}

function backOrNext(
  show: Show,
  rows: readonly FixtureRow[],
): { id: string; patch: PatchPoint[] }[] | Refusal {
  const standing: Range[] = [...occupied(show)];
  const moved: { id: string; patch: PatchPoint[] }[] = [];
  for (const row of rows) {
    const mode = modeOf(show, row);
    const patch: PatchPoint[] = [];
    for (const wanted of row.wasAt ?? breaksOf(mode)) {
      const width = widthAt(mode, wanted);
      const sorted = [...standing].sort((a, b) => a.from - b.from);
      const at = absolute(wanted);
      const free = clashAt(sorted, at, at + width - 1)
        ? (nextFree(
            show,
            width,
            1,
            0,
            { universe: wanted.universe, address: wanted.address },
            sorted,
          ) ?? nextFree(show, width, 1, 0, { universe: 1, address: 1 }, sorted))
        : wanted;
      if (!free)
        return refuse('overflow', `There is no room left for ${row.number}. Nothing was changed.`, {
          to: 'No room.',
        });
      patch.push({
        universe: free.universe,
        address: free.address,
        ...(wanted.break === undefined ? {} : { break: wanted.break }),
      });
      standing.push({ from: absolute(free), to: absolute(free) + width - 1 });
    }
    moved.push({ id: row.id, patch });
  }
  return moved;
}

/** From where a unit looks for room that was never at an address: one place for each of its breaks. */
const breaksOf = (mode: Mode | undefined): PatchPoint[] =>
  [1, 2, 3, 4]
    .filter((n) => n === 1 || (mode && footprintOf(mode, n) > 0))
    .map((n) => ({ universe: 1, address: 1, ...(n > 1 ? { break: n } : {}) }));

export const moveFixtures = defineEdit<Params>({
  name: 'move-fixtures',
  params: Params,
  roles: EDITORS,
  plan: (show, params, context) => {
    const p = Params.parse(params);
    const rows = [...new Set(p.ids)].flatMap((id) => show.fixtures.get(id) ?? []);
    if (rows.length !== new Set(p.ids).size)
      return refuse(
        'not-found',
        'One of these fixtures has been deleted meanwhile. Nothing was changed.',
      );
    const moved = targets(show, rows, p.to);
    if (isRefusal(moved)) return moved;
    if (moved.length === 0) return refuse('nothing', 'These fixtures are on the rig already.');
    const planned = changeFixtures.plan(
      show,
      { fixtures: moved.map(({ id, patch }) => ({ id, set: { patch } })) },
      context,
    );
    if (isRefusal(planned)) return planned;
    const start = moved[0]?.patch[0];
    return {
      ...planned,
      summary: `Moved ${numberRanges(rows.map((r) => r.number))} to ${start ? formatPoint(start) : 'nowhere'}${p.to === 'back' || p.to === 'back-or-next' ? ', back on the rig' : ''}`,
    };
  },
});
