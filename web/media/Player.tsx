// The player of the viewer: a film or sound with everything one does with it, each by a key too.

import { useEffect, useEffectEvent, useRef, useState } from 'react';
import type { Playback } from '@stellin/contract/media';
import type { Photo } from '@stellin/contract/photos';
import { previewUrl } from '../foundation/api';
import { useChange } from '../foundation/changes';
import { toggleFullScreen } from '../foundation/fullScreen';
import { useMayChange } from '../foundation/session';
import { useKeys } from '../foundation/useKeys';
import { useResult } from '../photos/result';
import { Button } from '../parts/Button';
import { Queried } from '../parts/Queried';
import { isPoster, PlayerBar } from './PlayerBar';
import { streamUrl, useMakePlayable, usePlayback } from './queries';
import { StretchList } from './StretchList';
import { Timeline } from './Timeline';
import { usePlayer } from './usePlayer';
import { askedIn, useStretches } from './useStretches';

interface Props {
  photo: Photo;
  /** Where one wants to come to, in seconds; undefined: where the query leads. */
  from?: number | undefined;
}

export function Player({ photo, from }: Props) {
  const playback = usePlayback(photo.id);
  return (
    <Queried query={playback}>
      {(given) =>
        given.plays === 'file' || given.plays === 'copy' ? (
          <Playing key={`${photo.id} ${given.plays}`} photo={photo} playback={given} from={from} />
        ) : (
          <NotPlaying photo={photo} playback={given} />
        )
      }
    </Queried>
  );
}

/** The picture of what can’t be played now, why, and what can be done. */
function NotPlaying({ photo, playback }: { photo: Photo; playback: Playback }) {
  const make = useMakePlayable(photo.id);
  const isMaking = playback.plays === 'making' || make.isSuccess;
  return (
    <div className="relative flex min-h-0 flex-1 items-center justify-center bg-ground">
      {photo.previewVersion > 0 && (
        <img
          src={previewUrl(photo.id, photo.previewVersion)}
          alt={photo.name}
          className="max-h-full max-w-full object-contain opacity-60"
        />
      )}
      <div className="absolute bottom-6 flex items-center gap-3 rounded bg-amber-pale px-3 py-2 text-amber">
        <span>{isMaking ? 'A copy that plays is being made.' : playback.why}</span>
        {playback.copyable && !make.isSuccess && (
          <Button onClick={() => make.mutate()} disabled={make.isPending}>
            Make a copy that plays
          </Button>
        )}
        {make.error && <span className="text-red">{make.error.message}</span>}
      </div>
    </div>
  );
}

function Playing({ photo, playback, from }: Props & { playback: Playback }) {
  const { media, duration, frameRate } = playback;
  // What is played stays as it is while another picture comes to stand for it.
  const [version] = useState(playback.version);
  const player = usePlayer(frameRate, duration);
  const { element, state } = player;
  const frame = useRef<HTMLDivElement>(null);
  const isFilm = media === 'film';
  const mayChange = useMayChange('setStretches');
  const marks = useStretches(photo.id, state.duration);
  const { query } = useResult();
  /** Where it is just now: what is drawn is a moment behind. */
  const now = () => element.current?.currentTime ?? state.at;
  // Who looks for a stretch comes to it.
  const hasGone = useRef(false);
  const goToAsked = useEffectEvent(() => {
    const asked = from ?? askedIn(query, marks.stretches)?.from;
    if (asked !== undefined) player.seek(asked);
  });
  useEffect(() => {
    if (hasGone.current || !marks.isThere || state.duration === 0) return;
    hasGone.current = true;
    goToAsked();
  }, [marks.isThere, state.duration]);
  const fill = () => toggleFullScreen(frame.current);
  const change = useChange();
  const mayPoster = useMayChange('choosePoster') && isFilm;
  const choosePoster = () => {
    // Behind the last picture there is none.
    const at = Math.min(now(), Math.max(0, state.duration - 1 / (frameRate ?? 25)));
    change.mutate({ kind: 'choosePoster', photoId: photo.id, seconds: isPoster(playback, at) ? null : at });
  };
  useKeys({
    toggle: player.play,
    ...(mayChange ? { zoomOut: () => marks.begin(now()), zoomIn: () => marks.end(now()) } : {}),
    ...(mayPoster ? { poster: choosePoster } : {}),
    ...(isFilm ? { frameBack: player.frameBack, frameOn: player.frameOn } : {}),
    faster: player.faster,
    slower: player.slower,
    mute: player.mute,
    repeat: player.repeat,
    fullScreen: fill,
  });
  return (
    <div ref={frame} className="flex min-h-0 flex-1 flex-col bg-ground" data-playing={state.playing}>
      <div className="flex min-h-0 flex-1">
        <div className="relative min-h-0 flex-1" onClick={player.play}>
          <Film photo={photo} version={version} player={player} />
          {state.failed && (
            <p className="absolute bottom-6 left-1/2 -translate-x-1/2 rounded bg-amber-pale px-3 py-1 text-amber">
              This browser can’t play it.
            </p>
          )}
        </div>
        <StretchList
          photoId={photo.id}
          stretches={marks.stretches}
          fresh={marks.fresh}
          mayChange={mayChange}
          onSeek={player.seek}
          onChange={marks.keep}
        />
      </div>
      <Timeline
        photoId={photo.id}
        version={version}
        isFilm={isFilm}
        duration={state.duration}
        at={state.at}
        stretches={marks.stretches}
        begun={marks.begun}
        onSeek={player.seek}
      />
      <PlayerBar player={player} playback={playback} onFill={fill} onPoster={mayPoster ? choosePoster : undefined} />
    </div>
  );
}

function Film({
  photo,
  version,
  player: { element, onEvent },
}: {
  photo: Photo;
  version: number;
  player: ReturnType<typeof usePlayer>;
}) {
  return (
    // Films of an archive have no captions of their own.
    <video
      ref={element}
      src={streamUrl(photo.id, version)}
      poster={photo.previewVersion > 0 ? previewUrl(photo.id, photo.previewVersion) : undefined}
      preload="metadata"
      aria-label={photo.name}
      className="absolute inset-0 h-full w-full object-contain"
      onPlay={onEvent}
      onPause={onEvent}
      onEnded={onEvent}
      onSeeked={onEvent}
      onTimeUpdate={onEvent}
      onLoadedMetadata={onEvent}
      onVolumeChange={onEvent}
      onError={onEvent}
    />
  );
}
