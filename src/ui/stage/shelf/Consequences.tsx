/** What a write changes beyond itself: cue by cue, before and after, as small stages. */
'use client';
import { useMemo } from 'react';
import { formatCueNumber } from '@/core/cues/number';
import type { Consequence } from '@/core/cues/consequences';
import { plural } from '@/core/words';
import { lightsIn, SmallStage } from '../../parts/small-stage';
import { useShow } from '../../state/store';

const PICTURES = 12;

/** Cues that would look different. */
export function Consequences({ found }: { found: readonly Consequence[] }) {
  const show = useShow();
  const rows = useMemo(
    () =>
      found.slice(0, PICTURES).map((c) => ({
        c,
        before: lightsIn(show, c, 'before'),
        after: lightsIn(show, c, 'after'),
      })),
    [show, found],
  );
  if (found.length === 0) return <p className="text-soft">No cue looks different.</p>;
  const lists = new Set(found.map((c) => c.listId)).size;
  return (
    <>
      <p className="text-soft">
        {plural(found.length, 'cue')}
        {lists > 1 ? ` in ${lists} lists` : ''} will look different:
      </p>
      <ul
        className="mt-2 max-h-56 overflow-y-auto text-[12.5px]"
        data-testid="palette-consequences"
      >
        {rows.map(({ c, before, after }) => (
          <li
            key={c.cueId}
            className="flex items-center gap-3 border-t border-line py-1.5 first:border-t-0"
          >
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
        {found.length > rows.length && (
          <li className="border-t border-line py-1.5 text-muted">
            and {found.length - rows.length} more:{' '}
            {found
              .slice(rows.length, rows.length + 12)
              .map((c) => formatCueNumber(c.number))
              .join(', ')}
            {found.length > rows.length + 12 ? ' …' : ''}
          </li>
        )}
      </ul>
    </>
  );
}
