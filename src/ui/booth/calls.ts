/** What is called next, of light and of departments, in the order of the script. */
'use client';
import { useMemo } from 'react';
import { formatCueNumber } from '@/core/cues/number';
import type { CallState } from '@/core/live/messages';
import { promptsAhead } from '@/core/script/prompts';
import type { CueRow } from '@/core/cues/rows';
import type { PromptRow, ScriptRow } from '@/core/script/rows';
import { useCalls } from '../book/use-calls';
import { useList, useShow, usePlayback } from '../state/store';

/** A call that comes next. */
export interface NextCall {
  key: string;
  /** `LX 12`, `Sound`. */
  who: string;
  /** The cue's name, or what the department is called for. */
  what: string;
  /** The words that it is called on. */
  quote: string;
  /** Its place in the script; infinite where it has none. */
  from: number;
  cue?: CueRow;
  prompt?: PromptRow;
  /** How it stands now, if it is called. */
  call?: CallState | undefined;
  /** Only the next cue of light can be called. */
  callable: boolean;
}

/** What comes of light and departments, first what is called already. */
export function useNextCalls(department?: string): {
  script: ScriptRow | undefined;
  next: NextCall[];
} {
  const show = useShow();
  const list = useList();
  const { calls: standing, passed } = usePlayback('calls', 'passed');
  const { script, calls } = useCalls(list?.id);
  const version = `${show.version('prompts')}/${show.version('departments')}/${show.version('cues')}`;
  const next = useMemo(() => {
    void version;
    const number = list?.cueNumber ?? -1;
    const here = calls.filter((c) => c.cue.number <= number).at(-1)?.call.from ?? -1;
    const cues = list ? show.cuesOf(list.id) : [];
    const at = cues.findIndex((c) => c.id === list?.nextId);
    const placed = new Map(calls.map(({ call, cue }) => [cue.id, call]));
    let last = here;
    const light = (at < 0 ? [] : cues.slice(at, at + 6)).map((cue, i): NextCall => {
      const call = placed.get(cue.id);
      // A cue without a place in the script comes after the one before it.
      last = call?.from ?? last + 0.001;
      return {
        key: cue.id,
        who: `LX ${formatCueNumber(cue.number)}`,
        what: cue.name,
        quote: call?.quote ?? cue.call,
        from: last,
        cue,
        call: standing.find((c) => c.cueId === cue.id),
        callable: i === 0,
      };
    });
    const others = (script ? promptsAhead(show, script.id, here, passed) : []).map(
      (prompt): NextCall => ({
        key: prompt.id,
        who: show.departments.get(prompt.department)?.name ?? '?',
        what: prompt.label,
        quote: prompt.quote,
        from: prompt.from,
        prompt,
        call: standing.find((c) => c.prompt === prompt.id),
        callable: true,
      }),
    );
    const free = standing
      .filter((c) => c.department !== null && !others.some((o) => o.call === c))
      .map((c): NextCall => ({
        key: c.id,
        who: show.departments.get(c.department ?? '')?.name ?? '?',
        what: c.words.split(', ').slice(1).join(', '),
        quote: '',
        from: -1,
        call: c,
        callable: true,
      }));
    const all = [...free, ...light, ...others].sort((a, b) => a.from - b.from);
    return department === undefined
      ? all
      : all.filter((n) => (n.prompt?.department ?? n.call?.department) === department);
  }, [show, version, list, calls, script, standing, passed, department]);
  return { script, next };
}
