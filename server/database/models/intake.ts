// The tables of what was taken in and copied in.

import { bigint, boolean, bytes, double, integer, moment, table, text, uuid } from './table';

/** Each time something was taken in. */
export const ACCESSION = table('accession', {
  id: integer({ key: true, preset: true }),
  driveId: uuid({ of: 'drive' }),
  /** Path within the drive. */
  folder: text(),
  accountId: integer({ orNull: true, of: 'account' }),
  jobId: uuid({ orNull: true, of: 'job_run' }),
  startedAt: moment({ preset: true }),
  finishedAt: moment({ orNull: true }),
  photosNew: integer({ preset: true }),
  photosChanged: integer({ preset: true }),
  photosMoved: integer({ preset: true }),
  photosMissing: integer({ preset: true }),
  /** Missing ones that were there again. */
  photosReturned: integer({ preset: true }),
  /** Files whose picture is another one. */
  picturesChanged: integer({ preset: true }),
  /** Whether folders below went along. */
  subFolders: boolean({ preset: true }),
  /** Where it was copied from; empty: it was taken in where it stood. */
  source: text({ preset: true }),
});

/** What a job that copies in has to do and has done, a row a picture. */
export const COPY_STEP = table('copy_step', {
  id: bigint({ key: true, preset: true }),
  jobId: uuid({ of: 'job_run' }),
  folder: text(),
  name: text(),
  /** Name of the sidecar that goes along. */
  sidecar: text({ orNull: true }),
  sizeBytes: bigint(),
  mtimeMs: double(),
  /** found, copied, known, verified … */
  state: text({ preset: true }),
  toFolder: text({ orNull: true }),
  toName: text({ orNull: true }),
  /** Name of the second copy, where one is made. */
  secondName: text({ orNull: true }),
  /** Of the whole file, for proving the copy. */
  hash: text({ orNull: true }),
  sidecarHash: text({ orNull: true }),
  /** Of the picture, for passing over what is known. */
  pictureHash: bytes({ orNull: true }),
});
