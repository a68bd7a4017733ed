/** The storyboard of the list in sight, made anew when its show has changed and rested for a moment. */
'use client';
import { useEffect, useState } from 'react';
import { changeOf } from '@/core/show/fields-of';
import type { RowChange, Show } from '@/core/show/show';
import { useShow } from '../../state/store';
import { partsOf, type Ribbon } from './ribbon';
import type { RibbonAnswer, RibbonAsk } from './ribbon.worker';

/** Edits come in runs: the last of them is drawn. */
const RESTS_MS = 250;
const TABLES = [
  'fixtures',
  'types',
  'groups',
  'palettes',
  'looks',
  'effects',
  'lists',
  'settings',
] as const;

/** What the storyboard is made of: the rig, and of cues those of the list with the values of the units that are looked at. */
function rowsFor(show: Show, listId: string): RowChange[] {
  const units = new Set(partsOf(show, listId).flatMap((p) => p.units));
  const rows: RowChange[] = TABLES.flatMap((table) =>
    [...show[table].values()].map((row) => changeOf(table, null, row)),
  );
  for (const cue of show.cuesOf(listId)) {
    rows.push(changeOf('cues', null, cue));
    for (const value of show.valuesOf(cue.id).values())
      if (units.has(value.fixtureId)) rows.push(changeOf('values', null, value));
  }
  return rows;
}

export function useRibbons(listId: string, count: number, to_s: number): readonly Ribbon[] {
  const show = useShow();
  const [ribbons, setRibbons] = useState<readonly Ribbon[]>([]);
  const of = ['cues', 'values', ...TABLES].map((t) => show.version(t as 'cues')).join('/');
  useEffect(() => {
    if (to_s <= 0) {
      setRibbons([]);
      return;
    }
    let worker: Worker | undefined;
    const timer = setTimeout(() => {
      worker = new Worker(new URL('./ribbon.worker.ts', import.meta.url), { type: 'module' });
      worker.onmessage = ({ data }: MessageEvent<RibbonAnswer>) => {
        setRibbons(data.ribbons);
        worker?.terminate();
      };
      const ask: RibbonAsk = { id: 0, rows: rowsFor(show, listId), listId, count, to_s };
      worker.postMessage(ask);
    }, RESTS_MS);
    return () => {
      clearTimeout(timer);
      worker?.terminate();
    };
  }, [show, of, listId, count, to_s]);
  return ribbons;
}
