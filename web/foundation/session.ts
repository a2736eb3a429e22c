// Who is signed in: signing in and out, the password, what one may do.

import { useMutation, useQuery, useQueryClient, type QueryClient } from '@tanstack/react-query';
import { createContext, useContext } from 'react';
import { accountRoutes, mayCall, type SignedIn, type Theme } from '@stellin/contract/accounts';
import { mayChange, type ChangeKind } from '@stellin/contract/ledger';
import type { Job } from '@stellin/contract/jobs';
import type { Route } from '@stellin/contract/route';
import { call } from './api';

export const SESSION_KEY = ['session'];

/** Who is signed in; null when nobody is. */
export function useSession() {
  return useQuery({
    queryKey: SESSION_KEY,
    queryFn: () => call(accountRoutes.whoAmI, {}),
    staleTime: Infinity,
  });
}

/** Keeps with the account how the interface looks. */
export function useKeepTheme() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (theme: Theme) => call(accountRoutes.changeTheme, { body: { theme } }),
    onSuccess: () => client.invalidateQueries({ queryKey: SESSION_KEY }),
  });
}

export function useSignIn() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: { name: string; password: string; code?: string | undefined }) =>
      call(accountRoutes.signIn, { body }),
    onSuccess: (person) => client.setQueryData(SESSION_KEY, person),
  });
}

export function useSignOut() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: () => call(accountRoutes.signOut, {}),
    onSuccess: () => leave(client),
  });
}

/** Nobody is signed in any more, and nothing of what somebody saw is kept. */
function leave(client: QueryClient): void {
  // First, so that what shows the rest is gone before it is.
  client.setQueryData(SESSION_KEY, null);
  client.removeQueries({ predicate: ({ queryKey }) => queryKey[0] !== SESSION_KEY[0] });
}

/** Changes one's own password; nobody is signed in after it. */
export function useChangePassword() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: { present: string; password: string }) => call(accountRoutes.changePassword, { body }),
    onSuccess: () => leave(client),
  });
}

export const PersonContext = createContext<SignedIn | null>(null);

/** Whether the person signed in may ask for something. */
export function useMayCall(route: Pick<Route, 'access' | 'shows'>): boolean {
  return mayCall(useContext(PersonContext), route);
}

/** Whether the person signed in may pause or cancel a job: their own, or everybody’s who administers. */
export function useMayControl({ accountId }: Pick<Job, 'accountId'>): boolean {
  const person = useContext(PersonContext);
  return person !== null && (person.id === accountId || person.everywhere.includes('administer'));
}

/** Whether the person signed in may make changes of a kind, of some photos at least. */
export function useMayChange(kind: ChangeKind): boolean {
  const person = useContext(PersonContext);
  return person !== null && mayChange(person, kind);
}
