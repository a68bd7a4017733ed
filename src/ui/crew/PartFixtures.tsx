/** The fixtures of a part, chosen one by one, by what they are called, or by group. */
'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef, useState } from 'react';
import { numberRanges } from '@/core/words';
import { plural } from '@/core/words';
import { byNumber } from '@/core/select/select';
import type { PartRow } from '@/core/crew/rows';
import type { FixtureRow } from '@/core/fixtures/rows';
import { Button, Check } from '../parts/controls';
import { useScreen, useShow } from '../state/store';

const ROW = 28;
/** More than this are taken only by words: one click for a whole rig is an accident. */
const MOST_AT_ONCE = 500;

const FIELD = 'h-8 rounded-md bg-ink px-2 shadow-[inset_0_0_0_1px_var(--color-edge)]';

/** All units by number, those that words find, and whose part each is in that is in another. */
function useFound(partId: string | undefined, search: string) {
  const show = useShow();
  const revision = useScreen((s) => s.revision);
  const all = useMemo(() => {
    void revision;
    return byNumber(show);
  }, [show, revision]);
  const elsewhere = useMemo(() => {
    void revision;
    return new Map(
      [...show.parts.values()]
        .filter((p) => p.id !== partId)
        .flatMap((p) => p.fixtures.map((id) => [id, p] as const)),
    );
  }, [show, revision, partId]);
  const found = useMemo(() => {
    const words = search.trim().toLowerCase();
    const textOf = (f: FixtureRow): string =>
      `${f.number} ${f.label} ${f.hang} ${show.types.get(f.typeId)?.name ?? ''}`.toLowerCase();
    return words === '' ? all : all.filter((f) => textOf(f).includes(words));
  }, [all, search, show]);
  return { all, elsewhere, found };
}

/** @param partId the part that is changed; what is in others is not offered */
export function PartFixtures({
  partId,
  chosen,
  onChange,
}: {
  partId: string | undefined;
  chosen: readonly string[];
  onChange: (ids: string[]) => void;
}) {
  const show = useShow();
  const selection = useScreen((s) => s.selection);
  const [search, setSearch] = useState('');
  const { all, elsewhere, found } = useFound(partId, search);
  const mine = useMemo(() => new Set(chosen), [chosen]);
  const free = found.filter((f) => !elsewhere.has(f.id));
  const hasAll = free.length > 0 && free.every((f) => mine.has(f.id));
  const put = (ids: Iterable<string>, on: boolean): void => {
    const next = new Set(chosen);
    for (const id of ids) {
      if (on && !elsewhere.has(id)) next.add(id);
      else next.delete(id);
    }
    onChange(all.filter((f) => next.has(f.id)).map((f) => f.id));
  };
  const groups = [...show.groups.values()].sort((a, b) => a.number - b.number);
  const numbers = chosen.flatMap((id) => show.fixtures.get(id)?.number ?? []);
  return (
    <div>
      <p className="text-[12px] text-muted">
        Fixtures{' '}
        <span data-testid="part-fixtures" className="num ml-1 text-soft">
          {numbers.length > 0 ? `${numberRanges(numbers)} (${numbers.length})` : 'none'}
        </span>
      </p>
      <div className="mt-1 flex flex-wrap gap-2">
        <input
          aria-label="Find fixtures"
          inputMode="search"
          placeholder="number, name, bar, type"
          value={search}
          onChange={(e) => setSearch(e.target.value)}
          className={`min-w-0 flex-1 ${FIELD}`}
        />
        <Button
          disabled={free.length === 0 || (search === '' && free.length > MOST_AT_ONCE)}
          title="All that is found below"
          onClick={() =>
            put(
              free.map((f) => f.id),
              !hasAll,
            )
          }
        >
          {hasAll ? `Without these ${free.length}` : `All ${free.length}`}
        </Button>
        {selection.length > 0 && (
          <Button onClick={() => put(selection, true)}>
            Add the {plural(selection.length, 'selected one')}
          </Button>
        )}
        <select
          aria-label="Add a group"
          value=""
          onChange={(e) => put(show.groups.get(e.target.value)?.fixtures ?? [], true)}
          className={`max-w-[150px] ${FIELD}`}
        >
          <option value="">Add a group …</option>
          {groups.map((g) => (
            <option key={g.id} value={g.id}>
              {g.name}
            </option>
          ))}
        </select>
      </div>
      <Rows
        found={found}
        search={search}
        mine={mine}
        elsewhere={elsewhere}
        onPut={(id, on) => put([id], on)}
      />
    </div>
  );
}

/** Those that are found, as many as are in sight. */
function Rows({
  found,
  search,
  mine,
  elsewhere,
  onPut,
}: {
  found: readonly FixtureRow[];
  search: string;
  mine: ReadonlySet<string>;
  elsewhere: ReadonlyMap<string, PartRow>;
  onPut: (id: string, on: boolean) => void;
}) {
  const show = useShow();
  const box = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: found.length,
    getScrollElement: () => box.current,
    estimateSize: () => ROW,
    overscan: 8,
  });
  const row = (f: FixtureRow) => {
    const other = elsewhere.get(f.id);
    return (
      <Check
        label={`Fixture ${f.number}`}
        checked={mine.has(f.id)}
        disabled={other !== undefined}
        onChange={(on) => onPut(f.id, on)}
      >
        <span className="num w-10 flex-none text-right">{f.number}</span>
        <span className="min-w-0 flex-1 truncate">{f.label || show.types.get(f.typeId)?.name}</span>
        <span className="max-w-[45%] truncate text-muted">
          {other ? `${other.userName}’s “${other.name}”` : f.hang}
        </span>
      </Check>
    );
  };
  return (
    <div
      ref={box}
      className="mt-1.5 h-[196px] overflow-y-auto rounded-md bg-ink px-2.5 py-1 shadow-[inset_0_0_0_1px_var(--color-line)]"
    >
      {found.length === 0 && (
        <p className="py-2 text-muted">No fixture is called “{search.trim()}”.</p>
      )}
      <div className="relative" style={{ height: rows.getTotalSize() }}>
        {rows.getVirtualItems().map((item) => {
          const f = found[item.index];
          return f ? (
            <div
              key={f.id}
              className="absolute inset-x-0 [&>label]:h-7"
              style={{ top: item.start }}
            >
              {row(f)}
            </div>
          ) : null;
        })}
      </div>
    </div>
  );
}
