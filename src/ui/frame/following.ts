/** Going along with somebody: their place, what they look at there, what is selected, what is scrolled. It ends with the first thing that one does. */
'use client';
import { useRouter } from 'next/navigation';
import { useEffect, useRef } from 'react';
import type { View } from '@/core/live/messages';
import { tellView, useWatch } from '../state/link';
import { useBook } from '../state/book';
import { showCrew, useCrew, CREW_VIEWS } from '../state/crew';
import { useRig } from '../rig/rig-state';
import { useRun } from '../state/run';
import { useStage, type StageState } from '../state/stage';
import { useScreen } from '../state/store';

const TELL_EVERY_MS = 150;
/** What is done with the hand in this time after following began is the click that began it. */
const BEGINS_MS = 400;
const PLACES = new Set(['rig', 'stage', 'book', 'run', 'sheets', 'crew']);

/** Everything of this screen that says what is looked at. */
function viewNow(): View {
  const book = useBook.getState();
  const stage = useStage.getState();
  const rig = useRig.getState();
  const scroll: View['scroll'] = {};
  for (const el of document.querySelectorAll('[data-scroll]'))
    scroll[el.getAttribute('data-scroll') ?? ''] = [
      Math.round(el.scrollTop),
      Math.round(el.scrollLeft),
    ];
  return {
    place: useRun.getState().place,
    selection: [...useScreen.getState().selection].slice(0, 10_000),
    book: {
      listId: book.listId,
      cueId: book.cueId,
      follow: book.follow,
      family: book.family,
      unfolded: [...book.unfolded].slice(0, 2000),
      cells: book.cells,
      search: book.search.slice(0, 200),
    },
    stage: {
      view: stage.view,
      layoutId: stage.layoutId,
      shelf: stage.shelf,
      view2d: stage.view2d,
      camera: stage.camera,
      sheet: stage.sheet,
    },
    rig: { universe: rig.universe, upper: rig.upper, lower: rig.lower },
    crew: useCrew.getState().view,
    scroll,
  };
}

/** While somebody goes along, they are told what this screen looks at, whenever it changes. */
function useTelling(): void {
  const followed = useScreen((s) => s.followedBy.length > 0);
  useEffect(() => {
    if (!followed) return;
    let last = '';
    const timer = setInterval(() => {
      const view = viewNow();
      const said = JSON.stringify(view);
      if (said === last) return;
      last = said;
      tellView(view);
    }, TELL_EVERY_MS);
    return () => clearInterval(timer);
  }, [followed]);
}

/** Shows on this screen what somebody else looks at. */
function show(view: View): void {
  useBook.setState({ ...view.book, unfolded: new Set(view.book.unfolded) });
  useStage.setState({
    ...view.stage,
    view: view.stage.view as StageState['view'],
    shelf: view.stage.shelf as StageState['shelf'],
    camera: view.stage.camera as StageState['camera'],
  });
  useRig.setState({
    universe: view.rig.universe,
    upper: view.rig.upper as never,
    lower: view.rig.lower as never,
  });
  const crew = CREW_VIEWS.find((v) => v === view.crew);
  if (crew && crew !== useCrew.getState().view) showCrew(crew);
  // Theirs is shown, and one's own is kept for afterwards.
  useScreen.setState({ selection: view.selection });
  requestAnimationFrame(() => {
    for (const [name, [top, left]] of Object.entries(view.scroll))
      document.querySelector(`[data-scroll="${CSS.escape(name)}"]`)?.scrollTo({ top, left });
  });
}

/** Goes one’s own way again. */
export function endFollowing(): void {
  const { programmer } = useScreen.getState();
  useScreen.setState({ following: null, viewOf: null, selection: programmer.selection });
}

/** Shows what another’s screen shows. */
export function useFollowing(showId: string, here: string): void {
  const router = useRouter();
  const following = useScreen((s) => s.following);
  const view = useScreen((s) => (s.viewOf?.userId === s.following ? s.viewOf?.view : undefined));
  const gone = useScreen(
    (s) => s.following !== null && !s.people.some((p) => p.userId === s.following),
  );
  const place = useRef(here);
  place.current = here;
  useWatch([], { follows: following });
  useTelling();
  useEffect(() => {
    if (!view || following === null) return;
    if (PLACES.has(view.place) && view.place !== place.current)
      router.push(`/shows/${showId}/${view.place}`);
    show(view);
    // What has just come up has not scrolled yet.
    const again = setTimeout(() => useScreen.getState().following !== null && show(view), 350);
    return () => clearTimeout(again);
  }, [view, following, router, showId, here]);
  useEffect(() => {
    if (gone) endFollowing();
  }, [gone]);
  useEffect(() => {
    if (following === null) return;
    const since = performance.now();
    const end = (e: Event): void => {
      if (performance.now() - since < BEGINS_MS) return;
      if (e instanceof KeyboardEvent && ['Shift', 'Control', 'Alt', 'Meta'].includes(e.key)) return;
      endFollowing();
    };
    for (const type of ['pointerdown', 'keydown', 'wheel'])
      window.addEventListener(type, end, { capture: true, passive: true });
    return () => {
      for (const type of ['pointerdown', 'keydown', 'wheel'])
        window.removeEventListener(type, end, { capture: true });
    };
  }, [following]);
}
