/** The fixtures of the table: as many as a filter leaves, in the order of a column. */
'use client';
import type { ColumnDef } from '@tanstack/react-table';
import { useMemo } from 'react';
import { formatPoints } from '@/core/fixtures/points';
import type { FixtureRow } from '@/core/fixtures/rows';
import { plain } from '@/core/rig/search';
import type { Show } from '@/core/show/show';
import { useTable } from '../../parts/table/use-table';
import { useScreen, useShow } from '../../state/store';
import { cellText, COLUMNS, flagsOf, sortKey } from '../grid';

/** Where widths were kept before each person had their own. */
const OLDER_WIDTHS = 'wingman-rig-columns';

function fieldsOf(show: Show, f: FixtureRow): string[] {
  const type = show.types.get(f.typeId);
  return [
    String(f.number),
    f.label,
    `${type?.maker} ${type?.name}`,
    f.mode,
    f.hang,
    cellText(show, f, 'circuit'),
    formatPoints(f.patch),
    flagsOf(show, f).join(' '),
  ];
}

/** A word is found in a field as it stands, or at its beginning without spaces and punctuation (`bar2`). */
function hasWord(field: string, word: string): boolean {
  const bare = plain(word);
  return field.toLowerCase().includes(word) || (bare !== '' && plain(field).startsWith(bare));
}

function filtered(show: Show, filter: string): FixtureRow[] {
  const all = [...show.fixtures.values()].sort((a, b) => a.number - b.number);
  const words = filter.toLowerCase().split(/\s+/).filter(Boolean);
  if (words.length === 0) return all;
  return all.filter((f) => {
    const fields = fieldsOf(show, f);
    return words.every((word) => fields.some((field) => hasWord(field, word)));
  });
}

/** @returns the table with its columns, and the fixtures in the order that is shown */
export function useFixtureRows(filter: string) {
  const show = useShow();
  const revision = useScreen((s) => s.revision);
  const rows = useMemo(() => {
    void revision;
    return filtered(show, filter);
  }, [show, revision, filter]);
  const columns = useMemo<ColumnDef<FixtureRow>[]>(
    () =>
      COLUMNS.map((c) => ({
        id: c.key,
        size: c.width,
        accessorFn: (f) => sortKey(show, f, c.key),
        meta: { title: c.title, ...(c.right ? { right: true } : {}) },
      })),
    [show],
  );
  const table = useTable({
    name: 'fixtures',
    rows,
    columns,
    rowId: (f) => f.id,
    sorted: 'number',
    older: OLDER_WIDTHS,
  });
  const { rows: shown } = table.getRowModel();
  return { table, rows: useMemo(() => shown.map((r) => r.original), [shown]) };
}
