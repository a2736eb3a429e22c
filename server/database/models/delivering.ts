// The tables of deliveries.

import { bigint, bytes, choiceOf, integer, json, moment, table, text, uuid } from './table';

/** Kept settings of deliveries. */
export const PRESET = table('preset', {
  id: integer({ key: true, preset: true }),
  name: text(),
  note: text({ preset: true }),
  /** See copySettings in contract/delivering. */
  settings: json(),
  version: integer({ preset: true }),
  /** Null: it is for everybody. */
  ownerId: integer({ orNull: true, of: 'account' }),
  createdBy: integer({ orNull: true, of: 'account' }),
});

/** What left the archive: to whom, why, and how it was made. */
export const DELIVERY = table('delivery', {
  id: uuid({ key: true }),
  title: text(),
  /** As they were when it was made. */
  settings: json(),
  target: json(),
  recipient: text({ preset: true }),
  reason: text({ preset: true }),
  /** The name of the preset then; empty for none. */
  preset: text({ preset: true }),
  presetVersion: integer({ orNull: true }),
  accountId: integer({ orNull: true, of: 'account' }),
  at: moment({ preset: true }),
  jobId: uuid({ orNull: true, of: 'job_run' }),
});

/** Servers that copies are delivered to. */
export const DELIVERY_SERVER = table('delivery_server', {
  id: integer({ key: true, preset: true }),
  /** See serverShape in contract/deliveryServers. */
  settings: json(),
  /** Encrypted with the key in the data folder. */
  secret: bytes(),
});

/** The files of a delivery in their order. */
export const DELIVERY_FILE = table('delivery_file', {
  deliveryId: uuid({ key: true, of: 'delivery' }),
  position: integer({ key: true }),
  photoId: integer({ orNull: true, of: 'photo' }),
  /** The path of the original below its drive, as it was then. */
  original: text(),
  /** Below the target. */
  path: text(),
  state: choiceOf<'open' | 'written' | 'skipped' | 'failed'>(),
  bytes: bigint({ orNull: true }),
  sha256: bytes({ orNull: true }),
  problem: text({ orNull: true }),
});
