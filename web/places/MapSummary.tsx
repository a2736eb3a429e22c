// How many photos are in sight on the map, and the ways to look at just these.

import { Link } from 'react-router';
import type { MapView } from '@stellin/core/search/index/mapCells';
import { parseQuery, queryText } from '@stellin/core/search/language';
import type { GeoBox } from '@stellin/core/timeplace/areas';
import { withinBox } from '@stellin/core/timeplace/areaQuery';
import { countText } from '@stellin/contract/wording';
import { deskLink } from '../parts/deskLink';

interface Props {
  photos: number | undefined;
  total: number;
  view: MapView | null;
  query: string;
  onNarrow: (box: GeoBox) => void;
}

export function MapSummary({ photos, total, view, query, onNarrow }: Props) {
  return (
    <div className="absolute top-3 left-3 flex max-w-[calc(100%-76px)] flex-wrap items-center gap-x-3 rounded bg-card/90 px-2 py-0.5 text-[12px] text-ink-2">
      {photos !== undefined && (
        <span className="figures" role="status">
          <b className="text-ink">{countText(photos, 'photo')}</b> in sight of {countText(total, 'photo')}
        </span>
      )}
      {view && photos !== undefined && photos > 0 && (
        <>
          <button type="button" className="text-slate hover:underline" onClick={() => onNarrow(view)}>
            Only these
          </button>
          <Link
            to={deskLink(queryText(withinBox(parseQuery(query).query, view)))}
            className="text-slate hover:underline"
          >
            Show them on the Desk
          </Link>
        </>
      )}
    </div>
  );
}
