'use client';
import { useMemo } from 'react';
import { phases, sideOf } from '@/core/effects/spread';
import type { EffectDraft } from '../../state/trying';
import { useScreen, useShow } from '../../state/store';

/** So many units are drawn; a rig has more. */
const DRAWN = 24;
/** Without a selection the spread is shown on this many. */
const EXAMPLE = 8;

/** Where in the round each selected unit stands, 0…1, in the order of selection; with none selected, of an example. */
export function usePhases(draft: EffectDraft): number[] {
  const show = useShow();
  const selection = useScreen((s) => s.selection);
  const { spread } = draft;
  const version = show.version('fixtures');
  return useMemo(() => {
    void version;
    const count = selection.length === 0 ? EXAMPLE : selection.length;
    const byPlace = phases(count, spread);
    if (!spread.across) return byPlace.slice(0, DRAWN);
    return byPlace.slice(0, DRAWN).map((_, i) => {
      const id = selection[i];
      const side = id === undefined ? i / (count - 1) : (sideOf(show, id) ?? 0.5);
      const turn = spread.turns * side;
      return turn - Math.floor(turn);
    });
  }, [show, selection, spread, version]);
}
