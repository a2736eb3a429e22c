// What lies over the map: tracks, old maps and street maps; which of them are shown, and the one that is being pinned.

import { useMemo, useState } from 'react';
import type { Point } from '@stellin/core/timeplace/areas';
import type { LaidMap } from './map/oldMapLayer';
import type { Streets } from './map/streetLayers';
import { OldMaps, type Strengths } from './OldMaps';
import type { Pinning } from './PinPanel';
import { useOldMaps, useStreetMaps, useTrackLines } from './queries';
import { StreetMaps } from './StreetMaps';
import { TracksPanel } from './TracksPanel';

/** While it is pinned, one sees through an old map. */
const PINNED_OPACITY = 0.6;
const NO_LINES: Point[][] = [];

export function useOverlays() {
  const [tracks, setTracks] = useState<ReadonlySet<number>>(new Set());
  const [strengths, setStrengths] = useState<Strengths>(new Map());
  const [pinning, setPinning] = useState<Pinning | null>(null);
  const [hidden, setHidden] = useState<ReadonlySet<string>>(new Set());
  const lines = useTrackLines([...tracks]);
  const laid = useLaid(strengths, pinning);
  const streets = useStreets(hidden);
  return {
    ...{ tracks, setTracks, strengths, setStrengths, pinning, setPinning, hidden, setHidden },
    /** As the map draws them. */
    drawn: { lines: lines.data ?? NO_LINES, laid, streets },
  };
}

/** Where they are added and chosen. */
export function Overlays({ overlays, onMatch }: { overlays: ReturnType<typeof useOverlays>; onMatch: () => void }) {
  const { tracks, setTracks, strengths, setStrengths, setPinning, hidden, setHidden } = overlays;
  return (
    <>
      <TracksPanel chosen={tracks} onChosen={setTracks} onMatch={onMatch} />
      <OldMaps
        strengths={strengths}
        onStrengths={setStrengths}
        onPin={(old) => setPinning({ map: old, pins: old.pins, spot: null })}
      />
      <StreetMaps hidden={hidden} onHidden={setHidden} />
    </>
  );
}

/** The old maps that are shown, the one that is being pinned as its pins are now. */
function useLaid(strengths: Strengths, pinning: Pinning | null): LaidMap[] {
  const { data: maps } = useOldMaps();
  return useMemo(() => {
    const shown = (maps ?? []).filter(({ id }) => strengths.has(id) && id !== pinning?.map.id);
    return [
      ...shown.map(({ id, pins }) => ({ id, pins, opacity: (strengths.get(id) ?? 0) / 100 })),
      ...(pinning ? [{ id: pinning.map.id, pins: pinning.pins, opacity: PINNED_OPACITY }] : []),
    ];
  }, [maps, strengths, pinning]);
}

/** The street maps that are shown. */
function useStreets(hidden: ReadonlySet<string>): Streets[] {
  const { data } = useStreetMaps();
  return useMemo(
    () =>
      (data ?? []).flatMap(({ name, version, shown }) =>
        shown && !hidden.has(name) ? [{ name, version, ...shown }] : [],
      ),
    [data, hidden],
  );
}
