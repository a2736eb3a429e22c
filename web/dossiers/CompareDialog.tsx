// Two dossiers side by side: what is in both, and what only in one.

import { useState } from 'react';
import type { Dossier } from '@stellin/contract/dossiers';
import { numberText } from '@stellin/contract/wording';
import { Dialog } from '../parts/Dialog';
import { useCounts, useDossiers } from './queries';
import { Select } from '../parts/Select';

interface Props {
  first: Dossier;
  show: (change: { query: string }) => void;
  onClose: () => void;
}

export function CompareDialog({ first, show, onClose }: Props) {
  const { data: dossiers = [] } = useDossiers();
  const others = dossiers.filter(({ id }) => id !== first.id);
  const [otherId, setOtherId] = useState<number | undefined>(others[0]?.id);
  const other = others.find(({ id }) => id === otherId) ?? others[0];
  const rows = other
    ? [
        { label: 'In both', query: `${first.query} ${other.query}` },
        { label: `Only in ${first.name}`, query: `${first.query} not ${other.query}` },
        { label: `Only in ${other.name}`, query: `${other.query} not ${first.query}` },
      ]
    : [];
  const { data: counts } = useCounts(rows.map(({ query }) => query));
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title={`Compare “${first.name}”`}>
      {other ? (
        <>
          <label className="block">
            with
            <Select
              className="mt-1 w-full"
              value={other.id}
              onChange={(value) => setOtherId(Number(value))}
              options={others.map(({ id, path }) => ({ value: id, label: path.replaceAll('/', ' › ') }))}
            />
          </label>
          <ul className="mt-3 rounded border border-line">
            {rows.map(({ label, query }, i) => (
              <li key={label} className="border-b border-line last:border-0">
                <button
                  type="button"
                  className="flex w-full items-baseline justify-between gap-3 px-3 py-2 text-left hover:bg-sheet"
                  onClick={() => {
                    show({ query });
                    onClose();
                  }}
                >
                  <span className="truncate">{label}</span>
                  <b className="figures font-title">{counts?.[i] === undefined ? '…' : numberText(counts[i])}</b>
                </button>
              </li>
            ))}
          </ul>
        </>
      ) : (
        <p className="text-ink-2">There is no other dossier to compare with.</p>
      )}
    </Dialog>
  );
}
