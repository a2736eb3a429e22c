// The pocket among the sources, and its key: photos put aside across searches, to be gathered or delivered later.

import { numberText } from '@stellin/contract/wording';
import type { Selection } from '@stellin/contract/photos';
import { shownKey } from '../foundation/keys';
import { useKeys } from '../foundation/useKeys';
import { Menu, MenuItem } from '../parts/Menu';
import { useChangePocket, useEmptyPocket, usePocket } from './queries';

interface Props {
  query: string;
  show: (change: { query: string }) => void;
  /** The chosen photos. */
  selection: Selection | null;
}

export function PocketRow({ query, show, selection }: Props) {
  const { data } = usePocket();
  const change = useChangePocket();
  const empty = useEmptyPocket();
  const ids = new Set(data?.ids);
  // Where all that is clicked is in it already, the key takes it out again.
  const isIn = selection?.query === null && selection.plus.every((id) => ids.has(id));
  const put = (way: 'in' | 'out') => selection && change.mutate({ selection, way });
  useKeys({ pocket: () => put(isIn ? 'out' : 'in') });
  const count = ids.size;
  const chosen = count > 0 && data?.query === query;
  return (
    <>
      <h2 className="px-3 pt-2 pb-1 text-[12px] font-semibold text-ink-2">Put aside</h2>
      <div
        className={`flex items-center border-l-3 ${chosen ? 'border-spruce bg-spruce-pale font-semibold' : 'border-transparent hover:bg-ground'}`}
      >
        <button
          type="button"
          aria-pressed={chosen}
          disabled={count === 0}
          className="flex min-w-0 flex-1 items-center gap-2 py-1 pr-3 pl-3 text-left disabled:text-ink-2"
          onClick={() => show({ query: chosen ? '' : (data?.query ?? '') })}
        >
          <span className="truncate">Your pocket</span>
          <span className="figures ml-auto pl-1 text-[12px] font-normal text-ink-2">
            {count > 0 ? numberText(count) : shownKey('pocket')}
          </span>
        </button>
        <Menu label="Your pocket" className="pr-2">
          <MenuItem label="Put the chosen photos in" disabled={!selection || isIn} onSelect={() => put('in')} />
          <MenuItem label="Take the chosen photos out" disabled={!selection} onSelect={() => put('out')} />
          <MenuItem label="Empty it" disabled={count === 0} onSelect={() => empty.mutate(undefined)} />
        </Menu>
      </div>
    </>
  );
}
