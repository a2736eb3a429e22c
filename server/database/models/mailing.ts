// The tables of mail.

import type { LetterState } from '@stellin/core/mailing/letters';
import { bytes, choiceOf, integer, moment, table, text, uuid } from './table';

/** The address book. */
export const CONTACT = table('contact', {
  id: integer({ key: true, preset: true }),
  name: text({ preset: true }),
  address: text(),
});

/** What was written, and what goes along with it. */
export const LETTER = table('letter', {
  id: integer({ key: true, preset: true }),
  accountId: integer({ of: 'account' }),
  at: moment({ preset: true }),
  subject: text(),
  /** With placeholders, see core/mailing/letters. */
  text: text(),
  /** What is sent, in a word. */
  title: text(),
  linkId: integer({ orNull: true, of: 'view_link' }),
  /** Encrypted with the key in the data folder; gone as soon as nobody waits for it. */
  linkAddress: bytes({ orNull: true }),
  deliveryId: uuid({ orNull: true, of: 'delivery' }),
});

/** Who a letter goes to, and what became of it. */
export const LETTER_RECIPIENT = table('letter_recipient', {
  id: integer({ key: true, preset: true }),
  letterId: integer({ of: 'letter' }),
  name: text({ preset: true }),
  address: text(),
  state: choiceOf<LetterState>(),
  tries: integer({ preset: true }),
  nextAt: moment({ preset: true }),
  /** Of one that is being sent: since when. */
  begunAt: moment({ orNull: true }),
  sentAt: moment({ orNull: true }),
  problem: text({ orNull: true }),
  messageId: text(),
});
