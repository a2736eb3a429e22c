// The one photo that a search finds.

import { countText } from '@stellin/contract/wording';
import type { Photo } from '@stellin/contract/photos';
import { useBlock } from '../photos/queries';
import { USUAL_SORT } from '../photos/result';

/** The photo, where the search finds just one. */
export function useOnePhoto(query: string, found: number): Photo | null {
  const { data } = useBlock({ query, sort: USUAL_SORT }, 0);
  return query !== '' && found === 1 ? (data?.[0] ?? null) : null;
}

/** What is to be said of a search that is to find just one photo. */
export function onePhoto(query: string, found: number, photo: Photo | null): string {
  if (query === '') return 'Its file name, for instance.';
  if (photo) return `Found: ${photo.name}`;
  return found === 1 ? 'One photo …' : `It finds ${countText(found, 'photo')}.`;
}
