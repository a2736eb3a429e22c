/** How a term of a file stands to a vocabulary. */
export const IMPORT_KINDS = ['new', 'changed', 'moved', 'doubtful', 'gone', 'same'] as const;
export type ImportKind = (typeof IMPORT_KINDS)[number];
