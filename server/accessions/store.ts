// The SQL of where accessions come from.

import type { Paper, Provenance } from '@stellin/contract/accessions';
import type { Database, Transaction } from '../database/database';
import { isoSql } from '../database/isoSql';

/** A row as the ledger keeps it. */
export type ProvenanceRow = Provenance & { id: number; accession_id: number };

export function provenanceOf(
  database: Database,
  accessionId: number,
  tx?: Transaction,
): Promise<ProvenanceRow | undefined> {
  return database.row<ProvenanceRow>('select * from provenance where accession_id = $1', [accessionId], tx);
}

/** Whether there is such an accession. */
export async function isAccession(database: Database, id: number, tx?: Transaction): Promise<boolean> {
  return (await database.row('select 1 from accession where id = $1', [id], tx)) !== undefined;
}

/** The accessions of which what was agreed ends by a day (YYYY-MM-DD). */
export async function endingBy(database: Database, day: string): Promise<number[]> {
  const rows = await database.rows<{ id: number }>(
    `select accession_id as id from provenance where ends <> '' and ends <= $1 order by ends, accession_id`,
    [day],
  );
  return rows.map(({ id }) => id);
}

export function papersOf(database: Database, accessionId: number): Promise<Paper[]> {
  return database.rows<Paper>(
    `select p.id, p.name, length(p.content)::float8 as bytes, ${isoSql('p.added_at')} as "addedAt", a.display_name as "addedBy"
     from accession_paper p left join account a on a.id = p.added_by where p.accession_id = $1 order by p.name, p.id`,
    [accessionId],
  );
}

export async function insertPaper(
  database: Database,
  paper: { accessionId: number; name: string; content: Buffer; accountId: number },
): Promise<void> {
  await database.rows('insert into accession_paper (accession_id, name, content, added_by) values ($1, $2, $3, $4)', [
    paper.accessionId,
    paper.name,
    paper.content,
    paper.accountId,
  ]);
}

export function findPaper(database: Database, id: number): Promise<{ name: string; content: Buffer } | undefined> {
  return database.row<{ name: string; content: Buffer }>('select name, content from accession_paper where id = $1', [
    id,
  ]);
}

/** Returns whether there was such a paper. */
export async function removePaper(database: Database, id: number): Promise<boolean> {
  return (await database.rows('delete from accession_paper where id = $1 returning id', [id])).length > 0;
}
