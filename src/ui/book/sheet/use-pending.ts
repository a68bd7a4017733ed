/** What is held and not recorded, a word for each column of the sheet. */
'use client';
import { useMemo } from 'react';
import type { Column } from '@/core/cues/sheet';
import { levelOf } from '@/core/looks/value';
import { familyOf } from '@/core/rig/attributes';
import type { Family } from '@/core/show/fields';
import type { Show } from '@/core/show/show';
import { useScreen, useShow } from '../../state/store';

type Values = ReturnType<typeof useScreen.getState>['values'];

interface Held {
  level: number;
  /** Of the palette or look that it comes from. */
  name: string;
}

/** The last of a family's values that each fixture is held at. */
function heldBy(show: Show, values: Values, family: Family): ReadonlyMap<string, Held> {
  const held = new Map<string, Held>();
  for (const v of values.values()) {
    if (v.recorded || familyOf(v.attribute) !== family) continue;
    const palette = v.palette === undefined ? undefined : show.palettes.get(v.palette);
    const look = v.look === undefined ? undefined : show.looks.get(v.look);
    held.set(v.fixtureId, {
      level: levelOf(show, v) ?? 0,
      name: (palette ?? look)?.name ?? '',
    });
  }
  return held;
}

function wordOf(held: readonly Held[], family: Family): string {
  const [first] = held;
  if (first && first.name !== '') return first.name;
  if (family !== 'intensity') return '•';
  return String(Math.round(Math.max(...held.map((h) => h.level)) * 100));
}

/** @returns by the column's place; empty where nothing is held */
export function usePending(
  columns: readonly Column[],
  family: Family,
): ReadonlyMap<number, string> {
  const show = useShow();
  const values = useScreen((s) => s.values);
  const named = (['fixtures', 'palettes', 'looks', 'effects'] as const)
    .map((t) => show.version(t))
    .join();
  return useMemo(() => {
    void named;
    const pending = new Map<number, string>();
    const byFixture = heldBy(show, values, family);
    if (byFixture.size === 0) return pending;
    columns.forEach((column, i) => {
      const held = column.fixtures.flatMap((id) => byFixture.get(id) ?? []);
      if (held.length > 0) pending.set(i, wordOf(held, family));
    });
    return pending;
  }, [columns, family, values, show, named]);
}
