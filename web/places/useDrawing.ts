// What is drawn on the map: a line around photos, which narrows the result, or the outline of an own place.

import { useState } from 'react';
import { parseQuery, queryText } from '@stellin/core/search/language';
import type { Point } from '@stellin/core/timeplace/areas';
import { withinPolygon } from '@stellin/core/timeplace/areaQuery';
import type { OwnPlaceRow } from '@stellin/contract/places';
import { useChange } from '../foundation/changes';
import { placeChange } from './placeChange';

type Drawing = { what: 'photos' } | { what: 'outline'; place: OwnPlaceRow };

export function useDrawing(query: string, look: (query: string) => void) {
  const [drawing, setDrawing] = useState<Drawing | null>(null);
  const change = useChange();
  const drawn = (corners: Point[]) => {
    setDrawing(null);
    if (!drawing || corners.length < 3) return;
    if (drawing.what === 'photos') {
      look(queryText(withinPolygon(parseQuery(query).query, corners)));
      return;
    }
    change.mutate(placeChange(drawing.place, { corners }));
  };
  return {
    drawing,
    around: () => setDrawing({ what: 'photos' }),
    outlineOf: (place: OwnPlaceRow) => setDrawing({ what: 'outline', place }),
    stop: () => setDrawing(null),
    onDrawn: drawing ? drawn : null,
  };
}
