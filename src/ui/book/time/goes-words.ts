import type { Goes } from '@/core/lists/going';

/** What moves a list on, in words. */
export const GOES_WORDS: Record<Goes, string> = {
  hand: 'goes by hand',
  time: 'goes by time',
  chase: 'goes as a chase',
};
