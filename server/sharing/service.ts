// View links for who makes them: which there are, making and ending them, and what people who looked said.

import { linkState } from '@stellin/core/sharing/links';
import {
  LINK_PATH,
  linkRequest,
  linkSettings,
  MAX_SHARED,
  type LinkRequest,
  type LinkAnswer,
  type ViewLink,
} from '@stellin/contract/sharing';
import { countText } from '@stellin/contract/wording';
import { ownOrAll, type Person, type Viewer } from '../catalogue/viewer';
import type { Database } from '../database/database';
import type { Outside } from '../delivering/service';
import { StellinError } from '../errors';
import type { Search } from '../search/service';
import { linkHash, newLinkToken } from './keys';
import * as store from './store';

export type ViewLinks = ReturnType<typeof viewLinkService>;

interface Parts {
  database: Database;
  search: Search;
  outside: Pick<Outside, 'viewerFor' | 'leavingIds'>;
  /** How the server is reached from outside; empty where that is not settled. */
  publicUrl: string;
  passwordHash: (password: string) => Promise<string>;
  /** Begins making the pictures of a link. */
  prepare: (linkId: number, title: string, accountId: number) => Promise<void>;
}

export function viewLinkService({ database, search, outside, publicUrl, passwordHash, prepare }: Parts) {
  // One closure for what its functions share; each of them fits a screen.
  const addressOf = (token: string) => `${publicUrl}${LINK_PATH}${token}`;

  const requireMine = async (id: number, person: Person): Promise<store.LinkRow> => {
    const row = await store.findLink(database, id);
    if (!row || (row.accountId !== person.accountId && !person.everywhere.includes('administer')))
      throw new StellinError('notFound', { what: 'such view link' });
    return row;
  };

  return {
    async list(person: Person): Promise<ViewLink[]> {
      const rows = await store.listLinks(database, ownOrAll(person));
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
        passwordHash: password === null ? null : await passwordHash(password),
        endsAt: endsOn === null ? null : endOf(endsOn),
        mostViews,
        toldIds: source.kind === 'following' && settings.tellAfter !== null ? photoIds : [],
      });
      await prepare(id, settings.title, person.accountId);
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
      if (!(await store.revokeLinks(database, ids, ownOrAll(person))))
        throw new StellinError('notFound', { what: 'such view link' });
    },

    answers: (person: Person): Promise<LinkAnswer[]> => store.openAnswers(database, person, ownOrAll(person)),
    /** How many answers nobody has settled, of those that somebody sees; `own`: to the links of one account. */
    countAnswers: async (viewer: Viewer, own: number | null): Promise<number> =>
      (await store.openAnswers(database, viewer, own)).length,

    settle: (ids: readonly number[], accepted: boolean, person: Person): Promise<void> =>
      store.settleAnswers(database, ids, ownOrAll(person), {
        state: accepted ? 'accepted' : 'refused',
        by: person.accountId,
      }),
  };
}

/** The moment at which a day (`YYYY-MM-DD`) is over here. */
function endOf(date: string): Date {
  const [year = 0, month = 1, dayOfMonth = 1] = date.split('-').map(Number);
  return new Date(year, month - 1, dayOfMonth + 1);
}
