// Which later entries built on an entry: they changed the same things of the same photos, the same objects, or what refers to an
// object that it made. While there are any it can't be taken back without losing what they say.

import type { Database, Transaction } from '../database/database';
import { isoSql } from '../database/isoSql';
import type { LedgerKinds } from './kinds';
import type { EntryRow } from './store';

const LATER_SHOWN = 5;

/**
 * @param effectId the entry whose rows hold what would be taken back: of what was redone the last redo
 * @returns the earliest of the later entries that stand, and how many there are
 */
export async function laterEntries(
  database: Database,
  kinds: LedgerKinds,
  effectId: number,
  tx?: Transaction,
): Promise<{ entries: EntryRow[]; count: number }> {
  const rows = await database.rows<EntryRow & { count: number }>(
    `with later as materialized (${unionOf(kinds)})
     select e.id, ${isoSql('e.at')} as at, coalesce(a.display_name, 'Stellin') as by, e.kind, e.title, e.photos, e.object_id as "objectId",
       e.step, e.undone, count(*) over ()::int as count
     from ledger_entry e left join account a on a.id = e.account_id
     where e.id in (select entry_id from later) and e.step = 'do' and not e.undone
     order by e.id limit ${LATER_SHOWN}`,
    [effectId],
    tx,
  );
  return { entries: rows.map(({ count: _, ...entry }) => entry), count: rows[0]?.count ?? 0 };
}

function unionOf({ aspects, objects }: LedgerKinds): string {
  // Fields of a photo are told apart by their names; all else that one row says is one thing.
  const samePhotos = `select l.entry_id from ledger_photo o join ledger_photo l
      on l.photo_id = o.photo_id and l.aspect = o.aspect and l.key = o.key and l.entry_id > $1
    where o.entry_id = $1 and (o.aspect <> 'fields' or l.after ?| array(select jsonb_object_keys(o.after)))`;
  const sameObjects = `select l.entry_id from ledger_object o join ledger_object l
      on l.kind = o.kind and l.object_id = o.object_id and l.entry_id > $1
    where o.entry_id = $1`;
  const made = (kind: string) =>
    `select o.object_id from ledger_object o where o.entry_id = $1 and o.kind = '${kind}' and o.before is null`;
  // Asked once: most entries make nothing, and then nothing is looked through.
  const madeAny = (kind: string) => `exists (${made(kind)})`;
  const photosWith = Object.entries(aspects).flatMap(([aspect, { keyOf }]) =>
    keyOf !== undefined && keyOf in objects
      ? [
          `select l.entry_id from ledger_photo l where l.entry_id > $1 and ${madeAny(keyOf)} and l.aspect = '${aspect}' and l.key in (${made(keyOf)})`,
        ]
      : [],
  );
  const objectsWith = Object.entries(objects).flatMap(([kind, { columns }]) =>
    Object.entries(columns).flatMap(([column, shown]) =>
      shown !== 'derived' && shown.refersTo !== undefined && shown.refersTo in objects
        ? [
            `select l.entry_id from ledger_object l where l.entry_id > $1 and ${madeAny(shown.refersTo)} and l.kind = '${kind}'
             and jsonb_typeof(l.after -> '${column}') = 'number' and (l.after ->> '${column}')::int in (${made(shown.refersTo)})`,
          ]
        : [],
    ),
  );
  return [samePhotos, sameObjects, ...photosWith, ...objectsWith].join('\n    union\n    ');
}
