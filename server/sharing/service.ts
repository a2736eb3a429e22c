// View links: who makes them, and what they show. What is shown is looked up anew for every request, by the rights that its maker has then:
// what has become private, or was revoked, is gone at once.

import { LRUCache } from 'lru-cache';
import { linesOf } from '@stellin/core/delivering/columns';
import { columnsOf, linkState } from '@stellin/core/sharing/links';
import type { SharedPicture } from '@stellin/core/sharing/pages';
import { textsOf } from '@stellin/core/metadata/values';
import {
  LINK_PATH,
  linkRequest,
  linkSettings,
  MAX_SHARED,
  type LinkRequest,
  type LinkAnswer,
  type LinkSettings,
  type ViewLink,
} from '@stellin/contract/sharing';
import { countText } from '@stellin/contract/wording';
import type { Person } from '../catalogue/viewer';
import type { Database } from '../database/database';
import type { Outside } from '../delivering/service';
import { StellinError } from '../errors';
import type { Search } from '../search/service';
import { linkHash, newLinkToken, photoOfKey, pictureKey } from './keys';
import * as store from './store';

export type ViewLinks = ReturnType<typeof viewLinkService>;

interface Parts {
  database: Database;
  search: Search;
  outside: Pick<Outside, 'viewerFor' | 'leavingIds' | 'saidOutside'>;
  personOf: (accountId: number) => Promise<Person>;
  /** How the server is reached from outside; empty where that is not settled. */
  publicUrl: string;
  passwords: {
    hashOf: (password: string) => Promise<string>;
    isRight: (hash: string | null, password: string) => Promise<boolean>;
  };
}

/** Wrong passwords of a link, from wherever they come. */
const MAX_FAILURES = 20;
const FAILURES_MS = 10 * 60_000;
const LINKS_WATCHED = 10_000;
const FIELDS = ['description', 'headline', 'title', 'altText'] as const;
/** Answers to one link. */
const MAX_ANSWERS = 2000;

/** A link that shows something now. */
export interface OpenLink {
  row: store.LinkRow;
  settings: LinkSettings;
  maker: Person;
}

