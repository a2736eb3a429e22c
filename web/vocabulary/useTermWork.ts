// What one works on among the terms: which columns are open, which terms are chosen, what is about to be done with them.

import { useEffect, useState } from 'react';
import type { TermName } from '@stellin/contract/termName';
import type { TermCard, TermRow } from '@stellin/contract/vocabulary';
import type { DropZone } from '../parts/dragging/dragging';
import { useTermPath } from '../parts/terms/queries';
import type { Action } from './ActionMenu';

export interface Doing {
  action: Action;
  target?: TermName | 'top';
}

/** Terms dropped before another: they are put in an order by hand. */
export interface Placed {
  termIds: number[];
  parentId: number | null;
  before: number;
}

interface Given {
  /** The term in focus, as the address says. */
  termId: number | null;
  card: TermCard | undefined;
  mayEdit: boolean;
  onTerm: (termId: number | null) => void;
}

export function useTermWork({ termId, card, mayEdit, onTerm }: Given) {
  const [open, setOpen] = useState<number[]>([]);
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const [doing, setDoing] = useState<Doing | null>(null);
  const [placed, setPlaced] = useState<Placed | null>(null);
  const [renaming, setRenaming] = useState<number | null>(null);
  const [adding, setAdding] = useState<{ parent: number | null; after?: number } | null>(null);
  const pathOf = useTermPath();

  const focus = (id: number | null) => {
    setDoing(null);
    setPlaced(null);
    setChosen(new Set(id === null ? [] : [id]));
    onTerm(id);
  };
  // Of a term that is gone the card says so; its columns stay as they are.
  const openColumns = (id: number) => void pathOf(id).then(setOpen, () => undefined);
  const reveal = (id: number) => {
    focus(id);
    openColumns(id);
  };
  // A term that the address names is opened in its columns.
  useEffect(() => {
    if (termId !== null && open.at(-1) !== termId) reveal(termId);
    // Only when one comes here: from then on the columns lead.
    // oxlint-disable-next-line react/exhaustive-deps
  }, []);
  const openPath = (path: number[]) => {
    setOpen(path);
    setAdding(null);
    focus(path.at(-1) ?? null);
  };
  const chosenIds = chosen.size > 0 ? [...chosen] : termId === null ? [] : [termId];
  const act = (action: Action, target?: Doing['target']) => {
    if (!mayEdit || termId === null || !card || card.id !== termId) return;
    setPlaced(null);
    if (action === 'rename') setRenaming(termId);
    else if (action === 'addBelow') {
      setOpen([...card.path.map(({ id }) => id), termId]);
      setAdding({ parent: termId });
    } else if (action === 'addBeside') setAdding({ parent: card.parentId, after: termId });
    else setDoing({ action, ...(target ? { target } : {}) });
  };
  const onChoose = (
    row: TermRow,
    { extend, toggle }: { extend: boolean; toggle: boolean },
    siblings: readonly TermRow[],
  ) => {
    setDoing(null);
    setPlaced(null);
    if (toggle) {
      const next = new Set(chosen);
      if (!next.delete(row.id)) next.add(row.id);
      setChosen(next);
    } else if (extend) {
      const ids = siblings.map(({ id }) => id);
      const [from, to] = [ids.indexOf(termId ?? row.id), ids.indexOf(row.id)].sort((a, b) => a - b);
      setChosen(new Set(ids.slice(Math.max(0, from ?? 0), (to ?? 0) + 1)));
    } else {
      setChosen(new Set([row.id]));
      onTerm(row.id);
    }
  };
  const onDrop = (termIds: number[], row: TermRow, zone: DropZone) => {
    const ids = termIds.filter((id) => id !== row.id);
    const [first] = ids;
    if (first === undefined) return;
    setChosen(new Set(ids));
    onTerm(first);
    if (zone === 'before') {
      setDoing(null);
      setPlaced({ termIds: ids, parentId: row.parentId, before: row.id });
    } else {
      setPlaced(null);
      setDoing({ action: 'move', target: { id: row.id, label: row.label, path: [] } });
    }
  };
  const done = (id: number | null) => {
    setDoing(null);
    setPlaced(null);
    if (id === null) {
      setOpen([]);
      focus(null);
    } else reveal(id);
  };
  const giveUp = () => {
    setDoing(null);
    setPlaced(null);
  };
  return {
    open,
    openPath,
    chosen,
    chosenIds,
    onChoose,
    onDrop,
    doing,
    placed,
    act,
    giveUp,
    done,
    reveal,
    renaming,
    setRenaming,
    adding,
    setAdding,
    mergeShown: () => setDoing({ action: 'merge' }),
  };
}
