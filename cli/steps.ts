// Saying what is being done: one line a step, with a sign of life and the time left every few seconds.

export interface Progress {
  done: number;
  total: number;
  note?: string;
}

export interface Step {
  /** Shows how far it is, at most a few times a second. */
  progress(done: number, total: number, note?: string): void;
}

export interface Expectation {
  /** How many seconds the step usually takes. */
  seconds?: number;
  /** Words for how much time is left, in place of those about the step alone. */
  left?: (progress: Progress | undefined, secondsGone: number) => string;
}

const SIGN_OF_LIFE_MS = 5000;
const LIVE_MS = 100;

/** Runs a step and says how long it took. All of it goes to standard error, so that output stays what a command answers. */
export async function step<Result>(
  title: string,
  work: (step: Step) => Promise<Result> | Result,
  { seconds, left = (progress, gone) => leftOf(progress, gone, seconds) }: Expectation = {},
): Promise<Result> {
  const started = performance.now();
  const gone = () => (performance.now() - started) / 1000;
  const live = process.stderr.isTTY;
  let last: Progress | undefined;
  let shown = started;
  const show = () => {
    shown = performance.now();
    const text = [last && progressText(last), left(last, gone())].filter(Boolean).join(' · ');
    process.stderr.write(live ? `\r\x1b[K· ${title}: ${text}` : `    ${text}\n`);
  };
  process.stderr.write(`· ${title}${live ? '' : '\n'}`);
  const timer = setInterval(() => performance.now() - shown >= SIGN_OF_LIFE_MS - LIVE_MS && show(), 1000);
  try {
    const result = await work({
      progress(done, total, note) {
        last = { done, total, note };
        if (live && performance.now() - shown >= LIVE_MS) show();
      },
    });
    process.stderr.write(`${live ? '\r\x1b[K' : ''}✓ ${title} (${gone().toFixed(1)} s)\n`);
    return result;
  } catch (error) {
    if (live) process.stderr.write('\n');
    throw error;
  } finally {
    clearInterval(timer);
  }
}

/** `40 % (76 of 190)` */
function progressText({ done, total, note }: Progress): string {
  const share = Math.floor((100 * done) / Math.max(1, total));
  return `${share} % (${done} of ${total})${note ? ` ${note}` : ''}`;
}

/** How much of a step is left, by how far it is or else by how long it usually takes. */
function leftOf(progress: Progress | undefined, gone: number, usual: number | undefined): string {
  const seconds = secondsLeft(progress, gone, usual);
  return seconds === undefined ? `${Math.round(gone)} s so far` : `about ${durationText(seconds)} left`;
}

/** The seconds left of a step; undefined where nothing tells. */
export function secondsLeft(
  progress: Progress | undefined,
  gone: number,
  usual: number | undefined,
): number | undefined {
  if (progress && progress.done > 0 && progress.total > 0)
    return (gone * (progress.total - progress.done)) / progress.done;
  return usual === undefined ? undefined : Math.max(1, usual - gone);
}

/** `35 s`, `1 min 10 s` */
export function durationText(seconds: number): string {
  const whole = Math.max(1, Math.ceil(seconds / 5) * 5);
  return whole < 60 ? `${whole} s` : `${Math.floor(whole / 60)} min${whole % 60 ? ` ${whole % 60} s` : ''}`;
}
