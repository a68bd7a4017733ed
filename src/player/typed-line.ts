/** The command line of scripts and remotes: a line is read against what plays and is held, and done step by step. */
import { readCommand } from '../core/command/command.ts';
import { stepsOf, type Step } from '../core/command/steps.ts';
import { recordedValue } from '../core/live/held.ts';
import type { LiveCommand } from '../core/live/commands.ts';
import type { HeldValue } from '../core/live/messages.ts';
import { isRefusal, refuse, type Refusal } from '../core/refusal.ts';
import { familyOf } from '../core/rig/attributes.ts';
import type { ShowStore } from '../store/commit.ts';
import type { Actor } from './actor.ts';
import type { LiveShow } from './live-show.ts';
import type { Answer } from './answer.ts';

interface Needs {
  store: Pick<ShowStore, 'edit' | 'reverse'>;
  /** Carries a live command out, with all that goes with it. */
  command: (actor: Actor, command: LiveCommand) => Promise<Answer>;
  /** Ends when the show that plays has the edits that were made. */
  caughtUp: () => Promise<void>;
}

const newEditId = (): string =>
  `p${Date.now().toString(36)}${Math.random().toString(36).slice(2, 8)}`;

/** Values of an edit that takes what is held. */
function taken(held: readonly HeldValue[], takes: 'held' | 'unrecorded') {
  return held.filter((v) => takes === 'held' || !v.recorded).map(recordedValue);
}

/** @returns what the last step said, or why one was not done; the ones after it are not begun */
export async function typeLine(
  show: LiveShow,
  actor: Actor,
  text: string,
  needs: Needs,
): Promise<Answer> {
  const { values: held, selection } = show.held(actor.userId);
  // What the line was read against.
  const { seq: seen } = show.copy;
  const read = readCommand(text, {
    show: show.show,
    selection,
    listId: null,
    cueOn: (id) => show.playback().lists.find((l) => l.id === id)?.cueId ?? null,
    unrecorded: held.filter((v) => !v.recorded).length,
    held: (family) => held.filter((v) => !family || familyOf(v.attribute) === family).length,
    lit: () => show.lit(),
    levelOf: (fixtureId, attribute) => show.levelOf(fixtureId, attribute),
  });
  if (!read.ok) {
    const why = read.message === '' ? 'Nothing was typed.' : read.message;
    return refuse('invalid', why, { text: read.message });
  }
  const edited = async (done: { summary: string } | Refusal): Promise<Answer> => {
    if (isRefusal(done)) return done;
    await needs.caughtUp();
    return { ok: true, message: done.summary };
  };
  const step = async (s: Step): Promise<Answer> => {
    switch (s.do) {
      case 'select':
        return show.command(actor, { command: 'select', fixtures: s.fixtures });
      case 'live':
        return needs.command(actor, s.command);
      case 'reverse':
        return edited(await needs.store.reverse(show.id, actor, s.which, newEditId()));
      case 'edit':
        return edited(
          await needs.store.edit(show.id, actor, {
            edit: s.edit,
            params: s.takes ? { ...s.params, values: taken(held, s.takes) } : s.params,
            editId: newEditId(),
            seen,
          }),
        );
    }
  };
  let answer: Answer = { ok: true };
  for (const s of stepsOf(read.intent, selection)) {
    answer = await step(s);
    if (isRefusal(answer)) return answer;
  }
  return answer;
}
