// The SQL of letters and of the address book.

import type { LetterState } from '@stellin/core/mailing/letters';
import type { Mailbox } from '@stellin/core/mailing/addresses';
import type { Contact, Letter, LetterRecipient } from '@stellin/contract/mailing';
import type { Database } from '../database/database';
import { isoSql } from '../database/isoSql';
import { CONTACT, LETTER, LETTER_RECIPIENT } from '../database/models/mailing';
import { modelOf, type RowOf } from '../database/models/table';

/** Letters, the latest. */
const MOST_LISTED = 300;
/** After so long what is being sent is taken for cut off: its process is gone, for nothing takes as long. */
const CUT_OFF = '10 minutes';

export type LetterRow = RowOf<typeof LETTER>;
export type NewLetter = Omit<LetterRow, 'id' | 'at'>;

export async function listContacts(database: Database): Promise<Contact[]> {
  return database.rows<Contact>('select id, name, address from contact order by lower(name), lower(address)');
}

/** Puts people into the address book. An address that is there gets the name, where one is given. */
export async function keepContacts(database: Database, people: readonly Mailbox[]): Promise<void> {
  await database.rows(
    `insert into contact (name, address) select * from unnest($1::text[], $2::text[])
     on conflict (lower(address)) do update set name = case when excluded.name = '' then contact.name else excluded.name end, address = excluded.address`,
    [people.map(({ name }) => name), people.map(({ address }) => address)],
  );
}

export async function removeContacts(database: Database, ids: readonly number[]): Promise<void> {
  await modelOf(database, CONTACT).destroy({ where: { id: [...ids] } });
}

export function insertLetter(
  database: Database,
  letter: NewLetter,
  recipients: readonly (Mailbox & { messageId: string })[],
): Promise<number> {
  return database.transaction(async (transaction) => {
    const { id } = await modelOf(database, LETTER).create(letter, { transaction });
    const rows = recipients.map((recipient) => ({ ...recipient, letterId: id, state: 'waiting' as const }));
    await modelOf(database, LETTER_RECIPIENT).bulkCreate(rows, { transaction });
    await database.notify(['mail'], transaction);
    return id;
  });
}

export async function findLetter(database: Database, id: number): Promise<LetterRow | undefined> {
  return (await modelOf(database, LETTER).findByPk(id, { raw: true })) ?? undefined;
}

/** Letters, the latest first: those of somebody, or all. */
export function listLetters(database: Database, accountId: number | null): Promise<Letter[]> {
  return database.rows<Letter>(
    `select l.id, ${isoSql('l.at')} as at, a.display_name as by, l.subject, l.text, l.title,
       case when l.delivery_id is not null then 'delivery' else 'link' end as kind,
       l.delivery_id is not null or l.link_address is not null as "mayRetry", r.all as recipients
     from letter l join account a on a.id = l.account_id,
     lateral (select coalesce(json_agg(json_build_object('id', r.id, 'name', r.name, 'address', r.address, 'state', r.state, 'problem', r.problem,
         'tries', r.tries, 'nextAt', case when r.state = 'waiting' and r.tries > 0 then ${isoSql('r.next_at')} end, 'sentAt', ${isoSql('r.sent_at')}) order by r.id), '[]') as all
       from letter_recipient r where r.letter_id = l.id) r
     where $1::int is null or l.account_id = $1 order by l.id desc limit ${MOST_LISTED}`,
    [accountId],
  );
}

/** Those among some names of messages that are of somebody's letters, or of anybody's. */
export async function messagesOf(
  database: Database,
  ids: readonly string[],
  accountId: number | null,
): Promise<Set<string>> {
  const rows = await database.rows<{ id: string }>(
    `select r.message_id as id from letter_recipient r join letter l on l.id = r.letter_id
     where r.message_id = any($1) and ($2::int is null or l.account_id = $2)`,
    [ids, accountId],
  );
  return new Set(rows.map(({ id }) => id));
}

