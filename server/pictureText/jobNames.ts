/** Reads the text in pictures of the drives where that is wanted. */
export const TEXT_JOB = 'pictureText';
