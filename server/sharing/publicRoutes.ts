// What is behind a view link, for people who have no account: pages and pictures, and nothing that changes anything. Whatever is not there, or
// not any more, gets the same answer.

import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import { z } from 'zod';
import { originOf } from '@stellin/core/sharing/embedding';
import { ANSWER_KINDS, ANSWERS, MAX_ANSWER, MAX_SENDER } from '@stellin/core/sharing/answers';
import { SHARED_SCRIPT, sharedStyle } from '@stellin/core/sharing/pages';
import { text } from '@stellin/contract/route';
import { LINK_PATH } from '@stellin/contract/sharing';
import { StellinError } from '../errors';
import { askPassword, baseOf, guestsOf, html, nothing, tokenOf, type GuestParts } from './guests';
import { linkPages } from './linkPages';
import type { OpenLink, OpenLinks } from './showing';

const SENDER = 'sender';
/** Pictures stay in the browser for a moment, so that going back is quick; never past the end of their link. */
const PICTURE_SECONDS = 300;
const TRIES_A_MINUTE = 10;
const ANSWERS_A_MINUTE = 30;
const MAX_FORM_BYTES = 4096;

const sheetQuery = z.object({ page: z.coerce.number().int().min(1).max(1000).catch(1) });
const mapQuery = z.object({ spot: z.string().max(40).nullable().catch(null).default(null) });
const viewQuery = z.object({
  show: z.string().optional().catch(undefined),
  sent: z.string().optional().catch(undefined),
});
const answerForm = z.object({
  kind: z.enum(ANSWER_KINDS),
  text: text.trim().max(MAX_ANSWER).default(''),
  sender: text.trim().min(1).max(MAX_SENDER),
});
const passwordForm = z.object({ password: z.string().max(200) });

/** What pages may do: show pictures of ours, run our one script and send a form to us. */
const POLICY =
  "default-src 'none'; img-src 'self'; script-src 'self'; connect-src 'self'; style-src 'self'; form-action 'self'; base-uri 'none'";
const OPEN = { config: { access: 'public' as const }, schema: { hide: true } };
const limited = (max: number) => ({ ...OPEN, config: { ...OPEN.config, rateLimit: { max, timeWindow: '1 minute' } } });

export function publicLinkRoutes(app: FastifyInstance, parts: GuestParts, done: () => void): void {
  const asForm = { parseAs: 'string', bodyLimit: MAX_FORM_BYTES } as const;
  app.addContentTypeParser('application/x-www-form-urlencoded', asForm, (_request, body, parsed) =>
    parsed(null, Object.fromEntries(new URLSearchParams(String(body)))),
  );
  limitPages(app, parts.links);
  lookRoutes(app, parts.links);
  doorRoutes(app, parts);
  pageRoutes(app, parts);
  pictureRoutes(app, parts);
  // Nor is the application found below these addresses.
  app.get(`${LINK_PATH}*`, OPEN, (_request, reply) => nothing(reply));
  done();
}

/** What browsers let pages do, and who may show them in a frame. */
function limitPages(app: FastifyInstance, links: OpenLinks): void {
  app.addHook('onRequest', (_request, reply, next) => {
    reply
      .header('content-security-policy', `${POLICY}; frame-ancestors 'none'`)
      .header('x-robots-tag', 'noindex, nofollow');
    reply.header('referrer-policy', 'no-referrer').header('cache-control', 'no-store');
    next();
  });
  // A page of others may show it in a frame where its maker says so.
  app.addHook('preHandler', async (request, reply) => {
    const { token } = request.params as { token?: string };
    const isPage = !/\.\w+$/.test(request.routeOptions.url ?? '');
    const frames = token === undefined || !isPage ? [] : ((await links.find(token))?.settings.embedOn ?? []);
    if (frames.length === 0) return;
    reply.header('content-security-policy', `${POLICY}; frame-ancestors ${frames.map(originOf).join(' ')}`);
    reply.removeHeader('x-frame-options');
  });
}

/** How pages look, and their script. */
function lookRoutes(app: FastifyInstance, links: OpenLinks): void {
  for (const path of [`${LINK_PATH}-/script.js`, `${LINK_PATH}:token/script.js`])
    app.get(path, OPEN, (_request, reply) => reply.type('text/javascript').send(SHARED_SCRIPT));
  app.get(`${LINK_PATH}-/style.css`, OPEN, (_request, reply) => reply.type('text/css').send(sharedStyle('paper')));
  app.get(`${LINK_PATH}:token/style.css`, OPEN, async (request, reply) => {
    const link = await links.find(tokenOf(request));
    return reply.type('text/css').send(sharedStyle(link?.settings.look ?? 'paper'));
  });
}

