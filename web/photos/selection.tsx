// What is chosen on the Desk, shared with the drawer and the foot line.

import { createContext, use, useMemo, useState, type ReactNode } from 'react';
import { countText, numberText } from '@stellin/contract/wording';
import { countChosen, NOTHING, type Chosen } from './chosen';

interface SelectionState {
  chosen: Chosen;
  setChosen: (chosen: Chosen | ((before: Chosen) => Chosen)) => void;
  /** How many photos the Desk shows; null while no Desk is open. */
  total: number | null;
  setTotal: (total: number | null) => void;
}

const SelectionContext = createContext<SelectionState | null>(null);

export function SelectionProvider({ children }: { children: ReactNode }) {
  const [chosen, setChosen] = useState(NOTHING);
  const [total, setTotal] = useState<number | null>(null);
  const state = useMemo(() => ({ chosen, setChosen, total, setTotal }), [chosen, total]);
  return <SelectionContext value={state}>{children}</SelectionContext>;
}

export function useSelection(): SelectionState {
  const state = use(SelectionContext);
  if (!state) throw new Error('there is no SelectionProvider above');
  return state;
}

/** `4 of 1,284 chosen`, or nothing while no Desk is open. */
export function useChosenSummary(): ReactNode {
  const { chosen, total } = useSelection();
  if (total === null) return null;
  const count = countChosen(chosen, total);
  return (
    <span className="figures">
      <b className={count ? 'text-spruce' : ''}>{numberText(count)}</b> of {countText(total, 'photo')} chosen
    </span>
  );
}
