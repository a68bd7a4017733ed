/** The command line: read against what is selected and plays here, and done step by step. */
import { completions } from '@/core/command/complete';
import { readCommand, type ReadCommand } from '@/core/command/command';
import type { Intent } from '@/core/command/intent';
import type { CommandContext } from '@/core/command/reader';
import { stepsOf, type Step } from '@/core/command/steps';
import { isPlaying } from '@/core/live/boards';
import { familyOf } from '@/core/rig/attributes';
import { ApiError } from './api';
import { bookListId } from './book';
import { said, select } from './commands';
import { edit, reverse, settled, type EditAnswer } from './edits';
import { seenNow } from './looked';
import { heldValues, levelOfUnit, lit, recordValues } from './recording';
import { useRun } from './run';
import { useScreen } from './store';

let taking: Promise<unknown> = Promise.resolve();
/** Writes what is held, once all that was typed before is held; what is typed after it waits until it was taken, not until it is written. */
async function takeHeld(write: () => Promise<EditAnswer | ApiError>): Promise<boolean> {
  const before = taking;
  const taken = (async () => {
    await before;
    await settled();
    return { written: write() };
  })();
  taking = taken;
  return !((await (await taken).written) instanceof ApiError);
}

/** The list that is shown where one is: the Book's, elsewhere the spine's. */
export const listShown = (): string | null =>
  useRun.getState().place === 'book'
    ? bookListId()
    : (useScreen.getState().playback.lists[0]?.id ?? null);

function commandContext(): CommandContext {
  const { show, selection, playback } = useScreen.getState();
  return {
    show,
    selection,
    listId: listShown(),
    cueOn: (id) => playback.lists.find((l) => l.id === id)?.cueId ?? null,
    unrecorded: recordValues().length,
    held: (family) =>
      heldValues().filter((v) => !family || familyOf(v.attribute) === family).length,
    lit,
    levelOf: levelOfUnit,
  };
}

/** A line, read against what is selected and plays here. */
export const read = (text: string): ReadCommand => readCommand(text, commandContext());

/** What the line can go on with. */
export const complete = (text: string): { line: string; word: string }[] =>
  completions(text, commandContext());

/** Whether a line puts something into what is held. */
const setsHeld = (intent: Intent): boolean =>
  intent.kind === 'select-and-set' || (intent.kind === 'live' && !isPlaying(intent.command));

/**
 * Does what the command line said it would. A record that is under way takes what is held: a line that sets waits for
 * it once, and then goes before the record that was typed after it (book.test.ts, lines typed faster than the house
 * answers).
 * @returns whether it was done
 */
export async function perform(intent: Intent): Promise<boolean> {
  if (setsHeld(intent)) await taking;
  for (const step of stepsOf(intent, useScreen.getState().selection)) {
    const done = carryOut(step);
    if (!(typeof done === 'boolean' ? done : await done)) return false;
  }
  return true;
}

/** One step of a line; what is done at once gives way to nothing. @returns whether it was done */
function carryOut(step: Step): boolean | Promise<boolean> {
  switch (step.do) {
    case 'select':
      select(step.fixtures);
      return true;
    case 'live':
      return said(step.command).then((answer) => answer.ok);
    case 'reverse':
      return reverse(step.which).then(() => true);
    case 'edit': {
      const { edit: name, params, takes } = step;
      if (!takes) return edit(name, params).then((answer) => !(answer instanceof ApiError));
      const seen = seenNow();
      return takeHeld(() =>
        edit(
          name,
          { ...params, values: takes === 'unrecorded' ? recordValues() : heldValues() },
          { seen },
        ),
      );
    }
  }
}
