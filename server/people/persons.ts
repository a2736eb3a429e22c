// Persons by who is meant: found by id or any of their names, made where nobody is called so.

import { foldText } from '@stellin/core/text/words';
import type { Who } from '@stellin/contract/people';
import { PROGRAM } from '../catalogue/viewer';
import type { Database, Transaction } from '../database/database';
import { StellinError } from '../errors';
import { recordObject } from '../ledger/recordStore';
import * as records from './entryStore';
import { listPersons, type PersonRow } from './store';

/** Who is meant: somebody by id or by any of their names, else somebody new. */
export async function personFor(
  database: Database,
  who: Who,
  entryId: number,
  tx: Transaction,
): Promise<{ id: number; name: string }> {
  if ('personId' in who) return requirePerson(database, who.personId, tx);
  const folded = foldText(who.name);
  const persons = await listPersons(database, PROGRAM, tx);
  const known =
    persons.find((person) => person.name_folded === folded) ??
    persons.find((person) => person.names_folded.includes(folded));
  if (known) return known;
  const made = (await records.personsOfEntry(database, entryId, tx)).find(({ after }) => after?.name_folded === folded);
  if (made) return { id: made.id, name: who.name };
  return {
    id: await recordObject<PersonRow>(database, entryId, 'person', null, rowOf({ name: who.name }), tx),
    name: who.name,
  };
}

export async function requirePerson(database: Database, id: number, tx: Transaction): Promise<PersonRow> {
  const found = (await listPersons(database, PROGRAM, tx)).find((person) => person.id === id);
  if (!found) throw new StellinError('notFound', { what: 'such person (they may have been removed meanwhile)' });
  return found;
}

export async function requireFree(
  database: Database,
  name: string,
  except: number | null,
  tx: Transaction,
): Promise<void> {
  const folded = foldText(name);
  const taken = (await listPersons(database, PROGRAM, tx)).some(
    ({ id, name_folded }) => id !== except && name_folded === folded,
  );
  if (taken) throw new StellinError('personExists', { name });
}
interface SaidOfPerson {
  name: string;
  otherNames?: string[];
  note?: string;
  born?: string;
  died?: string;
  private?: boolean;
  detailed?: boolean;
  termId?: number | null;
}

/** The row of a person of whom so much is said. */
export function rowOf(given: SaidOfPerson): Omit<PersonRow, 'id'> {
  const {
    name,
    otherNames = [],
    note = '',
    born = '',
    died = '',
    private: isPrivate = false,
    detailed = false,
    termId = null,
  } = given;
  const names_folded = [...new Set([name, ...otherNames].map(foldText))];
  return {
    name,
    name_folded: foldText(name),
    other_names: otherNames,
    names_folded,
    note,
    born,
    died,
    private: isPrivate,
    detailed,
    term_id: termId,
  };
}

/** What a row says of a person. */
export function said({
  name,
  other_names,
  note,
  born,
  died,
  private: isPrivate,
  detailed,
  term_id,
}: PersonRow): Required<SaidOfPerson> {
  return { name, otherNames: other_names, note, born, died, private: isPrivate, detailed, termId: term_id };
}
