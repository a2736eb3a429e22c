// What is done on the Desk with the choice by single keys: rating, marks, and gathering in the pinned dossier.

import { toast } from 'sonner';
import { photoRoutes, type Photo } from '@stellin/contract/photos';
import { call } from '../foundation/api';
import { showError, useChange } from '../foundation/changes';
import { useKeys, usePlainKeys } from '../foundation/useKeys';
import { useDossiers } from '../dossiers/queries';
import { useMarks } from '../marks/queries';
import { selectionOf, type Chosen } from '../photos/chosen';

/** Takes the keys that change what is chosen of a query’s photos, asking for the photo in focus: undefined where there is none. */
export function useChoiceKeys(
  query: string,
  chosen: Chosen,
  mayChange: boolean,
  photoInFocus: () => Promise<Photo | undefined>,
): void {
  const change = useChange();
  const { data: marks = [] } = useMarks();
  const { data: dossiers = [] } = useDossiers();
  const pinned = dossiers.find((dossier) => dossier.pinned);
  const selection = mayChange ? selectionOf(chosen, query) : null;

  const rate = (rating: number) => () => {
    if (selection) change.mutate({ kind: 'setRating', selection, rating });
  };
  /** Into the pinned dossier; again, where the photo in focus is in it, out of it. */
  const gather = async () => {
    if (!selection) return;
    if (!pinned) {
      toast('Pin a dossier first, by its menu among the sources.');
      return;
    }
    const focused = await photoInFocus();
    const isIn = focused !== undefined && (await isInDossier(focused.id, pinned.id));
    change.mutate({ kind: isIn ? 'takeFromDossier' : 'putInDossier', dossierId: pinned.id, selection });
  };
  usePlainKeys(
    marks.map(({ letter }) => letter),
    (letter) => {
      const mark = marks.find((candidate) => candidate.letter === letter);
      if (!selection || !mark) return;
      // Again takes it off, where the photo in focus has it.
      void photoInFocus().then((focused) =>
        change.mutate({ kind: 'setMark', selection, mark: focused?.mark === mark.name ? '' : mark.name }),
      );
    },
  );
  useKeys({
    gather: () => void gather().catch(showError),
    rate0: rate(0),
    rate1: rate(1),
    rate2: rate(2),
    rate3: rate(3),
    rate4: rate(4),
    rate5: rate(5),
    reject: rate(-1),
  });
}

async function isInDossier(photoId: number, dossierId: number): Promise<boolean> {
  const { dossiers } = await call(photoRoutes.showPhoto, { params: { id: photoId } });
  return dossiers.some(({ id }) => id === dossierId);
}
