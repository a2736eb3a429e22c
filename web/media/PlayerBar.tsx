// What can be done with a film or sound that is played, each with its key, and where it is.

import { ImagePlay, Maximize, Pause, Play, Repeat, StepBack, StepForward, Volume2, VolumeX } from 'lucide-react';
import type { ReactNode } from 'react';
import { clockText, timecodeAt } from '@stellin/core/media/moments';
import type { Playback } from '@stellin/contract/media';
import { shownKey, type KeyAction } from '../foundation/keys';
import { Button } from '../parts/Button';
import { Select } from '../parts/Select';
import { Slider } from '../parts/Slider';
import { Tooltip } from '../parts/Tooltip';
import { SPEEDS, type usePlayer } from './usePlayer';

interface Props {
  player: ReturnType<typeof usePlayer>;
  playback: Playback;
  onFill: () => void;
  /** Makes what is seen now stand for the film, or no more; undefined for who may not. */
  onPoster: (() => void) | undefined;
}

export function PlayerBar({ player, playback, onFill, onPoster }: Props) {
  const { state } = player;
  const { frameRate, timecode } = playback;
  const isFilm = playback.media === 'film';
  return (
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
        {onPoster && (
          <Tool
            action="poster"
            label={
              isPoster(playback, state.at)
                ? 'Stands for the film: let one be found'
                : 'Let this picture stand for the film'
            }
            onClick={onPoster}
            icon={<ImagePlay size={15} />}
            pressed={isPoster(playback, state.at)}
          />
        )}
        <Tool action="fullScreen" label="Full screen" onClick={onFill} icon={<Maximize size={15} />} />
      </span>
    </div>
  );
}

/** Whether the picture at a moment is the one that was chosen to stand for a film. */
export function isPoster({ poster, frameRate }: Playback, at: number): boolean {
  return poster !== null && Math.abs(poster - at) < 0.6 / (frameRate ?? 25);
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
