// The routes of signing in and of one’s own account, and finding out who asks.

import type { FastifyInstance, FastifyRequest } from 'fastify';
import { accountRoutes } from '@stellin/contract/accounts';
import { StellinError } from '../errors';
import { serve } from '../serve';
import { limitedTo, type Rights } from './rights';
import type { SecondFactor } from './secondFactor';
import type { Accounts } from './service';
import { SESSION_HOURS, type Sessions } from './sessions';
import type { Tokens } from './tokens';

const COOKIE = 'stellin_session';
const TRIES_A_MINUTE = { rateLimit: { max: 10, timeWindow: '1 minute' } };

interface Parts {
  accounts: Accounts;
  sessions: Sessions;
  rights: Rights;
  secondFactor: SecondFactor;
}

export function accountsRoutes(app: FastifyInstance, { accounts, sessions, rights, secondFactor }: Parts): void {
  // One list of the routes of a subject; each of them fits a screen.
  serve(
    app,
    accountRoutes.signIn,
    async ({ body, request, reply }) => {
      const { account, token } = await accounts.signIn(body.name, body.password, {
        device: request.headers['user-agent'],
        code: body.code,
      });
      reply.setCookie(COOKIE, token, {
        path: '/',
        httpOnly: true,
        sameSite: 'strict',
        // Behind TLS it goes over TLS only.
        secure: request.protocol === 'https',
        maxAge: SESSION_HOURS * 3600,
      });
      request.person = await rights.personOf(account.id);
      return request.person;
    },
    { ...TRIES_A_MINUTE, records: 'signedIn', recordsRefused: 'signInRefused' },
  );
  serve(app, accountRoutes.whoAmI, ({ request }) => Promise.resolve(request.person));
  serve(
    app,
    accountRoutes.signOut,
    async ({ request, reply }) => {
      const token = request.cookies[COOKIE];
      if (token) await sessions.close(token);
      // What the browser keeps of pictures goes as well.
      reply.clearCookie(COOKIE, { path: '/' }).header('clear-site-data', '"cache"');
      return { done: true as const };
    },
    { records: 'signedOut' },
  );
  serve(
    app,
    accountRoutes.changePassword,
    async ({ body, person, reply }) => {
      await accounts.changePassword(person.id, body.present, body.password);
      reply.clearCookie(COOKIE, { path: '/' });
      return { done: true as const };
    },
    TRIES_A_MINUTE,
  );
  serve(app, accountRoutes.listSessions, async ({ person, request }) => ({
    sessions: await sessions.list(person.id, sessionOf(request.sessionId)),
  }));
  serve(app, accountRoutes.endSession, async ({ person, params }) => {
    await sessions.end(person.id, params.id);
    return { done: true as const };
  });
  serve(app, accountRoutes.endOtherSessions, async ({ person, request }) => {
    await sessions.endAll(person.id, sessionOf(request.sessionId));
    return { done: true as const };
  });
  serve(app, accountRoutes.changeOwnName, async ({ person, body }) => {
    await accounts.rename(person.id, body.displayName);
    return { done: true as const };
  });
  serve(app, accountRoutes.changeTheme, async ({ person, body }) => {
    await accounts.changeTheme(person.id, body.theme);
    return { done: true as const };
  });
  serve(app, accountRoutes.changeLanguage, async ({ person, body }) => {
    await accounts.changeLanguage(person.id, body.language);
    return { done: true as const };
  });
  serve(app, accountRoutes.showSecondFactor, ({ person }) => secondFactor.state(person.id));
  serve(app, accountRoutes.proposeSecondFactor, ({ person }) => secondFactor.propose(person.id));
  serve(
    app,
    accountRoutes.confirmSecondFactor,
    async ({ person, body }) => ({ recoveryCodes: await secondFactor.confirm(person.id, body.secret, body.code) }),
    TRIES_A_MINUTE,
  );
  serve(
    app,
    accountRoutes.removeSecondFactor,
    async ({ person, body }) => {
      await secondFactor.remove(person.id, body.password);
      return { done: true as const };
    },
    TRIES_A_MINUTE,
  );
  serve(app, accountRoutes.showInvitation, async ({ body }) => accounts.invited(body.token), TRIES_A_MINUTE);
  serve(
    app,
    accountRoutes.acceptInvitation,
    async ({ body }) => accounts.accept(body.token, body.password),
    TRIES_A_MINUTE,
  );
}

function sessionOf(id: string | null): string {
  if (id === null) throw new StellinError('notSignedIn');
  return id;
}

/** Whether the session that a request was made with is still open. */
export async function isSignedIn({ cookies }: FastifyRequest, sessions: Sessions): Promise<boolean> {
  const token = cookies[COOKIE];
  return token !== undefined && (await sessions.isOpen(token));
}

/** Finds out who asks, before anything else happens with a request. */
export function identify(
  app: FastifyInstance,
  { sessions, tokens, rights }: Pick<Parts, 'sessions' | 'rights'> & { tokens: Tokens },
): void {
  app.decorateRequest('person', null);
  app.decorateRequest('sessionId', null);
  app.addHook('onRequest', async (request) => {
    const bearer = /^Bearer (\S+)$/i.exec(request.headers.authorization ?? '')?.[1];
    if (bearer !== undefined) {
      const script = await tokens.holderOf(bearer);
      request.person = script ? limitedTo(await rights.read(script), script.permissions) : null;
      return;
    }
    const token = request.cookies[COOKIE];
    const holder = token ? await sessions.holderOf(token) : undefined;
    request.person = holder ? await rights.read(holder) : null;
    request.sessionId = holder?.sessionId ?? null;
  });
}
