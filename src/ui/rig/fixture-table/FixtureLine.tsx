/** A fixture's row in the table, and the cell that is written in. */
'use client';
import type { FixtureRow } from '@/core/fixtures/rows';
import { CellEditor } from '../../parts/CellEditor';
import { inBlock } from '../../parts/table/use-block';
import { toggleSelected } from '../../state/commands';
import { useShow } from '../../state/store';
import { cellText, flagsOf, type Column } from '../grid';
import { unitToken } from '../map-draw';
import type { FixtureGrid } from './use-grid';

/** Longer words are told whole under the pointer. */
const SHORT = 12;

function Flags({ list }: { list: readonly string[] }) {
  return (
    <span className="flex gap-1 overflow-hidden">
      {list.map((flag) => (
        <span
          key={flag}
          className={`rounded px-1.5 text-[11.5px] leading-[18px] whitespace-nowrap ${flag === 'off the rig' ? 'text-warning' : 'bg-raised text-soft'}`}
        >
          {flag}
        </span>
      ))}
    </span>
  );
}

function Words({ fixture, column, text }: { fixture: FixtureRow; column: Column; text: string }) {
  const show = useShow();
  if (column.key === 'flags') return <Flags list={flagsOf(show, fixture)} />;
  const type = show.types.get(fixture.typeId);
  return (
    <>
      {column.key === 'type' && type && (
        <i
          className="mr-1.5 size-2 flex-none rounded-[2px] inset-ring inset-ring-edge"
          style={{ background: `var(--color-${unitToken(type.shape)})` }}
        />
      )}
      <span className="truncate">{text || '—'}</span>
    </>
  );
}

function Cell({
  fixture,
  column,
  at,
  row,
  selected,
  grid,
}: {
  fixture: FixtureRow;
  column: Column;
  /** The column's place. */ at: number;
  row: number;
  selected: boolean;
  grid: FixtureGrid;
}) {
  const show = useShow();
  const text = cellText(show, fixture, column.key);
  const { editing, active, block } = grid;
  const figures = column.mono ? 'num text-[12.5px]' : '';
  if (editing?.id === fixture.id && editing.column === at)
    return (
      <CellEditor
        label={column.title}
        text={text}
        first={editing.first}
        onKeep={(typed) => grid.keepEntry(editing, typed)}
        onLeave={grid.leaveEntry}
        className={`-mx-1 h-7 min-w-0 rounded bg-ink px-1 text-text shadow-[inset_0_0_0_1.5px_var(--color-standby)] outline-none ${figures}`}
      />
    );
  const here = active?.row === row && active.column === at;
  const several = block !== null && block.bottom > block.top;
  const inside = several && inBlock(block, { row, column: at }) ? 'bg-standby/10' : '';
  const marked = here ? 'shadow-[inset_0_0_0_1.5px_var(--color-standby)]' : inside;
  const ink = column.key === 'number' && selected ? 'text-standby' : '';
  return (
    <span
      role="gridcell"
      data-column={column.key}
      title={column.key === 'flags' || text.length > SHORT ? text : undefined}
      onMouseDown={(e) => {
        if (e.button !== 0) return;
        if (e.ctrlKey || e.metaKey) toggleSelected(fixture.id);
        else grid.goTo({ row, column: at }, e.shiftKey);
      }}
      onDoubleClick={() => grid.begin(null, { row, column: at })}
      className={`-mx-1 flex h-7 min-w-0 items-center rounded px-1 ${figures} ${column.right ? 'justify-end' : ''} ${marked} ${column.editable ? '' : 'text-muted'} ${ink}`}
    >
      <Words fixture={fixture} column={column} text={text} />
    </span>
  );
}

/** A unit’s row. */
export function FixtureLine({
  fixture,
  columns,
  row,
  top,
  height,
  template,
  selected,
  grid,
}: {
  fixture: FixtureRow;
  columns: readonly Column[];
  row: number;
  /** In pixels, under the heads. */ top: number;
  height: number;
  template: string;
  selected: boolean;
  grid: FixtureGrid;
}) {
  const ground = selected
    ? 'bg-standby-wash shadow-[inset_2px_0_0_var(--color-standby)]'
    : 'hover:bg-panel';
  return (
    <div
      role="row"
      onContextMenu={() => !selected && grid.goTo({ row, column: grid.active?.column ?? 0 }, false)}
      aria-selected={selected}
      aria-rowindex={row + 1}
      data-fixture={fixture.number}
      data-of={`fixtures/${fixture.id}`}
      className={`absolute inset-x-0 grid cursor-default items-center gap-x-1 border-b border-raised px-3 ${ground} ${fixture.patch.length === 0 ? 'text-dim' : ''}`}
      style={{ height, transform: `translateY(${top}px)`, gridTemplateColumns: template }}
    >
      {columns.map((column, at) => (
        <Cell
          key={column.key}
          fixture={fixture}
          column={column}
          at={at}
          row={row}
          selected={selected}
          grid={grid}
        />
      ))}
    </div>
  );
}
