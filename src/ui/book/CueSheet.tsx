/** The cue sheet with ties: rows are cues, columns are groups and fixtures, lines are what tracks. */
'use client';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, useState } from 'react';
import { formatCueNumber } from '@/core/cues/number';
import type { Family } from '@/core/show/rows';
import { cueTimes } from '../frame/Spine';
import { useList, useScreen, useShow } from '../state/store';
import { columnsOf, sheetOf, type SheetCell } from './sheet';

const ROW = 32;
const LEFT = 316;
const FAMILIES: [Family, string][] = [
  ['intensity', 'Intensity'],
  ['position', 'Position'],
  ['colour', 'Colour'],
  ['beam', 'Beam'],
];

export function CueSheet({ chosen, onChoose }: { chosen: string | null; onChoose: (cueId: string) => void }) {
  const show = useShow();
  const list = useList();
  const { values } = useScreen();
  const [family, setFamily] = useState<Family>('intensity');
  const [hover, setHover] = useState<{ row: number; column: number } | null>(null);
  const scroll = useRef<HTMLDivElement>(null);
  const versions = (['cues', 'values', 'groups', 'fixtures', 'types', 'lists'] as const).map((t) => show.version(t)).join();
  const listId = list?.id;
  const { cues, columns, sheet } = useMemo(() => {
    void versions;
    const inList = listId ? show.cuesOf(listId) : [];
    const across = columnsOf(show, family);
    return { cues: inList, columns: across, sheet: sheetOf(show, inList, across, family) };
  }, [show, versions, listId, family]);
  const virtual = useVirtualizer({ count: cues.length, getScrollElement: () => scroll.current, estimateSize: () => ROW, overscan: 10 });
  const wide = Math.max(40, Math.min(66, Math.floor(722 / Math.max(1, columns.length))));
  const onStage = list?.cueNumber ?? null;
  const row = cues.findIndex((c) => c.id === list?.cueId);
  const pending = useMemo(() => columns.map((c) => c.fixtures.some((id) => [...values.values()].some((v) => !v.recorded && v.fixtureId === id))), [columns, values]);

  useEffect(() => {
    if (row >= 0) virtual.scrollToIndex(row, { align: 'auto' });
  }, [row, virtual]);

  /** Up and down go through the cues; the row that is reached is chosen. */
  const moveChoice = (e: React.KeyboardEvent, from: number): void => {
    const to = cues[from + (e.key === 'ArrowDown' ? 1 : e.key === 'ArrowUp' ? -1 : 0)];
    if (!to || (e.key !== 'ArrowDown' && e.key !== 'ArrowUp' && e.key !== 'Enter')) return;
    e.preventDefault();
    onChoose(to.id);
    virtual.scrollToIndex(cues.indexOf(to));
    requestAnimationFrame(() => scroll.current?.querySelector<HTMLElement>(`[data-sheet-cue="${formatCueNumber(to.number)}"]`)?.focus());
  };

  const describe = (cell: SheetCell | undefined): string => {
    if (!cell || cell.origin === undefined) return 'nothing is set here';
    return cell.text === undefined ? `tracks from cue ${formatCueNumber(cell.origin)}` : `set in this cue${cell.mixed ? ', levels differ' : ''}`;
  };

  return (
    <div className="flex h-full flex-col">
      <div className="flex h-11 flex-none items-center gap-1 px-4">
        {FAMILIES.map(([id, label]) => (
          <button key={id} type="button" aria-pressed={family === id} onClick={() => setFamily(id)} className={`h-7 rounded-md px-2.5 text-[12.5px] font-medium ${family === id ? 'bg-lift text-text' : 'text-muted hover:text-soft'}`}>
            {label}
          </button>
        ))}
        <span data-testid="sheet-says" className="ml-auto truncate pl-4 text-[12px] text-muted">
          {hover ? `${columns[hover.column]?.label} in cue ${formatCueNumber(cues[hover.row]?.number ?? 0)}: ${describe(sheet[hover.row]?.[hover.column])}` : 'a pill is set, a line tracks from it'}
        </span>
      </div>
      <div ref={scroll} className="min-h-0 flex-1 overflow-auto" role="table" aria-label={`Cue sheet, ${family}`} aria-rowcount={cues.length}>
        <div style={{ minWidth: LEFT + columns.length * wide + 16 }}>
          <div role="row" className="sticky top-0 z-20 flex h-11 items-end border-b border-line bg-ink pb-1.5 text-[12px] text-muted">
            <div className="sticky left-0 z-10 grid h-full grid-cols-[52px_1fr_62px_82px] items-end bg-ink pl-4" style={{ width: LEFT }}>
              <span>Cue</span>
              <span>Name</span>
              <span className="pr-2 text-right">Up/down</span>
              <span>Called on</span>
            </div>
            {columns.map((c, i) => (
              <span key={c.id} role="columnheader" title={`${c.label}: ${c.title}`} style={{ width: wide }} className={`relative overflow-hidden hyphens-auto text-center text-[11px] leading-[13px] ${hover?.column === i ? 'text-text' : ''}`}>
                {c.label}
                {pending[i] && <i title="Not recorded" className="absolute right-1 top-0 size-1.5 rounded-full bg-unrecorded" />}
              </span>
            ))}
          </div>
          <div className="relative" style={{ height: virtual.getTotalSize() }}>
            {virtual.getVirtualItems().map((item) => {
              const cue = cues[item.index];
              const cells = sheet[item.index] ?? [];
              if (!cue) return null;
              const now = cue.id === list?.cueId;
              const next = cue.id === list?.nextId;
              const picked = cue.id === chosen;
              const past = onStage !== null && cue.number < onStage;
              return (
                <div key={cue.id} role="row" data-sheet-cue={formatCueNumber(cue.number)} tabIndex={0} aria-selected={picked} onClick={() => onChoose(cue.id)} onKeyDown={(e) => moveChoice(e, item.index)} className={`group absolute inset-x-0 flex items-center border-b border-[#16201c] ${picked ? 'bg-standby-wash shadow-[inset_0_1px_0_#86c8ff66,inset_0_-1px_0_#86c8ff66]' : 'hover:bg-panel'}`} style={{ height: ROW, transform: `translateY(${item.start}px)` }}>
                  <div className={`sticky left-0 z-10 grid h-full grid-cols-[52px_1fr_62px_82px] items-center pl-4 ${picked ? 'bg-standby-wash' : 'bg-ink group-hover:bg-panel'} ${past ? 'text-dim' : ''}`} style={{ width: LEFT }}>
                    <span className={`num w-fit rounded px-1.5 text-[12.5px] leading-[22px] ${now ? 'bg-lime font-semibold text-lime-ink' : next ? 'text-standby shadow-[inset_0_0_0_1px_var(--color-standby)]' : ''}`}>{formatCueNumber(cue.number)}</span>
                    <span className={`truncate ${now ? 'font-semibold' : ''}`} title={cue.name}>
                      {cue.name || 'Unnamed'}
                    </span>
                    <span className="num pr-2 text-right text-[12px] text-muted">{cueTimes(cue)}</span>
                    <span className="truncate pr-2 font-book text-[12px] text-muted">{cue.call ? `“${cue.call}”` : ''}</span>
                  </div>
                  {cells.map((cell, i) => (
                    <Cell key={columns[i]?.id ?? i} cell={cell} width={wide} lit={hover?.column === i} onEnter={() => setHover({ row: item.index, column: i })} onLeave={() => setHover(null)} />
                  ))}
                </div>
              );
            })}
          </div>
        </div>
      </div>
    </div>
  );
}

