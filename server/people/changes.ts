// What changes to people do: to faces, to who is in a photo, to persons. What files say of people follows: the fields are
// recorded along, so that undo brings them back too.

import { followPeople, PEOPLE_FIELDS } from '@stellin/core/people/following';
import { matchBoxes, withinPicture } from '@stellin/core/people/boxes';
import { followName } from '@stellin/core/people/naming';
import { regionBoxes } from '@stellin/core/people/regions';
import { foldText } from '@stellin/core/text/words';
import { sameValue } from '@stellin/core/metadata/values';
import { edtfInterval } from '@stellin/core/timeplace/edtf';
import type { Who } from '@stellin/contract/people';
import { countText } from '@stellin/contract/wording';
import type { Database, Transaction } from '../database/database';
import { StellinError } from '../errors';
import { recordFields, recordObject } from '../ledger/recording';
import type { ChangeHandlers } from '../ledger/service';
import { selectionSql } from '../catalogue/selection';
import type { Search } from '../search/service';
import * as incoming from './incoming';
import * as records from './records';
import { listPersons, type PersonRow } from './store';

type PeopleChanges = Pick<
  ChangeHandlers,
  | 'nameFaces'
  | 'refuseFaces'
  | 'setFaces'
  | 'drawFace'
  | 'moveFace'
  | 'namePhotos'
  | 'takePersons'
  | 'savePerson'
  | 'mergePersons'
  | 'splitPerson'
  | 'removePerson'
  | 'settleNames'
>;

const STATE_TITLES = {
  open: 'Take the name off',
  unnamed: 'Leave without a name',
  none: 'Say that they are none:',
  removed: 'Remove',
} as const;

