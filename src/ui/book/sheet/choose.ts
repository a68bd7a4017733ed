/** Choosing cues on the sheet, and keeping what is chosen while one types. */
import type { CueRow } from '@/core/cues/rows';
import { lookAt, useBook } from '../../state/book';

/** What was chosen before the first click of a double click. */
let chosenBefore: readonly string[] = [];

/** Typing into one of many that are chosen is for all of them: the click that began it has not chosen this one alone. */
export function keepChosen(id: string): void {
  if (chosenBefore.length > 1 && chosenBefore.includes(id))
    useBook.setState({ chosen: chosenBefore });
}

/** Chooses cues as one is used to: a click, a range with Shift, one more or less with Ctrl. */
export function pickCue(e: React.MouseEvent, id: string, cues: readonly CueRow[]): void {
  const { chosen } = useBook.getState();
  if (e.detail < 2) chosenBefore = chosen;
  const ids = cues.map((c) => c.id);
  const from = chosen.find((c) => ids.includes(c));
  if (e.shiftKey && from !== undefined) {
    const [a, b] = [ids.indexOf(from), ids.indexOf(id)];
    const range = ids.slice(Math.min(a, b), Math.max(a, b) + 1);
    useBook.setState({ chosen: a <= b ? range : range.reverse() });
  } else if (e.ctrlKey || e.metaKey) {
    const others = chosen.filter((c) => c !== id);
    useBook.setState({ chosen: others.length < chosen.length ? others : [...chosen, id] });
  } else lookAt(id);
}
