/** What refers to fixtures: the cues and groups that would lose something with them. */
import { formatCueNumber } from '../cues/number.ts';
import type { Show } from '../show/show.ts';

/** What uses something, so that people know before they change it. */
export interface Uses {
  cues: { id: string; label: string; values: number }[];
  groups: { id: string; label: string }[];
  looks: { id: string; label: string }[];
}

/** Which cues, looks and groups say something about fixtures. */
export function usesOf(show: Show, ids: readonly string[]): Uses {
  const wanted = new Set(ids);
  const counts = new Map<string, number>();
  for (const value of show.values.values())
    if (wanted.has(value.fixtureId)) counts.set(value.cueId, (counts.get(value.cueId) ?? 0) + 1);
  const cues = [...counts].flatMap(([id, values]) => {
    const cue = show.cues.get(id);
    return cue
      ? [
          {
            id,
            values,
            number: cue.number,
            label: `${formatCueNumber(cue.number)}${cue.name ? ` ${cue.name}` : ''}`,
          },
        ]
      : [];
  });
  const groups = [...show.groups.values()].filter((g) => g.fixtures.some((id) => wanted.has(id)));
  return {
    cues: cues
      .sort((a, b) => a.number - b.number)
      .map(({ id, label, values }) => ({ id, label, values })),
    looks: [...show.looks.values()]
      .filter((l) =>
        l.items.some((i) =>
          i.kind === 'level'
            ? wanted.has(i.fixtureId)
            : 'members' in i && i.members.some((m) => wanted.has(m)),
        ),
      )
      .map((l) => ({ id: l.id, label: `${l.number} ${l.name}` })),
    groups: groups
      .sort((a, b) => a.number - b.number)
      .map((g) => ({ id: g.id, label: `${g.number} ${g.name}` })),
  };
}
