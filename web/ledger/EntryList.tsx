// Entries of the ledger in a table.

import type { LedgerEntry } from '@stellin/contract/ledger';
import { numberText } from '@stellin/contract/wording';
import { DataTable, type Column } from '../parts/DataTable';
import { dateTimeText } from '../parts/dateTimeText';

const STATES: Record<LedgerEntry['state'], string> = { done: '', undone: 'taken back', undo: '', redo: '' };

/** Entries of the ledger as a table; each can be opened. */
export function EntryList({ entries, onOpen }: { entries: LedgerEntry[]; onOpen: (entry: LedgerEntry) => void }) {
  const columns: readonly Column<LedgerEntry>[] = [
    { id: 'when', title: 'When', cell: ({ at }) => dateTimeText(at), className: 'figures whitespace-nowrap' },
    { id: 'who', title: 'Who', cell: ({ by }) => by, className: 'whitespace-nowrap' },
    {
      id: 'what',
      title: 'What',
      className: ({ state }) => (state === 'undone' ? 'text-ink-3 line-through' : ''),
      cell: (entry) => (
        <button type="button" className="text-left hover:text-slate hover:underline" onClick={() => onOpen(entry)}>
          {entry.title}
        </button>
      ),
    },
    { id: 'photos', title: 'Photos', isNumber: true, cell: ({ photos }) => (photos ? numberText(photos) : '') },
    {
      id: 'state',
      title: '',
      className: 'text-[12px] whitespace-nowrap text-amber',
      cell: ({ state }) => STATES[state],
    },
  ];
  return (
    <DataTable
      label="Entries of the ledger"
      rows={entries}
      keyOf={({ id }) => id}
      columns={columns}
      rowClass={() => 'hover:bg-ground/50'}
    />
  );
}
