/** The script that is shown, the calls of a list in it, and those of other departments. */
'use client';
import { useMemo, useState } from 'react';
import type { CueRow } from '@/core/cues/rows';
import type { CallRow, PromptRow, ScriptRow } from '@/core/script/rows';
import type { Show } from '@/core/show/show';
import { useShow } from '../state/store';

/** Of a script that calls no other department. */
export const NO_PROMPTS: readonly PromptRow[] = [];

/** A cue with where it is called. */
export interface Called {
  call: CallRow;
  cue: CueRow;
}

/** Calls of a script in its order, with their cues. */
export function callsIn(show: Show, scriptId: string, listId?: string): Called[] {
  return [...show.calls.values()]
    .filter((c) => c.scriptId === scriptId)
    .flatMap((call) => {
      const cue = show.cues.get(call.cueId);
      return cue && (listId === undefined || cue.listId === listId) ? [{ call, cue }] : [];
    })
    .sort((a, b) => a.call.from - b.call.from);
}

/** The script that is shown: the chosen one, or the first. */
export function useScript(): {
  scripts: ScriptRow[];
  script: ScriptRow | undefined;
  choose: (id: string) => void;
} {
  const show = useShow();
  const [id, choose] = useState<string | null>(null);
  const scripts = [...show.scripts.values()].sort((a, b) => a.title.localeCompare(b.title));
  return {
    scripts,
    script:
      (id === null ? undefined : show.scripts.get(id)) ??
      scripts.find((s) => s.format !== 'order') ??
      scripts[0],
    choose,
  };
}

/** The calls of a list in a script, found once for each state of both. */
export function useCallsIn(script: ScriptRow | undefined, listId: string | undefined): Called[] {
  const show = useShow();
  const version = `${show.version('calls')}/${show.version('cues')}`;
  return useMemo(() => {
    void version;
    return script ? callsIn(show, script.id, listId) : [];
  }, [show, script, listId, version]);
}

/** Calls of other departments in a script, found once for each state of them. */
export function usePrompts(script: ScriptRow | undefined): readonly PromptRow[] {
  const show = useShow();
  const version = show.version('prompts');
  return useMemo(() => {
    void version;
    return script ? [...show.prompts.values()].filter((p) => p.scriptId === script.id) : NO_PROMPTS;
  }, [show, script, version]);
}

/** The script that is shown, with the calls of a list in it. */
export function useCalls(listId: string | undefined): {
  script: ScriptRow | undefined;
  calls: Called[];
} {
  const { script } = useScript();
  return { script, calls: useCallsIn(script, listId) };
}
