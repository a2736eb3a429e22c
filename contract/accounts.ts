// Signing in, and one’s own password.

import { z } from 'zod';
import { done, ROLES, route, text } from './route';

export const person = z.object({
  id: z.number(),
  name: z.string().describe('The sign-in name'),
  displayName: z.string(),
  role: z.enum(ROLES),
});
export type SignedIn = z.infer<typeof person>;

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

export const accountRoutes = {
  signIn: route({
    method: 'POST',
    path: '/api/session',
    access: 'public',
    summary: 'Sign in; the answer sets the session cookie',
    body: z.object({ name: text.min(1).max(100), password: anyPassword }),
    response: person,
  }),
  whoAmI: route({
    method: 'GET',
    path: '/api/session',
    access: 'public',
    summary: 'Who is signed in; null when nobody is',
    response: person.nullable(),
  }),
  signOut: route({ method: 'DELETE', path: '/api/session', access: 'viewer', summary: 'Sign out', response: done }),
  changePassword: route({
    method: 'POST',
    path: '/api/session/password',
    access: 'viewer',
    summary: 'Change one’s own password; ends all sessions of the account, this one too',
    body: z.object({ present: anyPassword, password: newPassword }),
    response: done,
  }),
};
