// Faults on purpose: a test names a step in STELLIN_FAULT and the process dies there as if it were killed.

export type FaultStep =
  'write:journaled' | 'write:copied' | 'write:verified' | 'write:renamed' | 'write:recorded' | 'index:batch';

/** Dies with SIGKILL when the environment names this step; otherwise nothing. `STELLIN_FAULT=step:3` waits for the third time. */
export function faultPoint(step: FaultStep): void {
  const wanted = process.env['STELLIN_FAULT'];
  if (!wanted?.startsWith(step)) return;
  const times = Number(wanted.slice(step.length + 1) || 1);
  passed += 1;
  if (passed >= times) process.kill(process.pid, 'SIGKILL');
}

let passed = 0;
