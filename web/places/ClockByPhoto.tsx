// What clocks were behind, by one photo: of a clock that was right, or of a spot that the tracks pass.

import { useState } from 'react';
import type { Point } from '@stellin/core/timeplace/areas';
import { trackRoutes, type FollowedRow } from '@stellin/contract/tracks';
import { useQuery } from '@tanstack/react-query';
import { call } from '../foundation/api';
import { Button } from '../parts/Button';
import { Field, TextField } from '../parts/Field';
import { PlaceFinder } from '../parts/PlaceFinder';
import { Failed } from '../parts/Queried';
import { Select } from '../parts/Select';
import { secondsBetween } from './clockText';
import { aheadText, distanceText, parsePoint } from './placeText';

type Timed = FollowedRow & { clock: string };

const WAYS = [
  { value: 'clock', label: 'shows a clock that said' },
  { value: 'spot', label: 'was taken at' },
] as const;

interface Props {
  photos: readonly FollowedRow[];
  trackIds: readonly number[];
  zoneMinutes: number;
  onAhead: (seconds: number) => void;
}

export function ClockByPhoto({ photos, trackIds, zoneMinutes, onAhead }: Props) {
  const timed = photos.filter((photo): photo is Timed => photo.clock !== null);
  const [photoId, setPhotoId] = useState<number>();
  const [way, setWay] = useState<'clock' | 'spot'>('clock');
  const [shown, setShown] = useState('');
  const [spot, setSpot] = useState<Point | null>(null);
  const photo = timed.find((each) => each.photoId === photoId) ?? timed[0];
  const passing = usePassing(trackIds, zoneMinutes, way === 'spot' ? (photo?.clock ?? null) : null, spot);
  if (!photo) return <p className="mt-2 text-ink-2">No photo here tells its time.</p>;
  const ahead = way === 'clock' ? secondsBetween(photo.clock, shown) : passing.data?.aheadSeconds;
  return (
    <section
      aria-label="By a photo"
      className="mt-2 flex flex-wrap items-end gap-x-3 gap-y-2 rounded bg-ground px-3 py-2"
    >
      <Field label="This photo" className="w-72">
        {(tied) => (
          <Select
            {...tied}
            value={photo.photoId}
            onChange={setPhotoId}
            options={timed.map(({ photoId: value, name, clock }) => ({
              value,
              label: `${name} · ${clock.replace('T', ' ')}`,
            }))}
          />
        )}
      </Field>
      <Select label="What it tells" className="h-8" value={way} onChange={setWay} options={[...WAYS]} />
      {way === 'clock' ? (
        <TextField
          label="The time on that clock"
          type="datetime-local"
          step={1}
          className="w-52"
          value={shown}
          onChange={({ target }) => setShown(target.value)}
        />
      ) : (
        <Spot onSpot={setSpot} />
      )}
      <Button disabled={ahead === undefined} onClick={() => ahead !== undefined && onAhead(ahead)}>
        {ahead === undefined ? 'Take that' : `Take that: ${aheadText(ahead)}`}
      </Button>
      {way === 'spot' && spot && (
        <p className="w-full text-[12px] text-ink-2" role="status">
          {passing.data === null ? 'No track came within 1 km of it.' : passing.data && passedText(passing.data.metres)}
        </p>
      )}
      <Failed query={passing} className="w-full" />
    </section>
  );
}

function passedText(metres: number): string {
  return metres < 5 ? 'A track passed right there.' : `A track passed ${distanceText(metres)} away.`;
}

/** A spot by the name of a place or by its coordinates. */
function Spot({ onSpot }: { onSpot: (spot: Point | null) => void }) {
  const [typed, setTyped] = useState('');
  return (
    <>
      <div className="w-56">
        <PlaceFinder
          label="A place"
          onPick={({ latitude, longitude }) => {
            setTyped('');
            onSpot({ latitude, longitude });
          }}
        />
      </div>
      <TextField
        label="or its coordinates"
        className="w-44"
        placeholder="54.12, 8.5"
        value={typed}
        error={typed !== '' && !parsePoint(typed) ? 'Write 54.12, 8.5.' : undefined}
        onChange={({ target }) => {
          setTyped(target.value);
          onSpot(parsePoint(target.value) ?? null);
        }}
      />
    </>
  );
}

function usePassing(trackIds: readonly number[], zoneMinutes: number, clock: string | null, spot: Point | null) {
  return useQuery({
    queryKey: ['places', 'passing', trackIds, zoneMinutes, clock, spot],
    queryFn: async () => {
      if (clock === null || !spot) return null;
      const body = { trackIds: [...trackIds], zoneMinutes, clock, spot };
      return (await call(trackRoutes.passing, { body })).passing;
    },
    enabled: clock !== null && spot !== null,
  });
}
