// A film or sound that is played: what it does now, and what can be done with it.

import { useCallback, useEffect, useRef, useState } from 'react';

export const SPEEDS = [0.25, 0.5, 0.75, 1, 1.25, 1.5, 2, 4] as const;

/** Pictures a second, where nobody knows how many there are. */
const USUAL_RATE = 25;

export interface PlayerState {
  playing: boolean;
  /** Seconds. */
  at: number;
  duration: number;
  speed: number;
  volume: number;
  muted: boolean;
  loop: boolean;
  /** The browser can’t play it. */
  failed: boolean;
}

/** `rate`: pictures a second. */
export function usePlayer(rate: number | null, knownDuration: number | null) {
  const element = useRef<HTMLVideoElement>(null);
  const [state, setState] = useState<PlayerState>({
    playing: false,
    at: 0,
    duration: knownDuration ?? 0,
    speed: 1,
    volume: 1,
    muted: false,
    loop: false,
    failed: false,
  });
  const read = useCallback(() => {
    const player = element.current;
    if (!player) return;
    setState((before) => ({
      playing: !player.paused && !player.ended,
      at: player.currentTime,
      duration: Number.isFinite(player.duration) ? player.duration : (knownDuration ?? before.duration),
      speed: player.playbackRate,
      volume: player.volume,
      muted: player.muted,
      loop: player.loop,
      failed: player.error !== null,
    }));
  }, [knownDuration]);
  // While it plays its place is read with every picture on the screen; events come four times a second only.
  useEffect(() => {
    if (!state.playing) return;
    let frame = requestAnimationFrame(function follow() {
      read();
      frame = requestAnimationFrame(follow);
    });
    return () => cancelAnimationFrame(frame);
  }, [state.playing, read]);

  const act = (work: (player: HTMLVideoElement) => void) => {
    if (!element.current) return;
    work(element.current);
    read();
  };
  const stepBy = (frames: number) =>
    act((player) => {
      player.pause();
      player.currentTime = Math.max(0, player.currentTime + frames / (rate ?? USUAL_RATE));
    });
  const speedBy = (steps: number) =>
    act((player) => {
      const now = SPEEDS.findIndex((speed) => speed >= player.playbackRate);
      player.playbackRate = SPEEDS[Math.max(0, Math.min(SPEEDS.length - 1, now + steps))] ?? 1;
    });
  return {
    element,
    state,
    /** For every event of the element: what it does is read anew. */
    onEvent: read,
    seek: (seconds: number) => act((player) => (player.currentTime = seconds)),
    frameOn: () => stepBy(1),
    frameBack: () => stepBy(-1),
    faster: () => speedBy(1),
    slower: () => speedBy(-1),
    setSpeed: (speed: number) => act((player) => (player.playbackRate = speed)),
    setVolume: (volume: number) =>
      act((player) => {
        player.volume = volume;
        player.muted = volume === 0;
      }),
    mute: () => act((player) => (player.muted = !player.muted)),
    repeat: () => act((player) => (player.loop = !player.loop)),
    play: () =>
      act((player) => {
        if (!player.paused) player.pause();
        // Who pauses at once, or a file that can’t be played: the element says what became of it.
        else void player.play().catch(read);
      }),
  };
}
