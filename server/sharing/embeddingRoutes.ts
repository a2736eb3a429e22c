// View links in pages of others (oEmbed), and their pictures for viewers of other houses (IIIF). Only of links whose makers allowed it, which
// nobody has to be let in to.

import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import { z } from 'zod';
import { oEmbedOf } from '@stellin/core/sharing/embedding';
import { imageInfo, INFO_TYPE, MANIFEST_TYPE, manifestOf, pictureRequest } from '@stellin/core/sharing/iiif';
import { escaped } from '@stellin/core/text/html';
import { LINK_PATH, type LinkSettings } from '@stellin/contract/sharing';
import { baseOf, guestsOf, nothing, tokenOf, type GuestParts } from './guests';
import { pictureSize, piece } from './pieces';
import type { OpenLink } from './showing';

const PLAIN = { config: { access: 'public' as const }, schema: { hide: true } };
const NOT_IMPLEMENTED = 501;
const size = z.coerce.number().int().positive().optional();
const oEmbedQuery = z.object({
  url: z.url().max(500),
  format: z.enum(['json', 'xml']).default('json'),
  maxwidth: size,
  maxheight: size,
});
const pieceParams = z.object({
  region: z.string().max(60),
  size: z.string().max(40),
  rotation: z.string().max(10),
  file: z.string().max(30),
});
const keyParams = z.object({ key: z.string().max(40) });

export function embeddingRoutes(app: FastifyInstance, parts: GuestParts, done: () => void): void {
  // One closure for what its functions share; each of them fits a screen.
  const { links, pictures } = parts;
  const guests = guestsOf(parts);

  app.get(`${LINK_PATH}-/oembed`, PLAIN, async (request, reply) => {
    const asked = oEmbedQuery.safeParse(request.query);
    if (!asked.success) return reply.code(400).send({ error: 'url, and maxwidth and maxheight as numbers' });
    const { url, format, ...most } = asked.data;
    if (format === 'xml') return reply.code(NOT_IMPLEMENTED).send({ error: 'only JSON is given' });
    const { pathname } = new URL(url);
    const link = pathname.startsWith(LINK_PATH) ? await links.find(pathname.slice(LINK_PATH.length)) : undefined;
    if (!link || link.settings.embedOn.length === 0) return reply.code(404).send({ error: 'there is nothing to show' });
    const { title } = link.settings;
    const address = guests.outside(request, pathname);
    return toAll(reply).send(oEmbedOf({ address, title, escapedTitle: escaped(title) }, most));
  });

  /** A link whose pictures viewers of other houses may have. */
  const given = async (request: FastifyRequest): Promise<OpenLink | undefined> => {
    const link = await guests.entered(request);
    return link?.settings.iiif ? link : undefined;
  };

  app.get(`${LINK_PATH}:token/manifest.json`, PLAIN, async (request, reply) => {
    const link = await given(request);
    if (!link) return nothing(reply);
    const base = guests.outside(request, baseOf(tokenOf(request)));
    const shown = await links.picturesOf(link, await links.idsOf(link));
    const { title, words } = link.settings;
    const manifest = manifestOf(
      { id: `${base}/manifest.json`, page: base, title, words },
      shown.map(({ key, caption, lines, ...picture }) => ({
        ...{ service: `${base}/iiif/${key}`, caption, lines },
        ...canvasOf(picture, link.settings),
      })),
    );
    return toAll(reply).type(MANIFEST_TYPE).send(JSON.stringify(manifest));
  });

  app.get(`${LINK_PATH}:token/iiif/:key`, PLAIN, async (request, reply) => {
    if (!(await given(request))) return nothing(reply);
    const { key } = keyParams.parse(request.params);
    return toAll(reply).redirect(`${baseOf(tokenOf(request))}/iiif/${key}/info.json`, 303);
  });

  app.get(`${LINK_PATH}:token/iiif/:key/info.json`, PLAIN, async (request, reply) => {
    const picture = await pictureOf(request);
    if (!picture) return nothing(reply);
    const { key } = keyParams.parse(request.params);
    const id = guests.outside(request, `${baseOf(tokenOf(request))}/iiif/${key}`);
    const wantsLinked = (request.headers.accept ?? '').includes('application/ld+json');
    return toAll(reply)
      .type(wantsLinked ? INFO_TYPE : 'application/json')
      .send(JSON.stringify(imageInfo(id, await pictureSize(picture))));
  });

  app.get(`${LINK_PATH}:token/iiif/:key/:region/:size/:rotation/:file`, PLAIN, async (request, reply) => {
    const picture = await pictureOf(request);
    if (!picture) return nothing(reply);
    const asked = pieceParams.safeParse(request.params);
    const wanted = asked.success ? pictureRequest(asked.data, await pictureSize(picture)) : undefined;
    if (!wanted) return toAll(reply).code(400).send({ error: 'this part or size is not to be had' });
    return toAll(reply)
      .type('image/jpeg')
      .send(await piece(picture, wanted));
  });

  const pictureOf = async (request: FastifyRequest): Promise<Buffer | undefined> => {
    const seen = await guests.seen(request);
    return seen?.link.settings.iiif ? await pictures.pictureOf(seen, 'large', seen.link.settings) : undefined;
  };

  done();
}

/** Pages of others may read it. */
function toAll(reply: FastifyReply): FastifyReply {
  return reply.header('access-control-allow-origin', '*').header('cross-origin-resource-policy', 'cross-origin');
}

const UNKNOWN_SIDE = 1000;

/** How large a picture is on its canvas: as large as it is shown. */
function canvasOf(
  { width, height }: { width: number | null; height: number | null },
  { longEdge }: Pick<LinkSettings, 'longEdge'>,
): { width: number; height: number } {
  if (!width || !height) return { width: UNKNOWN_SIDE, height: UNKNOWN_SIDE };
  const scale = Math.min(1, longEdge / Math.max(width, height));
  return { width: Math.max(1, Math.round(width * scale)), height: Math.max(1, Math.round(height * scale)) };
}
