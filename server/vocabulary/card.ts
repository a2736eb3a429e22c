// All about one term: what its card says, where its photos are, what was done to it.

import { criterion } from '@stellin/core/query/query';
import { queryText } from '@stellin/core/search/language';
import { keywordsOf } from '@stellin/core/vocabulary/writing';
import type { TermCard, TermUses } from '@stellin/contract/vocabulary';
import type { Database } from '../database/database';
import { isoSql } from '../database/isoSql';
import { StellinError } from '../errors';
import { nameOf } from './naming';
import type { Snapshot, VocabularyIndex } from '../catalogue/vocabularySnapshot';
import * as store from './store';

/** What the card of a term says. Throws a StellinError when it is not there. */
export async function cardOf(database: Database, index: VocabularyIndex, id: number): Promise<TermCard> {
  const { tree, relations, vocabularies, names } = await index.current();
  const term = tree.get(id);
  if (!term) throw new StellinError('termGone');
  const path = tree.path(id);
  const vocabulary = vocabularies.find((one) => one.id === path[0]?.vocabularyId);
  const linked = relations.filter(({ fromId, toId }) => fromId === id || toId === id);
  const others = linked.map(({ fromId, toId }) => (fromId === id ? toId : fromId));
  const [counts, people, example] = await Promise.all([
    store.countsOf(database, [id, ...others]),
    peopleOf(database, id),
    term.examplePhoto === null ? [] : samples(database, 'p.id = $1', [term.examplePhoto], 1),
  ]);
  const links = (kind: 'broader' | 'related', from?: 'fromId') =>
    linked
      .filter((link) => link.kind === kind && (from === undefined || link[from] === id))
      .map(({ fromId, toId }) => (fromId === id ? toId : fromId))
      .map((other) => ({ ...nameOf(tree, other), photosWithin: counts.get(other)?.photosWithin ?? 0 }))
      .sort((a, b) => (a.label < b.label ? -1 : 1));
  const { parentId, label, otherLabels, heading, status, deprecated, scopeNote, definition, notation, uri } = term;
  const { colour, examplePhoto, byHand, writeSelf, writeBroader, writeOthers, writeLanguage } = term;
  return {
    ...{ id, parentId, label, otherLabels, heading, status, deprecated, scopeNote, definition, notation, uri },
    ...{ examplePhoto, byHand, writeSelf, writeBroader, writeOthers, writeLanguage },
    colour: colour as TermCard['colour'],
    vocabulary: { id: vocabulary?.id ?? 0, name: vocabulary?.name ?? '', language: vocabulary?.language ?? '' },
    proposedBy: people.proposedBy,
    replacedBy: term.replacedBy === null ? null : nameOf(tree, term.replacedBy),
    path: path.slice(0, -1).map((above) => nameOf(tree, above.id)),
    broader: links('broader', 'fromId'),
    related: links('related'),
    narrower: tree.narrower(id).length,
    photos: counts.get(id)?.photos ?? 0,
    photosWithin: counts.get(id)?.photosWithin ?? 0,
    lastGivenAt: counts.get(id)?.lastGivenAt ?? null,
    keywords: keywordsOf(tree, id),
    example: example[0] ?? null,
    madeBy: people.madeBy,
    madeAt: people.madeAt,
    query: queryText(criterion('term', names().nameOf(id))),
  };
}

async function peopleOf(
  database: Database,
  id: number,
): Promise<{ madeBy: string | null; madeAt: string | null; proposedBy: string | null }> {
  const row = await database.row<{ madeBy: string | null; madeAt: string | null; proposedBy: string | null }>(
    `select (select display_name from account where id = t.proposed_by) as "proposedBy", made.by as "madeBy", ${isoSql('made.at')} as "madeAt"
     from term t left join lateral (
       select a.display_name as by, e.at from ledger_object l join ledger_entry e on e.id = l.entry_id left join account a on a.id = e.account_id
       where l.kind = 'term' and l.object_id = t.id and l.before is null order by l.entry_id limit 1) made on true where t.id = $1`,
    [id],
  );
  return row ?? { madeBy: null, madeAt: null, proposedBy: null };
}

async function samples(database: Database, where: string, bind: readonly unknown[], limit: number) {
  return database.rows<{ id: number; previewVersion: number }>(
    `select p.id, p.preview_version as "previewVersion" from photo p where ${where} and p.shown and p.preview_version > 0 order by p.rating desc, p.id desc limit ${limit}`,
    bind,
  );
}

/** How many photos are looked at for what else they have. */
const PHOTOS_SAMPLED = 2000;
const WITHIN = `(select distinct g.photo_id from term_above a join photo_term g on g.term_id = a.term_id where a.above_id = $1)`;

