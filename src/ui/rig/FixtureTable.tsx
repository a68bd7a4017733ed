/** The patch as a table: sorted, filtered, edited in the cell. Only the rows in sight are drawn. */
'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef, useState } from 'react';
import { absolute, formatPoint, parsePoint } from '@/core/rig/addresses';
import type { FixtureRow } from '@/core/show/rows';
import { edit, select, toggleSelected } from '../state/actions';
import { levels, useLevelTick } from '../state/levels';
import { mayEdit, useScreen, useShow } from '../state/store';

const ROW = 30;
const COLUMNS = 'grid-cols-[44px_minmax(76px,1.3fr)_minmax(80px,1.2fr)_minmax(48px,0.7fr)_64px_minmax(66px,0.8fr)_42px_44px]';
type SortKey = 'number' | 'label' | 'type' | 'address' | 'hang' | 'level';

function Cell({ value, label, mono, disabled, onDone }: { value: string; label: string; mono?: boolean; disabled: boolean; onDone: (text: string) => void }) {
  const [editing, setEditing] = useState(false);
  if (!editing) {
    return (
      <span className={`truncate ${mono ? 'num text-[12.5px]' : ''}`} title={disabled ? value : `${value} (double click to change)`} onDoubleClick={() => !disabled && setEditing(true)}>
        {value}
      </span>
    );
  }
  const finish = (text: string): void => {
    setEditing(false);
    if (text.trim() !== value) onDone(text.trim());
  };
  return (
    <input
      autoFocus
      aria-label={label}
      defaultValue={value === '—' ? '' : value}
      maxLength={120}
      onFocus={(e) => e.currentTarget.select()}
      onBlur={(e) => finish(e.currentTarget.value)}
      onKeyDown={(e) => {
        if (e.key === 'Enter') finish(e.currentTarget.value);
        if (e.key === 'Escape') setEditing(false);
        e.stopPropagation();
      }}
      className={`mr-2 h-7 min-w-0 rounded bg-ink px-1.5 shadow-[inset_0_0_0_1.5px_var(--color-standby)] outline-none ${mono ? 'num text-[12.5px]' : ''}`}
    />
  );
}

function Level({ id }: { id: string }) {
  useLevelTick();
  const index = useScreen((s) => s.index);
  const slot = index.get(`${id}:Dimmer`) ?? index.get(`${id}:Fog1`);
  const level = slot === undefined ? 0 : (levels.now[slot] ?? 0);
  return <span className={`num text-right text-[12.5px] ${level > 0 ? 'text-lime' : 'text-dim'}`}>{Math.round(level * 100)}</span>;
}

