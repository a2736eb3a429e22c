// What is behind a view link, for people who have no account: pages and pictures, and nothing that changes anything. Whatever is not there, or
// not any more, gets the same answer.

import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import { z } from 'zod';
import {
  SECONDS_A_SLIDE,
  SHARED_SCRIPT,
  sharedStyle,
  sharedMapPage,
  sheetPage,
  viewPage,
  type SharedHead,
  type SharedView,
} from '@stellin/core/sharing/pages';
import { originOf } from '@stellin/core/sharing/embedding';
import { ANSWER_KINDS, ANSWERS, MAX_ANSWER, MAX_SENDER } from '@stellin/core/sharing/answers';
import { text } from '@stellin/contract/route';
import { LINK_PATH } from '@stellin/contract/sharing';
import { groundOf } from '../delivering/service';
import { StellinError } from '../errors';
import { askPassword, baseOf, guestsOf, html, nothing, tokenOf, type GuestParts } from './guests';
import type { OpenLink } from './showing';

const PICTURES_A_PAGE = 60;
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

export function publicLinkRoutes(app: FastifyInstance, parts: GuestParts, done: () => void): void {
  // One closure for what its functions share; each of them fits a screen.
  const { links, pictures } = parts;
  const { cookieFor, isIn, entered, seen, letIn, note, outside } = guestsOf(parts);
  const asForm = { parseAs: 'string', bodyLimit: MAX_FORM_BYTES } as const;
  app.addContentTypeParser('application/x-www-form-urlencoded', asForm, (_request, body, parsed) =>
    parsed(null, Object.fromEntries(new URLSearchParams(String(body)))),
  );
  app.addHook('onRequest', (_request, reply, next) => {
    reply
      .header('content-security-policy', `${POLICY}; frame-ancestors 'none'`)
      .header('x-robots-tag', 'noindex, nofollow');
    reply.header('referrer-policy', 'no-referrer').header('cache-control', 'no-store');
    next();
  });

  const open = { config: { access: 'public' as const }, schema: { hide: true } };

  for (const path of [`${LINK_PATH}-/script.js`, `${LINK_PATH}:token/script.js`])
    app.get(path, open, (_request, reply) => reply.type('text/javascript').send(SHARED_SCRIPT));
  app.get(`${LINK_PATH}-/style.css`, open, (_request, reply) => reply.type('text/css').send(sharedStyle('paper')));

  // A page of others may show it in a frame where its maker says so.
  app.addHook('preHandler', async (request, reply) => {
    const { token } = request.params as { token?: string };
    const isPage = !/\.\w+$/.test(request.routeOptions.url ?? '');
    const frames = token === undefined || !isPage ? [] : ((await links.find(token))?.settings.embedOn ?? []);
    if (frames.length === 0) return;
    reply.header('content-security-policy', `${POLICY}; frame-ancestors ${frames.map(originOf).join(' ')}`);
    reply.removeHeader('x-frame-options');
  });

  app.get(`${LINK_PATH}:token`, open, async (request, reply) => {
    const token = tokenOf(request);
    const link = await links.find(token);
    if (!link) return nothing(reply);
    if (!isIn(request, link)) {
      if (link.row.passwordHash !== null) return askPassword(reply, token);
      if (!(await links.enter(link))) return nothing(reply);
      note('viewedLink', request, link);
      letIn(reply, request, token, link);
    }
    return html(reply, await sheetOf(request, link, token, sheetQuery.parse(request.query).page));
  });

  app.post(
    `${LINK_PATH}:token`,
    { ...open, config: { ...open.config, rateLimit: { max: TRIES_A_MINUTE, timeWindow: '1 minute' } } },
    async (request, reply) => {
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
    },
  );

  app.get(`${LINK_PATH}:token/style.css`, open, async (request, reply) => {
    const token = tokenOf(request);
    const link = await links.find(token);
    return reply.type('text/css').send(sharedStyle(link?.settings.look ?? 'paper'));
  });

  /** For open pages: whether they are still to be shown. */
  app.get(`${LINK_PATH}:token/here`, open, async (request, reply) =>
    (await entered(request)) ? reply.code(204).send() : nothing(reply),
  );

  app.get(`${LINK_PATH}:token/map`, open, async (request, reply) => {
    const link = await entered(request);
    if (!link?.settings.map) return nothing(reply);
    const shown = await links.picturesOf(link, await links.idsOf(link));
    const placed = shown.flatMap(({ position }) => (position === null ? [] : [position]));
    const ground = placed.length === 0 ? null : await groundOf(placed, parts.world);
    const { spot } = mapQuery.parse(request.query);
    const { title } = link.settings;
    return html(reply, sharedMapPage({ title, base: baseOf(tokenOf(request)), pictures: shown, ground, spot }));
  });

  app.get(`${LINK_PATH}:token/:key`, open, async (request, reply) => {
    const found = await seen(request);
    if (!found) return nothing(reply);
    return sendView(reply, request, found.link, found.photoId, '');
  });

  app.post(
    `${LINK_PATH}:token/:key/answer`,
    { ...open, config: { ...open.config, rateLimit: { max: ANSWERS_A_MINUTE, timeWindow: '1 minute' } } },
    async (request, reply) => {
      const found = await seen(request);
      if (!found?.link.settings.answers) return nothing(reply);
      const { link, photoId } = found;
      const given = answerForm.safeParse(request.body);
      if (!given.success)
        return sendView(reply, request, link, photoId, 'Please say who you are, in at most 100 letters.');
      const said = { ...given.data, text: ANSWERS[given.data.kind].says ? given.data.text : '' };
      if (ANSWERS[said.kind].says && said.text === '')
        return sendView(reply, request, link, photoId, 'Please say it in words.');
      if (!(await links.answer(link, photoId, said)))
        return sendView(reply, request, link, photoId, 'There are more answers than can be read.');
      // Who sends one answer often sends another.
      reply.setCookie(SENDER, said.sender, cookieFor(request, tokenOf(request)));
      return reply.redirect(`${baseOf(tokenOf(request))}/${links.keyOf(link, photoId)}?sent#answer`, 303);
    },
  );

  for (const [name, size] of [
    ['small.jpg', 'small'],
    ['large.jpg', 'large'],
    ['picture.jpg', 'large'],
  ] as const)
    app.get(`${LINK_PATH}:token/:key/${name}`, open, async (request, reply) => {
      const found = await seen(request);
      const isDownload = name === 'picture.jpg';
      if (!found || (isDownload && !found.link.settings.downloads)) return nothing(reply);
      const { link } = found;
      const picture = await pictures.pictureOf(found, size, link.settings);
      if (!picture) return nothing(reply);
      if (isDownload) reply.header('content-disposition', 'attachment; filename="picture.jpg"');
      else reply.header('cache-control', `private, max-age=${secondsLeft(link)}`);
      return reply.type('image/jpeg').send(picture);
    });

  // Nor is the application found below these addresses.
  app.get(`${LINK_PATH}*`, open, (_request, reply) => nothing(reply));

  done();

  async function sheetOf(request: FastifyRequest, link: OpenLink, token: string, wanted: number): Promise<string> {
    const ids = await links.idsOf(link);
    const pages = Math.max(1, Math.ceil(ids.length / PICTURES_A_PAGE));
    const page = Math.min(wanted, pages);
    const shown = await links.picturesOf(link, ids.slice((page - 1) * PICTURES_A_PAGE, page * PICTURES_A_PAGE));
    const { title, words, map } = link.settings;
    const head = headOf(request, link, token);
    return sheetPage({ title, words, base: baseOf(token), pictures: shown, total: ids.length, page, pages, map, head });
  }

  const headOf = (request: FastifyRequest, { settings }: OpenLink, token: string): SharedHead => {
    const page = encodeURIComponent(outside(request, baseOf(token)));
    return {
      oEmbed: settings.embedOn.length === 0 ? null : outside(request, `${LINK_PATH}-/oembed?format=json&url=${page}`),
      manifest: settings.iiif ? outside(request, `${baseOf(token)}/manifest.json`) : null,
    };
  };

  /** The page of a picture; its form has to be known as ours. */
  async function sendView(
    reply: FastifyReply,
    request: FastifyRequest,
    link: OpenLink,
    photoId: number,
    problem: string,
  ): Promise<FastifyReply> {
    const token = tokenOf(request);
    const { show, sent } = viewQuery.parse(request.query);
    const sender =
      problem === ''
        ? (request.cookies[SENDER] ?? '')
        : (answerForm.shape.sender.safeParse((request.body as { sender?: unknown } | null)?.sender).data ?? '');
    const answers = link.settings.answers ? { sender, sent: sent !== undefined, problem } : null;
    const page = await viewOf(link, token, photoId, { shows: show !== undefined, answers });
    if (page === undefined) return nothing(reply);
    return html(answers ? reply.header('referrer-policy', 'same-origin') : reply, page, problem === '' ? 200 : 400);
  }

  async function viewOf(
    link: OpenLink,
    token: string,
    photoId: number,
    { shows, answers }: { shows: boolean } & Pick<SharedView, 'answers'>,
  ): Promise<string | undefined> {
    const ids = await links.idsOf(link);
    const at = ids.indexOf(photoId);
    const [picture] = await links.picturesOf(link, [photoId]);
    if (at < 0 || !picture) return undefined;
    const keyAt = (place: number) => {
      const id = ids[place];
      return id === undefined ? null : links.keyOf(link, id);
    };
    return viewPage({
      title: link.settings.title,
      base: baseOf(token),
      picture,
      number: at + 1,
      total: ids.length,
      before: at === 0 ? null : keyAt(at - 1),
      after: keyAt(at + 1),
      sheetPage: Math.floor(at / PICTURES_A_PAGE) + 1,
      downloads: link.settings.downloads,
      seconds: shows ? SECONDS_A_SLIDE : null,
      answers,
    });
  }
}

/** How long a picture may stay in a browser, in seconds. */
function secondsLeft({ row: { endsAt } }: OpenLink): number {
  const left = endsAt === null ? PICTURE_SECONDS : Math.floor((endsAt.getTime() - Date.now()) / 1000);
  return Math.max(0, Math.min(PICTURE_SECONDS, left));
}
