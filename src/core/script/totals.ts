/** Fades of the act and the scene that a cue is called in, added up. */
import { timingOf } from '../cues/times.ts';
import type { CueRow } from '../cues/rows.ts';
import type { Show } from '../show/show.ts';
import { sectionAt } from './parse.ts';

/** A section in numbers. */
export interface SectionTotal {
  name: string;
  cues: number;
  time_s: number;
}

/**
 * Act and scene of a cue with the cues from their first call to the next section's; nothing for a cue that the script
 * does not reach. A cue without a call belongs where the cue before it does.
 */
export function sectionTotals(show: Show, cues: readonly CueRow[], cue: CueRow): SectionTotal[] {
  const places = new Map<string, { act: string; scene: string }>();
  for (const call of show.calls.values()) {
    const script = show.scripts.get(call.scriptId);
    if (script && script.format !== 'order') places.set(call.cueId, sectionAt(script, call.from));
  }
  let here = { act: '', scene: '' };
  const at = cues.map((c) => (here = places.get(c.id) ?? here));
  const own = at[cues.findIndex((c) => c.id === cue.id)];
  if (!own) return [];
  const sum = (
    name: string,
    of: (place: { act: string; scene: string }) => boolean,
  ): SectionTotal[] => {
    if (name === '') return [];
    const inside = cues.filter((_, i) => of(at[i] ?? { act: '', scene: '' }));
    return [
      {
        name,
        cues: inside.length,
        time_s: inside.reduce((t, c) => t + timingOf(show, c).total_s, 0),
      },
    ];
  };
  return [
    ...sum(own.act, (p) => p.act === own.act),
    ...sum(own.scene, (p) => p.act === own.act && p.scene === own.scene),
  ];
}
