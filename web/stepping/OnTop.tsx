// What a person keeps on top of the sources, each with its key.

import type { Result } from '../photos/queries';
import { shownKey } from '../foundation/keys';
import { Menu, MenuItem } from '../parts/Menu';
import { useSetPinned } from '../pinned/queries';
import { usePlacesOnTop } from './places';

interface Props {
  query: string;
  show: (change: Partial<Result>) => void;
}

export function OnTop({ query, show }: Props) {
  const places = usePlacesOnTop();
  const set = useSetPinned();
  if (places.length === 0) return null;
  const pinned = places.map(({ kind, id }) => ({ kind, id }));
  const moved = (from: number, to: number) => {
    const after = pinned.filter((_, i) => i !== from);
    const place = pinned[from];
    if (place) after.splice(to, 0, place);
    set.mutate(after);
  };
  return (
    <>
      <h2 className="px-3 pt-2 pb-1 text-[12px] font-semibold text-ink-2">On top</h2>
      <ul aria-label="On top">
        {places.map(({ kind, id, label, within, shows }, i) => {
          const chosen = shows.query === query;
          return (
            <li
              key={`${kind} ${id}`}
              className={`flex items-center border-l-3 ${chosen ? 'border-spruce bg-spruce-pale font-semibold' : 'border-transparent hover:bg-ground'}`}
            >
              <button
                type="button"
                aria-pressed={chosen}
                title={within}
                className="flex min-w-0 flex-1 items-center gap-2 py-1 pr-1 pl-3 text-left"
                onClick={() => show(shows)}
              >
                <span className="truncate">{label}</span>
                {i < 9 && (
                  <span className="ml-auto pl-1 text-[11px] font-normal whitespace-nowrap text-ink-3">
                    {shownKey('go')} {i + 1}
                  </span>
                )}
              </button>
              <Menu label={`Change ${label} on top`} className="pr-2">
                <MenuItem label="Move up" disabled={i === 0} onSelect={() => moved(i, i - 1)} />
                <MenuItem label="Move down" disabled={i === places.length - 1} onSelect={() => moved(i, i + 1)} />
                <MenuItem label="Take it off the top" onSelect={() => set.mutate(pinned.filter((_, at) => at !== i))} />
              </Menu>
            </li>
          );
        })}
      </ul>
    </>
  );
}
