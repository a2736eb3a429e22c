// The tables of handing over to other programs.

import { bigint, boolean, bytes, choiceOf, integer, json, moment, table, text, uuid } from './table';

/** A delivery into a folder that other programs work in. */
export const HANDOVER = table('handover', {
  deliveryId: uuid({ key: true, of: 'delivery' }),
  /** Below the folder of all handovers. */
  folder: text(),
  /** What is started with the files; empty for nothing. */
  program: text({ preset: true }),
  /** What became of it, in words; null while it runs, or where there is none. */
  outcome: text({ orNull: true }),
  closedAt: moment({ orNull: true }),
});

/** A file as it was when it went out. */
export const HANDED_FILE = table('handed_file', {
  deliveryId: uuid({ key: true, of: 'handover' }),
  position: integer({ key: true }),
  path: text(),
  sha256: bytes(),
  pictureHash: bytes({ orNull: true }),
  sidecarSha256: bytes({ orNull: true }),
  /** The fields that the file and its sidecar said. */
  said: json(),
});

/** A file that came back: a picture that is new or was changed, or the words of one that was not. */
export const RETURNED_FILE = table('returned_file', {
  id: integer({ key: true, preset: true }),
  deliveryId: uuid({ of: 'handover' }),
  path: text(),
  /** The file that it belongs to; null where that can’t be told. */
  position: integer({ orNull: true }),
  kind: choiceOf<'picture' | 'words'>(),
  /** It says all there is to say: what it does not say was taken out. */
  whole: boolean(),
  bytes: bigint(),
  sha256: bytes(),
  sidecarSha256: bytes({ orNull: true }),
  /** A sidecar of its own, below the folder, that goes along. */
  sidecar: text({ orNull: true }),
  said: json(),
  problem: text({ orNull: true }),
  state: text({ preset: true }),
  at: moment({ preset: true }),
  /** Where it is put, settled before it is. */
  folderId: integer({ orNull: true, of: 'folder' }),
  name: text({ orNull: true }),
  photoId: integer({ orNull: true, of: 'photo' }),
  entryId: integer({ orNull: true, of: 'ledger_entry' }),
});
