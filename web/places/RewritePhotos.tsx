// Whether photos follow when a place is called something else.

import { criterion } from '@stellin/core/query/query';
import { queryText } from '@stellin/core/search/language';
import { PLACE_FIELDS } from '@stellin/core/timeplace/ownPlaces';
import type { OwnPlaceRow } from '@stellin/contract/places';
import { countText } from '@stellin/contract/wording';
import { Checkbox } from '../parts/Checkbox';
import { useCount } from '../photos/queries';

interface Props {
  place: OwnPlaceRow;
  checked: boolean;
  onChange: (checked: boolean) => void;
}

/** Whether photos follow: how many say the name. */
export function RewritePhotos({ place: { kind, name }, checked, onChange }: Props) {
  const { data } = useCount(queryText(criterion(PLACE_FIELDS[kind], name)));
  const photos = data?.count ?? 0;
  return (
    <Checkbox checked={checked} onChange={onChange} disabled={photos === 0}>
      {photos === 0
        ? `No photo says “${name}”`
        : `Rewrite it in photos too: ${countText(photos, 'photo')} ${photos === 1 ? 'says' : 'say'} “${name}”`}
    </Checkbox>
  );
}
