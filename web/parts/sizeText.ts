const UNITS = ['bytes', 'kB', 'MB', 'GB', 'TB'];

/** A number of bytes in the largest unit of a thousand that fits: `1.2 GB`. */
export function sizeText(bytes: number): string {
  const at = bytes < 1000 ? 0 : Math.min(UNITS.length - 1, Math.floor(Math.log10(bytes) / 3));
  const value = bytes / 1000 ** at;
  return `${value < 10 && at > 0 ? value.toFixed(1) : Math.round(value)} ${UNITS[at]}`;
}
