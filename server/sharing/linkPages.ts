// The pages of a view link as they are for whoever asks now.

import type { FastifyRequest } from 'fastify';
import {
  SECONDS_A_SLIDE,
  sharedMapPage,
  sheetPage,
  viewPage,
  type SharedHead,
  type SharedView,
} from '@stellin/core/sharing/pages';
import { LINK_PATH } from '@stellin/contract/sharing';
import { groundOf } from '../delivering/service';
import { baseOf, guestsOf, tokenOf, type GuestParts } from './guests';
import type { OpenLink } from './showing';

const PICTURES_A_PAGE = 60;

export function linkPages(parts: GuestParts) {
  const { links, world } = parts;
  const { outside } = guestsOf(parts);

  const headOf = (request: FastifyRequest, { settings }: OpenLink): SharedHead => {
    const base = baseOf(tokenOf(request));
    const page = encodeURIComponent(outside(request, base));
    return {
      oEmbed: settings.embedOn.length === 0 ? null : outside(request, `${LINK_PATH}-/oembed?format=json&url=${page}`),
      manifest: settings.iiif ? outside(request, `${base}/manifest.json`) : null,
    };
  };

  return {
    /** Pictures side by side, page by page; the last page where there are not as many as wanted. */
    async sheet(request: FastifyRequest, link: OpenLink, wanted: number): Promise<string> {
      const ids = await links.idsOf(link);
      const pages = Math.max(1, Math.ceil(ids.length / PICTURES_A_PAGE));
      const page = Math.min(wanted, pages);
      const pictures = await links.picturesOf(link, ids.slice((page - 1) * PICTURES_A_PAGE, page * PICTURES_A_PAGE));
      const { title, words, map } = link.settings;
      const about = { title, words, map, base: baseOf(tokenOf(request)), head: headOf(request, link) };
      return sheetPage({ ...about, pictures, total: ids.length, page, pages });
    },

    /** Where pictures were taken, or, by the key of a picture, those of one spot. */
    async map(request: FastifyRequest, link: OpenLink, spot: string | null): Promise<string> {
      const pictures = await links.picturesOf(link, await links.idsOf(link));
      const placed = pictures.flatMap(({ position }) => (position === null ? [] : [position]));
      const ground = placed.length === 0 ? null : await groundOf(placed, world);
      return sharedMapPage({ title: link.settings.title, base: baseOf(tokenOf(request)), pictures, ground, spot });
    },

    /** One picture, large; undefined where the link does not show it any more. */
    async view(
      request: FastifyRequest,
      link: OpenLink,
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
        ...{ title: link.settings.title, base: baseOf(tokenOf(request)), picture, number: at + 1, total: ids.length },
        ...{ before: at === 0 ? null : keyAt(at - 1), after: keyAt(at + 1) },
        sheetPage: Math.floor(at / PICTURES_A_PAGE) + 1,
        downloads: link.settings.downloads,
        seconds: shows ? SECONDS_A_SLIDE : null,
        answers,
      });
    },
  };
}
