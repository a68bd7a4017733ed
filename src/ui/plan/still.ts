/** The stage's own plan, whole, where something is shown or chosen on it: nobody moves it or looks closer. */
'use client';
import { useMemo } from 'react';
import { useShow } from '../state/store';
import { useMarks } from './marks';
import { useCanvases } from './use-canvases';
import { useLamps } from './use-lamps';
import { useLayers } from './use-layers';
import { boundsOf, pointsOfPieces, viewOf } from './view';

/** @returns what `LayerCanvases` draws on, the units on it, and how metres lie on it */
export function useStillPlan() {
  const show = useShow();
  const { box, size, refs } = useCanvases();
  const { lamps } = useLamps(undefined, null);
  const version = show.version('pieces');
  const pieces = useMemo(() => {
    void version;
    return [...show.pieces.values()];
  }, [show, version]);
  const view = useMemo(() => {
    const points = [...pointsOfPieces(pieces), ...lamps.map((l) => l.fixture.position)];
    return viewOf(boundsOf(points), size.width, size.height, null);
  }, [pieces, lamps, size.width, size.height]);
  const marks = useMarks(null);
  useLayers(refs, { view, size, lamps, pieces, background: undefined, marks, chosen: null });
  return { box, size, refs, lamps, view };
}
