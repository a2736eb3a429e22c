// Patterns for files and folders that intake leaves aside: `*` stands for any letters of a name, `?` for one, `**` for any
// folders. A pattern without `/` is about names at any depth, one with `/` about the path below the drive.

/** Tells whether a path below the drive (with `/` between) is to be left aside. Letters' case does not matter. */
export function ignoring(patterns: readonly string[]): (path: string) => boolean {
  const tests = patterns
    .map((pattern) => pattern.trim().replace(/^\/+|\/+$/g, ''))
    .filter((pattern) => pattern !== '')
    .map((pattern) => ({ whole: pattern.includes('/'), steps: pattern.toLowerCase().split('/') }));
  return (path) => {
    const steps = path.toLowerCase().split('/');
    return tests.some(({ whole, steps: wanted }) =>
      whole ? pathMatches(wanted, steps) : nameMatches(wanted[0] ?? '', steps.at(-1) ?? ''),
    );
  };
}

/** By dynamic programming over both, so that no pattern can take long. */
function pathMatches(pattern: readonly string[], path: readonly string[]): boolean {
  let reached = new Set([0]);
  const through = (from: ReadonlySet<number>) => {
    const all = new Set(from);
    for (const at of all) if (pattern[at] === '**') all.add(at + 1);
    return all;
  };
  reached = through(reached);
  for (const step of path) {
    const next = new Set<number>();
    for (const at of reached) {
      const wanted = pattern[at];
      if (wanted === '**') next.add(at);
      else if (wanted !== undefined && nameMatches(wanted, step)) next.add(at + 1);
    }
    reached = through(next);
  }
  return reached.has(pattern.length);
}

function nameMatches(pattern: string, name: string): boolean {
  let [p, n, star, mark] = [0, 0, -1, 0];
  while (n < name.length) {
    if (pattern[p] === '*') {
      star = p++;
      mark = n;
    } else if (p < pattern.length && (pattern[p] === '?' || pattern[p] === name[n])) {
      p++;
      n++;
    } else if (star >= 0) {
      p = star + 1;
      n = ++mark;
    } else return false;
  }
  while (pattern[p] === '*') p++;
  return p === pattern.length;
}
