/** Measures how pictures look whose previews were made before that was done. */
export const LOOKS_JOB = 'looks';
