// The table of view links.

import { literal, Op } from 'sequelize';
import type { LinkAnswer } from '@stellin/contract/sharing';
import { sightSql } from '../catalogue/sightSql';
import type { Viewer } from '../catalogue/viewer';
import type { Database } from '../database/database';
import { isoSql } from '../database/isoSql';
import { LINK_ANSWER, VIEW_LINK } from '../database/models/sharing';
import { modelOf, type RowOf } from '../database/models/table';

/** Of links and of answers, the newest. */
const MOST_LISTED = 1000;

type WholeLink = RowOf<typeof VIEW_LINK>;
export type NewLink = Omit<WholeLink, 'id' | 'at' | 'views' | 'viewedAt' | 'revokedAt' | 'toldAt'>;

export async function insertLink(database: Database, link: NewLink): Promise<number> {
  return (await modelOf(database, VIEW_LINK).create(link)).id;
}

export async function findLink(database: Database, id: number): Promise<LinkRow | undefined> {
  return (await modelOf(database, VIEW_LINK).findByPk(id, { raw: true })) ?? undefined;
}

const OF_ACTIVE = { accountId: { [Op.in]: literal('(select id from account where disabled_at is null)') } };

/** A link without its photos, which may be many. */
export type LinkRow = Omit<RowOf<typeof VIEW_LINK>, 'photoIds' | 'toldIds'>;

/** The link of an address, as long as its maker may sign in: what somebody shows ends with their account. Asked for with every picture. */
export async function linkOfHash(database: Database, tokenHash: Buffer): Promise<LinkRow | undefined> {
  const [row] = await database.often<LinkRow>(
    `select l.id, l.token_hash as "tokenHash", l.secret, l.account_id as "accountId", l.at, l.for_whom as "forWhom", l.query, l.sort, l.settings,
       l.password_hash as "passwordHash", l.ends_at as "endsAt", l.most_views as "mostViews", l.views, l.viewed_at as "viewedAt",
       l.revoked_at as "revokedAt", l.told_at as "toldAt"
     from view_link l join account a on a.id = l.account_id where l.token_hash = $1 and a.disabled_at is null`,
    [tokenHash],
  );
  return row;
}

/** The photos of a link, in their order. */
export async function photosOf(database: Database, id: number): Promise<number[]> {
  const row = await database.row<{ ids: number[] }>('select photo_ids as ids from view_link where id = $1', [id]);
  return row?.ids ?? [];
}

/** Which preview a photo of a link has; undefined where it is none of its photos. */
export async function previewIn(database: Database, id: number, photoId: number): Promise<number | undefined> {
  const [row] = await database.often<{ version: number }>(
    'select p.preview_version as version from view_link l join photo p on p.id = $2 where l.id = $1 and $2 = any(l.photo_ids)',
    [id, photoId],
  );
  return row?.version;
}

/** A link as lists show it: without the numbers of its photos. */
export interface ListedLink extends Pick<
  LinkRow,
  'id' | 'at' | 'forWhom' | 'query' | 'endsAt' | 'mostViews' | 'views' | 'viewedAt' | 'revokedAt'
> {
  title: string;
  by: string;
  photos: number;
  hasPassword: boolean;
}

/** Links, the newest first: those that somebody made, or all. */
export function listLinks(database: Database, accountId: number | null): Promise<ListedLink[]> {
  return database.rows<ListedLink>(
    `select l.id, l.at, l.for_whom as "forWhom", l.query, l.ends_at as "endsAt", l.most_views as "mostViews", l.views, l.viewed_at as "viewedAt",
       l.revoked_at as "revokedAt", l.settings ->> 'title' as title, a.display_name as by, cardinality(l.photo_ids) as photos,
       l.password_hash is not null as "hasPassword"
     from view_link l join account a on a.id = l.account_id where $1::int is null or l.account_id = $1 order by l.id desc limit ${MOST_LISTED}`,
    [accountId],
  );
}

/** Gives a link another address and other secrets. */
export async function renewLink(database: Database, id: number, tokenHash: Buffer, secret: Buffer): Promise<void> {
  await modelOf(database, VIEW_LINK).update({ tokenHash, secret }, { where: { id } });
}

/** Ends links of somebody, or any; false where one of them is not theirs, and then nothing is ended. */
export function revokeLinks(database: Database, ids: readonly number[], accountId: number | null): Promise<boolean> {
  return database.transaction(async (tx) => {
    const meant = await database.rows(
      'select 1 from view_link where id = any($1) and ($2::int is null or account_id = $2)',
      [ids, accountId],
      tx,
    );
    if (meant.length < new Set(ids).size) return false;
    await database.rows('update view_link set revoked_at = now() where id = any($1) and revoked_at is null', [ids], tx);
    return true;
  });
}

