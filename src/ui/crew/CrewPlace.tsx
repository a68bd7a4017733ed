/** Crew: who is in the show and on the board, what happened, the versions it had, and working apart. */
'use client';
import { Tabs } from '../parts/controls';
import { showCrew, useCrew, type CrewView } from '../state/crew';
import { Apart } from './Apart';
import { BoardPane } from './BoardPane';
import { HistoryPane } from './history/HistoryPane';
import { PeoplePane } from './PeoplePane';
import { VersionsPane } from './VersionsPane';

const VIEWS = {
  people: PeoplePane,
  board: BoardPane,
  history: HistoryPane,
  versions: VersionsPane,
  apart: Apart,
} as const satisfies Record<CrewView, unknown>;
const LABELS: { value: CrewView; label: string }[] = [
  { value: 'people', label: 'People' },
  { value: 'board', label: 'Board and log' },
  { value: 'history', label: 'History' },
  { value: 'versions', label: 'Versions' },
  { value: 'apart', label: 'Working apart' },
];

/** Crew: people, the board, history, versions, working apart. */
export function CrewPlace() {
  const view = useCrew((s) => s.view);
  const Pane = VIEWS[view];
  return (
    <div className="flex h-full flex-col">
      <div className="flex h-11 flex-none items-center border-b border-line px-3">
        <Tabs label="Crew" value={view} options={LABELS} onChange={showCrew} />
      </div>
      <div className="min-h-0 flex-1">
        <Pane />
      </div>
    </div>
  );
}
