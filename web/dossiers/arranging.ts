// Arranging the photos of a dossier by hand: by dragging them before another, or step by step with keys.

import { useQueryClient } from '@tanstack/react-query';
import { parseQuery } from '@stellin/core/search/language';
import { conjuncts } from '@stellin/core/query/query';
import type { Dossier } from '@stellin/contract/dossiers';
import type { Photo } from '@stellin/contract/photos';
import { useChange } from '../foundation/changes';
import { useKeys } from '../foundation/useKeys';
import { useMayChange } from '../foundation/session';
import { isChosen } from '../photos/chosen';
import { photosBetween, photosOfSelection, type Result } from '../photos/queries';
import { useSelection } from '../photos/selection';
import { useDossiers } from './queries';

const MAX_ARRANGED = 1000;

/** Puts photos before another one, where the result is a dossier in its own order; undefined elsewhere. */
export function useArranging(result: Result, total: number): ((grasped: number, before: Photo) => void) | undefined {
  const { data: dossiers = [] } = useDossiers();
  const mayChange = useMayChange('arrangeDossier');
  const client = useQueryClient();
  const change = useChange();
  const { chosen } = useSelection();
  const dossier = result.sort === 'hand' && mayChange ? dossierOf(result.query, dossiers) : undefined;

  const arrange = (photoIds: number[], before: number | null) => {
    if (dossier && photoIds.length > 0 && !(before !== null && photoIds.includes(before)))
      change.mutate({ kind: 'arrangeDossier', dossierId: dossier.id, photoIds, before });
  };
  const step = async (by: 1 | -1) => {
    const { focus, focusId } = chosen;
    if (!dossier || focus === null || focusId === null) return;
    const place = by < 0 ? focus - 1 : focus + 2;
    if (place < 0 || focus + by >= total) return;
    const [next] = place < total ? await photosBetween(client, result, place, place) : [];
    arrange([focusId], next?.id ?? null);
  };
  useKeys({ earlier: () => void step(-1), later: () => void step(1) });
  if (!dossier) return undefined;
  return (grasped, before) => {
    if (!isChosen(chosen, grasped) || chosen.plus.size < 2) {
      arrange([grasped], before.id);
      return;
    }
    // In the order in which they stand.
    const selection = { query: null, minus: [], plus: [...chosen.plus] };
    void photosOfSelection(selection, result.sort, MAX_ARRANGED).then((photos) =>
      arrange(
        photos.map(({ id }) => id),
        before.id,
      ),
    );
  };
}

/** The dossier that a query asks for, and nothing else. */
function dossierOf(query: string, dossiers: readonly Dossier[]): Dossier | undefined {
  const parts = conjuncts(parseQuery(query).query);
  const [only] = parts;
  if (parts.length !== 1 || only?.kind !== 'criterion' || only.criterion !== 'dossier') return undefined;
  return dossiers.find((dossier) => dossier.query === query);
}
