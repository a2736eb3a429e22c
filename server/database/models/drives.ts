// The tables of drives and their folders.

import { bigint, boolean, integer, json, moment, table, text, uuid } from './table';

/** Drives that hold photos of the catalogue, there or away. */
export const DRIVE = table('drive', {
  /** Also in the marker file of the drive. */
  id: uuid({ key: true }),
  /** As people call it; unique. */
  label: text(),
  labelFolded: text(),
  /** Where it was seen last; absolute. */
  mountPoint: text({ orNull: true }),
  attached: boolean({ preset: true }),
  lastSeenAt: moment({ orNull: true }),
  createdAt: moment({ preset: true }),
  capacityBytes: bigint({ orNull: true }),
  freeBytes: bigint({ orNull: true }),
  readOnly: boolean({ preset: true }),
  note: text({ preset: true }),
  /** When it was last looked through for changes. */
  lastCheckedAt: moment({ orNull: true }),
  /** Tells a drive without a marker, one that can’t be written to. */
  fileSystem: text({ orNull: true }),
  /** Its large pictures are kept, so that it can be looked at while away. */
  browseAway: boolean({ preset: true }),
  /** The text in its pictures is read. */
  readText: boolean({ preset: true }),
  /** Since when it is there, or was. */
  attachedAt: moment({ preset: true }),
});

/** Folders of drives that hold photos, and those above them. */
export const FOLDER = table('folder', {
  id: integer({ key: true, preset: true }),
  driveId: uuid({ of: 'drive' }),
  parentId: integer({ orNull: true, of: 'folder' }),
  /** The last step of the path. */
  name: text(),
  /** Within its drive, without a slash at either end; empty: the drive itself. */
  path: text(),
  /** How it is marked in the list; empty: not at all. */
  colour: text({ preset: true }),
  /** What somebody wants to be known of it. */
  note: text({ preset: true }),
});

/** Folders that are kept up with by themselves. */
export const TRACKED_FOLDER = table('tracked_folder', {
  id: integer({ key: true, preset: true }),
  driveId: uuid({ of: 'drive' }),
  /** Path within the drive. */
  folder: text(),
  subFolders: boolean(),
  /** Names of folders that are left out. */
  leaveOut: json({ preset: true }),
  /** Kinds of files that are left out. */
  ignore: json({ preset: true }),
  /** What new photos of it get: a template, and the dossier they are put into. */
  templateId: integer({ orNull: true, of: 'template' }),
  dossierId: integer({ orNull: true, of: 'dossier' }),
  /** Who asked for it. */
  accountId: integer({ orNull: true, of: 'account' }),
  checkedAt: moment({ orNull: true }),
});

/** Which process sees which drive, and where. */
export const DRIVE_SEEN = table('drive_seen', {
  driveId: uuid({ key: true, of: 'drive' }),
  /** The process, by the lock that its connection holds. */
  seer: text({ key: true }),
  mountPoint: text(),
});
