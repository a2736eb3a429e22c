import { dateTimeText } from '../parts/dateTimeText';
import type { LedgerEntry } from '@stellin/contract/ledger';
import { numberText } from '@stellin/contract/wording';

const STATES: Record<LedgerEntry['state'], string> = { done: '', undone: 'taken back', undo: '', redo: '' };

/** Entries of the ledger as a table; each can be opened. */
export function EntryList({ entries, onOpen }: { entries: LedgerEntry[]; onOpen: (entry: LedgerEntry) => void }) {
  return (
    <table className="w-full">
      <thead className="text-left text-[12px] text-ink-2">
        <tr className="border-b border-line">
          <th className="py-1.5 pl-3 font-semibold">When</th>
          <th className="font-semibold">Who</th>
          <th className="font-semibold">What</th>
          <th className="pr-6 text-right font-semibold">Photos</th>
          <th className="w-28 font-semibold"></th>
        </tr>
      </thead>
      <tbody>
        {entries.map((entry) => (
          <tr key={entry.id} className="border-b border-line/60 hover:bg-ground/50">
            <td className="figures py-1.5 pr-4 pl-3 whitespace-nowrap">{dateTimeText(entry.at)}</td>
            <td className="pr-4 whitespace-nowrap">{entry.by}</td>
            <td className={`pr-4 ${entry.state === 'undone' ? 'text-ink-3 line-through' : ''}`}>
              <button
                type="button"
                className="text-left hover:text-slate hover:underline"
                onClick={() => onOpen(entry)}
              >
                {entry.title}
              </button>
            </td>
            <td className="figures pr-6 text-right">{entry.photos ? numberText(entry.photos) : ''}</td>
            <td className="text-[12px] text-amber">{STATES[entry.state]}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
