import { useState, type FormEvent } from 'react';
import { countText } from '@stellin/contract/wording';
import { useChange } from '../app/changes';
import { Button } from '../parts/Button';
import { Dialog } from '../parts/Dialog';
import { useCount, useSearches, type Result } from './queries';

/** Asks for a name and keeps the query as a saved search; the name of one that is there already replaces its query. */
export function SaveSearch({ query, sort, onClose }: Result & { onClose: () => void }) {
  const [name, setName] = useState('');
  const change = useChange();
  const { data: count } = useCount(query);
  const { data: searches } = useSearches();
  const known = searches?.find((search) => search.name === name.trim());
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const input = known
      ? ({ kind: 'changeSearch', searchId: known.id, query, sort } as const)
      : ({ kind: 'saveSearch', name, query, sort } as const);
    change.mutate(input, { onSuccess: onClose });
  };
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title="Save this search">
      <form onSubmit={submit}>
        <p className="mb-3 text-ink-2">
          It always shows what matches now: {countText(count?.count ?? 0, 'photo')} at this moment.
        </p>
        <p className="mb-3 rounded border border-line bg-sheet px-2.5 py-1.5 font-mono text-[12px] break-words">
          {query || 'all photos'}
        </p>
        <label className="block">
          Name
          <input
            autoFocus
            required
            maxLength={200}
            value={name}
            onChange={(event) => setName(event.target.value)}
            className="mt-1 block h-8 w-full rounded border border-line bg-card px-2.5"
          />
        </label>
        {known && (
          <p className="mt-3 rounded bg-amber-pale px-3 py-2 text-amber">
            There is one of this name already: its query will be replaced.
          </p>
        )}
        <div className="mt-4 flex gap-2">
          <Button type="submit" look="primary" disabled={change.isPending || name.trim() === ''}>
            {known ? 'Replace the saved search' : 'Save search'}
          </Button>
          <Button onClick={onClose}>Not now</Button>
        </div>
      </form>
    </Dialog>
  );
}
