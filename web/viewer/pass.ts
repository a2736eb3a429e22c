// A pass through some photos: each is kept or dropped, and any step can be taken back.

export type Verdict = 'keep' | 'drop';

export interface Pass {
  /** Of the first photos in their order; the next one is at this length. */
  verdicts: readonly Verdict[];
}

export const BEGINNING: Pass = { verdicts: [] };

export function decide({ verdicts }: Pass, verdict: Verdict): Pass {
  return { verdicts: [...verdicts, verdict] };
}

export function takeBack({ verdicts }: Pass): Pass {
  return { verdicts: verdicts.slice(0, -1) };
}

/** The ids that got a verdict. */
export function idsWith({ verdicts }: Pass, ids: readonly number[], verdict: Verdict): number[] {
  return ids.filter((_id, i) => verdicts[i] === verdict);
}
