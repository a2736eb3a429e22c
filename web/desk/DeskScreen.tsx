// The Desk: query line, sources, sheet, drawer.

import { useEffect, useRef, useState } from 'react';
import { useChange } from '../app/changes';
import { useKeys } from '../app/keys';
import { useMay } from '../app/session';
import { NOTHING, selectionOf } from './chosen';
import { Drawer } from './Drawer';
import { QueryLine, type QueryLineHandle } from './QueryLine';
import { useCount } from './queries';
import { useResult } from './result';
import { SaveSearch } from './SaveSearch';
import { useSelection } from './selection';
import { Sheet } from './Sheet';
import { Sources } from './Sources';

export function DeskScreen() {
  const { query, sort, show } = useResult();
  const count = useCount(query);
  const { chosen, setChosen, setTotal } = useSelection();
  const [saving, setSaving] = useState(false);
  const queryLine = useRef<QueryLineHandle>(null);
  const mayChange = useMay('cataloguer');
  const change = useChange();
  const total = count.data?.count ?? 0;

  useEffect(() => setChosen(NOTHING), [query, sort, setChosen]);
  useEffect(() => setTotal(total), [total, setTotal]);
  useEffect(() => () => setTotal(null), [setTotal]);

  const rate = (rating: number) => () => {
    const selection = selectionOf(chosen, query);
    if (selection && mayChange) change.mutate({ kind: 'setRating', selection, rating });
  };
  useKeys({
    query: () => queryLine.current?.focus(),
    saveSearch: () => mayChange && setSaving(true),
    rate0: rate(0),
    rate1: rate(1),
    rate2: rate(2),
    rate3: rate(3),
    rate4: rate(4),
    rate5: rate(5),
    reject: rate(-1),
  });

  return (
    <div className="flex h-full flex-col">
      <QueryLine
        ref={queryLine}
        query={query}
        sort={sort}
        show={show}
        found={count.data}
        onSave={mayChange ? () => setSaving(true) : undefined}
      />
      <div className="flex min-h-0 flex-1">
        <Sources query={query} show={show} />
        <Sheet result={{ query, sort }} total={total} isLoading={count.isPending} />
      </div>
      <Drawer result={{ query, sort }} />
      {saving && <SaveSearch query={query} sort={sort} onClose={() => setSaving(false)} />}
    </div>
  );
}
