// Sizes of files as they are said.

const UNITS = ['bytes', 'kB', 'MB', 'GB', 'TB'];

/** A number of bytes in the largest unit of a thousand that fits: `1.2 GB`. */
export function sizeText(bytes: number): string {
  let [value, at] = [bytes, 0];
  // What rounds to a thousand is one of the next unit.
  for (; at < UNITS.length - 1 && Math.round(value) >= 1000; at++) value /= 1000;
  const text = at > 0 && value < 9.95 ? value.toFixed(1) : String(Math.round(value));
  return `${text} ${UNITS[at]}`;
}
