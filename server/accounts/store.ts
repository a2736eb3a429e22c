// The SQL of accounts, sessions, teams and rights. Plain reads and writes go through the models.

import type { Theme } from '@stellin/contract/accounts';
import type { Database, Transaction } from '../database/database';
import { isoSql } from '../database/isoSql';

/** An account, and as of which version rights are. */
export interface AccountRow {
  accountId: number;
  name: string;
  displayName: string;
  theme: Theme | null;
  /** In which they like to read texts and terms. */
  language: string | null;
  version: string;
}

/** Who holds a session. */
export interface HolderRow extends AccountRow {
  sessionId: string;
  /** It was not used for a minute, so far as is noted. */
  rested: boolean;
}

const ACCOUNT_COLUMNS = `a.id as "accountId", a.name, a.display_name as "displayName", a.theme, a.language, v.version`;

/** Who holds a session, by the hash of its token, unless it is over or the account disabled. */
export async function holderOf(database: Database, tokenHash: string): Promise<HolderRow | undefined> {
  const [person] = await database.often<HolderRow>(
    `select ${ACCOUNT_COLUMNS}, s.id as "sessionId", s.last_used_at < now() - interval '1 minute' as rested
     from session s join account a on a.id = s.account_id cross join rights_version v
     where s.token_hash = $1 and s.expires_at > now() and a.disabled_at is null`,
    [tokenHash],
  );
  return person;
}

/** An account by its number, and as of which version rights are. */
export async function accountOf(database: Database, accountId: number): Promise<AccountRow | undefined> {
  const [account] = await database.often<AccountRow>(
    `select ${ACCOUNT_COLUMNS} from account a cross join rights_version v where a.id = $1`,
    [accountId],
  );
  return account;
}

/** Whose a token is, what it is good for, and as of which version rights are. */
export interface TokenRow extends AccountRow {
  tokenId: number;
  permissions: string[];
  /** It was not used for a minute, so far as is noted. */
  rested: boolean;
}

/** Whose a token is, by its hash, unless it is over or the account disabled. */
export async function tokenHolder(database: Database, hash: string): Promise<TokenRow | undefined> {
  const [holder] = await database.often<TokenRow>(
    `select ${ACCOUNT_COLUMNS}, t.id as "tokenId", t.permissions,
       coalesce(t.last_used_at < now() - interval '1 minute', true) as rested
     from api_token t join account a on a.id = t.account_id cross join rights_version v
     where t.token_hash = $1 and t.expires_at > now() and a.disabled_at is null`,
    [hash],
  );
  return holder;
}

export async function noteTokenUse(database: Database, tokenId: number): Promise<void> {
  await database.rows('update api_token set last_used_at = now() where id = $1', [tokenId]);
}

export async function noteUse(database: Database, sessionId: string): Promise<void> {
  await database.rows('update session set last_used_at = now() where id = $1', [sessionId]);
}

/** Notes that a code of a step of time was used; false when it, or a later one, was before. */
export async function useStep(database: Database, accountId: number, step: number): Promise<boolean> {
  const used = await database.rows(
    'update account set totp_step = $2 where id = $1 and coalesce(totp_step, 0) < $2 returning id',
    [accountId, step],
  );
  return used.length > 0;
}

/** Where a right is: one of these, or none for the whole catalogue. */
export interface PlaceRow {
  driveId: string | null;
  folderId: number | null;
  dossierId: number | null;
  searchId: number | null;
}

export interface RightRow extends PlaceRow {
  preset: string | null;
  roleName: string;
  permissions: string[];
  /** It is in a project that is closed. */
  closed: boolean;
}

const PLACE_COLUMNS = `h.drive_id as "driveId", h.folder_id as "folderId", h.dossier_id as "dossierId", h.search_id as "searchId"`;

/** The rights of an account: its own, and those of its teams. */
export function rightsOf(database: Database, accountId: number): Promise<RightRow[]> {
  return database.rows<RightRow>(
    `select r.preset, r.name as "roleName", r.permissions, ${PLACE_COLUMNS},
       exists (select 1 from dossier_above a join project p on p.dossier_id = a.above_id where a.id = h.dossier_id and p.closed) as closed
     from held_right h join role r on r.id = h.role_id
     where h.account_id = $1 or h.team_id in (select team_id from team_member where account_id = $1) order by h.id`,
    [accountId],
  );
}

