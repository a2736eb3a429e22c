// What is read of accounts, teams and sessions, and what is done with them.

import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { accountRoutes } from '@stellin/contract/accounts';
import { teamRoutes } from '@stellin/contract/team';
import { tokenRoutes } from '@stellin/contract/tokens';
import { call } from '../foundation/api';
import { useAction } from '../foundation/changes';

const TOPICS = ['accounts'];

export function useTeam() {
  return useQuery({ queryKey: ['accounts', 'team'], queryFn: () => call(teamRoutes.showTeam, {}) });
}

export function useSessions() {
  return useQuery({
    queryKey: ['accounts', 'sessions'],
    queryFn: async () => (await call(accountRoutes.listSessions, {})).sessions,
  });
}

type BodyOf<Name extends keyof typeof teamRoutes> = (typeof teamRoutes)[Name]['body']['_output'];

export const useInvite = () =>
  useAction((body: BodyOf<'inviteAccount'>) => call(teamRoutes.inviteAccount, { body }), TOPICS);

export const useLink = () => useAction((id: number) => call(teamRoutes.linkAccount, { params: { id } }), TOPICS);

export const useChangeAccount = () =>
  useAction(
    ({ id, ...body }: { id: number } & BodyOf<'changeAccount'>) =>
      call(teamRoutes.changeAccount, { params: { id }, body }),
    TOPICS,
  );

export const useSaveRole = () => useAction((body: BodyOf<'saveRole'>) => call(teamRoutes.saveRole, { body }), TOPICS);

export const useRemoveRole = () => useAction((id: number) => call(teamRoutes.removeRole, { params: { id } }), TOPICS);

export const useSaveTeam = () => useAction((body: BodyOf<'saveTeam'>) => call(teamRoutes.saveTeam, { body }), TOPICS);

export const useRemoveTeam = () => useAction((id: number) => call(teamRoutes.removeTeam, { params: { id } }), TOPICS);

export const useGiveRight = () =>
  useAction((body: BodyOf<'giveRight'>) => call(teamRoutes.giveRight, { body }), TOPICS);

export const useTakeRight = () => useAction((id: number) => call(teamRoutes.takeRight, { params: { id } }), TOPICS);

export const useEndSession = () =>
  useAction((id: string) => call(accountRoutes.endSession, { params: { id } }), TOPICS);

export const useEndOtherSessions = () => useAction((_: undefined) => call(accountRoutes.endOtherSessions, {}), TOPICS);

export const useChangeOwnName = () =>
  useAction(
    (displayName: string) => call(accountRoutes.changeOwnName, { body: { displayName } }),
    [...TOPICS, 'session'],
  );

/** Says in which language one likes to read; what is shown of terms is read anew. */
export const useChangeLanguage = () =>
  useAction(
    (language: string | null) => call(accountRoutes.changeLanguage, { body: { language } }),
    ['session', 'vocabulary'],
  );

export function useTokens() {
  return useQuery({
    queryKey: ['accounts', 'tokens'],
    queryFn: async () => (await call(tokenRoutes.listTokens, {})).tokens,
  });
}

export const useMakeToken = () =>
  useAction(
    (body: (typeof tokenRoutes)['makeToken']['body']['_output']) => call(tokenRoutes.makeToken, { body }),
    TOPICS,
  );

export const useRevokeToken = () =>
  useAction((id: number) => call(tokenRoutes.revokeToken, { params: { id } }), TOPICS);

export function useSecondFactor() {
  return useQuery({
    queryKey: ['accounts', 'factor'],
    queryFn: () => call(accountRoutes.showSecondFactor, {}),
  });
}

/** A secret for an app: another one each time it is asked for. */
export function useFactorProposal() {
  return useQuery({
    queryKey: ['factor proposal'],
    queryFn: () => call(accountRoutes.proposeSecondFactor, {}),
    staleTime: Infinity,
    gcTime: 0,
  });
}

/** What is refused is said where it was typed. */
export function useConfirmFactor() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: (typeof accountRoutes)['confirmSecondFactor']['body']['_output']) =>
      call(accountRoutes.confirmSecondFactor, { body }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['accounts'] }),
  });
}

export const useRemoveFactor = () =>
  useAction((password: string) => call(accountRoutes.removeSecondFactor, { body: { password } }), TOPICS);

export const useResetFactor = () =>
  useAction((id: number) => call(teamRoutes.resetSecondFactor, { params: { id } }), TOPICS);
