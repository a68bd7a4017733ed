/** Whether a text is a later draft of another, and whether two drafts stand in one text. */

/** Shorter lines (`KEEPER`, `Yes.`) stand everywhere. */
const TELLING = 12;
/** So many telling lines at least say something about a text. */
const ENOUGH = 6;
/** So much of a draft stands in the next one, at least. */
const SHARED = 0.4;
const TWICE = 0.5;

/** How often each telling line of a text stands in it. */
function linesIn(text: string): Map<string, number> {
  const lines = new Map<string, number>();
  for (const raw of text.split('\n')) {
    const line = raw.trim();
    if (line.length >= TELLING) lines.set(line, (lines.get(line) ?? 0) + 1);
  }
  return lines;
}

/** Most of a draft stands in a text: the text is its next draft, not a passage to be put into it. */
export function isDraftOf(text: string, draft: string): boolean {
  const [old, now] = [linesIn(draft), linesIn(text)];
  if (old.size < ENOUGH) return draft.trim() !== '' && text.includes(draft.trim());
  const shared = [...old.keys()].filter((line) => now.has(line)).length;
  return shared / old.size >= SHARED;
}

/** Lines of a draft that stood in it once stand twice: the next draft was put beside it, not in its place. */
export function standsTwice(text: string, draft: string): boolean {
  const [old, now] = [linesIn(draft), linesIn(text)];
  const once = [...old].filter(([, count]) => count === 1).map(([line]) => line);
  if (once.length < ENOUGH) return false;
  return once.filter((line) => (now.get(line) ?? 0) > 1).length / once.length >= TWICE;
}
