// A change of an own place, of which all but something stays.

import type { ChangeInput } from '@stellin/contract/ledger';
import type { OwnPlaceForm, OwnPlaceRow } from '@stellin/contract/places';

export function placeChange(place: OwnPlaceRow, said: Partial<OwnPlaceForm>): ChangeInput {
  const { id, kind: placeKind, path: _, query: _query, ...others } = place;
  return { ...others, ...said, kind: 'saveOwnPlace', placeId: id, placeKind };
}
