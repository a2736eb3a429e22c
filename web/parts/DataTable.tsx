// A table of things: its columns are entries, and a column that says what to sort by can be sorted, by a click on its head or
// by keys. The head stays in sight while the rows scroll.

import {
  flexRender,
  getCoreRowModel,
  getSortedRowModel,
  useReactTable,
  type ColumnDef,
  type SortingState,
} from '@tanstack/react-table';
import { ArrowDown, ArrowUp } from 'lucide-react';
import { useState, type ReactNode } from 'react';

export interface Column<Row> {
  id: string;
  title: ReactNode;
  /** What stands in it; the row above is given for what is said but once. */
  cell: (row: Row, above: Row | undefined) => ReactNode;
  /** The column can be sorted by this; null comes last. */
  sortBy?: (row: Row) => string | number | null;
  /** Numbers, at the end of the column. */
  isNumber?: boolean;
  /** Its cells say what the row is about. */
  headsRow?: boolean;
  /** Classes for its width; without any in all columns they follow what stands in them. */
  width?: string;
  /** Classes of the cell, or of that of one row. */
  className?: string | ((row: Row) => string);
}

interface Props<Row> {
  label: string;
  rows: readonly Row[];
  keyOf: (row: Row) => string | number;
  columns: readonly Column<Row>[];
  /** Shown instead of the table while there is no row. */
  empty?: ReactNode;
  /** Smaller, for tables within others. */
  small?: boolean;
  rowClass?: (row: Row) => string;
}

export function DataTable<Row>({ label, rows, keyOf, columns, empty, small = false, rowClass }: Props<Row>) {
  const [sorting, setSorting] = useState<SortingState>([]);
  const table = useReactTable<Row>({
    data: rows as Row[],
    columns: columns.map(({ id, title, sortBy }): ColumnDef<Row> => ({
      id,
      header: () => title,
      enableSorting: sortBy !== undefined,
      accessorFn: (row) => sortBy?.(row) ?? undefined,
      sortUndefined: 'last',
    })),
    state: { sorting },
    onSortingChange: setSorting,
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
    getRowId: (row) => String(keyOf(row)),
  });
  if (rows.length === 0 && empty !== undefined) return <>{empty}</>;
  const shown = table.getRowModel().rows;
  const fixed = columns.some(({ width }) => width !== undefined);
  const padding = small ? 'px-2 py-1' : 'px-3 py-1.5';
  return (
    <table aria-label={label} className={`w-full ${fixed ? 'table-fixed' : ''} ${small ? 'text-[12px]' : ''}`}>
      <thead className="sticky top-0 z-10 bg-card text-left text-[12px] text-ink-2">
        {table.getHeaderGroups().map((group) => (
          <tr key={group.id} className="border-b border-line">
            {group.headers.map((header, i) => {
              const column = columns[i];
              const sorted = header.column.getIsSorted();
              const title = flexRender(header.column.columnDef.header, header.getContext());
              return (
                <th
                  key={header.id}
                  scope="col"
                  aria-sort={sorted === 'asc' ? 'ascending' : sorted === 'desc' ? 'descending' : undefined}
                  className={`${padding} font-semibold ${column?.isNumber ? 'text-right' : ''} ${column?.width ?? ''}`}
                >
                  {header.column.getCanSort() ? (
                    <button
                      type="button"
                      className="inline-flex items-center gap-1 whitespace-nowrap hover:text-ink"
                      onClick={header.column.getToggleSortingHandler()}
                    >
                      {title}
                      {sorted === 'asc' && <ArrowUp size={12} />}
                      {sorted === 'desc' && <ArrowDown size={12} />}
                    </button>
                  ) : (
                    title
                  )}
                </th>
              );
            })}
          </tr>
        ))}
      </thead>
      <tbody>
        {shown.map(({ id, original }, at) => (
          <tr key={id} className={`border-b border-line/60 last:border-b-0 ${rowClass?.(original) ?? ''}`}>
            {columns.map((column) => {
              const { id: key, className = '', isNumber, headsRow } = column;
              const look = typeof className === 'function' ? className(original) : className;
              const Cell = headsRow ? 'th' : 'td';
              return (
                <Cell
                  key={key}
                  {...(headsRow ? { scope: 'row' } : {})}
                  className={`${padding} ${headsRow ? 'text-left font-normal' : ''} ${isNumber ? 'figures text-right' : ''} ${look}`}
                >
                  {column.cell(original, shown[at - 1]?.original)}
                </Cell>
              );
            })}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
