/** The storyboard of the list in sight, made anew when its show has changed and rested for a moment. */
'use client';
import { useEffect, useState } from 'react';
import { changeOf } from '@/core/show/fields-of';
import type { RowChange, Show } from '@/core/show/show';
import { useShow } from '../../state/store';
import { partsOf, type CuePicture, type Ribbon } from './ribbon';
import type { RibbonAsk, StoryAnswer } from './ribbon.worker';

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

/** Asks the worker once the show has rested. @param listId empty: nothing is asked @returns how to stop */
function askStory(
  show: Show,
  listId: string,
  along: RibbonAsk['along'],
  told: (answer: StoryAnswer) => void,
): () => void {
  let worker: Worker | undefined;
  const timer = setTimeout(() => {
    worker = new Worker(new URL('./ribbon.worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<StoryAnswer>) => {
      told(data);
      worker?.terminate();
    };
    const ask: RibbonAsk = { rows: rowsFor(show, listId), listId, ...(along ? { along } : {}) };
    worker.postMessage(ask);
  }, RESTS_MS);
  return () => {
    clearTimeout(timer);
    worker?.terminate();
  };
}

const versionOf = (show: Show): string =>
  ['cues', 'values', ...TABLES].map((t) => show.version(t as 'cues')).join('/');

/** Light of a list over time, made in a worker. */
export function useRibbons(listId: string, count: number, to_s: number): readonly Ribbon[] {
  const show = useShow();
  const [ribbons, setRibbons] = useState<readonly Ribbon[]>([]);
  const of = versionOf(show);
  useEffect(() => {
    if (to_s > 0)
      return askStory(
        show,
        listId,
        { count, to_s },
        (a) => a.is === 'ribbons' && setRibbons(a.ribbons),
      );
    setRibbons([]);
    return undefined;
  }, [show, of, listId, count, to_s]);
  return ribbons;
}

/** A picture for each cue. */
export interface Storyboard {
  parts: readonly string[];
  pictures: ReadonlyMap<string, CuePicture>;
}
const NO_STORY: Storyboard = { parts: [], pictures: new Map() };

/** A small picture of each cue of a list: what its parts of the rig show in its last state. */
export function useStoryboard(listId: string | undefined): Storyboard {
  const show = useShow();
  const [story, setStory] = useState<Storyboard>(NO_STORY);
  const of = versionOf(show);
  useEffect(() => {
    if (listId === undefined) return undefined;
    return askStory(show, listId, undefined, (a) => a.is === 'pictures' && setStory(a));
  }, [show, of, listId]);
  return story;
}
