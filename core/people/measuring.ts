// How good likeness is: figures on faces whose persons are known.

export interface Verification {
  /** How often of a pair of one person and a pair of two the first is more alike (area under the ROC curve). */
  auc: number;
  /** How many pairs of one person are found when one in a hundred, or in a thousand, pairs of two is. */
  at1: number;
  at01: number;
}

/** Figures of verification, given how alike pairs of one person and pairs of two are. */
export function verification(same: readonly number[], different: readonly number[]): Verification {
  const others = Float64Array.from(different).sort();
  const below = (value: number) => {
    let [low, high] = [0, others.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((others[middle] ?? 0) < value) low = middle + 1;
      else high = middle;
    }
    return low;
  };
  const auc = same.reduce((sum, value) => sum + below(value), 0) / (same.length * others.length || 1);
  const found = (share: number) => {
    const limit = others[Math.min(others.length - 1, Math.ceil(others.length * (1 - share)))] ?? 0;
    return same.filter((value) => value > limit).length / (same.length || 1);
  };
  return { auc, at1: found(0.01), at01: found(0.001) };
}

export interface GroupFigures {
  /** Of pairs put together, how many are of one person; of pairs of one person, how many were put together. */
  precision: number;
  recall: number;
  /** The same for each face with its group, averaged (B-cubed; A. Bagga and B. Baldwin, 1998). */
  cubedPrecision: number;
  cubedRecall: number;
}

/** Figures of grouping: for each face whose it is and in which group it came. */
export function groupFigures(faces: readonly { person: string; group: number }[]): GroupFigures {
  let [together, right, theirs, cubedPrecision, cubedRecall] = [0, 0, 0, 0, 0];
  for (const [i, a] of faces.entries()) {
    let [group, person, both] = [0, 0, 0];
    for (const [j, b] of faces.entries()) {
      const [sameGroup, samePerson] = [a.group === b.group, a.person === b.person];
      group += Number(sameGroup);
      person += Number(samePerson);
      both += Number(sameGroup && samePerson);
      if (j <= i) continue;
      together += Number(sameGroup);
      theirs += Number(samePerson);
      right += Number(sameGroup && samePerson);
    }
    cubedPrecision += both / group / faces.length;
    cubedRecall += both / person / faces.length;
  }
  return { precision: right / (together || 1), recall: right / (theirs || 1), cubedPrecision, cubedRecall };
}

export interface Bin {
  /** What was said, on average, and how often it was right. */
  said: number;
  right: number;
  count: number;
}

/** Certainty against truth, in bins of as many suggestions each. */
export function calibrationBins(suggestions: readonly { certainty: number; right: boolean }[], bins: number): Bin[] {
  const sorted = [...suggestions].sort((a, b) => a.certainty - b.certainty);
  const size = Math.ceil(sorted.length / bins);
  return Array.from({ length: Math.ceil(sorted.length / size) }, (_, i) => {
    const some = sorted.slice(i * size, (i + 1) * size);
    return {
      said: some.reduce((sum, { certainty }) => sum + certainty, 0) / some.length,
      right: some.filter(({ right }) => right).length / some.length,
      count: some.length,
    };
  });
}
