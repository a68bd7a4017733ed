/** Units where a layout draws them. */
'use client';
import { useMemo } from 'react';
import type { FixtureRow } from '@/core/fixtures/rows';
import { useScreen, useShow } from '../state/store';
import { lampsOf, type Lamp } from './light';
import type { Moving } from './moving';

type Placed = FixtureRow['position'];
const put = (lamp: Lamp, at: Partial<Placed>): Lamp => ({
  ...lamp,
  fixture: { ...lamp.fixture, position: { ...lamp.fixture.position, ...at } },
});

/** Lamps where this layout draws them, and what is under the hand where the hand has it. */
export function useLamps(
  layoutPlaces: Record<string, { x: number; y: number }> | undefined,
  moving: Moving | null,
): { lamps: readonly Lamp[]; placed: readonly Lamp[] } {
  const show = useShow();
  const index = useScreen((s) => s.index);
  // The lamps follow the rig; the show's version of its rows says when.
  const rigVersion = `${show.version('fixtures')}/${show.version('types')}`;
  const lamps = useMemo(() => {
    void rigVersion;
    const all = lampsOf(show, index);
    return layoutPlaces
      ? all
          .filter((l) => layoutPlaces[l.fixture.id])
          .map((l) => put(l, layoutPlaces[l.fixture.id] ?? {}))
      : all;
  }, [show, index, rigVersion, layoutPlaces]);
  const placed = useMemo(
    () =>
      moving?.fixtures
        ? lamps.map((l) =>
            moving.fixtures?.has(l.fixture.id)
              ? put(l, moving.fixtures.get(l.fixture.id) ?? {})
              : l,
          )
        : lamps,
    [lamps, moving],
  );
  return { lamps, placed };
}