/** Keeps others from changing rights until the transaction ends. */
export async function lockRights(database: Database, tx: Transaction): Promise<void> {
  await database.rows('select version from rights_version for update', [], tx);
}

/** How many accounts that somebody can sign in to hold a permission for the whole catalogue. `presets`: the roles that have it of themselves. */
export async function countHolders(
  database: Database,
  permission: string,
  presets: readonly string[],
  tx: Transaction,
): Promise<number> {
  const row = await database.row<{ holders: number }>(
    `select count(distinct a.id)::int as holders from account a
     join held_right h on h.account_id = a.id or h.team_id in (select m.team_id from team_member m where m.account_id = a.id)
     join role r on r.id = h.role_id and (r.preset = any($2::text[]) or $1 = any(r.permissions))
     where a.disabled_at is null and a.password_hash is not null
       and num_nonnulls(h.drive_id, h.folder_id, h.dossier_id, h.search_id) = 0`,
    [permission, presets],
    tx,
  );
  return row?.holders ?? 0;
}

export interface KnownAccountRow {
  id: number;
  name: string;
  displayName: string;
  disabled: boolean;
  /** Somebody has chosen a password. */
  joined: boolean;
  /** A link to choose one is open until then. */
  invitedUntil: string | null;
  lastUsedAt: string | null;
  secondFactor: boolean;
  teams: number[];
}

export function listAccounts(database: Database): Promise<KnownAccountRow[]> {
  return database.rows<KnownAccountRow>(
    `select a.id, a.name, a.display_name as "displayName", a.disabled_at is not null as disabled, a.password_hash is not null as joined,
       (select ${isoSql('max(i.expires_at)')} from invitation i where i.account_id = a.id and i.expires_at > now()) as "invitedUntil",
       (select ${isoSql('max(s.last_used_at)')} from session s where s.account_id = a.id) as "lastUsedAt",
       a.totp_secret is not null as "secondFactor",
       array(select m.team_id from team_member m where m.account_id = a.id order by 1) as teams
     from account a order by a.name`,
  );
}

export interface HeldRightRow extends PlaceRow {
  id: number;
  accountId: number | null;
  teamId: number | null;
  roleId: number;
  /** What the place is called; null where it is gone, or the whole catalogue. */
  place: string | null;
  /** The dossier is that of a project. */
  project: boolean;
}

/** All rights there are, with the names of the places. */
export function listRights(database: Database): Promise<HeldRightRow[]> {
  return database.rows<HeldRightRow>(
    `with recursive path (id, parent_id, name) as (
       select id, parent_id, name from dossier where id in (select dossier_id from held_right)
       union all
       select p.id, d.parent_id, d.name || ' › ' || p.name from path p join dossier d on d.id = p.parent_id)
     select h.id, h.account_id as "accountId", h.team_id as "teamId", h.role_id as "roleId", ${PLACE_COLUMNS},
       coalesce(d.label, (select fd.label || ' › ' || replace(f.path, '/', ' › ') from folder f join drive fd on fd.id = f.drive_id where f.id = h.folder_id),
         (select p.name from path p where p.id = h.dossier_id and p.parent_id is null), (select s.name from saved_search s where s.id = h.search_id)) as place,
       exists (select 1 from project p where p.dossier_id = h.dossier_id) as project
     from held_right h left join drive d on d.id = h.drive_id order by h.id`,
  );
}

/** Whether a saved search is what somebody’s rights hang on. */
export async function givesRights(database: Database, searchId: number, tx: Transaction): Promise<boolean> {
  return (await database.row('select 1 from held_right where search_id = $1 limit 1', [searchId], tx)) !== undefined;
}

/** What people call the roles of each account, its own and those of its teams. */
export function rolesByAccount(database: Database): Promise<{ accountId: number; roles: string }[]> {
  return database.rows(
    `select a.id as "accountId", string_agg(distinct r.name || case when num_nonnulls(h.drive_id, h.folder_id, h.dossier_id, h.search_id) = 0 then '' else ' of a part' end, ', ') as roles
     from account a join held_right h on h.account_id = a.id or h.team_id in (select m.team_id from team_member m where m.account_id = a.id)
     join role r on r.id = h.role_id group by a.id`,
  );
}
