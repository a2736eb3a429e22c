// The routes of signing in, and finding out who asks.

import type { FastifyInstance } from 'fastify';
import { accountRoutes } from '@stellin/contract/accounts';
import { serve } from '../serve';
import { SESSION_HOURS, type Accounts } from './service';

const COOKIE = 'stellin_session';
const TRIES_A_MINUTE = 10;

export function accountsRoutes(app: FastifyInstance, accounts: Accounts): void {
  serve(
    app,
    accountRoutes.signIn,
    async ({ body, reply }) => {
      const { person, token } = await accounts.signIn(body.name, body.password);
      reply.setCookie(COOKIE, token, { path: '/', httpOnly: true, sameSite: 'strict', maxAge: SESSION_HOURS * 3600 });
      return person;
    },
    { rateLimit: { max: TRIES_A_MINUTE, timeWindow: '1 minute' } },
  );
  serve(app, accountRoutes.whoAmI, ({ request }) => Promise.resolve(request.person));
  serve(app, accountRoutes.signOut, async ({ request, reply }) => {
    const token = request.cookies[COOKIE];
    if (token) await accounts.signOut(token);
    reply.clearCookie(COOKIE, { path: '/' });
    return { done: true as const };
  });
  serve(
    app,
    accountRoutes.changePassword,
    async ({ body, person, reply }) => {
      await accounts.changePassword(person.id, body.present, body.password);
      reply.clearCookie(COOKIE, { path: '/' });
      return { done: true as const };
    },
    { rateLimit: { max: TRIES_A_MINUTE, timeWindow: '1 minute' } },
  );
}

/** Finds out who asks, before anything else happens with a request. */
export function identify(app: FastifyInstance, accounts: Accounts): void {
  app.decorateRequest('person', null);
  app.addHook('onRequest', async (request) => {
    const token = request.cookies[COOKIE];
    request.person = token ? await accounts.whoHolds(token) : null;
  });
}
