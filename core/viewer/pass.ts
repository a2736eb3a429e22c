// A pass through some photos: each is kept, held as second choice or dropped, and any step can be taken back. Photos of a burst are one
// step, of which the sharpest is shown: what is said of it is agreed to for all, or the burst is opened and gone through one by one.

export const VERDICTS = ['keep', 'second', 'drop'] as const;
export type Verdict = (typeof VERDICTS)[number];

/** The photos that are decided on together, the one that is shown first. */
export type Step = readonly number[];

export interface Pass {
  steps: readonly Step[];
  /** Of the first steps in their order; the next one is at this length. */
  verdicts: readonly Verdict[];
}

/** A pass through photos in their order. A burst stands where its first photo does; its photos come the sharpest first. */
export function beginPass(ids: readonly number[], bursts: readonly Step[] = []): Pass {
  const burstOf = new Map(bursts.flatMap((burst) => burst.map((id) => [id, burst] as const)));
  const taken = new Set<number>();
  const steps: Step[] = [];
  for (const id of ids) {
    if (taken.has(id)) continue;
    const step = burstOf.get(id)?.filter((other) => ids.includes(other)) ?? [id];
    for (const other of step) taken.add(other);
    steps.push(step);
  }
  return { steps, verdicts: [] };
}

/** The same pass once bursts are known: what was decided stays, what is still to come is put together. */
export function withBursts(pass: Pass, bursts: readonly Step[]): Pass {
  const decided = pass.steps.slice(0, pass.verdicts.length);
  const { steps } = beginPass(pass.steps.slice(decided.length).flat(), bursts);
  return { ...pass, steps: [...decided, ...steps] };
}

/** The step that is to be decided on; undefined at the end. */
export function currentStep({ steps, verdicts }: Pass): Step | undefined {
  return steps[verdicts.length];
}

export function decide(pass: Pass, verdict: Verdict): Pass {
  return currentStep(pass) ? { ...pass, verdicts: [...pass.verdicts, verdict] } : pass;
}

export function takeBack(pass: Pass): Pass {
  return { ...pass, verdicts: pass.verdicts.slice(0, -1) };
}

/** Goes through the photos of the present burst one by one, in the order in which they are given. */
export function openBurst(pass: Pass, order: readonly number[]): Pass {
  const step = currentStep(pass);
  if (!step || step.length < 2) return pass;
  const at = pass.verdicts.length;
  const singles = order.filter((id) => step.includes(id)).map((id) => [id]);
  return { ...pass, steps: [...pass.steps.slice(0, at), ...singles, ...pass.steps.slice(at + 1)] };
}

/** The photos that got a verdict: of a burst the one that was shown, while the others were dropped. */
export function idsWith({ steps, verdicts }: Pass, verdict: Verdict): number[] {
  return verdicts.flatMap((said, i) => {
    const [shown, ...others] = steps[i] ?? [];
    return [...(shown !== undefined && said === verdict ? [shown] : []), ...(verdict === 'drop' ? others : [])];
  });
}
