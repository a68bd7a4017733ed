/** The head of the sheet: what every cue has, and a column for each group and fixture. */
'use client';
import type { Virtualizer } from '@tanstack/react-virtual';
import { ChevronsLeftRight, ChevronsRightLeft } from 'lucide-react';
import type { Column } from '@/core/cues/sheet';
import { useBook } from '../../state/book';
import { useShow } from '../../state/store';
import { HEAD } from '../draw-sheet';
import { LEFT } from './use-canvas';

function fold(groupId: string, open: boolean): void {
  useBook.setState((s) => {
    const unfolded = new Set(s.unfolded);
    if (open) unfolded.add(groupId);
    else unfolded.delete(groupId);
    return { unfolded, cells: null };
  });
}

/** Over the first member of an unfolded group. */
function GroupOver({ group, width }: { group: string; width: number }) {
  const show = useShow();
  return (
    <button
      type="button"
      title="Fold the group"
      onClick={() => fold(group, false)}
      className="absolute top-0 left-0 flex h-[18px] items-center justify-center gap-1 overflow-hidden border-b border-line text-[11px] hover:text-text"
      style={{ width }}
    >
      <ChevronsRightLeft size={10} className="flex-none" />
      <span className="truncate">{show.groups.get(group)?.name}</span>
    </button>
  );
}

function ColumnHead({
  column,
  left,
  wide,
  over,
  lit,
  pending,
}: {
  column: Column;
  left: number;
  wide: number;
  /** Its group's name goes over this many columns, from here. */ over: number;
  lit: boolean;
  pending: boolean;
}) {
  return (
    <div
      role="columnheader"
      title={`${column.label}: ${column.title}`}
      className={`absolute bottom-0 border-b border-line pb-1 text-center text-[11px] leading-[13px] ${lit ? 'text-text' : ''}`}
      style={{ left, width: wide, height: HEAD }}
    >
      {column.group !== undefined && over > 0 && (
        <GroupOver group={column.group} width={over * wide} />
      )}
      {column.folded ? (
        <button
          type="button"
          title={`${column.title}: unfold`}
          onClick={() => fold(column.id, true)}
          className="group/h absolute inset-x-0 bottom-1 max-h-[38px] overflow-hidden px-0.5 hyphens-auto hover:text-text"
        >
          {column.label}
          <ChevronsLeftRight size={9} className="mx-auto hidden group-hover/h:block" />
        </button>
      ) : (
        <span className="num absolute inset-x-0 bottom-1">{column.label}</span>
      )}
      {pending && (
        <i
          title="Not recorded"
          className="absolute top-1 right-1 size-1.5 rounded-full bg-unrecorded"
        />
      )}
    </div>
  );
}

/** Names over the columns in sight. */
export function SheetHead({
  columns,
  across,
  wide,
  template,
  hover,
  pending,
}: {
  columns: readonly Column[];
  across: Virtualizer<HTMLDivElement, Element>;
  /** Of a column, in pixels. */ wide: number;
  /** The grid of what every cue has. */ template: string;
  /** The column under the pointer. */ hover: number | undefined;
  pending: ReadonlyMap<number, string>;
}) {
  return (
    <div
      role="row"
      className="sticky top-0 z-20 bg-ink text-[12px] text-muted"
      style={{ height: HEAD, width: LEFT + columns.length * wide }}
    >
      <div
        className="sticky left-0 z-10 grid h-full items-end border-b border-line bg-ink pb-1.5 pl-3"
        style={{ width: LEFT, gridTemplateColumns: template }}
      >
        <span role="columnheader">Cue</span>
        <span role="columnheader">Name</span>
        <span role="columnheader" className="pr-2 text-right">
          Times
        </span>
        <span role="columnheader">Trigger</span>
      </div>
      {across.getVirtualItems().map(({ index }) => {
        const column = columns[index];
        if (!column) return null;
        const { group } = column;
        const first = group !== undefined && columns[index - 1]?.group !== group;
        return (
          <ColumnHead
            key={column.id}
            column={column}
            left={LEFT + index * wide}
            wide={wide}
            over={first ? columns.filter((c) => c.group === group).length : 0}
            lit={hover === index}
            pending={pending.has(index)}
          />
        );
      })}
    </div>
  );
}
