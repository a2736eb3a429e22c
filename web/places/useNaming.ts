// What becomes of names that no place knows.

import { nameEdits } from '@stellin/core/describing/placing';
import type { PlaceDoubts } from '@stellin/contract/places';
import { showError, useChange } from '../foundation/changes';
import { namesAt, type KnownPlace } from '../parts/PlaceFinder';
import { placeChange } from './placeChange';
import { useOwnPlaces } from './queries';

/** Makes them other names of an own place, or writes those of another place instead. */
export function useNaming({ query }: PlaceDoubts['unknownNames']['rows'][number]) {
  const change = useChange();
  const own = useOwnPlaces();
  return {
    alsoCalled(ownId: number, name: string): void {
      const place = own.data?.find(({ id }) => id === ownId);
      if (!place) return;
      change.mutate(placeChange(place, { otherNames: [...place.otherNames, { name, from: '', until: '' }] }));
    },
    rewrite(place: KnownPlace): void {
      void namesAt(place)
        .then((names) => {
          if (!names) return;
          const edits = nameEdits({ ...names, sublocation: '' }, { way: 'replace', shown: false });
          change.mutate({ kind: 'setFields', selection: { query, minus: [], plus: [] }, edits });
        })
        .catch(showError);
    },
  };
}
