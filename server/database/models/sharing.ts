// The tables of sharing.

import type { AnswerKind } from '@stellin/core/sharing/answers';
import { bytes, choiceOf, integer, integers, json, moment, table, text } from './table';

/** A view link: pictures for people who have no account. */
export const VIEW_LINK = table('view_link', {
  id: integer({ key: true, preset: true }),
  /** SHA-256 of the secret part of its address. */
  tokenHash: bytes(),
  /** What cookies and keys of pictures are made with. */
  secret: bytes(),
  accountId: integer({ of: 'account' }),
  at: moment({ preset: true }),
  forWhom: text({ preset: true }),
  /** What it follows; null: its photos are fixed. */
  query: text({ orNull: true }),
  sort: text(),
  /** In their order; of one that follows, what it found when that was last looked for. */
  photoIds: integers({ preset: true }),
  settings: json(),
  /** argon2id; null for none. */
  passwordHash: text({ orNull: true }),
  endsAt: moment({ orNull: true }),
  mostViews: integer({ orNull: true }),
  views: integer({ preset: true }),
  viewedAt: moment({ orNull: true }),
  revokedAt: moment({ orNull: true }),
  /** Of one that follows: what it had found when those to whom it was sent were last told of new photos, and when that was. */
  toldIds: integers({ preset: true }),
  toldAt: moment({ orNull: true }),
});

/** What somebody who looked at a view link said of a picture. */
export const LINK_ANSWER = table('link_answer', {
  id: integer({ key: true, preset: true }),
  linkId: integer({ of: 'view_link' }),
  photoId: integer({ of: 'photo' }),
  /** See core/sharing/answers. */
  kind: choiceOf<AnswerKind>(),
  text: text({ preset: true }),
  /** As they said themselves. */
  sender: text(),
  at: moment({ preset: true }),
  state: text({ preset: true }),
  settledBy: integer({ orNull: true, of: 'account' }),
  settledAt: moment({ orNull: true }),
});
