/** Makes strips and waveforms of what has none. */
export const MEDIA_JOB = 'mediaParts';
/** Makes the copy of one film or sound that browsers play. */
export const PLAYABLE_JOB = 'playable';
