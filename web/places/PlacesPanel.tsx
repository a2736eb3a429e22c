// What stands beside the map: a doubt, an old map that is being pinned, or a point where photos are to be placed.

import { DoubtsPanel } from './DoubtsPanel';
import { PinPanel } from './PinPanel';
import { Placing } from './Placing';
import type { PlacesWork } from './usePlacesWork';

export function PlacesPanel({ work }: { work: PlacesWork }) {
  const { query, look, doubts, doubting, pin, meant, mayPlace, overlays, chosen, total } = work;
  const { pinning, setPinning } = overlays;
  return (
    <>
      {doubting && doubts.data && (
        <DoubtsPanel
          kind={doubting}
          doubts={doubts.data}
          query={query}
          onShow={look}
          onTask={work.setTask}
          onClose={() => work.setDoubting(null)}
        />
      )}
      {pinning && <PinPanel key={pinning.map.id} pinning={pinning} onPinning={setPinning} />}
      {pin.point && mayPlace && !pinning && (
        <Placing
          key={`${pin.point.latitude} ${pin.point.longitude}`}
          pin={pin}
          selection={chosen}
          point={pin.point}
          photos={meant.kind === 'all' ? total : meant.ids.size}
          onPlaced={() => {
            pin.drop();
            work.chooseNone();
          }}
        />
      )}
    </>
  );
}
