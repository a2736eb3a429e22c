// Places in films and sounds, as people and as editors write them.

/** A place in a film as people write it: `4:05.2`, `1:04:05.2`. */
export function clockText(seconds: number): string {
  const tenths = Math.round(Math.max(0, seconds) * 10);
  const [hours, minutes, rest] = [Math.floor(tenths / 36_000), Math.floor(tenths / 600) % 60, (tenths % 600) / 10];
  const last = rest.toFixed(1).padStart(4, '0');
  return hours > 0 ? `${hours}:${String(minutes).padStart(2, '0')}:${last}` : `${minutes}:${last}`;
}

/** Drop-frame counting leaves out as many numbers a minute at these whole rates (SMPTE ST 12-1). */
const DROPPED: Readonly<Record<number, number>> = { 30: 2, 60: 4 };

/**
 * The timecode of a place in a film (SMPTE ST 12-1): `HH:MM:SS:FF`, with `;` before the frames where numbers are dropped.
 * @param seconds from the beginning of the film
 * @param rate pictures a second
 * @param begins the timecode of the first picture; with `;` it counts drop-frame. Undefined: 00:00:00:00
 */
export function timecodeAt(seconds: number, rate: number, begins?: string): string {
  const whole = Math.max(1, Math.round(rate));
  const isDropped = begins?.includes(';') === true && DROPPED[whole] !== undefined;
  const at = framesOf(begins, whole, isDropped) + Math.floor(Math.max(0, seconds) * rate + 1e-6);
  return textOf(isDropped ? withDropped(at, whole) : at, whole, isDropped ? ';' : ':');
}

/** How many pictures after 00:00:00:00 a timecode is. */
function framesOf(timecode: string | undefined, whole: number, isDropped: boolean): number {
  const [, ...parts] = /^(\d{2}):(\d{2}):(\d{2})[:;.](\d{2,3})$/.exec(timecode ?? '') ?? [];
  const [hours = 0, minutes = 0, seconds = 0, frames = 0] = parts.map(Number);
  const all = hours * 60 + minutes;
  const dropped = isDropped ? (DROPPED[whole] ?? 0) * (all - Math.floor(all / 10)) : 0;
  return (all * 60 + seconds) * whole + frames - dropped;
}

/** The number that drop-frame counting gives to a picture. */
function withDropped(frame: number, whole: number): number {
  const dropped = DROPPED[whole] ?? 0;
  const minute = whole * 60 - dropped;
  const ten = minute * 10 + dropped;
  const [tens, rest] = [Math.floor(frame / ten), frame % ten];
  const minutes = rest < whole * 60 ? 0 : 1 + Math.floor((rest - whole * 60) / minute);
  return frame + dropped * (9 * tens + minutes);
}

function textOf(frame: number, whole: number, before: string): string {
  const seconds = Math.floor(frame / whole);
  const two = (value: number) => String(value).padStart(2, '0');
  return `${two(Math.floor(seconds / 3600) % 24)}:${two(Math.floor(seconds / 60) % 60)}:${two(seconds % 60)}${before}${two(frame % whole)}`;
}
