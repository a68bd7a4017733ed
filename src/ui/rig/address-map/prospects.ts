/** Where units would come to stand, and what an edit that puts them there says: before it is made. */
import { willDo } from '@/core/edits/will';
import { absolute, fromAbsolute, modeOf, widthAt } from '@/core/fixtures/points';
import type { FixtureRow, PatchPoint } from '@/core/fixtures/rows';
import type { Show } from '@/core/show/show';
import { tryEdit } from '../../state/edits';
import { patchParams, type RigState } from '../rig-state';

/** A run of absolute addresses, both ends in it, and whose it is. */
export interface Standing {
  number: string;
  from: number;
  to: number;
}

/** What a drag would do. */
export interface Prospect {
  says: string;
  /** It cannot be done as it stands. */
  bad: boolean;
  points: Standing[];
}

const MOST_SHOWN = 512;

/** Units that have an address. */
export const patched = (show: Show, ids: readonly string[]): string[] =>
  ids.filter((id) => (show.fixtures.get(id)?.patch.length ?? 0) > 0);

/** Units moved by so many channels. */
export function movedProspect(show: Show, ids: readonly string[], by: number): Prospect {
  const plan = tryEdit('move-fixtures', { ids, to: { by } });
  const bad = 'message' in plan;
  const points = ids.flatMap((id) => {
    const f = show.fixtures.get(id);
    const mode = f ? modeOf(show, f) : undefined;
    return (f?.patch ?? []).map((p) => ({
      number: String(f?.number),
      from: absolute(p) + by,
      to: absolute(p) + by + widthAt(mode, p) - 1,
    }));
  });
  return { says: bad ? plan.message : willDo(plan.summary), bad, points };
}

type Params = NonNullable<ReturnType<typeof patchParams>>;

/** Where units would have stood that cannot be patched: the runs of the form, as far as they can be told. */
function refusedPoints(
  params: Params,
  point: PatchPoint | undefined,
  footprint: number,
): Standing[] {
  const formPoint = params.universe
    ? { universe: Number(params.universe), address: Number(params.address) }
    : undefined;
  const target = point ?? formPoint;
  if (!target) return [];
  const step = footprint + Number(params.gap);
  const count = Math.min(Number(params.quantity), MOST_SHOWN);
  return Array.from({ length: count }, (_, i) => {
    const from = absolute(target) + i * step;
    return { number: '', from, to: from + footprint - 1 };
  });
}

/**
 * The form's units, at an address under the hand or where the form says.
 * @param at absolute address; null: where the form says
 * @returns null where the form is not filled in yet
 */
export function preparedProspect(
  of: RigState['picked'],
  draft: RigState['draft'],
  at: number | null,
): Prospect | null {
  const point = at === null ? undefined : fromAbsolute(at);
  const params = patchParams(of, draft, point);
  if (!params || !of) return null;
  const plan = tryEdit('patch-fixtures', params);
  if ('message' in plan)
    return {
      says: plan.message,
      bad: true,
      points: refusedPoints(params, point, of.mode.footprint),
    };
  const rows = plan.changes.flatMap((c): FixtureRow[] =>
    c.table === 'fixtures' && c.after ? [c.after] : [],
  );
  const points = rows.flatMap((r) =>
    r.patch.map((p) => ({
      number: String(r.number),
      from: absolute(p),
      to: absolute(p) + widthAt(of.mode, p) - 1,
    })),
  );
  return { says: willDo(plan.summary), bad: false, points };
}
