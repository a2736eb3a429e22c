// Matching photos with tracks: the camera's clock is put right until they come to lie where they were taken; every photo is shown
// with its position before and after, or why it gets none, before anything is done.

import { useState } from 'react';
import type { Selection } from '@stellin/contract/photos';
import { countText } from '@stellin/contract/wording';
import { useChange } from '../foundation/changes';
import { Button } from '../parts/Button';
import { Dialog } from '../parts/Dialog';
import { Queried } from '../parts/Queried';
import { ClockByPhoto } from './ClockByPhoto';
import { FollowedPhotos, type Listed } from './FollowedPhotos';
import { FollowingForm, followingOf, gapMinutesOf, OnlyWithout, USUAL_SETTINGS } from './FollowingForm';
import { aheadText, parseAhead } from './placeText';
import { useFollowing } from './queries';

const ALL: Listed = { state: null, offset: 0 };

interface Props {
  selection: Selection;
  trackIds: readonly number[];
  onClose: () => void;
}

export function MatchDialog({ selection, trackIds, onClose }: Props) {
  const [settings, setSettings] = useState(USUAL_SETTINGS);
  const [byPhoto, setByPhoto] = useState(false);
  const [listed, setListed] = useState<Listed>(ALL);
  const change = useChange();
  const set = (changed: Partial<typeof settings>) => setSettings({ ...settings, ...changed });
  const { zone, ahead, gap, onlyWithout, names } = settings;
  const matching = { selection, trackIds: [...trackIds], onlyWithout, following: followingOf(settings) };
  const preview = useFollowing({ ...matching, ...listed });
  // The zone of the tracks, until another one is chosen.
  const proposedZone = preview.data?.proposedZoneMinutes ?? null;
  if (zone === null && proposedZone !== null && !preview.isPlaceholderData) set({ zone: proposedZone });
  const placed = preview.data?.counts.placed ?? 0;
  const aheadSeconds = parseAhead(ahead);
  const isReadable = aheadSeconds !== undefined && gapMinutesOf(gap) !== undefined;
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title="Match photos with tracks" wide>
      <FollowingForm settings={settings} onSettings={set} />
      {byPhoto ? (
        <ClockByPhoto
          photos={preview.data?.rows ?? []}
          trackIds={trackIds}
          zoneMinutes={zone ?? 0}
          onAhead={(seconds) => set({ ahead: aheadText(seconds) })}
        />
      ) : (
        <button type="button" className="mt-1 text-slate hover:underline" onClick={() => setByPhoto(true)}>
          Find it by a photo of a clock or of a known spot …
        </button>
      )}
      <OnlyWithout settings={settings} onSettings={set} />
      <ProposedAhead
        proposed={preview.data?.proposedAheadSeconds ?? null}
        now={aheadSeconds ?? 0}
        onTake={(seconds) => set({ ahead: aheadText(seconds) })}
      />
      <Queried query={preview} className="mt-3">
        {(shown) => <FollowedPhotos {...shown} {...{ listed }} onListed={setListed} />}
      </Queried>
      <div className="mt-3 flex gap-2">
        <Button
          look="primary"
          disabled={placed === 0 || !isReadable || change.isPending}
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

interface ProposedProps {
  proposed: number | null;
  /** What is set. */
  now: number;
  onTake: (seconds: number) => void;
}

/** By what most photos would lie on the track, where that is something else than what is set. */
function ProposedAhead({ proposed, now, onTake }: ProposedProps) {
  if (proposed === null || proposed === now) return null;
  return (
    <p className="mt-2 rounded bg-amber-pale px-2.5 py-1.5">
      Most photos would lie on the track if clocks had been behind by {aheadText(proposed)}.{' '}
      <button type="button" className="text-slate hover:underline" onClick={() => onTake(proposed)}>
        Take that
      </button>
    </p>
  );
}