/** Coming in: the first page, and the password. */
function doorRoutes(app: FastifyInstance, parts: GuestParts): void {
  const { links } = parts;
  const { isIn, letIn, note } = guestsOf(parts);
  const pages = linkPages(parts);

  app.get(`${LINK_PATH}:token`, OPEN, async (request, reply) => {
    const token = tokenOf(request);
    const link = await links.find(token);
    if (!link) return nothing(reply);
    if (!isIn(request, link)) {
      if (link.row.passwordHash !== null) return askPassword(reply, token);
      if (!(await links.enter(link))) return nothing(reply);
      note('viewedLink', request, link);
      letIn(reply, request, token, link);
    }
    return html(reply, await pages.sheet(request, link, sheetQuery.parse(request.query).page));
  });

  app.post(`${LINK_PATH}:token`, limited(TRIES_A_MINUTE), async (request, reply) => {
    const token = tokenOf(request);
    const link = await links.find(token);
    const given = passwordForm.safeParse(request.body);
    if (!link || link.row.passwordHash === null || !given.success) return nothing(reply);
    try {
      if (!(await links.unlocks(link, given.data.password))) {
        note('linkRefused', request, link);
        return askPassword(reply, token, 'That is not the password.', 403);
      }
    } catch (error) {
      if (!(error instanceof StellinError)) throw error;
      return askPassword(reply, token, error.message, error.status);
    }
    if (!(await links.enter(link))) return nothing(reply);
    note('viewedLink', request, link);
    return letIn(reply, request, token, link).redirect(baseOf(token), 303);
  });
}

/** The map, the page of a picture, and what is said of it. */
function pageRoutes(app: FastifyInstance, parts: GuestParts): void {
  const { links } = parts;
  const { cookieFor, entered, seen } = guestsOf(parts);
  const pages = linkPages(parts);

  /** The page of a picture; its form has to be known as ours. */
  const sendView = async (
    reply: FastifyReply,
    request: FastifyRequest,
    { link, photoId }: { link: OpenLink; photoId: number },
    problem: string,
  ): Promise<FastifyReply> => {
    const { show, sent } = viewQuery.parse(request.query);
    const sender =
      problem === ''
        ? (request.cookies[SENDER] ?? '')
        : (answerForm.shape.sender.safeParse((request.body as { sender?: unknown } | null)?.sender).data ?? '');
    const answers = link.settings.answers ? { sender, sent: sent !== undefined, problem } : null;
    const page = await pages.view(request, link, photoId, { shows: show !== undefined, answers });
    if (page === undefined) return nothing(reply);
    return html(answers ? reply.header('referrer-policy', 'same-origin') : reply, page, problem === '' ? 200 : 400);
  };

  /** For open pages: whether they are still to be shown. */
  app.get(`${LINK_PATH}:token/here`, OPEN, async (request, reply) =>
    (await entered(request)) ? reply.code(204).send() : nothing(reply),
  );

  app.get(`${LINK_PATH}:token/map`, OPEN, async (request, reply) => {
    const link = await entered(request);
    if (!link?.settings.map) return nothing(reply);
    return html(reply, await pages.map(request, link, mapQuery.parse(request.query).spot));
  });

  app.get(`${LINK_PATH}:token/:key`, OPEN, async (request, reply) => {
    const found = await seen(request);
    return found ? sendView(reply, request, found, '') : nothing(reply);
  });

  app.post(`${LINK_PATH}:token/:key/answer`, limited(ANSWERS_A_MINUTE), async (request, reply) => {
    const found = await seen(request);
    if (!found?.link.settings.answers) return nothing(reply);
    const given = answerForm.safeParse(request.body);
    if (!given.success) return sendView(reply, request, found, 'Please say who you are, in at most 100 letters.');
    const { link, photoId } = found;
    const said = { ...given.data, text: ANSWERS[given.data.kind].says ? given.data.text : '' };
    if (ANSWERS[said.kind].says && said.text === '') return sendView(reply, request, found, 'Please say it in words.');
    if (!(await links.answer(link, photoId, said)))
      return sendView(reply, request, found, 'There are more answers than can be read.');
    // Who sends one answer often sends another.
    reply.setCookie(SENDER, said.sender, cookieFor(request, tokenOf(request)));
    return reply.redirect(`${baseOf(tokenOf(request))}/${links.keyOf(link, photoId)}?sent#answer`, 303);
  });
}

/** Pictures, and taking them along. */
function pictureRoutes(app: FastifyInstance, parts: GuestParts): void {
  const { seen } = guestsOf(parts);
  for (const [name, size] of [
    ['small.jpg', 'small'],
    ['large.jpg', 'large'],
    ['picture.jpg', 'large'],
  ] as const)
    app.get(`${LINK_PATH}:token/:key/${name}`, OPEN, async (request, reply) => {
      const found = await seen(request);
      const isDownload = name === 'picture.jpg';
      if (!found || (isDownload && !found.link.settings.downloads)) return nothing(reply);
      const { link } = found;
      const picture = await parts.pictures.pictureOf(found, size, link.settings);
      if (!picture) return nothing(reply);
      if (isDownload) reply.header('content-disposition', 'attachment; filename="picture.jpg"');
      else reply.header('cache-control', `private, max-age=${secondsLeft(link)}`);
      return reply.type('image/jpeg').send(picture);
    });
}

/** How long a picture may stay in a browser, in seconds. */
function secondsLeft({ row: { endsAt } }: OpenLink): number {
  const left = endsAt === null ? PICTURE_SECONDS : Math.floor((endsAt.getTime() - Date.now()) / 1000);
  return Math.max(0, Math.min(PICTURE_SECONDS, left));
}
