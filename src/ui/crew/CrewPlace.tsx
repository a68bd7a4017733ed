/** Crew: who is in the show and on the board, what happened, the versions it had, and working apart. */
'use client';
import { useEffect, useState } from 'react';
import { Tabs } from '../parts/controls';
import { keep } from '../parts/keep';
import { Apart } from './Apart';
import { BoardPane } from './BoardPane';
import { HistoryPane } from './HistoryPane';
import { PeoplePane } from './PeoplePane';
import { VersionsPane } from './VersionsPane';

const VIEWS = { people: PeoplePane, board: BoardPane, history: HistoryPane, versions: VersionsPane, apart: Apart } as const;
type View = keyof typeof VIEWS;
const LABELS: { value: View; label: string }[] = [
  { value: 'people', label: 'People' },
  { value: 'board', label: 'Board and log' },
  { value: 'history', label: 'History' },
  { value: 'versions', label: 'Versions' },
  { value: 'apart', label: 'Working apart' },
];
const KEY = 'wingman-crew-view';

export function CrewPlace() {
  const [view, setView] = useState<View>('people');
  useEffect(() => {
    const last = keep.getItem(KEY);
    if (last !== null && last in VIEWS) setView(last as View);
  }, []);
  const Pane = VIEWS[view];
  return (
    <div className="flex h-full flex-col">
      <div className="flex h-11 flex-none items-center border-b border-line px-3">
        <Tabs
          label="Crew"
          value={view}
          options={LABELS}
          onChange={(v) => {
            keep.setItem(KEY, v);
            setView(v);
          }}
        />
      </div>
      <div className="min-h-0 flex-1">
        <Pane />
      </div>
    </div>
  );
}