/** Where the photos of a term are, a few of them, and what else they have. */
export async function usesOf(database: Database, index: VocabularyIndex, id: number): Promise<TermUses> {
  const { tree } = await index.current();
  if (!tree.get(id)) throw new StellinError('termGone');
  const lastFew = `(select photo_id from ${WITHIN} within order by photo_id desc limit ${PHOTOS_SAMPLED})`;
  const [drives, few, together, origins] = await Promise.all([
    database.rows<TermUses['drives'][number]>(
      `select d.label, not d.attached as away, count(*)::int as photos from ${WITHIN} w join photo p on p.id = w.photo_id and p.shown
       join drive d on d.id = p.drive_id group by d.id order by count(*) desc, d.label`,
      [id],
    ),
    samples(database, `p.id in ${lastFew}`, [id], 8),
    database.rows<{ id: number; share: number }>(
      `with few as materialized ${lastFew}
       select g.term_id as id, count(*)::float8 / (select count(*) from few) as share from few join photo_term g on g.photo_id = few.photo_id
       where not exists (select 1 from term_above a where a.term_id = g.term_id and a.above_id = $1)
         and not exists (select 1 from term_above a where a.term_id = $1 and a.above_id = g.term_id)
       group by g.term_id having count(*) > 1 order by count(*) desc, g.term_id limit 8`,
      [id],
    ),
    database.rows<TermUses['origins'][number]>(
      `select origin, count(*)::int as photos from photo_term where term_id = $1 group by origin order by count(*) desc`,
      [id],
    ),
  ]);
  return {
    drives,
    samples: few,
    together: together.map(({ id: other, share }) => ({ ...nameOf(tree, other), share })),
    origins,
  };
}

/** What was done to a term, newest first. */
export async function historyOf(database: Database, id: number) {
  return database.rows<{ id: number; at: string; by: string; title: string }>(
    `select e.id, ${isoSql('e.at')} as at, coalesce(a.display_name, 'Stellin') as by, e.title
     from ledger_object l join ledger_entry e on e.id = l.entry_id left join account a on a.id = e.account_id
     where l.kind = 'term' and l.object_id = $1 order by e.id desc limit 50`,
    [id],
  );
}

/** Proposals that wait, with terms that they might be already. */
export async function proposalsOf(database: Database, { tree, finder }: Snapshot) {
  const waiting = [...tree.all()].filter(({ status }) => status === 'proposed').sort((a, b) => a.id - b.id);
  const ids = waiting.map(({ id }) => id);
  const [counts, people, few] = await Promise.all([
    store.countsOf(database, ids),
    database.rows<{ id: number; by: string }>(
      `select t.id, coalesce(a.display_name, 'Stellin') as by from term t left join account a on a.id = t.proposed_by where t.id = any($1)`,
      [ids],
    ),
    database.rows<{ termId: number; id: number; previewVersion: number }>(
      `select t.id as "termId", s.id, s.preview_version as "previewVersion" from unnest($1::int[]) t (id) cross join lateral (
         select p.id, p.preview_version from photo_term g join photo p on p.id = g.photo_id where g.term_id = t.id and p.shown and p.preview_version > 0 order by p.id limit 4) s`,
      [ids],
    ),
  ]);
  const byId = new Map(people.map(({ id, by }) => [id, by]));
  return waiting.map(({ id, label, scopeNote }) => ({
    ...nameOf(tree, id),
    scopeNote,
    by: byId.get(id) ?? '',
    photos: counts.get(id)?.photos ?? 0,
    samples: few
      .filter(({ termId }) => termId === id)
      .map(({ id: photo, previewVersion }) => ({ id: photo, previewVersion })),
    near: finder()
      .find(label, 4, (term) => term.id !== id && term.status === 'accepted')
      .slice(0, 3)
      .map(({ termId }) => nameOf(tree, termId)),
  }));
}

/** What became of the proposals that somebody made, newest first. */
export async function settledProposals(database: Database, accountId: number) {
  return database.rows<{ at: string; title: string; by: string; word: string }>(
    `select ${isoSql('e.at')} as at, e.title, coalesce(a.display_name, 'Stellin') as by, coalesce(e.parameters ->> 'word', '') as word
     from ledger_object l join ledger_entry e on e.id = l.entry_id left join account a on a.id = e.account_id
     where l.kind = 'term' and (l.before ->> 'proposed_by')::int = $1 and l.before ->> 'status' = 'proposed' and (l.after is null or l.after ->> 'status' = 'accepted')
       and e.step = 'do' and not e.undone order by e.id desc limit 10`,
    [accountId],
  );
}
