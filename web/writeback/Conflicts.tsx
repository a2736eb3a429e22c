// Fields that the catalogue and another program have both changed: settled for all photos alike, field by field or at once.

import { useQuery } from '@tanstack/react-query';
import { FIELDS } from '@stellin/core/metadata/fields';
import { writeBackRoutes } from '@stellin/contract/writeback';
import { countText } from '@stellin/contract/wording';
import { call } from '../foundation/api';
import { useChange } from '../foundation/changes';
import { useMayChange } from '../foundation/session';
import { Button } from '../parts/Button';

export function Conflicts({ onShow }: { onShow: () => void }) {
  const { data } = useQuery({
    queryKey: ['writeBack', 'conflicts'],
    queryFn: () => call(writeBackRoutes.listConflicts, {}),
  });
  const mayChange = useMayChange('settleConflicts');
  const change = useChange();
  if (!data || data.fields.length === 0) return null;
  const settle = (keep: 'catalogue' | 'file', field?: string) =>
    change.mutate({ kind: 'settleConflicts', selection: { query: 'is:conflict' }, keep, ...(field ? { field } : {}) });
  const rows = [...data.fields.map(({ field, photos }) => ({ field: field as string | undefined, photos }))];
  return (
    <section aria-label="Conflicts" className="rounded-md border border-line bg-card p-3">
      <div className="flex items-baseline gap-3">
        <h2 className="font-title text-[16px] font-semibold text-red">In conflict</h2>
        <p className="text-ink-2">
          Another program has changed what was changed here as well. Nothing of these photos is written until it is
          settled which stands.
        </p>
        <button type="button" className="ml-auto text-slate hover:underline" onClick={onShow}>
          Look at each
        </button>
      </div>
      <ul className="mt-2 divide-y divide-line/60">
        {(rows.length > 1 ? [...rows, { field: undefined, photos: 0 }] : rows).map(({ field, photos }) => (
          <li key={field ?? ''} className="flex items-center gap-3 py-1">
            <span className="w-48 truncate font-semibold">
              {field === undefined ? 'All fields' : (FIELDS.find(({ id }) => id === field)?.label ?? field)}
            </span>
            <span className="figures w-28 text-ink-2">{field === undefined ? '' : countText(photos, 'photo')}</span>
            {mayChange && (
              <>
                <Button className="!h-7" disabled={change.isPending} onClick={() => settle('catalogue', field)}>
                  Keep the catalogue’s everywhere
                </Button>
                <Button className="!h-7" disabled={change.isPending} onClick={() => settle('file', field)}>
                  Take the files’ everywhere
                </Button>
              </>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
