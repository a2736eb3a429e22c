// What happens to the result underneath: photos that others, or one’s own change, bring in or take out.

import { useEffect, useRef, useState } from 'react';
import { photoRoutes } from '@stellin/contract/photos';
import { countText } from '@stellin/contract/wording';
import { call } from '../foundation/api';
import { refocused } from '../photos/chosen';
import type { Result } from '../photos/queries';
import { useSelection } from '../photos/selection';

const SHOWN_MS = 12_000;

/** Says how the number of photos has changed since the query was asked; empty when it has not, or a while after. */
export function useResultChange({ query, sort }: Result, count: number | undefined): string {
  const before = useRef<{ result: string; count: number } | null>(null);
  const [said, setSaid] = useState('');
  const result = `${sort} ${query}`;
  useEffect(() => {
    if (count === undefined) return;
    const known = before.current;
    before.current = { result, count };
    const difference = known?.result === result ? count - known.count : 0;
    if (difference === 0) {
      if (known?.result !== result) setSaid('');
      return;
    }
    setSaid(difference > 0 ? `${countText(difference, 'photo')} more` : `${countText(-difference, 'photo')} fewer`);
  }, [result, count]);
  useEffect(() => {
    if (said === '') return;
    const timer = setTimeout(() => setSaid(''), SHOWN_MS);
    return () => clearTimeout(timer);
  }, [said]);
  return said;
}

/** Keeps the focus on its photo when the result is read anew (`updatedAt`) and the photo stands elsewhere in it. */
export function useSteadyFocus(result: Result, updatedAt: number): void {
  const { chosen, setChosen } = useSelection();
  const latest = useRef({ chosen, result });
  useEffect(() => {
    latest.current = { chosen, result };
  });
  useEffect(() => {
    const { focus, focusId } = latest.current.chosen;
    if (focus === null || focusId === null) return;
    const { query, sort } = latest.current.result;
    let stale = false;
    void call(photoRoutes.photoPosition, { params: { id: focusId }, query: { query, sort } })
      .then(({ position }) => {
        // Whoever has moved on meanwhile stays there.
        if (stale || position === null || position === focus) return;
        setChosen((now) => (now.focus === focus && now.focusId === focusId ? refocused(now, position) : now));
      })
      .catch(() => undefined);
    return () => {
      stale = true;
    };
  }, [updatedAt, setChosen]);
}
