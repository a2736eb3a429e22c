// A name that nothing else has yet.

/** The wanted name, or the first of `name (2)`, `name (3)` … that is free; cut so that it has at most `max` characters. */
export function freeName(wanted: string, isTaken: (name: string) => boolean, max = Infinity): string {
  let name = wanted.slice(0, max);
  for (let n = 2; isTaken(name); n++) {
    const end = ` (${n})`;
    name = wanted.slice(0, max - end.length) + end;
  }
  return name;
}
