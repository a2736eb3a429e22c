// People: who there is, where they are seen, who a face might be.

import type { Face, LikenessGroup, Person } from '@stellin/contract/people';
import type { Strictness } from '@stellin/core/people/grouping';
import type { Suggestion } from '@stellin/core/people/suggesting';
import type { Selection } from '@stellin/contract/photos';
import type { Database } from '../database/database';
import { StellinError } from '../errors';
import type { AfterChange } from '../ledger/service';
import { idsSql, selectionSql } from '../catalogue/selection';
import { foundSql } from '../catalogue/found';
import { requireSeen } from '../catalogue/seen';
import { PROGRAM, type Person as ActingPerson, type Viewer } from '../catalogue/viewer';
import type { Search } from '../search/service';
import { openNames } from './namesStore';
import type { LikenessIndex } from './likeness';
import type { Looker } from './looking';
import { namesFound } from './names';
import type { FacePictures } from './pictures';
import { proposePersons } from './proposing';
import type { Scanning } from './scanning';
import * as store from './store';

export type People = ReturnType<typeof peopleService>;

/** From wide to exact: the least likeness that still counts. */
const WIDE_LIKENESS = 0.2;
const EXACT_LIKENESS = 0.75;
/** Of more faces alike than these the query is not asked. */
const MAX_ALIKE = 20_000;
const MAX_SUGGESTED = 200;

interface Services {
  database: Database;
  search: Search;
  likeness: LikenessIndex;
  looker: Looker;
  pictures: FacePictures;
  scanning: Scanning;
}

