// Saying what is being done: one line a step, with progress where there is some.

export interface Step {
  /** Shows how far it is, at most a few times a second. */
  progress(done: number, total: number, note?: string): void;
}

/** Runs a step and says how long it took. */
export async function step<Result>(title: string, work: (step: Step) => Promise<Result> | Result): Promise<Result> {
  const started = performance.now();
  const live = process.stdout.isTTY;
  let shown = 0;
  process.stdout.write(`· ${title}${live ? '' : '\n'}`);
  const result = await work({
    progress(done, total, note = '') {
      const now = performance.now();
      if (now - shown < (live ? 100 : 5000)) return;
      shown = now;
      const text = `${Math.floor((100 * done) / Math.max(1, total))} % (${done} of ${total}) ${note}`;
      process.stdout.write(live ? `\r\x1b[K· ${title}: ${text}` : `    ${text}\n`);
    },
  });
  const seconds = (performance.now() - started) / 1000;
  process.stdout.write(`${live ? '\r\x1b[K' : ''}✓ ${title} (${seconds.toFixed(1)} s)\n`);
  return result;
}
