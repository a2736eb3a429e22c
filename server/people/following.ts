// What files say of people follows what the catalogue says: the fields of photos are recorded along with every change.

import { followPeople, PEOPLE_FIELDS } from '@stellin/core/people/following';
import { foldText } from '@stellin/core/text/words';
import { sameValue } from '@stellin/core/metadata/values';
import { PROGRAM } from '../catalogue/viewer';
import type { Database, Transaction } from '../database/database';
import { recordFields } from '../ledger/recordStore';
import * as records from './entryStore';
import { listPersons } from './store';

/** Records what the fields of photos say of their people from now on. Names in `settled` stood for somebody all along. */
export async function followPeopleOf(
  database: Database,
  entryId: number,
  tx: Transaction,
  settled: ReadonlyMap<string, number> = new Map(),
): Promise<void> {
  const persons = new Map((await listPersons(database, PROGRAM, tx)).map((person) => [person.id, person]));
  const now = new Map(persons);
  for (const { id, after } of await records.personsOfEntry(database, entryId, tx))
    if (after) now.set(id, after);
    else now.delete(id);
  const uris = await records.termUris(database, [...persons.values(), ...now.values()], tx);
  const [shownBefore, shownAfter] = [
    records.shownPersons(persons.values(), uris),
    records.shownPersons(now.values(), uris),
  ];
  for await (const page of records.photosWithChangedPeople(database, entryId, tx)) {
    const rows = page.flatMap(({ id, names, details, regions, before, after, ...picture }) => {
      const fields = {
        ...(names === null ? {} : { personInImage: names }),
        ...(details === null ? {} : { personInImageDetails: details }),
        ...(regions === null ? {} : { regions }),
      };
      const given = (Array.isArray(names) ? names : [])
        .filter((name): name is string => typeof name === 'string' && settled.has(foldText(name)))
        .map((name) => ({ name }));
      const next = followPeople(
        fields,
        [...records.shownOf(before, shownBefore), ...given],
        records.shownOf(after, shownAfter),
        picture,
      );
      const changed = PEOPLE_FIELDS.filter((field) => !sameValue(fields[field], next[field]));
      if (changed.length === 0) return [];
      const pick = (of: typeof fields | typeof next) =>
        Object.fromEntries(changed.map((field) => [field, of[field] ?? null]));
      return [{ id, before: pick(fields), after: pick(next) }];
    });
    if (rows.length > 0) await recordFields(database, entryId, JSON.stringify(rows), tx);
  }
}
