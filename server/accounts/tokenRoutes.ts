// The routes of one's own tokens for scripts.

import type { FastifyInstance } from 'fastify';
import { tokenRoutes } from '@stellin/contract/tokens';
import { serve } from '../serve';
import type { Tokens } from './tokens';

export function tokenRoutesFor(app: FastifyInstance, tokens: Tokens): void {
  serve(app, tokenRoutes.listTokens, async ({ person }) => ({ tokens: await tokens.list(person.id) }));
  serve(app, tokenRoutes.makeToken, ({ person, body }) => tokens.make(person.id, body));
  serve(app, tokenRoutes.revokeToken, async ({ person, params }) => {
    await tokens.revoke(person.id, params.id);
    return { done: true as const };
  });
}