export function FixtureTable() {
  const show = useShow();
  const { selection, you, revision } = useScreen();
  const [filter, setFilter] = useState('');
  const [sort, setSort] = useState<{ key: SortKey; down: boolean }>({ key: 'number', down: false });
  const scroll = useRef<HTMLDivElement>(null);
  const anchor = useRef<string | null>(null);
  const editable = mayEdit(you.role);

  const rows = useMemo(() => {
    void revision;
    const words = filter.toLowerCase().split(/\s+/).filter(Boolean);
    const type = (f: FixtureRow): string => `${show.types.get(f.typeId)?.maker ?? ''} ${show.types.get(f.typeId)?.name ?? ''}`;
    const by: Record<SortKey, (f: FixtureRow) => string | number> = {
      number: (f) => f.number,
      label: (f) => f.label,
      type,
      address: (f) => (f.patch[0] ? absolute(f.patch[0]) : Infinity),
      hang: (f) => f.hang,
      level: (f) => levels.now[useScreen.getState().index.get(`${f.id}:Dimmer`) ?? -1] ?? 0,
    };
    const key = by[sort.key];
    return [...show.fixtures.values()]
      .filter((f) => {
        const text = `${f.number} ${f.label} ${type(f)} ${f.mode} ${f.hang} ${f.patch.map(formatPoint).join(' ')}`.toLowerCase();
        return words.every((w) => text.includes(w));
      })
      .sort((a, b) => {
        const x = key(a);
        const y = key(b);
        const order = typeof x === 'number' && typeof y === 'number' ? x - y : String(x).localeCompare(String(y));
        return (sort.down ? -order : order) || a.number - b.number;
      });
  }, [show, revision, filter, sort]);
  const virtual = useVirtualizer({ count: rows.length, getScrollElement: () => scroll.current, estimateSize: () => ROW, overscan: 12 });
  const selected = useMemo(() => new Set(selection), [selection]);

  const change = (f: FixtureRow, set: Partial<FixtureRow>): void => void edit('change-fixtures', { fixtures: [{ id: f.id, set }] });
  const pick = (f: FixtureRow, e: React.MouseEvent): void => {
    if (e.shiftKey && anchor.current) {
      const a = rows.findIndex((r) => r.id === anchor.current);
      const b = rows.findIndex((r) => r.id === f.id);
      select(rows.slice(Math.min(a, b), Math.max(a, b) + 1).map((r) => r.id));
    } else if (e.ctrlKey || e.metaKey) toggleSelected(f.id);
    else select([f.id]);
    if (!e.shiftKey) anchor.current = f.id;
  };

  const heading = (key: SortKey | null, text: string, right = false) => (
    <div role="columnheader" aria-sort={key === sort.key ? (sort.down ? 'descending' : 'ascending') : 'none'} className={right ? 'text-right' : ''}>
      {key ? (
        <button type="button" onClick={() => setSort((s) => ({ key, down: s.key === key && !s.down }))} className={`h-7 ${sort.key === key ? 'text-text' : 'hover:text-soft'}`}>
          {text}
          {sort.key === key ? (sort.down ? ' ↓' : ' ↑') : ''}
        </button>
      ) : (
        text
      )}
    </div>
  );

  if (show.fixtures.size === 0) {
    return (
      <div className="grid h-full place-items-center p-8 text-center text-muted">
        <div className="max-w-sm">
          <p className="text-[15px] font-semibold text-soft">The house is empty</p>
          <p className="mt-1">Pick a type on the left, say how many, and patch. Or type it: patch 6 dimmer from 1 at 1.1</p>
        </div>
      </div>
    );
  }
  return (
    <div className="flex h-full flex-col" role="table" aria-label="Fixtures" aria-rowcount={rows.length}>
      <div className="flex h-10 flex-none items-center gap-3 px-3">
        <input aria-label="Filter fixtures" value={filter} onChange={(e) => setFilter(e.target.value)} placeholder="Filter: number, label, type, bar, address" className="h-7 min-w-0 flex-1 rounded-md bg-raised px-2.5 outline-none placeholder:text-dim focus:shadow-[inset_0_0_0_1.5px_var(--color-standby)]" />
        <span className="whitespace-nowrap text-[12px] text-muted">
          {rows.length} of {show.fixtures.size} fixtures
        </span>
      </div>
      <div role="row" className={`grid ${COLUMNS} h-8 flex-none items-center gap-x-2 overflow-y-scroll border-b border-line px-3 text-[12px] [scrollbar-color:transparent_transparent] text-muted`}>
        {heading('number', 'No.')}
        {heading('label', 'Label')}
        {heading('type', 'Type')}
        {heading(null, 'Mode')}
        {heading('address', 'Address')}
        {heading('hang', 'Hangs on')}
        {heading(null, 'Watts', true)}
        {heading('level', 'Level', true)}
      </div>
      <div ref={scroll} className="min-h-0 flex-1 overflow-y-auto overflow-x-hidden">
        <div style={{ height: virtual.getTotalSize() }} className="relative">
          {virtual.getVirtualItems().map((item) => {
            const f = rows[item.index];
            if (!f) return null;
            const type = show.types.get(f.typeId);
            const on = selected.has(f.id);
            return (
              <div
                key={f.id}
                role="row"
                aria-selected={on}
                data-fixture={f.number}
                onClick={(e) => pick(f, e)}
                className={`absolute inset-x-0 grid ${COLUMNS} cursor-default items-center gap-x-2 border-b border-[#1b2723] px-3 ${on ? 'bg-standby-wash shadow-[inset_2px_0_0_var(--color-standby)]' : 'hover:bg-panel'}`}
                style={{ height: ROW, transform: `translateY(${item.start}px)` }}
              >
                <Cell label="Number" value={String(f.number)} mono disabled={!editable} onDone={(t) => change(f, { number: Number(t) })} />
                <Cell label="Label" value={f.label} disabled={!editable} onDone={(t) => change(f, { label: t })} />
                <span className="truncate text-soft">{type?.name}</span>
                <span className="truncate text-muted">{f.mode}</span>
                <Cell
                  label="Address"
                  value={f.patch.map(formatPoint).join(', ') || '—'}
                  mono
                  disabled={!editable}
                  onDone={(t) => {
                    const points = t === '' ? [] : t.split(/[,\s]+/).map(parsePoint);
                    change(f, { patch: points.map((p) => p ?? { universe: 0, address: 0 }) });
                  }}
                />
                <span className="truncate text-soft">{f.hang || '—'}</span>
                <span className="num text-right text-[12.5px] text-muted">{type?.watts ?? 0}</span>
                <Level id={f.id} />
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
}