/** Counts a viewing; false where the link shows nothing any more. */
export async function countView(database: Database, id: number): Promise<boolean> {
  const row = await database.row(
    `update view_link set views = views + 1, viewed_at = now()
     where id = $1 and revoked_at is null and (ends_at is null or ends_at > now()) and (most_views is null or views < most_views) returning id`,
    [id],
  );
  return row !== undefined;
}

/** That a link is neither revoked nor ended. */
const OPEN = { revokedAt: null, [Op.or]: [{ endsAt: null }, { endsAt: { [Op.gt]: literal('now()') } }] };

/** Links that follow and show something, without their photos. */
export async function followingLinks(
  database: Database,
): Promise<Pick<LinkRow, 'id' | 'accountId' | 'query' | 'sort'>[]> {
  return modelOf(database, VIEW_LINK).findAll({
    attributes: ['id', 'accountId', 'query', 'sort'],
    where: { ...OF_ACTIVE, ...OPEN, query: { [Op.ne]: null } },
    order: ['id'],
    raw: true,
  });
}

/** Keeps what a link that follows finds now; where that is what it found before nothing is written. */
export async function noteFound(database: Database, id: number, photoIds: readonly number[]): Promise<void> {
  await database.rows('update view_link set photo_ids = $2::int[] where id = $1 and photo_ids <> $2::int[]', [
    id,
    photoIds,
  ]);
}

/** Open links that follow and tell of new photos, but for those that have told since. */
export async function linksThatTell(database: Database, since: Date): Promise<WholeLink[]> {
  const where = {
    ...OF_ACTIVE,
    query: { [Op.ne]: null },
    settings: { tellAfter: { [Op.gt]: 0 } },
    [Op.and]: [OPEN, { [Op.or]: [{ toldAt: null }, { toldAt: { [Op.lt]: since } }] }],
  };
  return modelOf(database, VIEW_LINK).findAll({ where, raw: true });
}

/** Notes what a link has found now, and, where somebody is told of it, when; false where another process was there first. */
export async function noteTold(
  database: Database,
  { id, toldIds }: Pick<WholeLink, 'id' | 'toldIds'>,
  ids: readonly number[],
  tells: boolean,
): Promise<boolean> {
  const row = await database.row(
    `update view_link set told_ids = $3::int[], told_at = case when $4 then now() else told_at end
     where id = $1 and told_ids = $2::int[] and revoked_at is null returning id`,
    [id, toldIds, ids, tells],
  );
  return row !== undefined;
}

export type NewAnswer = Pick<RowOf<typeof LINK_ANSWER>, 'linkId' | 'photoId' | 'kind' | 'text' | 'sender'>;

/** Keeps an answer; the same once more changes nothing. False: the link has as many as it may have. */
export async function insertAnswer(database: Database, answer: NewAnswer, most: number): Promise<boolean> {
  const kept = await modelOf(database, LINK_ANSWER).count({ where: { linkId: answer.linkId } });
  if (kept >= most) return false;
  // Nothing is read back: who adds answers need not see them.
  await database.rows(
    'insert into link_answer (link_id, photo_id, kind, text, sender) values ($1, $2, $3, $4, $5) on conflict do nothing',
    [answer.linkId, answer.photoId, answer.kind, answer.text, answer.sender],
  );
  return true;
}

/** Answers that nobody has settled, the newest first, to the links that somebody made or to all, of photos that exist for them. */
export function openAnswers(
  database: Database,
  { sight }: Pick<Viewer, 'sight'>,
  accountId: number | null,
): Promise<LinkAnswer[]> {
  const seen = sightSql(sight, [accountId]);
  return database.rows<LinkAnswer>(
    `select a.id, l.settings ->> 'title' as link, a.kind, a.text, a.sender, ${isoSql('a.at')} as at, p.id as "photoId", p.name, p.preview_version as "previewVersion"
     from link_answer a join view_link l on l.id = a.link_id join photo p on p.id = a.photo_id
     where a.state = 'open' and ($1::int is null or l.account_id = $1) and p.shown and ${seen.sql} order by a.id desc limit ${MOST_LISTED}`,
    seen.bind,
  );
}

/** Notes what became of answers that are open, to the links that somebody made or to any. */
export async function settleAnswers(
  database: Database,
  ids: readonly number[],
  accountId: number | null,
  settled: { state: 'accepted' | 'refused'; by: number },
): Promise<void> {
  await database.rows(
    `update link_answer a set state = $3, settled_by = $4, settled_at = now() from view_link l
     where l.id = a.link_id and a.id = any($1) and a.state = 'open' and ($2::int is null or l.account_id = $2)`,
    [ids, accountId, settled.state, settled.by],
  );
}
