/** What a write changes beyond itself: cue by cue, before and after, as small stages. */
'use client';
import { useMemo } from 'react';
import { formatCueNumber } from '@/core/cues/number';
import type { Consequence } from '@/core/cues/consequences';
import { stateAt } from '@/core/cues/tracking';
import { colourOf, colourParts } from '@/core/color/unit-colour';
import { displayRGB } from '@/core/color/mix';
import { levelOf } from '@/core/looks/value';
import { modeOf } from '@/core/rig/addresses';
import { plural } from '@/core/edits/edit';
import { slotKey } from '@/core/show/rows';
import type { Show } from '@/core/show/show';
import { useShow } from '../../state/store';

const PICTURES = 12;

/** The stage in a cue, with these slots as they would be instead. */
function lightsIn(show: Show, c: Consequence, which: 'before' | 'after'): { x: number; y: number; level: number; css: string }[] {
  const state = stateAt(show, c.listId, c.number);
  const own = new Map(c.differences.map((d) => [d.key, d[which]]));
  const at = (id: string, attribute: string, otherwise: number): number => {
    const key = slotKey(id, attribute);
    const changed = own.get(key);
    if (changed !== undefined) return changed ?? otherwise;
    const value = state.get(key)?.value;
    return value ? (levelOf(show, value) ?? otherwise) : otherwise;
  };
  return [...show.fixtures.values()].flatMap((fixture) => {
    const type = show.types.get(fixture.typeId);
    const mode = modeOf(show, fixture);
    if (!type || !mode || fixture.patch.length === 0) return [];
    const level = at(fixture.id, 'Dimmer', 0);
    if (level < 0.01) return [];
    const [part] = colourParts(type, mode);
    const light = part ? displayRGB(colourOf(type, part, (a) => at(fixture.id, a, mode.channels.find((x) => x.attribute === a)?.default ?? 0), fixture)) : [255, 214, 160];
    return [{ x: 48 + fixture.position.x * 5, y: 42 - fixture.position.y * 3.6, level, css: `rgba(${light.join(',')},${0.15 + level * 0.8})` }];
  });
}

function SmallStage({ lights, label }: { lights: readonly { x: number; y: number; level: number; css: string }[]; label: string }) {
  return (
    <svg viewBox="0 0 96 60" width="96" height="60" role="img" aria-label={label} className="flex-none rounded bg-ink">
      <path d="M18 44V8Q48 2 78 8V44" fill="none" stroke="var(--color-line)" />
      {lights.map((l, i) => (
        <circle key={i} cx={l.x} cy={l.y} r={1.6 + l.level * 3} fill={l.css} />
      ))}
    </svg>
  );
}

export function Consequences({ found }: { found: readonly Consequence[] }) {
  const show = useShow();
  const rows = useMemo(() => found.slice(0, PICTURES).map((c) => ({ c, before: lightsIn(show, c, 'before'), after: lightsIn(show, c, 'after') })), [show, found]);
  if (found.length === 0) return <p className="text-soft">No cue looks different.</p>;
  const lists = new Set(found.map((c) => c.listId)).size;
  return (
    <>
      <p className="text-soft">
        {plural(found.length, 'cue')}
        {lists > 1 ? ` in ${lists} lists` : ''} will look different:
      </p>
      <ul className="mt-2 max-h-56 overflow-y-auto text-[12.5px]" data-testid="palette-consequences">
        {rows.map(({ c, before, after }) => (
          <li key={c.cueId} className="flex items-center gap-3 border-t border-line py-1.5 first:border-t-0">
            <span className="min-w-0 flex-1">
              <span className="block truncate">
                {formatCueNumber(c.number)} {c.name}
              </span>
              <span className="text-muted">{plural(c.slots, 'value')}</span>
            </span>
            <SmallStage lights={before} label="Before" />
            <span aria-hidden="true" className="text-muted">
              →
            </span>
            <SmallStage lights={after} label="After" />
          </li>
        ))}
        {found.length > rows.length && <li className="border-t border-line py-1.5 text-muted">and {found.length - rows.length} more: {found.slice(rows.length, rows.length + 12).map((c) => formatCueNumber(c.number)).join(', ')}{found.length > rows.length + 12 ? ' …' : ''}</li>}
      </ul>
    </>
  );
}
