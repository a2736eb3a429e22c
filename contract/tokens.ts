// Tokens with which scripts ask in somebody's name: `Authorization: Bearer …` (RFC 6750).

import { z } from 'zod';
import { PERMISSION_IDS } from '@stellin/core/accounts/permissions';
import { done, idParams, isoTime, route, text } from './route';

export const MAX_TOKEN_DAYS = 366;

const token = z.object({
  id: z.number(),
  name: z.string(),
  permissions: z.array(z.enum(PERMISSION_IDS)),
  createdAt: isoTime,
  expiresAt: isoTime,
  lastUsedAt: isoTime.nullable(),
});
export type ApiToken = z.infer<typeof token>;

export const tokenForm = z.object({
  name: text.trim().min(1, 'It needs a name.').max(100),
  permissions: z.array(z.enum(PERMISSION_IDS)).max(PERMISSION_IDS.length),
  days: z.number().int().min(1).max(MAX_TOKEN_DAYS).describe('How long it is good'),
});

export const tokenRoutes = {
  listTokens: route({
    method: 'GET',
    path: '/api/tokens',
    access: 'signedIn',
    shows: 'nothing',
    summary: 'One’s own tokens for scripts, those that are over left out',
    response: z.object({ tokens: z.array(token) }),
  }),
  makeToken: route({
    method: 'POST',
    path: '/api/tokens',
    access: 'signedIn',
    shows: 'nothing',
    summary: 'Make a token for scripts; the answer is the only place where it stands',
    body: tokenForm,
    response: z.object({ id: z.number(), token: z.string() }),
  }),
  revokeToken: route({
    method: 'DELETE',
    path: '/api/tokens/:id',
    access: 'signedIn',
    shows: 'nothing',
    summary: 'Let one of one’s own tokens be good no more',
    params: idParams,
    response: done,
  }),
};
