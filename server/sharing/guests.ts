// Who looks at a view link: the addresses they come by, the cookie that says that they were let in, and what they get where there is nothing.

import type { FastifyReply, FastifyRequest } from 'fastify';
import { z } from 'zod';
import { nothingPage, passwordPage } from '@stellin/core/sharing/pages';
import { isOpenToAll, LINK_PATH } from '@stellin/contract/sharing';
import type { SharedPictures } from './pictures';
import type { World } from '../delivering/service';
import { entryCookie, isEntry } from './keys';
import type { OpenLink, OpenLinks } from './showing';

export type Guests = ReturnType<typeof guestsOf>;

const COOKIE = 'view';

export interface GuestParts {
  links: OpenLinks;
  pictures: SharedPictures;
  /** Puts into the record of access that somebody came, by where from: nobody knows who they are. */
  noteAccess: (noted: { kind: 'viewedLink' | 'linkRefused'; accountId: null; address: string; about: string }) => void;
  /** What stands on maps. */
  world: World;
  /** How the server is reached from outside; empty: as who asks reached it. */
  publicUrl: string;
}

const linkParams = z.object({ token: z.string().max(100) });
const pictureParams = linkParams.extend({ key: z.string().max(40) });

export const tokenOf = ({ params }: FastifyRequest): string => linkParams.parse(params).token;
export const baseOf = (token: string): string => `${LINK_PATH}${token}`;

/** A page. */
export function html(reply: FastifyReply, page: string, status = 200): FastifyReply {
  return reply.code(status).type('text/html; charset=utf-8').send(page);
}

/** What everybody gets where there is nothing, whatever the reason. */
export function nothing(reply: FastifyReply): FastifyReply {
  return html(reply, nothingPage(`${LINK_PATH}-`), 404);
}

/** With its own origin: browsers tell none where nothing is to be told of it, and then the form is not known to be ours. */
export function askPassword(reply: FastifyReply, token: string, problem = '', status = 200): FastifyReply {
  return html(reply.header('referrer-policy', 'same-origin'), passwordPage(baseOf(token), problem), status);
}

export function guestsOf({ links, noteAccess, publicUrl }: GuestParts) {
  const cookieFor = ({ protocol }: FastifyRequest, token: string) =>
    ({ path: baseOf(token), httpOnly: true, sameSite: 'lax', secure: protocol === 'https' }) as const;
  const isIn = (request: FastifyRequest, { row }: OpenLink) => isEntry(row.secret, request.cookies[COOKIE], Date.now());

  /** The link of an address for who was let in already, or where nobody has to be; undefined for anybody else. */
  const entered = async (request: FastifyRequest): Promise<OpenLink | undefined> => {
    const link = await links.find(tokenOf(request));
    return link && (isOpenToAll(link.settings) || isIn(request, link)) ? link : undefined;
  };

  return {
    cookieFor,
    isIn,
    entered,

    /** The link and the photo of an address, for who was let in. */
    async seen(request: FastifyRequest): Promise<{ link: OpenLink; photoId: number; version: number } | undefined> {
      const { key } = pictureParams.parse(request.params);
      const link = await entered(request);
      const photo = link && (await links.photoOf(link, key));
      return link && photo && { link, ...photo };
    },

    letIn: (reply: FastifyReply, request: FastifyRequest, token: string, { row }: OpenLink): FastifyReply =>
      reply.setCookie(COOKIE, entryCookie(row.secret, Date.now()), cookieFor(request, token)),

    note: (kind: 'viewedLink' | 'linkRefused', request: FastifyRequest, { settings }: OpenLink): void =>
      noteAccess({ kind, accountId: null, address: request.ip, about: settings.title }),

    /** An address of ours as others reach it. */
    outside: (request: FastifyRequest, path: string): string =>
      new URL(path, publicUrl || `${request.protocol}://${request.host}`).href,
  };
}
