/** Panels that can stand in a window of their own, on a second screen. */
'use client';
import dynamic from 'next/dynamic';
import type { ComponentType } from 'react';
import { BookBar } from '../book/BookBar';
import { BookDialogs } from '../book/BookDialogs';
import { CueSheet } from '../book/CueSheet';
import { NoteList } from '../book/NoteList';
import { TimePanel } from '../book/time/TimePanel';
import { ScriptPane } from '../book/ScriptPane';
import { Plan } from '../plan/Plan';
import { Faders } from '../run/Faders';
import { NowNext } from '../run/NowNext';
import { OtherLists } from '../run/OtherLists';
import { Deck } from '../stage/Deck';
import { Groups } from '../stage/Groups';
import { GridView, ListView } from '../stage/NumberViews';
import { ProgrammerSheet } from '../stage/ProgrammerSheet';
import { Shelf } from '../stage/shelf/Shelf';
import { lookAt } from '../state/book';
import { useRun } from '../state/run';
import { useWatch } from '../state/link';
import type { PanelName } from './panel-names';

const Space = dynamic(() => import('../stage/space/Space').then((m) => m.Space), { ssr: false });

function Cues() {
  return (
    <div className="flex h-full flex-col">
      <BookBar />
      <div className="min-h-0 flex-1">
        <CueSheet />
      </div>
      <BookDialogs />
    </div>
  );
}
function Track() {
  return (
    <div className="flex h-full flex-col">
      <BookBar />
      <div className="min-h-0 flex-1">
        <TimePanel />
      </div>
      <BookDialogs />
    </div>
  );
}
function Running() {
  const sound = useRun((s) => s.sound);
  useWatch([], { sound });
  return (
    <div className="h-full overflow-y-auto">
      <NowNext />
      <OtherLists />
    </div>
  );
}
const Notes = () => (
  <div className="h-full overflow-y-auto p-3">
    <NoteList onCue={lookAt} />
  </div>
);
const Strip = () => (
  <div className="flex h-full flex-col justify-end">
    <Faders />
  </div>
);

/** Panels by their names. */
export const PANELS: Readonly<Record<PanelName, ComponentType>> = {
  cues: Cues,
  time: Track,
  script: ScriptPane,
  now: Running,
  faders: Strip,
  plan: Plan,
  space: Space,
  grid: GridView,
  units: ListView,
  groups: Groups,
  shelf: Shelf,
  controls: Deck,
  held: ProgrammerSheet,
  notes: Notes,
};
