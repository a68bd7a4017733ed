/** What a line of the command line does, step by step: the same for whoever types it, on a screen or from a program. */
import type { LiveCommand } from '../live/commands.ts';
import type { Intent } from './intent.ts';

/** What a line does, in the order in which it is done. */
export type Step =
  | { do: 'select'; fixtures: string[] }
  | { do: 'live'; command: LiveCommand }
  | {
      do: 'edit';
      edit: string;
      params: Record<string, unknown>;
      /** It takes what the operator holds as its `values`: all of it, or what is not recorded. */
      takes?: 'held' | 'unrecorded';
    }
  | { do: 'reverse'; which: 'undo' | 'redo' };

/**
 * The steps of a line, in their order; each only when the one before it was done.
 * @param selection as it stands: the same selection again does not end a step through it
 */
export function stepsOf(intent: Intent, selection: readonly string[]): Step[] {
  switch (intent.kind) {
    case 'live':
      return [{ do: 'live', command: intent.command }];
    case 'select-and-set': {
      const { select, command, then = [] } = intent;
      const commands = [...(command ? [command] : []), ...then];
      return [
        ...(select.join() === selection.join()
          ? []
          : [{ do: 'select' as const, fixtures: select }]),
        ...commands.map((c): Step => ({ do: 'live', command: c })),
      ];
    }
    case 'edit':
      return [{ do: 'edit', edit: intent.edit, params: intent.params }];
    case 'record': {
      const { kind, ...params } = intent;
      void kind;
      return [{ do: 'edit', edit: 'record-cue', params, takes: 'unrecorded' }];
    }
    case 'record-held':
      return [
        {
          do: 'edit',
          edit: intent.edit,
          params: intent.params,
          // A source is updated with what was changed since it was recorded; a palette or a look is all that is held.
          takes: intent.edit === 'update-source' ? 'unrecorded' : 'held',
        },
      ];
    case 'undo':
    case 'redo':
      return [{ do: 'reverse', which: intent.kind }];
  }
}
