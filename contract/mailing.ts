// Letters by mail: a view link or a small delivery, to whom, and what became of each.

import { z } from 'zod';
import { LETTER_STATES, type LetterState, unknownPlaceholders } from '@stellin/core/mailing/letters';
import { chosenId, done, id, isoTime, route, text } from './route';

/** Who one letter goes to at most. */
export const MAX_RECIPIENTS = 50;
/** What goes along with one letter at most: more than that many mail servers refuse. */
export const MAX_ATTACHED_BYTES = 15_000_000;

const ONE_LINE = /^[^\r\n]*$/;
const line = text.trim().regex(ONE_LINE, 'One line.');
const letterText = text.refine(
  (typed) => unknownPlaceholders(typed).length === 0,
  'Something in braces is no placeholder.',
);

export const mailbox = z.object({
  name: line.max(200).default(''),
  address: z.email('That is no mail address.').max(254),
});

export const contact = mailbox.extend({ id: z.number(), name: z.string() });
export type Contact = z.infer<typeof contact>;

const about = z.discriminatedUnion('kind', [
  z
    .object({ kind: z.literal('link'), linkId: chosenId, address: z.url().max(300) })
    .describe('A view link with its address, which nobody else keeps'),
  z
    .object({ kind: z.literal('delivery'), deliveryId: z.uuid() })
    .describe('A delivery to be downloaded, as an attachment'),
]);
export type LetterAbout = z.infer<typeof about>;

export const letterRequest = z.object({
  about,
  subject: line.min(1).max(200).pipe(letterText),
  text: letterText.max(20_000),
  recipients: z.array(mailbox).min(1, 'Somebody has to get it.').max(MAX_RECIPIENTS),
});
export type LetterRequest = z.input<typeof letterRequest>;

const recipient = z.object({
  id: z.number(),
  name: z.string(),
  address: z.string(),
  state: z.enum(Object.keys(LETTER_STATES) as [LetterState, ...LetterState[]]),
  /** What the mail server said. */
  problem: z.string().nullable(),
  tries: z.number(),
  nextAt: isoTime.nullable(),
  sentAt: isoTime.nullable(),
});
export type LetterRecipient = z.infer<typeof recipient>;

export const letter = z.object({
  id: z.number(),
  at: isoTime,
  by: z.string(),
  subject: z.string(),
  text: z.string(),
  title: z.string().describe('What was sent'),
  kind: z.enum(['link', 'delivery']),
  mayRetry: z.boolean().describe('False where the address of its link is not known any more'),
  recipients: z.array(recipient),
});
export type Letter = z.infer<typeof letter>;

/** How mail leaves. */
export const mailWay = z.object({
  server: z.string().nullable().describe('Null: the stand-in on this machine takes it'),
  from: z.string(),
});
export type MailWay = z.infer<typeof mailWay>;

export const keptMessage = z.object({
  id: z.string(),
  at: isoTime,
  from: z.string(),
  to: z.string(),
  subject: z.string(),
  text: z.string(),
  attachments: z.array(z.object({ name: z.string(), bytes: z.number() })),
});
export type KeptMessage = z.infer<typeof keptMessage>;

const ids = z.object({ ids: z.array(id).min(1).max(1000) });
const shared = { access: 'deliver', shows: 'seen' } as const;

export const mailingRoutes = {
  listContacts: route({
    ...shared,
    method: 'GET',
    path: '/api/mail/contacts',
    summary: 'The address book, which all who deliver share',
    response: z.object({ contacts: z.array(contact) }),
  }),
  keepContact: route({
    ...shared,
    method: 'POST',
    path: '/api/mail/contacts',
    summary: 'Puts somebody into the address book, or changes what stands there of an address',
    body: mailbox,
    response: done,
  }),
  removeContacts: route({
    ...shared,
    method: 'POST',
    path: '/api/mail/contacts/remove',
    summary: 'Takes people out of the address book',
    body: ids,
    response: done,
  }),
  sendLetter: route({
    ...shared,
    method: 'POST',
    path: '/api/mail/letters',
    summary: 'Sends a view link or a small delivery by mail',
    body: letterRequest,
    response: z.object({ id: z.number() }),
  }),
  listLetters: route({
    ...shared,
    method: 'GET',
    path: '/api/mail/letters',
    summary: 'The letters that somebody sent, the latest first; all for who administers',
    response: z.object({ letters: z.array(letter), way: mailWay }),
  }),
  retryLetters: route({
    ...shared,
    method: 'POST',
    path: '/api/mail/retry',
    summary: 'Tries again to send to some recipients, at once',
    body: ids,
    response: done,
  }),
  stopLetters: route({
    ...shared,
    method: 'POST',
    path: '/api/mail/stop',
    summary: 'Sends no more to recipients who still wait',
    body: ids,
    response: done,
  }),
  mailBox: route({
    ...shared,
    method: 'GET',
    path: '/api/mail/box',
    summary: 'What the stand-in mail server of this machine was given',
    response: z.object({ messages: z.array(keptMessage) }),
  }),
};
