/** The Time view of the Book: what of the track is in sight, where the cursor stands, what is chosen and what it snaps to. */
import { clamp } from '@/core/numbers';
import { create } from 'zustand';

/** What a hand on the track is drawn to. */
export const SNAPS = ['beat', 'mark', 'cursor', 'free'] as const;
export type Snap = (typeof SNAPS)[number];

/** How the track is looked at. */
export interface TrackView {
  /** Time instead of the cue sheet. */
  isOpen: boolean;
  /** Pixels a second, and the moment at the left edge. */
  scale: number;
  from_s: number;
  cursor_s: number;
  /** Cues that are moved together. */
  chosen: readonly string[];
  snap: Snap;
  /** A passage that was drawn on the ruler. */
  passage: { from_s: number; to_s: number } | null;
}

const SCALE = { least: 0.05, most: 400 } as const;

/** Its scale, where it begins, and what it is drawn to. */
export const useTrackView = create<TrackView>(() => ({
  isOpen: false,
  scale: 10,
  from_s: 0,
  cursor_s: 0,
  chosen: [],
  snap: 'beat',
  passage: null,
}));

/** The moment under a pixel stays under it. @param x pixels from the left edge of the track */
export function zoomTrack(by: number, x: number): void {
  const { scale, from_s } = useTrackView.getState();
  const next = clamp(scale * by, SCALE.least, SCALE.most);
  const under = from_s + x / scale;
  useTrackView.setState({ scale: next, from_s: Math.max(0, under - x / next) });
}

/** Moves it by some seconds. */
export const scrollTrack = (by_s: number): void =>
  useTrackView.setState((s) => ({ from_s: Math.max(0, s.from_s + by_s) }));
