/** Where a record may go, by a press: the cue that it belongs to, next to it, the end, and the others in question. */
import { formatCueNumber, numberAfter, numbersBetween } from '@/core/cues/number';
import type { CueRow } from '@/core/cues/rows';

/** Where a recording may go. */
export interface Place {
  says: string;
  /** Undefined where there is no number left. */
  number: string | undefined;
}

/** Cues of the list in question. */
export interface InQuestion {
  /** What is held was taken from it. */
  taken: CueRow | undefined;
  onStage: CueRow | undefined;
  looked: CueRow | undefined;
}

/** The number after the last cue. */
export const endOf = (cues: readonly CueRow[]): string =>
  formatCueNumber(numberAfter(cues.at(-1)?.number));

function between(cues: readonly CueRow[], here: CueRow, side: 'before' | 'after') {
  const at = cues.findIndex((c) => c.id === here.id);
  const [low, high] =
    side === 'after'
      ? [here.number, cues[at + 1]?.number]
      : [cues[at - 1]?.number ?? 0, here.number];
  const free = numbersBetween(low, high, 1)?.[0];
  return free === undefined ? undefined : formatCueNumber(free);
}

/** What is recorded belongs to the cue that it was taken from, to the one on stage, or to the one that is looked at. */
export function placesIn(cues: readonly CueRow[], { taken, onStage, looked }: InQuestion): Place[] {
  const here = taken ?? onStage ?? looked;
  const end = { says: 'at the end', number: endOf(cues) };
  const others = [onStage, looked].filter(
    (c, i, all): c is CueRow =>
      c !== undefined && c.id !== here?.id && all.findIndex((x) => x?.id === c.id) === i,
  );
  const into = others.map((c): Place => {
    const number = formatCueNumber(c.number);
    return { says: `into ${number}, ${c.id === onStage?.id ? 'on stage' : 'looked at'}`, number };
  });
  if (!here) return [end, ...into];
  const number = formatCueNumber(here.number);
  const plain = `into ${number}${onStage ? ', on stage' : ''}`;
  return [
    { says: taken ? `back into ${number}` : plain, number },
    { says: `after ${number}`, number: between(cues, here, 'after') },
    { says: `before ${number}`, number: between(cues, here, 'before') },
    end,
    ...into,
  ];
}
