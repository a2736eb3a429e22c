// Faults on purpose: a test names a step in STELLIN_FAULT and the process dies there as if it were killed, or does something
// else there in its own process.

/** The steps of a write: the first two and the last in any, the next three when a new file is written beside the old one, the last but one when a file is written to where it stands. */
export const WRITE_STEPS = [
  'write:planned',
  'write:journaled',
  'write:copied',
  'write:verified',
  'write:renamed',
  'write:halfPatched',
  'write:patched',
  'write:recorded',
] as const;

/** Steps of undoing a write that failed: the old bytes are about to be put back. */
export const RESTORE_STEPS = ['write:restoring'] as const;

/** The steps of moving or copying files: the third and fourth only where it has to be copied. */
export const FILING_STEPS = [
  'file:settled',
  'file:reserved',
  'file:copied',
  'file:flushed',
  'file:moved',
  'file:recorded',
] as const;

/** The steps of putting a good copy in the place of a damaged file. */
export const COPY_BACK_STEPS = ['back:copied', 'back:moved', 'back:exchanged'] as const;

/** Moments in the middle of works that touch files and have no steps of their own. */
export const MIDDLE_STEPS = [
  'index:batch',
  'takeBack:journaled',
  'trash:deleted',
  'source:proven',
  'fixity:read',
  'folder:renamed',
] as const;

export type FaultStep =
  | (typeof WRITE_STEPS)[number]
  | (typeof RESTORE_STEPS)[number]
  | (typeof FILING_STEPS)[number]
  | (typeof COPY_BACK_STEPS)[number]
  | (typeof MIDDLE_STEPS)[number]
  | 'faces:batch';

/** Dies with SIGKILL when the environment names this step; otherwise nothing. `STELLIN_FAULT=step:3` waits for the third time. */
export function faultPoint(step: FaultStep): void {
  atStep?.(step);
  const wanted = process.env['STELLIN_FAULT'];
  if (!wanted) return;
  const [, name, times = '1'] = /^(.+?)(?::(\d+))?$/.exec(wanted) ?? [];
  if (name !== step) return;
  passed += 1;
  if (passed >= Number(times)) process.kill(process.pid, 'SIGKILL');
}

let passed = 0;
let atStep: ((step: FaultStep) => void) | undefined;

/** For tests: what happens at each step of this process; it may throw what a drive would. Undefined: nothing any more. */
export function atFaultPoints(action: ((step: FaultStep) => void) | undefined): void {
  atStep = action;
}
