/** Puts a list, a look, a palette, a group or an effect under the first free fader, in one step. */
import type { FaderKind, FaderRow } from '@/core/faders/rows';
import { edit } from './edits';

/** What the line of a menu is called. */
export const PUT_ON_FADER = 'Put on a fader';

/** Puts something on the first free fader. */
export const putOnFader = (kind: FaderKind, id: string, mode?: FaderRow['mode']): void =>
  void edit('put-on-fader', {
    holds: { kind, id },
    ...(mode === undefined ? {} : { mode }),
  });