export function peopleChanges(database: Database, search: Search): PeopleChanges {
  return {
    async nameFaces({ faceIds, who, notFaceIds }, { tx, entryId }) {
      const { id, name } = await require(who, entryId, tx);
      await records.recordFaces(database, entryId, faceIds, { state: 'named', person: id, allow: id }, tx);
      if (notFaceIds.length > 0) await records.recordFaces(database, entryId, notFaceIds, { refuse: id }, tx);
      await records.recordNotInPhotos(database, entryId, id, 'with a face', tx);
      await follow(entryId, tx);
      return () => `Name ${countText(faceIds.length, 'face')} ${name}`;
    },

    async refuseFaces({ faceIds, personId }, { tx, entryId }) {
      const { name } = await requirePerson(personId, tx);
      const named = new Set(await records.facesNamed(database, personId, undefined, tx));
      const [theirs, others] = [faceIds.filter((id) => named.has(id)), faceIds.filter((id) => !named.has(id))];
      await records.recordFaces(database, entryId, theirs, { state: 'open', person: null, refuse: personId }, tx);
      await records.recordFaces(database, entryId, others, { refuse: personId }, tx);
      await follow(entryId, tx);
      return () => `${countText(faceIds.length, 'face')}: not ${name}`;
    },

    async setFaces({ faceIds, state }, { tx, entryId }) {
      await records.recordFaces(database, entryId, faceIds, { state, person: null }, tx);
      await follow(entryId, tx);
      return () => `${STATE_TITLES[state]} ${countText(faceIds.length, 'face')}`;
    },

    async drawFace({ photoId, box, who }, { tx, entryId }) {
      const person = who && (await require(who, entryId, tx));
      const faceId = await records.insertDrawn(database, photoId, requireBox(box), tx);
      if (faceId === 0) throw new StellinError('notFound', { what: 'such photo' });
      await records.recordDrawn(database, entryId, faceId, person?.id ?? null, tx);
      if (person) await records.recordNotInPhotos(database, entryId, person.id, 'with a face', tx);
      await follow(entryId, tx);
      return () => (person ? `Draw a face: ${person.name}` : 'Draw a face');
    },

    async moveFace({ faceId, box }, { tx, entryId }) {
      await records.recordFaces(database, entryId, [faceId], { box: requireBox(box) }, tx);
      await follow(entryId, tx);
      return () => 'Move the box of a face';
    },

    async namePhotos({ selection, who }, { tx, entryId }) {
      const { id, name } = await require(who, entryId, tx);
      await records.recordInPhotos(database, entryId, id, selectionSql(selection), tx);
      await follow(entryId, tx);
      return (photos) => `${name} is in ${countText(photos, 'photo')}`;
    },

    async takePersons({ selection, personId }, { tx, entryId }) {
      const { name } = await requirePerson(personId, tx);
      const photos = selectionSql(selection);
      const faces = await records.facesNamed(database, personId, photos, tx);
      await records.recordFaces(database, entryId, faces, { state: 'open', person: null, refuse: personId }, tx);
      await records.recordNotInPhotos(database, entryId, personId, photos, tx);
      await follow(entryId, tx);
      return (count) => `${name} is not in ${countText(count, 'photo')}`;
    },

    async savePerson({ kind: _, personId, ...given }, { tx, entryId }) {
      for (const date of [given.born, given.died])
        if (date !== '' && edtfInterval(date) === undefined)
          throw new StellinError('describingRefused', {
            why: `“${date}” is no date, such as 1932, 1932~ or 1951-06-02`,
          });
      const before = personId === null ? null : await requirePerson(personId, tx);
      await requireFree(given.name, personId, tx);
      const after = rowOf(given);
      await recordObject<PersonRow>(database, entryId, 'person', before, after, tx);
      if (before && before.name !== after.name) await renameInSearches(entryId, before.name, after.name, tx);
      await follow(entryId, tx);
      if (!before) return () => `Add ${after.name}`;
      return () => (before.name === after.name ? `Change ${after.name}` : `Rename ${before.name} to ${after.name}`);
    },

    async mergePersons({ personIds, intoId }, { tx, entryId }) {
      const into = await requirePerson(intoId, tx);
      const gone: PersonRow[] = [];
      for (const id of new Set(personIds)) if (id !== intoId) gone.push(await requirePerson(id, tx));
      const otherNames = [...into.other_names];
      for (const person of gone) {
        await giveAll(entryId, person.id, intoId, tx);
        await recordObject<PersonRow>(database, entryId, 'person', person, null, tx);
        await renameInSearches(entryId, person.name, into.name, tx);
        for (const name of [person.name, ...person.other_names])
          if (name !== into.name && !otherNames.includes(name)) otherNames.push(name);
      }
      await recordObject<PersonRow>(database, entryId, 'person', into, rowOf({ ...said(into), otherNames }), tx);
      await follow(entryId, tx);
      return () => `Merge ${gone.map(({ name }) => name).join(', ')} into ${into.name}`;
    },

    async splitPerson({ personId, faceIds, name }, { tx, entryId }) {
      const person = await requirePerson(personId, tx);
      const made = await require({ name }, entryId, tx);
      await records.recordFaces(database, entryId, faceIds, { state: 'named', person: made.id, refuse: personId }, tx);
      await follow(entryId, tx);
      return () => `Split ${countText(faceIds.length, 'face')} of ${person.name} off as ${name}`;
    },

    async removePerson({ personId }, { tx, entryId }) {
      const person = await requirePerson(personId, tx);
      const faces = await records.facesNamed(database, personId, undefined, tx);
      await records.recordFaces(database, entryId, faces, { state: 'open', person: null }, tx);
      const everywhere = { sql: 'select id from photo', bind: [] };
      await records.recordNotInPhotos(database, entryId, personId, everywhere, tx);
      for (const decision of await incoming.listDecisions(database, tx))
        if (decision.person_id === personId)
          await recordObject<incoming.DecisionRow>(database, entryId, 'name_decision', decision, null, tx);
      await recordObject<PersonRow>(database, entryId, 'person', person, null, tx);
      await follow(entryId, tx);
      return () => `Remove ${person.name}; ${countText(faces.length, 'face')} are not named any more`;
    },

    async settleNames({ decisions }, { tx, entryId }) {
      const known = await incoming.listDecisions(database, tx);
      const persons = new Map<string, number>();
      for (const { name, who } of decisions) {
        const person = who && (await require(who, entryId, tx));
        const folded = foldText(name);
        if (person) persons.set(folded, person.id);
        const before = known.find((decision) => decision.name_folded === folded) ?? null;
        const after = { name, name_folded: folded, person_id: person?.id ?? null };
        await recordObject<incoming.DecisionRow>(database, entryId, 'name_decision', before, after, tx);
      }
      await nameByFiles(entryId, persons, tx);
      await follow(entryId, tx, persons);
      return (photos) => `Settle ${countText(decisions.length, 'name')}: ${countText(photos, 'photo')}`;
    },
  };

  /** Names the faces that regions of files name, and the photos whose files give the names without a region. */
  async function nameByFiles(entryId: number, persons: ReadonlyMap<string, number>, tx: Transaction): Promise<void> {
    const photos = await incoming.photosGiving(database, [...persons.keys()], tx);
    const faces = new Map<number, number[]>();
    const without = new Map<number, number[]>();
    for (const photo of photos) {
      const regions = regionBoxes(photo.regions ?? undefined, photo);
      const shown = new Set<number>();
      for (const [our, their] of matchBoxes(
        photo.faces.map(({ box }) => box),
        regions,
      )) {
        const [face, person] = [photo.faces[our], persons.get(foldText(regions[their]?.name ?? ''))];
        if (!face || person === undefined || face.state !== 'open') continue;
        faces.set(person, [...(faces.get(person) ?? []), face.id]);
        shown.add(person);
      }
      for (const folded of [...photo.names.map(foldText), ...photo.keywords]) {
        const person = persons.get(folded);
        if (person !== undefined && !shown.has(person)) without.set(person, [...(without.get(person) ?? []), photo.id]);
      }
    }
    for (const [person, ids] of faces)
      await records.recordFaces(database, entryId, ids, { state: 'named', person, allow: person }, tx);
    for (const [person, ids] of without)
      await records.recordInPhotos(
        database,
        entryId,
        person,
        { sql: 'select unnest($1::int[]) as id', bind: [ids] },
        tx,
      );
  }

  /** Records what the fields of photos say of their people from now on. Names in `settled` stood for somebody all along. */
  async function follow(
    entryId: number,
    tx: Transaction,
    settled: ReadonlyMap<string, number> = new Map(),
  ): Promise<void> {
    const persons = new Map((await listPersons(database, tx)).map((person) => [person.id, person]));
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

  /** Everything of one person becomes another’s. */
  async function giveAll(entryId: number, from: number, to: number, tx: Transaction): Promise<void> {
    const faces = await records.facesNamed(database, from, undefined, tx);
    await records.recordFaces(database, entryId, faces, { state: 'named', person: to, allow: to }, tx);
    const theirs = { sql: 'select photo_id as id from photo_person where person_id = $1', bind: [from] };
    await records.recordInPhotos(database, entryId, to, theirs, tx);
    await records.recordNotInPhotos(database, entryId, from, theirs, tx);
    await records.recordNotInPhotos(database, entryId, to, 'with a face', tx);
    for (const decision of await incoming.listDecisions(database, tx))
      if (decision.person_id === from)
        await recordObject<incoming.DecisionRow>(
          database,
          entryId,
          'name_decision',
          decision,
          { ...decision, person_id: to },
          tx,
        );
  }

  function renameInSearches(entryId: number, from: string, to: string, tx: Transaction): Promise<unknown> {
    return search.rewrite(entryId, (query) => followName(query, from, to), tx);
  }

  /** Who is meant: somebody by id or by any of their names, else somebody new. */
  async function require(who: Who, entryId: number, tx: Transaction): Promise<{ id: number; name: string }> {
    if ('personId' in who) return requirePerson(who.personId, tx);
    const folded = foldText(who.name);
    const persons = await listPersons(database, tx);
    const known =
      persons.find((person) => person.name_folded === folded) ??
      persons.find((person) => person.names_folded.includes(folded));
    if (known) return known;
    const made = (await records.personsOfEntry(database, entryId, tx)).find(
      ({ after }) => after?.name_folded === folded,
    );
    if (made) return { id: made.id, name: who.name };
    return {
      id: await recordObject<PersonRow>(database, entryId, 'person', null, rowOf({ name: who.name }), tx),
      name: who.name,
    };
  }

  async function requirePerson(id: number, tx: Transaction): Promise<PersonRow> {
    const found = (await listPersons(database, tx)).find((person) => person.id === id);
    if (!found) throw new StellinError('notFound', { what: 'such person (they may have been removed meanwhile)' });
    return found;
  }

  async function requireFree(name: string, except: number | null, tx: Transaction): Promise<void> {
    const folded = foldText(name);
    const taken = (await listPersons(database, tx)).some(
      ({ id, name_folded }) => id !== except && name_folded === folded,
    );
    if (taken) throw new StellinError('personExists', { name });
  }
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

function rowOf(given: SaidOfPerson): Omit<PersonRow, 'id'> {
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

function said({
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

function requireBox(given: Parameters<typeof withinPicture>[0]) {
  const box = withinPicture(given);
  if (box.width < 0.002 || box.height < 0.002)
    throw new StellinError('describingRefused', { why: 'the box is too small to hold a face' });
  return box;
}
