// The record of access: who came, looked and was refused; and what of it is kept how long.

import { z } from 'zod';
import { day, done, id, isoTime, route } from './route';

/** What is recorded, in the order in which it is listed. */
export const ACCESS_KINDS = {
  signedIn: 'Signed in',
  signedOut: 'Signed out',
  signInRefused: 'Sign-in refused',
  refused: 'Was refused',
  looked: 'Looked at large',
  searchedByFace: 'Searched by face',
  delivered: 'Delivered photos',
  downloaded: 'Downloaded a delivery',
  tookOriginal: 'Downloaded an original',
  mailed: 'Sent a letter',
  madeLink: 'Made a view link',
  revokedLink: 'Revoked view links',
  viewedLink: 'Viewed a view link',
  linkRefused: 'Wrong password of a view link',
  exported: 'Took the ledger along',
  forgotten: 'Old records removed',
} as const;
export type AccessKind = keyof typeof ACCESS_KINDS;
export const ACCESS_KIND_IDS = Object.keys(ACCESS_KINDS) as [AccessKind, ...AccessKind[]];

const accessKind = z.enum(ACCESS_KIND_IDS);

/** Those that are always recorded: what concerns the record itself, and who comes. */
export const ALWAYS_RECORDED: ReadonlySet<AccessKind> = new Set<AccessKind>([
  'signedIn',
  'signedOut',
  'signInRefused',
  'delivered',
  'downloaded',
  'tookOriginal',
  'mailed',
  'madeLink',
  'revokedLink',
  'viewedLink',
  'linkRefused',
  'exported',
  'forgotten',
]);

export const accessPolicy = z.object({
  leftOut: z.array(accessKind).describe('What is not recorded; who signs in always is'),
  keepDays: z.number().int().min(1).max(36_500).nullable().describe('How long it is kept; null: for good'),
});
export type AccessPolicy = z.infer<typeof accessPolicy>;

export const accessEntry = z.object({
  id: z.number(),
  at: isoTime,
  kind: accessKind,
  by: z.string().describe('Empty where nobody was signed in'),
  about: z.string(),
  address: z.string().describe('From where, as the server saw it'),
  photo: z.object({ photoId: z.number(), name: z.string().nullable().describe('Null: it is gone') }).nullable(),
});
export type AccessEntry = z.infer<typeof accessEntry>;

/** What of the record is meant. */
export const accessFilter = z.object({
  kind: accessKind.optional(),
  accountId: id.optional(),
  photoId: id.optional(),
  from: day.optional().describe('The first day'),
  to: day.optional().describe('The last day'),
});

export type AccessFilter = z.infer<typeof accessFilter>;

export const accessRoutes = {
  listAccess: route({
    method: 'GET',
    path: '/api/access',
    access: 'administer',
    summary: 'The record of access, newest first',
    query: accessFilter.extend({
      before: id.optional(),
      limit: z.coerce.number().int().min(1).max(500).default(100),
    }),
    response: z.object({ entries: z.array(accessEntry) }),
  }),
  showAccessPolicy: route({
    method: 'GET',
    path: '/api/access/policy',
    access: 'administer',
    shows: 'nothing',
    summary: 'What of access is recorded, and how long it is kept',
    response: accessPolicy,
  }),
  setAccessPolicy: route({
    method: 'POST',
    path: '/api/access/policy',
    access: 'administer',
    shows: 'nothing',
    summary: 'Say what of access is recorded, and how long it is kept',
    body: accessPolicy,
    response: done,
  }),
};
