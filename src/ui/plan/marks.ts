/** What this screen marks on units: the selection in its order, what is not recorded, what others have selected. */
import { useMemo } from 'react';
import { initials } from '../parts/initials';
import { useScreen } from '../state/store';
import type { Marks } from './draw';

export function useMarks(hover: string | null): Marks {
  const selection = useScreen((s) => s.selection);
  const values = useScreen((s) => s.values);
  const others = useScreen((s) => s.others);
  const unrecorded = useMemo(() => new Set([...values.values()].filter((v) => !v.recorded).map((v) => v.fixtureId)), [values]);
  return useMemo(
    () => ({
      selected: new Map(selection.map((id, i) => [id, i + 1])),
      unrecorded,
      others: new Map(others.flatMap((o) => o.selection.map((id) => [id, initials(o.name)] as const))),
      hover,
    }),
    [selection, unrecorded, others, hover],
  );
}
