// Taking a write back: the way back is kept as pieces, and holds as long as what the write put into the file stands there.

import { createHash } from 'node:crypto';
import { realpathSync } from 'node:fs';
import { deflateRawSync, inflateRawSync } from 'node:zlib';
import { z } from 'zod';
import { givenBytes, piecesSource, assemble, patchesOf, type Piece } from '@stellin/core/metadata/pieces';
import { readMetadata } from '@stellin/core/metadata/read';
import { fingerprintOf, identityOf } from './fingerprint';
import { temporaryPath, type PlannedFile, type PlannedWrite } from './planWrite';
import { sidecarPath } from './sidecars';
import { withSource } from './source';

/** What is kept of one file's write. */
export interface KeptVersion {
  target: 'file' | 'sidecar';
  /** Null: the write made the file. */
  back: Uint8Array | null;
  givenHash: Uint8Array;
}

const MAX_KEPT_BYTES = 256 * 1024 * 1024;
const keptPieces = z.array(
  z.union([
    z.object({ start: z.number().int().min(0), end: z.number().int().min(0) }),
    z.base64().transform((text) => new Uint8Array(Buffer.from(text, 'base64'))),
  ]),
);

/** What is to be kept of a planned write. */
export function versionOf(file: PlannedFile): KeptVersion {
  const given = (file.pieces ?? []).filter((piece) => piece instanceof Uint8Array);
  const hash = createHash('sha256');
  for (const bytes of given) hash.update(bytes);
  return {
    target: file.check.isSidecarOf === undefined ? 'file' : 'sidecar',
    back: file.back ? pack(file.back) : null,
    givenHash: hash.digest(),
  };
}

/** The plan that brings a photo's files back to what they were before a write. Throws an Error when they have been written by somebody else since. */
export function planTakeBack(path: string, versions: readonly KeptVersion[]): PlannedWrite {
  const files = versions.map(({ target, back, givenHash }): PlannedFile => {
    const at = realpathSync(target === 'file' ? path : sidecarPath(path));
    const pieces = back ? unpack(back) : undefined;
    const identity = identityOf(at);
    return withSource(at, (source) => {
      const hash = createHash('sha256')
        .update(givenBytes(source, pieces ?? []))
        .digest();
      if (Buffer.compare(hash, givenHash) !== 0) throw new Error('it was written by another program since');
      const restored = piecesSource(source, pieces ?? []);
      const isSidecar = target === 'sidecar';
      const before = isSidecar
        ? withSource(path, (photo) => readMetadata(photo, pieces && assemble(source, pieces)))
        : readMetadata(restored);
      return {
        path: at,
        temporary: temporaryPath(at),
        before: fingerprintOf(at),
        identity,
        pieces,
        patches: pieces && patchesOf(source, pieces),
        back: undefined,
        keepTimes: true,
        check: { changes: {}, before, isSidecarOf: isSidecar ? path : undefined },
      };
    });
  });
  return { path, files, cuts: [] };
}

function pack(pieces: readonly Piece[]): Uint8Array {
  const plain = pieces.map((piece) => (piece instanceof Uint8Array ? Buffer.from(piece).toString('base64') : piece));
  return deflateRawSync(JSON.stringify(plain));
}

function unpack(bytes: Uint8Array): Piece[] {
  return keptPieces.parse(JSON.parse(inflateRawSync(bytes, { maxOutputLength: MAX_KEPT_BYTES }).toString()));
}
