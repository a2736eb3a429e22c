// What is read and done of letters.

import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { mailingRoutes, type LetterRequest } from '@stellin/contract/mailing';
import { call } from '../foundation/api';
import { showError } from '../foundation/changes';

/** Query keys begin with the name of their topic. */
const MAIL_KEY = ['mail'];

export function useContacts() {
  return useQuery({
    queryKey: [...MAIL_KEY, 'contacts'],
    queryFn: async () => (await call(mailingRoutes.listContacts, {})).contacts,
  });
}

export function useLetters() {
  return useQuery({ queryKey: [...MAIL_KEY, 'letters'], queryFn: () => call(mailingRoutes.listLetters, {}) });
}

/** What the stand-in was given; asked only where there is one. */
export function useMailBox(isThere: boolean) {
  return useQuery({
    queryKey: [...MAIL_KEY, 'box'],
    queryFn: async () => (await call(mailingRoutes.mailBox, {})).messages,
    enabled: isThere,
  });
}

/** Sends a letter; what goes wrong is for the form to say. */
export function useSendLetter() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: LetterRequest) => call(mailingRoutes.sendLetter, { body }),
    onSuccess: () => client.invalidateQueries({ queryKey: MAIL_KEY }),
  });
}

export function useKeepContact() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: { name: string; address: string }) => call(mailingRoutes.keepContact, { body }),
    onError: showError,
    onSuccess: () => client.invalidateQueries({ queryKey: MAIL_KEY }),
  });
}

const STEPS = {
  retry: mailingRoutes.retryLetters,
  stop: mailingRoutes.stopLetters,
  forget: mailingRoutes.removeContacts,
} as const;

/** Does something with some recipients, or takes people out of the address book. */
export function useMailStep(step: keyof typeof STEPS) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (ids: number[]) => call(STEPS[step], { body: { ids } }),
    onError: showError,
    onSuccess: () => client.invalidateQueries({ queryKey: MAIL_KEY }),
  });
}
