/** Which faders hold a thing: it is not deleted before they hold something else. */
import type { Show } from '../show/show.ts';
import type { FaderRow } from './rows.ts';

/** In the order of their numbers, in words: `fader 2 Wash`. */
export const fadersWith = (show: Show, kind: FaderRow['holds']['kind'], id: string): string[] =>
  [...show.faders.values()]
    .filter((f) => f.holds.kind === kind && f.holds.id === id)
    .sort((a, b) => a.number - b.number)
    .map((f) => `fader ${f.number} ${f.name}`.trim());
