// What is in the trash and out of the catalogue, as sources.

import { numberText } from '@stellin/contract/wording';
import { useTrash } from './queries';

interface Props {
  query: string;
  show: (change: { query: string }) => void;
}

export function SetAside({ query, show }: Props) {
  const { data } = useTrash();
  const trashed = data?.drives.reduce((sum, { photos }) => sum + photos, 0) ?? 0;
  const rows = [
    { label: 'Trash', query: 'is:trashed', count: trashed },
    { label: 'Out of the catalogue', query: 'is:removed', count: data?.removed ?? 0 },
  ].filter((row) => row.count > 0 || row.query === query);
  if (rows.length === 0) return null;
  return (
    <>
      <h2 className="px-3 pt-2 pb-1 text-[12px] font-semibold text-ink-2">Set aside</h2>
      <ul>
        {rows.map((row) => {
          const chosen = row.query === query;
          return (
            <li
              key={row.query}
              className={`border-l-3 ${chosen ? 'border-spruce bg-spruce-pale font-semibold' : 'border-transparent hover:bg-ground'}`}
            >
              <button
                type="button"
                aria-pressed={chosen}
                className="flex w-full items-center gap-2 py-1 pr-3 pl-3 text-left"
                onClick={() => show({ query: chosen ? '' : row.query })}
              >
                <span className="truncate">{row.label}</span>
                <span className="figures ml-auto pl-1 text-[12px] font-normal text-ink-2">{numberText(row.count)}</span>
              </button>
            </li>
          );
        })}
      </ul>
    </>
  );
}
