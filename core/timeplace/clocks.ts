// Clocks of cameras that are known to have gone wrong for a while.

/** What is known of a camera's clock. */
export interface CameraClock {
  /** Maker and model, as photos say them. */
  camera: string;
  /** The first and the last day, by that clock: `YYYY-MM-DD`. */
  from: string;
  until: string;
  /** How far it was ahead of the right time; behind it where negative. */
  aheadSeconds: number;
}

/** The wrong clock that a photo was taken with; undefined where none is known. `clock`: what the camera wrote, `YYYY-MM-DDTHH:MM:SS`. */
export function wrongClock<Clock extends CameraClock>(
  clocks: readonly Clock[],
  camera: string,
  clock: string,
): Clock | undefined {
  const day = clock.slice(0, 10);
  return clocks.find((each) => each.camera === camera && each.from <= day && day <= each.until);
}
