/** Which view of Crew is open; this browser keeps it. */
import { create } from 'zustand';
import { keep } from '../parts/keep';

/** Parts of Crew. */
export const CREW_VIEWS = ['people', 'board', 'history', 'versions', 'apart'] as const;
export type CrewView = (typeof CREW_VIEWS)[number];
const KEY = 'wingman-crew-view';

const last = keep.getItem(KEY);
/** Which part of Crew is shown. */
export const useCrew = create<{ view: CrewView }>(() => ({
  view: CREW_VIEWS.find((v) => v === last) ?? 'people',
}));

/** Shows a part of Crew, also the next time. */
export function showCrew(view: CrewView): void {
  keep.setItem(KEY, view);
  useCrew.setState({ view });
}
