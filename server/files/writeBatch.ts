// Writing files that no catalogue knows of: planned, journaled in a file, carried out.

import type { Fingerprint } from './fingerprint';
import { faultPoint } from './fault';
import { carryOut } from './carryOut';
import { journalEntryOf, openFileJournal } from './journal';
import { planFiles, type PlannedWrite, type WriteRequest } from './planWrite';

export type BatchResult =
  { ok: true; plan: PlannedWrite; now: (Fingerprint | undefined)[] } | { ok: false; error: unknown };

/** Plans the requests; what can't be written safely is an error of its own. */
export function planBatch(
  requests: readonly WriteRequest[],
): ({ ok: true; plan: PlannedWrite } | { ok: false; error: unknown })[] {
  return requests.map((request) => {
    try {
      return { ok: true, plan: planFiles(request) };
    } catch (error) {
      return { ok: false, error };
    }
  });
}

/** Writes the requests as one batch; one result for each, in the same order. */
export async function writeBatch(journals: string, requests: readonly WriteRequest[]): Promise<BatchResult[]> {
  const planned = planBatch(requests);
  faultPoint('write:planned');
  const ready = planned.filter((plan) => plan.ok);
  const files = ready.flatMap(({ plan }) => plan.files);
  const journal = files.length > 0 ? openFileJournal(journals, files.map(journalEntryOf)) : undefined;
  faultPoint('write:journaled');
  const results = await carryOut(ready.map(({ plan }) => plan));
  journal?.close();
  let next = 0;
  return planned.map((entry) => {
    if (!entry.ok) return entry;
    const result = results[next++];
    return result?.ok ? { ok: true, plan: entry.plan, now: result.now } : { ok: false, error: result?.error };
  });
}
