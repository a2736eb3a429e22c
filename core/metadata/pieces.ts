// How a new file comes out of an old one: as a list of pieces, each copied from the old file or given. All writing is
// planned as such a list, which can be looked at before anything is written, carried out in several ways, and reversed.

import { bytesEqual, concatBytes, type ByteSource } from './bytes';

export interface CopiedPiece {
  /** The range of the old file, `end` not included. */
  start: number;
  end: number;
}

export type Piece = CopiedPiece | Uint8Array;

/** Bytes to be put at an offset of a file whose length stays. */
export interface Patch {
  offset: number;
  before: Uint8Array;
  after: Uint8Array;
}

function isCopied(piece: Piece): piece is CopiedPiece {
  return !(piece instanceof Uint8Array);
}

export function lengthOf(piece: Piece): number {
  return piece instanceof Uint8Array ? piece.length : piece.end - piece.start;
}

/** The size of the new file. */
export function sizeOf(pieces: readonly Piece[]): number {
  return pieces.reduce((sum, piece) => sum + lengthOf(piece), 0);
}

/** The pieces without empty ones, neighbours joined. */
export function joinPieces(pieces: readonly Piece[]): Piece[] {
  const joined: Piece[] = [];
  let given: Uint8Array[] = [];
  const flush = () => {
    if (given.length > 0) joined.push(given.length === 1 && given[0] ? given[0] : concatBytes(given));
    given = [];
  };
  for (const piece of pieces) {
    if (lengthOf(piece) === 0) continue;
    if (piece instanceof Uint8Array) {
      given.push(piece);
      continue;
    }
    flush();
    const last = joined.at(-1);
    if (last && !(last instanceof Uint8Array) && last.end === piece.start) last.end = piece.end;
    else joined.push({ start: piece.start, end: piece.end });
  }
  flush();
  return joined;
}

/** Whether the new file is the old one. */
export function changesNothing(pieces: readonly Piece[], size: number): boolean {
  const [only, ...others] = joinPieces(pieces);
  return others.length === 0 && only !== undefined && isCopied(only) && only.start === 0 && only.end === size;
}

/**
 * The patches that turn the old file into the new one where it stands; undefined when something has to move. Each patch
 * is trimmed to the bytes that differ.
 */
export function patchesOf(source: ByteSource, pieces: readonly Piece[]): Patch[] | undefined {
  if (sizeOf(pieces) !== source.size) return undefined;
  const patches: Patch[] = [];
  let at = 0;
  for (const piece of pieces) {
    if (!(piece instanceof Uint8Array)) {
      if (piece.start !== at) return undefined;
    } else {
      const patch = trimmed(at, source.read(at, piece.length), piece);
      if (patch) patches.push(patch);
    }
    at += lengthOf(piece);
  }
  return patches;
}

/** The way back: pieces that make the old file out of the new one. Only what of the old file is not in the new one is held. */
export function reversed(source: ByteSource, pieces: readonly Piece[]): Piece[] {
  const kept: { start: number; end: number; newStart: number }[] = [];
  let at = 0;
  for (const piece of pieces) {
    if (!(piece instanceof Uint8Array)) kept.push({ start: piece.start, end: piece.end, newStart: at });
    at += lengthOf(piece);
  }
  kept.sort((a, b) => a.start - b.start);
  const back: Piece[] = [];
  let done = 0;
  for (const { start, end, newStart } of kept) {
    if (end <= done) continue;
    const from = Math.max(start, done);
    if (from > done) back.push(source.read(done, from - done).slice());
    back.push({ start: newStart + from - start, end: newStart + end - start });
    done = end;
  }
  if (done < source.size) back.push(source.read(done, source.size - done).slice());
  return joinPieces(back);
}

/** The new file in memory. */
export function assemble(source: ByteSource, pieces: readonly Piece[]): Uint8Array {
  return concatBytes(
    pieces.map((piece) => (piece instanceof Uint8Array ? piece : source.read(piece.start, piece.end - piece.start))),
  );
}

function trimmed(offset: number, before: Uint8Array, after: Uint8Array): Patch | undefined {
  if (bytesEqual(before, after)) return undefined;
  let start = 0;
  while (before[start] === after[start]) start++;
  let end = after.length;
  while (before[end - 1] === after[end - 1]) end--;
  return { offset: offset + start, before: before.slice(start, end), after: after.slice(start, end) };
}

/** The new file as a source, without making it. */
export function piecesSource(source: ByteSource, pieces: readonly Piece[]): ByteSource {
  const parts: { at: number; end: number; piece: Piece }[] = [];
  let size = 0;
  for (const piece of pieces) {
    parts.push({ at: size, end: size + lengthOf(piece), piece });
    size += lengthOf(piece);
  }
  return {
    size,
    read(offset, length) {
      const end = Math.min(size, offset + length);
      const found = parts.filter((part) => part.at < end && part.end > offset);
      const read = found.map(({ at, end: partEnd, piece }) => {
        const [from, to] = [Math.max(offset, at) - at, Math.min(end, partEnd) - at];
        return piece instanceof Uint8Array ? piece.subarray(from, to) : source.read(piece.start + from, to - from);
      });
      return read.length === 1 && read[0] ? read[0] : concatBytes(read);
    },
  };
}

/** Of a file that was made of pieces, the bytes that were given and not copied: what the way back does not copy. */
export function givenBytes(source: ByteSource, back: readonly Piece[]): Uint8Array {
  const copied = back.filter(isCopied).sort((a, b) => a.start - b.start);
  const parts: Uint8Array[] = [];
  let at = 0;
  for (const { start, end } of copied) {
    if (start > at) parts.push(source.read(at, start - at).slice());
    at = Math.max(at, end);
  }
  if (at < source.size) parts.push(source.read(at, source.size - at).slice());
  return concatBytes(parts);
}
