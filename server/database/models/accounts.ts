// The tables of accounts, their sessions, and what they may do where.

import { bigint, boolean, integer, integers, moment, table, text, texts, uuid } from './table';

/** Who may sign in. */
export const ACCOUNT = table('account', {
  id: integer({ key: true, preset: true }),
  /** Lower case; what is typed to sign in. */
  name: text(),
  displayName: text(),
  /** argon2id. Null: none was chosen yet, and nobody signs in. */
  passwordHash: text({ orNull: true }),
  createdAt: moment({ preset: true }),
  /** Null: may sign in. */
  disabledAt: moment({ orNull: true }),
  /** What an app shares with the server for the second factor; null: the password is enough. */
  totpSecret: text({ orNull: true }),
  /** The step of time of the code that was used last. */
  totpStep: bigint({ orNull: true }),
  /** light or dark; null: as the browser has it. */
  theme: text({ orNull: true }),
  /** In which they like to read texts and terms, after BCP 47; null: none is preferred. */
  language: text({ orNull: true }),
});

/** With which somebody signs in once who has lost the app of the second factor. */
export const RECOVERY_CODE = table('recovery_code', {
  accountId: integer({ key: true, of: 'account' }),
  /** SHA-256. */
  codeHash: text({ key: true }),
});

/** Who is signed in. */
export const SESSION = table('session', {
  /** SHA-256 of the cookie. */
  tokenHash: text({ key: true }),
  accountId: integer({ of: 'account' }),
  createdAt: moment({ preset: true }),
  expiresAt: moment(),
  /** How lists and pages name it. */
  id: uuid({ preset: true }),
  /** How the browser names itself. */
  device: text({ preset: true }),
  lastUsedAt: moment({ preset: true }),
});

/** A link with which somebody chooses a password, once. */
export const INVITATION = table('invitation', {
  /** SHA-256 of what stands in the link. */
  tokenHash: text({ key: true }),
  accountId: integer({ of: 'account' }),
  madeBy: integer({ orNull: true, of: 'account' }),
  madeAt: moment({ preset: true }),
  expiresAt: moment(),
});

/** With which scripts ask in somebody’s name. */
export const API_TOKEN = table('api_token', {
  id: integer({ key: true, preset: true }),
  accountId: integer({ of: 'account' }),
  name: text(),
  /** SHA-256 of what the script sends. */
  tokenHash: text(),
  permissions: texts(),
  createdAt: moment({ preset: true }),
  expiresAt: moment(),
  lastUsedAt: moment({ orNull: true }),
});

/** Permissions under a name. */
export const ROLE = table('role', {
  id: integer({ key: true, preset: true }),
  /** One that every archive has: its permissions are the program’s own. */
  preset: text({ orNull: true }),
  name: text(),
  nameFolded: text(),
  permissions: texts({ preset: true }),
});

/** Accounts that have rights together. */
export const TEAM = table('team', {
  id: integer({ key: true, preset: true }),
  name: text(),
  nameFolded: text(),
  note: text({ preset: true }),
});

export const TEAM_MEMBER = table('team_member', {
  teamId: integer({ key: true, of: 'team' }),
  accountId: integer({ key: true, of: 'account' }),
});

/** A role in a part of the catalogue, of an account or a team. */
export const HELD_RIGHT = table('held_right', {
  id: integer({ key: true, preset: true }),
  accountId: integer({ orNull: true, of: 'account' }),
  teamId: integer({ orNull: true, of: 'team' }),
  roleId: integer({ of: 'role' }),
  /** Where: one of these, or none for the whole catalogue. What they name may be gone. */
  driveId: uuid({ orNull: true }),
  folderId: integer({ orNull: true }),
  dossierId: integer({ orNull: true }),
  searchId: integer({ orNull: true }),
});

/** Raised by whatever changes what somebody may do or see. */
export const RIGHTS_VERSION = table('rights_version', {
  one: boolean({ key: true, preset: true }),
  version: bigint(),
});

/** Who looks at which photos just now. */
export const ONLOOKER = table('onlooker', {
  sessionId: uuid({ key: true, of: 'session' }),
  accountId: integer({ of: 'account' }),
  photoIds: integers(),
  /** looking or describing. */
  doing: text(),
  at: moment({ preset: true }),
});

/** When somebody was here last, and before that. */
export const ACCOUNT_VISIT = table('account_visit', {
  accountId: integer({ key: true, of: 'account' }),
  lastAt: moment({ preset: true }),
  beforeAt: moment({ orNull: true }),
});