export function viewLinkService({ database, search, outside, personOf, publicUrl, passwords }: Parts) {
  // One closure for what its functions share; each of them fits a screen.
  const addressOf = (token: string) => `${publicUrl}${LINK_PATH}${token}`;
  const failures = new LRUCache<number, number>({ max: LINKS_WATCHED, ttl: FAILURES_MS });

  const requireMine = async (id: number, person: Person): Promise<store.LinkRow> => {
    const row = await store.findLink(database, id);
    if (!row || (row.accountId !== person.accountId && !person.everywhere.includes('administer')))
      throw new StellinError('notFound', { what: 'such view link' });
    return row;
  };

  /** The photos that a link shows now, in their order. */
  const idsOf = ({ row, maker }: OpenLink): Promise<number[]> => outside.leavingIds(row.photoIds, maker);

  return {
    async list(person: Person): Promise<ViewLink[]> {
      const rows = await store.listLinks(database, mineOnly(person));
      const now = new Date();
      return rows.map((row) => ({
        id: row.id,
        title: row.title,
        forWhom: row.forWhom,
        by: row.by,
        madeAt: row.at.toISOString(),
        follows: row.query,
        photos: row.query === null ? row.photos : null,
        hasPassword: row.hasPassword,
        endsAt: row.endsAt?.toISOString() ?? null,
        mostViews: row.mostViews,
        views: row.views,
        viewedAt: row.viewedAt?.toISOString() ?? null,
        state: linkState(row, now),
      }));
    },

    /** Makes a link. Refuses one that would show nothing, or more than a link may. */
    async make(given: LinkRequest, person: Person): Promise<{ id: number; address: string }> {
      const { source, settings, forWhom, password, endsOn, mostViews } = linkRequest.parse(given);
      const seen = search.seenBy(outside.viewerFor(person));
      const meant =
        source.kind === 'fixed'
          ? await seen.ofSelection(source.selection, source.sort, MAX_SHARED + 1)
          : await seen.page(source.query, source.sort, 0, MAX_SHARED + 1);
      if (meant.length > MAX_SHARED)
        throw new StellinError('badRequest', {
          problem: `a view link shows ${countText(MAX_SHARED, 'picture')} at most`,
        });
      const photoIds = await outside.leavingIds(meant, person);
      if (photoIds.length === 0)
        throw new StellinError('badRequest', { problem: 'a view link shows pictures that may leave; there are none' });
      const { token, hash, secret } = newLinkToken();
      const id = await store.insertLink(database, {
        tokenHash: hash,
        secret,
        accountId: person.accountId,
        forWhom,
        query: source.kind === 'following' ? source.query : null,
        sort: source.sort,
        photoIds,
        settings,
        passwordHash: password === null ? null : await passwords.hashOf(password),
        endsAt: endsOn === null ? null : endOf(endsOn),
        mostViews,
        toldIds: source.kind === 'following' && settings.tellAfter !== null ? photoIds : [],
      });
      return { id, address: addressOf(token) };
    },

    async renew(id: number, person: Person): Promise<{ id: number; address: string }> {
      await requireMine(id, person);
      const { token, hash, secret } = newLinkToken();
      await store.renewLink(database, id, hash, secret);
      return { id, address: addressOf(token) };
    },

    /** The title of a link that somebody made; refuses an address that is not the one it has. */
    async titleOf(id: number, address: string, person: Person): Promise<string> {
      const { tokenHash, settings } = await requireMine(id, person);
      const token = new URL(address).pathname.slice(LINK_PATH.length);
      if (!linkHash(token).equals(tokenHash))
        throw new StellinError('badRequest', { problem: 'that is not the address of this view link' });
      return linkSettings.parse(settings).title;
    },

    async revoke(ids: readonly number[], person: Person): Promise<void> {
      if (!(await store.revokeLinks(database, ids, mineOnly(person))))
        throw new StellinError('notFound', { what: 'such view link' });
    },

    /** The link of an address; undefined where it shows nothing, whatever the reason. One that was viewed as often as it may be is still there for who was let in. */
    async find(token: string): Promise<OpenLink | undefined> {
      const row = await store.linkOfHash(database, linkHash(token));
      if (!row) return undefined;
      const state = linkState(row, new Date());
      if (state === 'revoked' || state === 'ended') return undefined;
      return { row, settings: linkSettings.parse(row.settings), maker: await personOf(row.accountId) };
    },

    /** Counts a viewing; false where it may be viewed no more. */
    enter: ({ row }: OpenLink): Promise<boolean> => store.countView(database, row.id),

    /** Whether a password opens a link. Throws where too many were tried. */
    async unlocks({ row }: OpenLink, password: string): Promise<boolean> {
      if ((failures.get(row.id) ?? 0) >= MAX_FAILURES) throw new StellinError('tooManyTries', { wait: 'some minutes' });
      const right = await passwords.isRight(row.passwordHash, password);
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

    answers: (person: Person): Promise<LinkAnswer[]> => store.openAnswers(database, person, mineOnly(person)),

    settle: (ids: readonly number[], accepted: boolean, person: Person): Promise<void> =>
      store.settleAnswers(database, ids, mineOnly(person), {
        state: accepted ? 'accepted' : 'refused',
        by: person.accountId,
      }),

    idsOf,

    /** The photo that a key names, if the link shows it now. */
    async photoOf(link: OpenLink, key: string): Promise<number | undefined> {
      const photoId = photoOfKey(link.row.secret, key);
      if (photoId === undefined || !link.row.photoIds.includes(photoId)) return undefined;
      return (await outside.leavingIds([photoId], link.maker))[0];
    },

    keyOf: ({ row }: OpenLink, photoId: number): string => pictureKey(row.secret, photoId),

    /** What pages say of some pictures of a link, in the order of the numbers. */
    async picturesOf({ row, settings, maker }: OpenLink, ids: readonly number[]): Promise<SharedPicture[]> {
      const shown = columnsOf(settings);
      const { rows, context } = await outside.saidOutside(ids, maker, { columns: shown, fields: FIELDS });
      return rows.map((said) => {
        const { description, headline, title, altText } = said.fields;
        const caption = textsOf(description ?? headline ?? title)[0] ?? '';
        const lines = shown.flatMap((id) => linesOf(id, said, context));
        return {
          key: pictureKey(row.secret, said.id),
          caption,
          alt: textsOf(altText)[0] ?? (caption || 'Picture'),
          lines,
        };
      });
    },
  };
}

/** The moment at which a day (`YYYY-MM-DD`) is over here. */
function endOf(date: string): Date {
  const [year = 0, month = 1, dayOfMonth = 1] = date.split('-').map(Number);
  return new Date(year, month - 1, dayOfMonth + 1);
}

/** Whose links somebody sees: null for all. */
const mineOnly = ({ everywhere, accountId }: Person): number | null =>
  everywhere.includes('administer') ? null : accountId;
