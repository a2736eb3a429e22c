// The wish that a program ends.

export interface Stopping {
  stopped: boolean;
  /** Resolves once the program is to end. */
  signal: Promise<void>;
}

/** Waits for SIGINT or SIGTERM, and with `endsWithParent` for the end of who started this process. A second signal ends it at once. */
export function stopSignal({ endsWithParent = false } = {}): Stopping {
  const stopping: Stopping = { stopped: false, signal: Promise.resolve() };
  stopping.signal = new Promise((resolve) => {
    const stop = () => {
      stopping.stopped = true;
      resolve();
    };
    for (const name of ['SIGINT', 'SIGTERM'] as const)
      process.on(name, () => (stopping.stopped ? process.exit(130) : stop()));
    if (endsWithParent) process.on('disconnect', stop);
  });
  return stopping;
}
