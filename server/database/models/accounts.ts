// The tables of accounts and their sessions.

import type { Role } from '@stellin/contract/route';
import { choiceOf, integer, moment, table, text } from './table';

/** Who may sign in. */
export const ACCOUNT = table('account', {
  id: integer({ key: true, preset: true }),
  /** Lower case; what is typed to sign in. */
  name: text(),
  displayName: text(),
  /** keeper, cataloguer or viewer. */
  role: choiceOf<Role>(),
  /** argon2id. */
  passwordHash: text(),
  createdAt: moment({ preset: true }),
  /** Null: may sign in. */
  disabledAt: moment({ orNull: true }),
});

/** Who is signed in. */
export const SESSION = table('session', {
  /** SHA-256 of the cookie. */
  tokenHash: text({ key: true }),
  accountId: integer({ of: 'account' }),
  createdAt: moment({ preset: true }),
  expiresAt: moment(),
});
