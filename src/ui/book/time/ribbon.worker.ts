/** The storyboard of a list, away from the screen. */
import { MutableShow, type RowChange } from '@/core/show/show';
import { ribbonsOf, type Ribbon } from './ribbon';

export interface RibbonAsk {
  id: number;
  rows: RowChange[];
  listId: string;
  count: number;
  to_s: number;
}
export interface RibbonAnswer {
  id: number;
  ribbons: Ribbon[];
}

self.onmessage = ({ data }: MessageEvent<RibbonAsk>) => {
  const show = new MutableShow();
  show.apply(data.rows);
  const ribbons = ribbonsOf(show, data.listId, data.count, data.to_s);
  self.postMessage({ id: data.id, ribbons } satisfies RibbonAnswer);
};
