/** What other departments are called for, in the order of the script. */
import type { PromptRow } from './rows.ts';
import type { Show } from '../show/show.ts';

/**
 * Calls of departments that are still to come.
 * @param here characters from the beginning to where the show is; -1 before it began
 * @param passed the last call that each department was given its go for, by its id
 */
export function promptsAhead(
  show: Pick<Show, 'prompts'>,
  scriptId: string,
  here: number,
  passed: Readonly<Record<string, string>>,
): PromptRow[] {
  return [...show.prompts.values()]
    .filter((p) => p.scriptId === scriptId)
    .filter((p) => {
      const last =
        passed[p.department] === undefined
          ? undefined
          : show.prompts.get(passed[p.department] ?? '');
      return p.from > Math.max(here, last?.from ?? -1);
    })
    .sort((a, b) => a.from - b.from);
}
