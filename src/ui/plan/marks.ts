/** What this screen marks on units: the selection in its order, what is not recorded, what others have selected. */
import { useMemo, useRef } from 'react';
import { initials } from '../parts/initials';
import { useScreen } from '../state/store';
import type { Marks } from './draw';

/** Of who is selected, held, parked, and under the hand. */
export function useMarks(hover: string | null): Marks {
  const selection = useScreen((s) => s.selection);
  const values = useScreen((s) => s.values);
  const others = useScreen((s) => s.others);
  const guarding = useScreen((s) => s.over.guarded);
  const guarded = useMemo(() => new Set(guarding.map((g) => g.fixtureId)), [guarding]);
  // While a control is dragged the values change and the marks do not: the same set stays, so that nothing is drawn again.
  const last = useRef<ReadonlySet<string>>(new Set());
  const unrecorded = useMemo(() => {
    const now = new Set<string>();
    for (const v of values.values()) if (!v.recorded) now.add(v.fixtureId);
    if (now.size !== last.current.size || [...now].some((id) => !last.current.has(id)))
      last.current = now;
    return last.current;
  }, [values]);
  return useMemo(
    () => ({
      selected: new Map(selection.map((id, i) => [id, i + 1])),
      unrecorded,
      guarded,
      others: new Map(
        others.flatMap((o) => o.selection.map((id) => [id, initials(o.name)] as const)),
      ),
      hover,
    }),
    [selection, unrecorded, guarded, others, hover],
  );
}