function Cell({ cell, width, lit, onEnter, onLeave }: { cell: SheetCell; width: number; lit: boolean; onEnter: () => void; onLeave: () => void }) {
  const tie = lit ? 'bg-text' : 'bg-[#64806f]';
  const zero = cell.text === '0' || cell.text === 'off';
  return (
    <span role="cell" className="relative grid h-full flex-none place-items-center" style={{ width }} onMouseEnter={onEnter} onMouseLeave={onLeave}>
      {cell.fromAbove && <i className={`absolute left-1/2 top-0 w-px ${cell.text === undefined && cell.below ? 'h-full' : 'h-1/2'} ${tie}`} />}
      {cell.text !== undefined && cell.below && <i className={`absolute left-1/2 top-1/2 h-1/2 w-px ${tie}`} />}
      {cell.text === undefined && cell.fromAbove && !cell.below && <i className={`absolute left-1/2 top-1/2 h-px w-2 -translate-x-1/2 ${tie}`} />}
      {cell.text !== undefined && (
        <span
          className={`num relative grid h-[21px] min-w-[34px] place-items-center rounded-full px-1 text-[11px] ${zero ? 'bg-ink text-muted shadow-[inset_0_0_0_1px_#3a4b44]' : ''} ${cell.mixed ? 'italic' : ''}`}
          style={zero ? undefined : cell.swatch ? { background: cell.swatch, boxShadow: 'inset 0 0 0 1px #0006' } : { background: `color-mix(in srgb, #24332d, #54776a ${Math.round(cell.strength * 100)}%)` }}
        >
          {cell.text}
        </span>
      )}
    </span>
  );
}
