/** The storyboard of a list, away from the screen. */
import { MutableShow, type RowChange } from '@/core/show/show';
import { picturesOf, ribbonsOf, type CuePicture, type Ribbon } from './ribbon';

/** A list whose light over time is wanted. */
export interface RibbonAsk {
  rows: RowChange[];
  listId: string;
  /** Moments, and to where; absent: pictures of its cues. */
  along?: { count: number; to_s: number };
}
/** Ribbons over time, or a picture for each cue. */
export type StoryAnswer =
  | { is: 'ribbons'; ribbons: Ribbon[] }
  | { is: 'pictures'; parts: string[]; pictures: Map<string, CuePicture> };

self.onmessage = ({ data: { rows, listId, along } }: MessageEvent<RibbonAsk>) => {
  const show = new MutableShow();
  show.apply(rows);
  const answer: StoryAnswer = along
    ? { is: 'ribbons', ribbons: ribbonsOf(show, listId, along.count, along.to_s) }
    : { is: 'pictures', ...picturesOf(show, listId) };
  self.postMessage(answer);
};
