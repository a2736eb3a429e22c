// The side of the screen of places: finding one, what is to be done, the archive's own places, what lies over the map, and clocks.

import { Link, useLocation } from 'react-router';
import { PlaceFinder } from '../parts/PlaceFinder';
import { Failed } from '../parts/Queried';
import { ClocksPanel } from './ClocksPanel';
import { Overlays } from './Overlays';
import { OwnPlaces } from './OwnPlaces';
import type { PlacesWork } from './usePlacesWork';
import { WorkLists } from './WorkLists';

export function PlacesSide({ work }: { work: PlacesWork }) {
  const { search } = useLocation();
  const { query, look, doubts, doubting, setDoubting, own, places, shown, drawing, overlays, selection } = work;
  return (
    <aside className="flex w-72 shrink-0 flex-col gap-4 overflow-y-auto border-r border-line bg-card p-4">
      <div className="flex items-baseline gap-3">
        <h1 className="font-title text-[22px] font-semibold">Places</h1>
        <Link to={{ pathname: '/places/plans', search }} className="ml-auto text-slate hover:underline">
          Site plans
        </Link>
      </div>
      <PlaceFinder label="Find a place" onPick={work.showFound} />
      <WorkLists
        query={query}
        onShow={(next) => {
          setDoubting(null);
          look(next);
        }}
        doubts={doubts.data}
        doubting={doubting}
        onDoubt={setDoubting}
      />
      <Failed query={own} />
      <OwnPlaces
        places={places}
        shownId={shown?.id ?? null}
        onShow={work.showPlace}
        onTask={work.setTask}
        onDraw={drawing.outlineOf}
      />
      <Overlays overlays={overlays} onMatch={() => work.setAsking('match')} />
      <ClocksPanel selection={selection} />
    </aside>
  );
}
