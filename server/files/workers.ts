/** Worker threads read TypeScript as the main thread does. */
export const WORKER_ARGS = ['--require', 'tsx/cjs'];
