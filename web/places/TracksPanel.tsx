// The tracks that are kept: added from files, shown on the map, and photos matched with them.

import { Plus, X } from 'lucide-react';
import { useState } from 'react';
import type { TrackRow } from '@stellin/contract/tracks';
import { countText } from '@stellin/contract/wording';
import { showError } from '../foundation/changes';
import { useMayCall } from '../foundation/session';
import { Button } from '../parts/Button';
import { Checkbox } from '../parts/Checkbox';
import { dateTimeText } from '../parts/dateTimeText';
import { Failed } from '../parts/Queried';
import { useFilePicker } from '../parts/useFilePicker';
import { trackRoutes } from '@stellin/contract/tracks';
import { useAddTrack, useRemoveTrack, useTracks } from './queries';

interface Props {
  /** The tracks that are shown on the map, and that photos are matched with. */
  chosen: ReadonlySet<number>;
  onChosen: (ids: ReadonlySet<number>) => void;
  onMatch: () => void;
}

const ACCEPTED = '.gpx,.kml,.geojson,.json,.nmea,.nma,.log,.txt';

export function TracksPanel({ chosen, onChosen, onMatch }: Props) {
  const tracks = useTracks();
  const mayAdd = useMayCall(trackRoutes.addTrack);
  const add = useAddTrack();
  const [reading, setReading] = useState(false);
  const take = async (files: readonly File[]) => {
    setReading(true);
    const added = new Set(chosen);
    // One after the other: each that can't be read is told, and the others are kept.
    for (const each of files)
      try {
        const { id } = await add.mutateAsync({ name: each.name, device: '', text: await each.text() });
        added.add(id);
      } catch (error) {
        showError(error);
      }
    setReading(false);
    onChosen(added);
  };
  const toggle = (id: number, isChosen: boolean) => {
    const next = new Set(chosen);
    if (isChosen) next.add(id);
    else next.delete(id);
    onChosen(next);
  };
  const [field, openFiles] = useFilePicker({
    label: 'Files of tracks',
    accept: ACCEPTED,
    multiple: true,
    onFiles: (files) => void take(files),
  });
  return (
    <section aria-labelledby="tracks">
      <div className="mb-1 flex items-center">
        <h2 id="tracks" className="text-[12px] font-semibold text-ink-2">
          Tracks
        </h2>
        {mayAdd && (
          <Button className="ml-auto" disabled={reading} onClick={openFiles}>
            <Plus size={14} /> Add …
          </Button>
        )}
        {field}
      </div>
      <Failed query={tracks} />
      {tracks.data?.length === 0 && (
        <p className="text-[12px] text-ink-2">GPX, KML, GeoJSON or NMEA: photos are placed by when they were taken.</p>
      )}
      <ul>
        {tracks.data?.map((track) => (
          <TrackLine
            key={track.id}
            track={track}
            chosen={chosen.has(track.id)}
            onToggle={(isChosen) => toggle(track.id, isChosen)}
            mayRemove={mayAdd}
          />
        ))}
      </ul>
      {mayAdd && chosen.size > 0 && (
        <Button className="mt-1 w-full" onClick={onMatch}>
          Match photos with {countText(chosen.size, 'track')} …
        </Button>
      )}
    </section>
  );
}

interface LineProps {
  track: TrackRow;
  chosen: boolean;
  onToggle: (chosen: boolean) => void;
  mayRemove: boolean;
}

function TrackLine({ track: { id, name, points, begins, device, addedBy }, chosen, onToggle, mayRemove }: LineProps) {
  const remove = useRemoveTrack();
  return (
    <li className="flex items-start gap-1 rounded px-1 hover:bg-ground">
      <Checkbox className="min-w-0 flex-1 py-0.5" checked={chosen} onChange={onToggle}>
        <span
          className="block min-w-0 truncate"
          title={[name, device, addedBy && `added by ${addedBy}`].filter(Boolean).join(' · ')}
        >
          {name}
        </span>
        <span className="figures block text-[11px] text-ink-2">
          {dateTimeText(begins)} · {countText(points, 'point')}
        </span>
      </Checkbox>
      {mayRemove && (
        <button
          type="button"
          aria-label={`Keep ${name} no longer`}
          className="mt-1 text-ink-3 hover:text-ink"
          onClick={() => remove.mutate(id)}
        >
          <X size={13} />
        </button>
      )}
    </li>
  );
}