export function peopleService({ database, search, likeness, looker, pictures, scanning }: Services) {
  // One closure for what its functions share; each of them fits a screen.
  const guessOf = (names: ReadonlyMap<number, string>, guess: Suggestion | null | undefined) => {
    const name = guess ? names.get(guess.personId) : undefined;
    return guess && name !== undefined ? { ...guess, name } : null;
  };
  const personNames = async (viewer: Viewer) =>
    new Map((await store.listPersons(database, viewer)).map(({ id, name }) => [id, name] as const));

  const listPersons = async (viewer: Viewer): Promise<Person[]> => {
    const [rows, counts] = await Promise.all([
      store.listPersons(database, viewer),
      store.countPersons(database, viewer),
    ]);
    const seen = new Map(counts.map((count) => [count.id, count]));
    return rows.map((row) => ({
      id: row.id,
      name: row.name,
      otherNames: row.other_names,
      note: row.note,
      born: row.born,
      died: row.died,
      private: row.private,
      detailed: row.detailed,
      termId: row.term_id,
      photos: seen.get(row.id)?.photos ?? 0,
      faces: seen.get(row.id)?.faces ?? 0,
      coverFace: seen.get(row.id)?.coverFace ?? null,
      termLabel: seen.get(row.id)?.termLabel ?? null,
    }));
  };

  /** Faces in the order of what was found of them, with what was found. */
  const facesWith = async <Found extends { id: number }>(
    found: readonly Found[],
    viewer: Viewer,
  ): Promise<(Face & Found)[]> => {
    const faces = await store.facesById(
      database,
      found.map(({ id }) => id),
      viewer,
    );
    return found.flatMap((one) => {
      const face = faces.get(one.id);
      return face ? [{ ...face, ...one }] : [];
    });
  };

  return {
    listPersons,
    async picture(viewer: Viewer, faceId: number) {
      await requireFaceSeen(viewer, faceId);
      return pictures.read(faceId);
    },

    async show(viewer: Viewer, id: number) {
      const person = (await listPersons(viewer)).find((candidate) => candidate.id === id);
      if (!person) throw new StellinError('notFound', { what: 'such person (they may have been removed meanwhile)' });
      const [confirmed, refused, years, along, suggested] = await Promise.all([
        store.facesOfPerson(database, viewer, id, 'confirmed'),
        store.facesOfPerson(database, viewer, id, 'refused'),
        store.yearsOf(database, viewer, id),
        store.alongWith(database, viewer, id),
        likeness.suggestedFor({ personId: id, limit: MAX_SUGGESTED }),
      ]);
      return { person, confirmed, refused, years, along, suggested: await facesWith(suggested, viewer) };
    },

    async groups(given: { strictness: Strictness; offset: number; limit: number }) {
      const { groups, total, faces } = await likeness.listGroups(given);
      const names = await personNames(PROGRAM);
      const shown = await store.facesById(
        database,
        groups.flatMap((group) => group.faces.map(({ id }) => id)),
        PROGRAM,
      );
      return {
        total,
        faces,
        groups: groups.map(({ faces: some, faceIds, photos, guess }): LikenessGroup => ({
          faces: some.flatMap(({ id, likeness: alike }) => {
            const face = shown.get(id);
            return face ? [{ ...face, likeness: alike }] : [];
          }),
          faceIds,
          photos,
          guess: guessOf(names, guess),
        })),
      };
    },

    /** The people of a photo; if it has not been looked at yet, it is so first for somebody who may have faces looked for. */
    async ofPhoto(person: ActingPerson, photoId: number) {
      await requireSeen(database, person, photoId);
      const problem = person.permissions.includes('people') ? await scanning.now(photoId) : null;
      const photo = idsSql([photoId]);
      const [faces, persons, names] = await Promise.all([
        store.facesOfPhotos(database, person, photo, 500),
        store.personsIn(database, person, photo, 'without a face'),
        personNames(person),
      ]);
      const open = faces.filter(({ state }) => state === 'open').map(({ id }) => id);
      const guesses = open.length > 0 ? await likeness.suggestFor({ faceIds: open }) : new Map<number, Suggestion>();
      return {
        faces: faces.map((face) => ({ ...face, guess: guessOf(names, guesses.get(face.id)) })),
        persons: persons.map(({ id, name }) => ({ id, name })),
        problem,
      };
    },

    async ofSelection(viewer: Viewer, selection: Selection) {
      const photos = selectionSql(await search.seenBy(viewer).settled(selection));
      const [persons, faces] = await Promise.all([
        store.personsIn(database, viewer, photos, 'with or without a face'),
        store.facesOfPhotos(database, viewer, photos, 200),
      ]);
      return { persons, faces: faces.filter(({ state }) => state === 'open' || state === 'named') };
    },

    async findLike(given: {
      faceId?: number | undefined;
      picture?: string | undefined;
      strictness: number;
      smiling: boolean;
      eyesOpen: boolean;
      sharp: boolean;
      frontal: boolean;
      named: 'all' | 'named' | 'open';
      query: string;
      limit: number;
    }) {
      const { faceId, picture, strictness, query, limit, ...wanted } = given;
      const face = faceId ?? (picture === undefined ? undefined : await vectorIn(picture));
      if (face === undefined) throw new StellinError('noFace');
      const found = await likeness.findLike({
        face,
        least: WIDE_LIKENESS + (EXACT_LIKENESS - WIDE_LIKENESS) * strictness,
        wanted,
        limit: query.trim() === '' ? limit : MAX_ALIKE,
      });
      if (query.trim() === '') return facesWith(found, PROGRAM);
      const settled = await search.all.settled({ query, minus: [], plus: [] });
      const within = new Set(
        await store.facesWithin(
          database,
          found.map(({ id }) => id),
          foundSql(settled.query ?? '', PROGRAM),
          limit,
        ),
      );
      return facesWith(
        found.filter(({ id }) => within.has(id)),
        PROGRAM,
      );
    },

    /** Names that files bring, with persons called almost the same. */
    async names() {
      const names = await openNames(database);
      const proposed = await proposePersons(
        database,
        names.map(({ name }) => name),
      );
      return names.map(({ name, photos, samples }, i) => {
        const near = proposed[i];
        return { name, photos, samples: samples ?? [], proposed: near ? { id: near.id, name: near.name } : null };
      });
    },

    scanState: async () => ({ ...(await scanning.state()), exceptions: await store.listExceptions(database) }),

    async setException(given: { driveId: string; folder: string; off: boolean }): Promise<void> {
      if (!(await store.isDrive(database, given.driveId))) throw new StellinError('notFound', { what: 'such drive' });
      await store.setException(database, given);
      await database.notify(['people']);
    },

    /** Deletes faces and what they look like for good. Returns how many. */
    async forget(personId: number | null): Promise<number> {
      // Their pictures first: cut off in between, faces without one are still there to be deleted again.
      for (let after = 0; ;) {
        const ids = await store.nextFaceIds(database, personId, after, FACES_PER_PAGE);
        if (ids.length === 0) break;
        await pictures.remove(ids);
        after = ids.at(-1) ?? after;
      }
      const faces = await database.transaction(async (tx) => {
        const gone = await store.forgetFaces(database, personId, tx);
        await database.notify(['people', 'photos'], tx);
        return gone;
      });
      return faces;
    },

    /** Photos whose fields a change touches: who is in them follows the names. */
    afterChange: (async (entryId, tx) => {
      const rows = await store.photosRenaming(database, entryId, tx);
      for (let at = 0; at < rows.length; at += FACES_PER_PAGE)
        await namesFound(
          database,
          rows.slice(at, at + FACES_PER_PAGE).map(({ id }) => id),
          tx,
        );
    }) satisfies AfterChange,

    /** Drawn faces of an entry are looked at once it is there. */
    async afterCommit(entryId: number): Promise<void> {
      const rows = await store.drawnFaces(database, entryId);
      for (const face of rows) await scanning.lookInto(face);
    },
  };

  /** Refuses a face in a photo that does not exist for who asks. */
  async function requireFaceSeen(viewer: Viewer, faceId: number): Promise<void> {
    if (viewer.sight === null) return;
    const photoId = await store.photoOfFace(database, faceId);
    if (photoId !== undefined) await requireSeen(database, viewer, photoId);
  }

  async function vectorIn(picture: string): Promise<Int8Array | undefined> {
    const found = await looker.lookAtBytes(Buffer.from(picture, 'base64'));
    const [largest] = found.sort((a, b) => b.pixels - a.pixels);
    return largest?.vector;
  }
}

const FACES_PER_PAGE = 2000;
