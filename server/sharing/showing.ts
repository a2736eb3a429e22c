// What a view link shows, to whoever has its address. It is looked up anew for every request, by the rights that its maker has then: what has
// become private, or was revoked, is gone at once. Nothing here needs more than `grantStore.ts` gives.

import { LRUCache } from 'lru-cache';
import { linesOf } from '@stellin/core/delivering/columns';
import { columnsOf, linkState } from '@stellin/core/sharing/links';
import type { SharedPicture } from '@stellin/core/sharing/pages';
import { textsOf } from '@stellin/core/metadata/values';
import { linkSettings, type LinkSettings } from '@stellin/contract/sharing';
import type { Person } from '../catalogue/viewer';
import type { Database } from '../database/database';
import { positionOf, type Outside } from '../delivering/service';
import { StellinError } from '../errors';
import { linkHash, photoOfKey, pictureKey } from './keys';
import * as store from './store';

export type OpenLinks = ReturnType<typeof openLinkService>;

interface Parts {
  database: Database;
  outside: Pick<Outside, 'leavingIds' | 'saidOutside'>;
  personOf: (accountId: number) => Promise<Person>;
  isPassword: (hash: string | null, password: string) => Promise<boolean>;
}

/** Wrong passwords of a link, from wherever they come. */
const MAX_FAILURES = 20;
const FAILURES_MS = 10 * 60_000;
const LINKS_WATCHED = 10_000;
const FIELDS = ['description', 'headline', 'title', 'altText', 'position'] as const;
/** Answers to one link. */
const MAX_ANSWERS = 2000;

/** A link that shows something now. */
export interface OpenLink {
  row: store.LinkRow;
  settings: LinkSettings;
  maker: Person;
}

export function openLinkService({ database, outside, personOf, isPassword }: Parts) {
  const failures = new LRUCache<number, number>({ max: LINKS_WATCHED, ttl: FAILURES_MS });

  const openOf = async (row: store.LinkRow | undefined): Promise<OpenLink | undefined> => {
    if (!row) return undefined;
    const state = linkState(row, new Date());
    if (state === 'revoked' || state === 'ended') return undefined;
    return { row, settings: linkSettings.parse(row.settings), maker: await personOf(row.accountId) };
  };

  return {
    /** The link of an address; undefined where it shows nothing, whatever the reason. One that was viewed as often as it may be is still there for who was let in. */
    find: async (token: string): Promise<OpenLink | undefined> =>
      openOf(await store.linkOfHash(database, linkHash(token))),

    /** A link by its number, as long as it shows something. */
    numbered: async (id: number): Promise<OpenLink | undefined> => openOf(await store.findLink(database, id)),

    /** Counts a viewing; false where it may be viewed no more. */
    enter: ({ row }: OpenLink): Promise<boolean> => store.countView(database, row.id),

    /** Whether a password opens a link. Throws where too many were tried. */
    async unlocks({ row }: OpenLink, password: string): Promise<boolean> {
      if ((failures.get(row.id) ?? 0) >= MAX_FAILURES) throw new StellinError('tooManyTries', { wait: 'some minutes' });
      const right = await isPassword(row.passwordHash, password);
      if (right) failures.delete(row.id);
      else failures.set(row.id, (failures.get(row.id) ?? 0) + 1);
      return right;
    },

    /** Keeps what somebody said of a picture; false where a link has as many answers as it may have. */
    answer: (
      { row }: OpenLink,
      photoId: number,
      said: Pick<store.NewAnswer, 'kind' | 'text' | 'sender'>,
    ): Promise<boolean> => store.insertAnswer(database, { linkId: row.id, photoId, ...said }, MAX_ANSWERS),

    /** The photos that a link shows now, in their order. */
    idsOf: async ({ row, maker }: OpenLink): Promise<number[]> =>
      outside.leavingIds(await store.photosOf(database, row.id), maker),

    /** The photo that a key names, and which preview it has, if the link shows it now. */
    async photoOf({ row, maker }: OpenLink, key: string): Promise<{ photoId: number; version: number } | undefined> {
      const photoId = photoOfKey(row.secret, key);
      if (photoId === undefined) return undefined;
      const [version, [leaves]] = await Promise.all([
        store.previewIn(database, row.id, photoId),
        outside.leavingIds([photoId], maker),
      ]);
      return version === undefined || leaves === undefined ? undefined : { photoId, version };
    },

    keyOf: ({ row }: OpenLink, photoId: number): string => pictureKey(row.secret, photoId),

    /** What pages say of some pictures of a link, in the order of the numbers. */
    async picturesOf({ row, settings, maker }: OpenLink, ids: readonly number[]): Promise<SharedPicture[]> {
      const shown = columnsOf(settings);
      const { rows, context } = await outside.saidOutside(ids, maker, { columns: shown, fields: FIELDS });
      return rows.map((said) => {
        const { description, headline, title, altText, position } = said.fields;
        const caption = textsOf(description ?? headline ?? title)[0] ?? '';
        const lines = shown.flatMap((id) => linesOf(id, said, context));
        return {
          key: pictureKey(row.secret, said.id),
          caption,
          alt: textsOf(altText)[0] ?? (caption || 'Picture'),
          lines,
          ...{ width: said.width, height: said.height },
          position: settings.map ? positionOf(position) : null,
        };
      });
    },
  };
}
