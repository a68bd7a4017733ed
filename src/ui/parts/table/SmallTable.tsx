/** A table of a few dozen rows, all of them drawn: circuits, routes. Over the rows' own buttons one chooses its columns. */
'use client';
import { flexRender, type Row, type Table } from '@tanstack/react-table';
import { ColumnChoice, Head, sortOf } from './heads';

/** @param rowClass the look of a row besides its lines */
export function SmallTable<R>({
  table,
  label,
  rowClass,
}: {
  table: Table<R>;
  label: string;
  rowClass?: (row: R) => string;
}) {
  return (
    <table
      aria-label={label}
      className="w-full table-fixed text-left [&_td]:pr-1.5 [&_th]:pr-1.5"
      style={{ minWidth: table.getTotalSize() }}
    >
      <thead className="text-[12px] text-muted">
        {table.getHeaderGroups().map((group) => (
          <tr key={group.id} className="h-8 border-b border-line">
            {group.headers.map((header) => (
              <th
                key={header.id}
                aria-sort={sortOf(header)}
                className={`relative font-normal ${header.column.columnDef.meta?.right ? 'text-right' : ''}`}
                style={{ width: header.getSize() }}
              >
                {header.column.columnDef.meta?.silent ? (
                  <ColumnChoice table={table} />
                ) : (
                  <Head header={header} />
                )}
              </th>
            ))}
          </tr>
        ))}
      </thead>
      <tbody>
        {table.getRowModel().rows.map((row) => (
          <Line key={row.id} row={row} look={rowClass?.(row.original) ?? ''} />
        ))}
      </tbody>
    </table>
  );
}

function Line<R>({ row, look }: { row: Row<R>; look: string }) {
  return (
    <tr className={`h-9 border-b border-raised ${look}`}>
      {row.getVisibleCells().map((cell) => (
        <td
          key={cell.id}
          data-column={cell.column.id}
          className={cell.column.columnDef.meta?.right ? 'text-right' : 'truncate'}
        >
          {flexRender(cell.column.columnDef.cell, cell.getContext())}
        </td>
      ))}
    </tr>
  );
}
