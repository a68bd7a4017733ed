/** @jest-environment jsdom */
/** Tables: what is sorted how, blocks of cells, and columns that stay as a person left them. */
import { act, fireEvent, render, renderHook, screen } from '@testing-library/react';
import type { ColumnDef } from '@tanstack/react-table';
import { layouts, usePreferences } from '../../state/preferences';
import { SmallTable } from './SmallTable';
import { blockOf, inBlock, useBlock } from './use-block';
import { byKey, useTable } from './use-table';

interface Unit {
  id: string;
  name: string;
  watts: number;
}
const UNITS: Unit[] = [
  { id: 'a', name: 'Bar 10', watts: 90 },
  { id: 'b', name: 'Bar 2', watts: 750 },
  { id: 'c', name: 'Bar 1', watts: 90 },
];
const COLUMNS: ColumnDef<Unit>[] = [
  { id: 'name', size: 80, meta: { title: 'Name' }, accessorFn: (u) => u.name },
  { id: 'watts', size: 60, meta: { title: 'Watts', right: true }, accessorFn: (u) => u.watts },
];

function Units() {
  const table = useTable({
    name: 'units',
    rows: UNITS,
    columns: COLUMNS,
    rowId: (u) => u.id,
    sorted: 'name',
  });
  return <SmallTable table={table} label="Units" />;
}
const names = (): (string | null)[] =>
  screen.getAllByRole('row').flatMap((r) => r.querySelector('td')?.textContent ?? []);

beforeEach(() => {
  globalThis.fetch = jest.fn(() => Promise.resolve(new Response('{}')));
  usePreferences.setState({ layouts: {}, known: true, loaded: true });
});

test('numbers are sorted by their size, words as one counts', () => {
  expect(['Bar 10', 'Bar 2', 'Bar 1'].sort(byKey)).toEqual(['Bar 1', 'Bar 2', 'Bar 10']);
  expect([90, 750, 8].sort(byKey)).toEqual([8, 90, 750]);
  expect([Infinity, 1].sort(byKey)).toEqual([1, Infinity]);
});

test('a head sorts, a second press turns it round, and it says so', () => {
  render(<Units />);
  expect(names()).toEqual(['Bar 1', 'Bar 2', 'Bar 10']);
  fireEvent.click(screen.getByRole('button', { name: /Watts/ }));
  expect(names()).toEqual(['Bar 10', 'Bar 1', 'Bar 2']);
  expect(screen.getByRole('columnheader', { name: /Watts/ }).getAttribute('aria-sort')).toBe(
    'ascending',
  );
  fireEvent.click(screen.getByRole('button', { name: /Watts/ }));
  expect(names()[0]).toBe('Bar 2');
  expect(screen.getByRole('columnheader', { name: /Watts/ }).getAttribute('aria-sort')).toBe(
    'descending',
  );
});

test('how a person left the columns is found again, and what is no such thing is not', () => {
  const first = render(<Units />);
  fireEvent.click(screen.getByRole('button', { name: /Watts/ }));
  first.unmount();
  expect(layouts.getItem('table-units')).toContain('watts');
  const second = render(<Units />);
  expect(names()).toEqual(['Bar 10', 'Bar 1', 'Bar 2']);
  second.unmount();
  usePreferences.setState({ layouts: { 'table-units': '{"sorting":"yes"}' } });
  render(<Units />);
  expect(names()).toEqual(['Bar 1', 'Bar 2', 'Bar 10']);
});

test('a block has both of its ends, whichever way it was drawn', () => {
  const block = blockOf({ row: 4, column: 2 }, { row: 1, column: 3 });
  expect(block).toEqual({ top: 1, bottom: 4, left: 2, right: 3 });
  expect(inBlock(block, { row: 1, column: 2 })).toBe(true);
  expect(inBlock(block, { row: 4, column: 3 })).toBe(true);
  expect(inBlock(block, { row: 5, column: 2 })).toBe(false);
  expect(inBlock(block, { row: 1, column: 1 })).toBe(false);
  expect(inBlock(null, { row: 1, column: 1 })).toBe(false);
});

test('keys go from cell to cell, grow the block with Shift, and stay inside', () => {
  const went: unknown[] = [];
  const { result } = renderHook(() =>
    useBlock(5, 3, (to, block, grew) => went.push([to, block, grew])),
  );
  const press = (key: string, more: Partial<React.KeyboardEvent> = {}): boolean => {
    let was = false;
    act(() => {
      was = result.current.byKey({ key, ...more } as React.KeyboardEvent);
    });
    return was;
  };
  expect(press('ArrowUp')).toBe(true);
  expect(result.current.active).toEqual({ row: 0, column: 0 });
  press('End');
  expect(result.current.active).toEqual({ row: 4, column: 0 });
  press('ArrowUp', { shiftKey: true });
  expect(result.current.block).toEqual({ top: 3, bottom: 4, left: 0, right: 0 });
  expect(went.at(-1)).toEqual([
    { row: 3, column: 0 },
    { top: 3, bottom: 4, left: 0, right: 0 },
    true,
  ]);
  expect(press('ArrowDown', { ctrlKey: true })).toBe(false);
  expect(press('x')).toBe(false);
});
