// Signing in, and one’s own password.

import { z } from 'zod';
import { PERMISSION_IDS } from '@stellin/core/accounts/permissions';
import { languageTag } from './language';
import { done, isoTime, route, text, type Access, type Shows } from './route';

/** How the interface looks. */
export const theme = z.enum(['light', 'dark']);
export type Theme = z.infer<typeof theme>;

export const person = z.object({
  id: z.number(),
  name: z.string().describe('The sign-in name'),
  displayName: z.string(),
  role: z.string().describe('Their roles by name, as a person reads them'),
  permissions: z.array(z.enum(PERMISSION_IDS)).describe('Held in some part of the catalogue, at least'),
  everywhere: z.array(z.enum(PERMISSION_IDS)).describe('Held for the whole catalogue'),
  rights: z.string().describe('Another text once what they may do or see may be another'),
  seesAll: z.boolean().describe('Everything exists for them, what is private too'),
  theme: theme.nullable().describe('How the interface looks; null: as the browser has it'),
  language: z
    .string()
    .nullable()
    .describe('BCP 47; in which they like to read texts and terms; null: none is preferred'),
});
export type SignedIn = z.infer<typeof person>;

/** What of a person decides what they may call. */
export type Holder = Pick<SignedIn, 'permissions' | 'everywhere' | 'seesAll'>;

/** Whether somebody may call a route, or nobody who is signed in. */
export function mayCall(holder: Holder | null, { access, shows }: { access: Access; shows: Shows }): boolean {
  if (access === 'public') return true;
  if (holder === null) return false;
  if (access === 'signedIn') return true;
  if (shows === 'all') return holder.seesAll && holder.everywhere.includes(access);
  // What everybody sees who sees anything hangs on no part of the catalogue; whoever works on it works on it for all.
  return (shows === 'seen' || access === 'see' ? holder.permissions : holder.everywhere).includes(access);
}

/** A sign-in name. */
export const accountName = text
  .trim()
  .toLowerCase()
  .regex(/^[a-z0-9][a-z0-9._-]{0,63}$/, 'a sign-in name has letters, digits, dots, dashes and underscores, 64 at most');

export const MIN_PASSWORD_LENGTH = 10;

/** A password that somebody chooses. Length counts, not which signs are in it. */
export const newPassword = text
  .min(MIN_PASSWORD_LENGTH, `It needs ${MIN_PASSWORD_LENGTH} characters at least.`)
  .max(200, 'It has 200 characters at most.');

const anyPassword = text.min(1).max(200);

export const displayName = text.trim().min(1, 'It needs a name.').max(100);

export const session = z.object({
  id: z.uuid(),
  device: z.string().describe('How the browser names itself'),
  since: isoTime,
  lastUsed: isoTime,
  isThis: z.boolean().describe('The one that asks'),
});
export type Session = z.infer<typeof session>;

/** What stands in a link with which somebody chooses a password. */
const linkToken = text.min(1).max(100);

export const accountRoutes = {
  signIn: route({
    method: 'POST',
    path: '/api/session',
    access: 'public',
    summary: 'Sign in; the answer sets the session cookie',
    body: z.object({
      name: text.min(1).max(100),
      password: anyPassword,
      code: text.max(100).optional().describe('Of the second factor, or a recovery code'),
    }),
    response: person,
  }),
  whoAmI: route({
    method: 'GET',
    path: '/api/session',
    access: 'public',
    summary: 'Who is signed in; null when nobody is',
    response: person.nullable(),
  }),
  signOut: route({
    method: 'DELETE',
    path: '/api/session',
    access: 'signedIn',
    shows: 'nothing',
    summary: 'Sign out',
    response: done,
  }),
  changePassword: route({
    method: 'POST',
    path: '/api/session/password',
    access: 'signedIn',
    shows: 'nothing',
    summary: 'Change one’s own password; ends all sessions of the account, this one too',
    body: z.object({ present: anyPassword, password: newPassword }),
    response: done,
  }),
  listSessions: route({
    method: 'GET',
    path: '/api/session/all',
    access: 'signedIn',
    shows: 'nothing',
    summary: 'Where one is signed in, the session used last first',
    response: z.object({ sessions: z.array(session) }),
  }),
  endSession: route({
    method: 'DELETE',
    path: '/api/session/all/:id',
    access: 'signedIn',
    shows: 'nothing',
    summary: 'End one of one’s own sessions',
    params: z.object({ id: z.uuid() }),
    response: done,
  }),
  endOtherSessions: route({
    method: 'POST',
    path: '/api/session/all/end',
    access: 'signedIn',
    shows: 'nothing',
    summary: 'End all of one’s own sessions but this one',
    response: done,
  }),
  changeTheme: route({
    method: 'POST',
    path: '/api/account/theme',
    access: 'signedIn',
    shows: 'nothing',
    summary: 'Say how the interface is to look for oneself, wherever one signs in',
    body: z.object({ theme }),
    response: done,
  }),
  changeLanguage: route({
    method: 'POST',
    path: '/api/account/language',
    access: 'signedIn',
    shows: 'nothing',
    summary: 'Say in which language one likes to read texts and terms that are there in several',
    body: z.object({ language: languageTag.nullable() }),
    response: done,
  }),
  changeOwnName: route({
    method: 'POST',
    path: '/api/session/name',
    access: 'signedIn',
    shows: 'nothing',
    summary: 'Be called otherwise',
    body: z.object({ displayName }),
    response: done,
  }),
  showSecondFactor: route({
    method: 'GET',
    path: '/api/session/factor',
    access: 'signedIn',
    shows: 'nothing',
    summary: 'Whether one signs in with a second factor',
    response: z.object({ on: z.boolean(), recoveryCodes: z.number().describe('How many are left') }),
  }),
  proposeSecondFactor: route({
    method: 'POST',
    path: '/api/session/factor/proposal',
    access: 'signedIn',
    shows: 'nothing',
    summary: 'A secret for an app that shows codes (RFC 6238); nothing is kept before it is confirmed',
    response: z.object({ secret: z.string(), uri: z.string().describe('otpauth://…') }),
  }),
  confirmSecondFactor: route({
    method: 'POST',
    path: '/api/session/factor',
    access: 'signedIn',
    shows: 'nothing',
    summary: 'Sign in with a second factor from now on; the recovery codes are shown this once',
    body: z.object({ secret: text.regex(/^[A-Z2-7]{16,64}$/), code: text.trim().max(20) }),
    response: z.object({ recoveryCodes: z.array(z.string()) }),
  }),
  removeSecondFactor: route({
    method: 'POST',
    path: '/api/session/factor/removal',
    access: 'signedIn',
    shows: 'nothing',
    summary: 'Sign in with the password alone again',
    body: z.object({ password: anyPassword }),
    response: done,
  }),
  showInvitation: route({
    method: 'POST',
    path: '/api/invitation',
    access: 'public',
    summary: 'Whose link it is with which a password is chosen',
    body: z.object({ token: linkToken }),
    response: z.object({ name: z.string(), displayName: z.string() }),
  }),
  acceptInvitation: route({
    method: 'POST',
    path: '/api/invitation/accept',
    access: 'public',
    summary: 'Choose the password of the account that a link is of; the link is used up by that',
    body: z.object({ token: linkToken, password: newPassword }),
    response: z.object({ name: z.string() }),
  }),
};
