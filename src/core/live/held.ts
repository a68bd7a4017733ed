/** What an operator holds, as the values of a record. */
import type { RecordedValue } from '../cues/rows.ts';
import type { HeldValue } from './messages.ts';

/** A held value as it is written into a cue, a look or a palette: what it follows, and its own times where it has any. */
export const recordedValue = ({
  fixtureId,
  attribute,
  level,
  palette,
  look,
  effect,
  fade_s,
  delay_s,
}: HeldValue): RecordedValue => ({
  fixtureId,
  attribute,
  level,
  ...(palette === undefined ? {} : { palette }),
  ...(look === undefined ? {} : { look }),
  ...(effect === undefined ? {} : { effect }),
  ...(fade_s > 0 ? { fade_s } : {}),
  ...(delay_s > 0 ? { delay_s } : {}),
});
