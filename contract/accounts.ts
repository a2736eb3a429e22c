import { z } from 'zod';
import { done, ROLES, route } from './route';

export const person = z.object({
  id: z.number(),
  name: z.string().describe('The sign-in name'),
  displayName: z.string(),
  role: z.enum(ROLES),
});
export type SignedIn = z.infer<typeof person>;

export const accountRoutes = {
  signIn: route({
    method: 'POST',
    path: '/api/session',
    access: 'public',
    summary: 'Sign in; the answer sets the session cookie',
    body: z.object({ name: z.string().min(1).max(100), password: z.string().min(1).max(200) }),
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
};
