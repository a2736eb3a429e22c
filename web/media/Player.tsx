// The player of the viewer: a film or sound with everything one does with it, each by a key too.

import { Maximize, Pause, Play, Repeat, StepBack, StepForward, Volume2, VolumeX } from 'lucide-react';
import { useRef, type ReactNode } from 'react';
import { clockText, timecodeAt } from '@stellin/core/media/moments';
import type { Playback } from '@stellin/contract/media';
import type { Photo } from '@stellin/contract/photos';
import { previewUrl } from '../foundation/api';
import { shownKey, type KeyAction } from '../foundation/keys';
import { useKeys } from '../foundation/useKeys';
import { Button } from '../parts/Button';
import { Queried } from '../parts/Queried';
import { Select } from '../parts/Select';
import { Slider } from '../parts/Slider';
import { Tooltip } from '../parts/Tooltip';
import { streamUrl, useMakePlayable, usePlayback } from './queries';
import { Timeline } from './Timeline';
import { SPEEDS, usePlayer } from './usePlayer';

export function Player({ photo }: { photo: Photo }) {
  const playback = usePlayback(photo.id);
  return (
    <Queried query={playback}>
      {(given) =>
        given.plays === 'file' || given.plays === 'copy' ? (
          <Playing key={`${photo.id} ${given.plays}`} photo={photo} playback={given} />
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

function Playing({ photo, playback }: { photo: Photo; playback: Playback }) {
  const { media, duration, frameRate, timecode, version } = playback;
  const player = usePlayer(frameRate, duration);
  const { element, state, onEvent } = player;
  const frame = useRef<HTMLDivElement>(null);
  const isFilm = media === 'film';
  const fill = () =>
    void (document.fullscreenElement
      ? document.exitFullscreen()
      : frame.current?.requestFullscreen().catch(() => undefined));
  useKeys({
    toggle: player.play,
    ...(isFilm ? { frameBack: player.frameBack, frameOn: player.frameOn } : {}),
    faster: player.faster,
    slower: player.slower,
    mute: player.mute,
    repeat: player.repeat,
    fullScreen: fill,
  });
  return (
    <div ref={frame} className="flex min-h-0 flex-1 flex-col bg-ground" data-playing={state.playing}>
      <div className="relative min-h-0 flex-1" onClick={player.play}>
        {/* Films of an archive have no captions of their own. */}
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
        {state.failed && (
          <p className="absolute bottom-6 left-1/2 -translate-x-1/2 rounded bg-amber-pale px-3 py-1 text-amber">
            This browser can’t play it.
          </p>
        )}
      </div>
      <Timeline
        photoId={photo.id}
        version={version}
        isFilm={isFilm}
        duration={state.duration}
        at={state.at}
        onSeek={player.seek}
      />
      <div className="flex h-10 shrink-0 items-center gap-1.5 border-t border-line bg-sheet px-3">
        {isFilm && (
          <Tool action="frameBack" label="One picture back" onClick={player.frameBack} icon={<StepBack size={15} />} />
        )}
        <Tool
          action="toggle"
          label={state.playing ? 'Pause' : 'Play'}
          onClick={player.play}
          icon={state.playing ? <Pause size={15} /> : <Play size={15} />}
        />
        {isFilm && (
          <Tool action="frameOn" label="One picture on" onClick={player.frameOn} icon={<StepForward size={15} />} />
        )}
        <span className="figures ml-2 text-[12px] whitespace-nowrap" data-clock>
          {clockText(state.at)} <span className="text-ink-2">of {clockText(state.duration)}</span>
        </span>
        {isFilm && frameRate !== null && (
          <span className="ml-2 font-mono text-[12px] whitespace-nowrap text-ink-2" title="Timecode">
            {timecodeAt(state.at, frameRate, timecode ?? undefined)}
          </span>
        )}
        {playback.plays === 'copy' && <span className="ml-2 truncate text-[12px] text-amber">a copy that plays</span>}
        <span className="ml-auto flex items-center gap-1.5">
          <Select
            label="Speed"
            value={state.speed}
            options={SPEEDS.map((speed) => ({ value: speed, label: `${speed}×` }))}
            onChange={player.setSpeed}
            className="h-7"
          />
          <Tool
            action="mute"
            label={state.muted ? 'Sound on' : 'Sound off'}
            onClick={player.mute}
            icon={state.muted ? <VolumeX size={15} /> : <Volume2 size={15} />}
          />
          <Slider
            label="Volume"
            value={state.muted ? 0 : state.volume}
            lowest={0}
            highest={1}
            step={0.05}
            onChange={player.setVolume}
            className="w-20"
          />
          <Tool
            action="repeat"
            label="Again and again"
            onClick={player.repeat}
            icon={<Repeat size={15} />}
            pressed={state.loop}
          />
          <Tool action="fullScreen" label="Full screen" onClick={fill} icon={<Maximize size={15} />} />
        </span>
      </div>
    </div>
  );
}

interface ToolProps {
  action: KeyAction;
  label: string;
  onClick: () => void;
  icon: ReactNode;
  pressed?: boolean;
}

function Tool({ action, label, onClick, icon, pressed }: ToolProps) {
  return (
    <Tooltip text={label} keyName={shownKey(action)}>
      <Button
        aria-label={label}
        aria-pressed={pressed}
        className={`!h-7 !px-2 ${pressed ? '!border-spruce !text-spruce' : ''}`}
        onClick={onClick}
      >
        {icon}
      </Button>
    </Tooltip>
  );
}
