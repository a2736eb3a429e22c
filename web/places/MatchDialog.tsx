// Matching photos with tracks: the camera's clock is put right until they come to lie where they were taken; every photo is shown
// with its position before and after, or why it gets none, before anything is done.

import { useState } from 'react';
import type { Selection } from '@stellin/contract/photos';
import { NAMING_WAYS, type NamingWay } from '@stellin/core/describing/placing';
import { countText } from '@stellin/contract/wording';
import { useChange } from '../foundation/changes';
import { Button } from '../parts/Button';
import { Checkbox } from '../parts/Checkbox';
import { Dialog } from '../parts/Dialog';
import { Field, TextField } from '../parts/Field';
import { Queried } from '../parts/Queried';
import { Select } from '../parts/Select';
import { ClockByPhoto } from './ClockByPhoto';
import { FollowedPhotos, type Listed } from './FollowedPhotos';
import { NAMING_TEXTS } from './namingText';
import { aheadText, parseAhead, zoneText } from './placeText';
import { useFollowing } from './queries';

const QUARTER_MINUTES = 15;
const MAX_MINUTES = 14 * 60;
const ZONES = Array.from(
  { length: (2 * MAX_MINUTES) / QUARTER_MINUTES + 1 },
  (_, i) => i * QUARTER_MINUTES - MAX_MINUTES,
);
const USUAL_GAP_MINUTES = 10;
const ALL: Listed = { state: null, offset: 0 };

interface Props {
  selection: Selection;
  trackIds: readonly number[];
  onClose: () => void;
}

export function MatchDialog({ selection, trackIds, onClose }: Props) {
  const [zone, setZone] = useState<number | null>(null);
  const [ahead, setAhead] = useState('0:00');
  const [gap, setGap] = useState(String(USUAL_GAP_MINUTES));
  const [way, setWay] = useState<'between' | 'nearest'>('between');
  const [onlyWithout, setOnlyWithout] = useState(true);
  const [names, setNames] = useState<NamingWay>('fill');
  const [byPhoto, setByPhoto] = useState(false);
  const [listed, setListed] = useState<Listed>(ALL);
  const change = useChange();
  const aheadSeconds = parseAhead(ahead);
  const gapMinutes = /^\d{1,4}$/.test(gap.trim()) && Number(gap) > 0 ? Math.min(1440, Number(gap)) : undefined;
  const matching = {
    ...{ selection, trackIds: [...trackIds], onlyWithout },
    following: {
      ...{ zoneMinutes: zone ?? 0, aheadSeconds: aheadSeconds ?? 0, way },
      maxGapSeconds: (gapMinutes ?? USUAL_GAP_MINUTES) * 60,
    },
  };
  const preview = useFollowing({ ...matching, ...listed });
  // The zone of the tracks, until another one is chosen.
  const proposedZone = preview.data?.proposedZoneMinutes ?? null;
  if (zone === null && proposedZone !== null && !preview.isPlaceholderData) setZone(proposedZone);
  const placed = preview.data?.counts.placed ?? 0;
  const proposed = preview.data?.proposedAheadSeconds ?? null;
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title="Match photos with tracks" wide>
      <div className="flex flex-wrap items-start gap-x-4 gap-y-2">
        <Field label="Clocks stand in" className="w-40">
          {(tied) => (
            <Select
              {...tied}
              value={zone ?? 0}
              onChange={setZone}
              options={ZONES.map((minutes) => ({ value: minutes, label: zoneText(minutes) }))}
            />
          )}
        </Field>
        <TextField
          label="and were behind by"
          className="w-40"
          value={ahead}
          help="hours:minutes:seconds; −0:10 ahead"
          error={aheadSeconds === undefined ? 'Write 1:00 or −0:02:30.' : undefined}
          onChange={({ target }) => setAhead(target.value)}
        />
        <TextField
          label="Gaps up to (minutes)"
          className="w-36"
          value={gap}
          error={gapMinutes === undefined ? 'A number of minutes.' : undefined}
          onChange={({ target }) => setGap(target.value)}
        />
        <Field label="Between two points" className="w-44">
          {(tied) => (
            <Select
              {...tied}
              value={way}
              onChange={setWay}
              options={[
                { value: 'between', label: 'on the way between' },
                { value: 'nearest', label: 'at the nearer one' },
              ]}
            />
          )}
        </Field>
        <Field label="Names of places" className="w-44">
          {(tied) => (
            <Select
              {...tied}
              value={names}
              onChange={setNames}
              options={NAMING_WAYS.map((each) => ({ value: each, label: NAMING_TEXTS[each] }))}
            />
          )}
        </Field>
      </div>
      {byPhoto ? (
        <ClockByPhoto
          photos={preview.data?.rows ?? []}
          trackIds={trackIds}
          zoneMinutes={zone ?? 0}
          onAhead={(seconds) => setAhead(aheadText(seconds))}
        />
      ) : (
        <button type="button" className="mt-1 text-slate hover:underline" onClick={() => setByPhoto(true)}>
          Find it by a photo of a clock or of a known spot …
        </button>
      )}
      <Checkbox className="mt-2" checked={onlyWithout} onChange={setOnlyWithout}>
        Only photos without a position
      </Checkbox>
      {proposed !== null && proposed !== (aheadSeconds ?? 0) && (
        <p className="mt-2 rounded bg-amber-pale px-2.5 py-1.5">
          Most photos would lie on the track if clocks had been behind by {aheadText(proposed)}.{' '}
          <button type="button" className="text-slate hover:underline" onClick={() => setAhead(aheadText(proposed))}>
            Take that
          </button>
        </p>
      )}
      <Queried query={preview} className="mt-3">
        {(shown) => <FollowedPhotos {...shown} {...{ listed }} onListed={setListed} />}
      </Queried>
      <div className="mt-3 flex gap-2">
        <Button
          look="primary"
          disabled={placed === 0 || aheadSeconds === undefined || gapMinutes === undefined || change.isPending}
          onClick={() =>
            change.mutate(
              { kind: 'followTracks', ...matching, naming: { way: names, shown: false } },
              { onSuccess: onClose },
            )
          }
        >
          {placed > 0 ? `Place ${countText(placed, 'photo')}` : 'Nothing to place'}
        </Button>
        <Button onClick={onClose}>Not now</Button>
      </div>
    </Dialog>
  );
}