/** Who a view link was sent to. */
export function toldOfLink(database: Database, linkId: number): Promise<Mailbox[]> {
  return database.rows<Mailbox>(
    `select distinct on (lower(r.address)) r.name, r.address from letter_recipient r join letter l on l.id = r.letter_id
     where l.link_id = $1 and r.state = 'sent' order by lower(r.address), r.id desc`,
    [linkId],
  );
}

export interface Due extends Mailbox {
  id: number;
  letterId: number;
  tries: number;
  messageId: string;
}

/** Takes one whose turn it is, for this process alone; what a process that is gone was sending is tried again. */
export function takeDue(database: Database): Promise<Due | undefined> {
  return database.row<Due>(
    `update letter_recipient r set state = 'sending', begun_at = now(), tries = r.tries + 1 from
       (select id from letter_recipient where (state = 'waiting' and next_at <= now()) or (state = 'sending' and begun_at < now() - interval '${CUT_OFF}')
        order by letter_id, id limit 1 for update skip locked) due
     where r.id = due.id returning r.id, r.letter_id as "letterId", r.name, r.address, r.tries, r.message_id as "messageId"`,
  );
}

export interface Outcome {
  state: Extract<LetterState, 'waiting' | 'sent' | 'refused' | 'failed'>;
  problem: string | null;
  /** Of one that waits. */
  nextAt: Date | null;
}

/** Notes what became of one that was being sent. The address of a view link goes with the last who waits for it. */
export function noteOutcome(
  database: Database,
  { id, letterId }: Due,
  { state, problem, nextAt }: Outcome,
): Promise<void> {
  return database.transaction(async (tx) => {
    await database.rows(
      `update letter_recipient set state = $2, problem = $3, next_at = coalesce($4, next_at), begun_at = null, sent_at = case when $2 = 'sent' then now() end
       where id = $1`,
      [id, state, problem, nextAt],
      tx,
    );
    await database.rows(FORGET_ADDRESSES, [[letterId]], tx);
    await database.notify(['mail'], tx);
  });
}

const FORGET_ADDRESSES = `update letter l set link_address = null where id = any($1) and link_address is not null
  and not exists (select 1 from letter_recipient r where r.letter_id = l.id and r.state in ('waiting', 'sending', 'failed'))`;

/** Those among some recipients whose letters somebody may steer: their own, or all. */
const MINE = 'r.id = any($1) and ($2::int is null or l.account_id = $2) and l.id = r.letter_id';

/** Lets those whom nothing reached have their turn at once, as if nothing had been tried. False: none of them is somebody's. */
export function retry(database: Database, ids: readonly number[], accountId: number | null): Promise<boolean> {
  return database.transaction(async (tx) => {
    const rows = await database.rows(
      `update letter_recipient r set state = 'waiting', tries = 0, next_at = now(), problem = null from letter l
       where ${MINE} and r.state in ('waiting', 'refused', 'failed', 'stopped') and (l.delivery_id is not null or l.link_address is not null) returning r.id`,
      [ids, accountId],
      tx,
    );
    await database.notify(['mail'], tx);
    return rows.length > 0;
  });
}

/** Sends no more to those who wait. False: none of them is somebody's. */
export function stop(database: Database, ids: readonly number[], accountId: number | null): Promise<boolean> {
  return database.transaction(async (tx) => {
    const rows = await database.rows<Pick<LetterRecipient, 'id'> & { letterId: number }>(
      `update letter_recipient r set state = 'stopped' from letter l where ${MINE} and r.state in ('waiting', 'failed')
       returning r.id, r.letter_id as "letterId"`,
      [ids, accountId],
      tx,
    );
    await database.rows(FORGET_ADDRESSES, [rows.map(({ letterId }) => letterId)], tx);
    await database.notify(['mail'], tx);
    return rows.length > 0;
  });
}
