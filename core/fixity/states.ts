// Whether a file still holds the bytes it should: what is known of them, what was found, and what follows.

/** As `fixity:` asks for them. The first five stand in the catalogue by their place here; the last follows from where its file is not. */
export const FIXITY_STATES = ['unread', 'unchanged', 'ours', 'others', 'damaged', 'missing'] as const;
export type FixityState = (typeof FIXITY_STATES)[number];

/** Where the bytes that a file should have come from: as it was taken in, as we wrote it, or as another program did. */
export type Origin = 'unchanged' | 'ours' | 'others';

/** What a file holds, as hexadecimal hashes. */
export interface FileHashes {
  /** Of all of it. */
  sha256: string;
  /** Of the coded picture without its metadata; null where that can’t be told. */
  picture: string | null;
  /** SHA-256 of its sidecar; null: it has none. */
  sidecar: string | null;
}

export interface KnownFile extends FileHashes {
  origin: Origin;
}

export interface Verdict {
  state: Exclude<FixityState, 'unread' | 'missing'>;
  /** What it should hold from now on. */
  known: KnownFile;
}

/**
 * What follows from reading a file. `by` says who wrote last: nobody that we know of (`reading`), or we. What is known of a damaged
 * file stays, so that it can be had back.
 */
export function verdictOn(known: KnownFile | undefined, found: FileHashes, by: 'reading' | 'us'): Verdict {
  const origin = by === 'us' ? 'ours' : known === undefined ? 'unchanged' : 'others';
  if (known === undefined) return { state: origin, known: { ...found, origin } };
  const isSame = found.sha256 === known.sha256 && found.sidecar === known.sidecar;
  if (isSame && by === 'reading') return { state: known.origin, known };
  const holdsPicture = found.sha256 === known.sha256 || (found.picture !== null && found.picture === known.picture);
  return holdsPicture ? { state: origin, known: { ...found, origin } } : { state: 'damaged', known };
}
