// Handing over to other programs: a folder they work in, and what comes back from there.

import { join } from 'node:path';
import type { Logger } from 'pino';
import { fieldOf, type FieldId } from '@stellin/core/metadata/fields';
import type { Handover, ReturnedFile } from '@stellin/contract/handover';
import type { Job } from '@stellin/contract/jobs';
import { countText } from '@stellin/contract/wording';
import type { FileReader } from '../catalogue/reader';
import type { Person } from '../catalogue/viewer';
import type { VocabularyIndex } from '../catalogue/vocabularySnapshot';
import type { Database, Transaction } from '../database/database';
import { otherChanges, type Describing } from '../describing/service';
import { messageOf, StellinError, systemCode } from '../errors';
import { problemOf } from '../files/problem';
import { sidecarPath } from '../files/sidecars';
import type { Jobs } from '../jobs/service';
import { repeating } from '../repeating';
import { clear, makeFolder, smallPicture } from './files';
import { goesTo, TAKE_RETURNED_JOB } from './job';
import { folderLooker } from './looking';
import { listPrograms, requireProgram, startProgram } from './programs';
import { saysOfOriginal } from './says';
import * as store from './store';

export type Handovers = ReturnType<typeof handoverService>;

interface Parts {
  database: Database;
  describing: Pick<Describing, 'whatPhotosHave' | 'previewEach'>;
  terms: VocabularyIndex;
  reader: Pick<FileReader, 'read' | 'hashes'>;
  jobs: Jobs;
  /** The folder of all handovers, and that of programs. */
  folders: { exchange: string; programs: string };
  log: Logger;
}

/** How often folders are looked at. */
const LOOK_MS = 3000;

export function handoverService({ database, describing, terms, reader, jobs, folders, log }: Parts) {
  // One closure for what its functions share; each of them fits a screen.
  const looker = folderLooker(database, reader);
  const rootOf = ({ folder }: Pick<store.HandoverRow, 'folder'>): string => join(folders.exchange, folder);

  const required = async (deliveryId: string): Promise<store.HandoverRow> => {
    const row = await store.findHandover(database, deliveryId);
    if (!row) throw new StellinError('notFound', { what: 'such handover' });
    return row;
  };

  const lookAt = async (handover: store.HandoverRow): Promise<void> => {
    if (await looker.look(handover, rootOf(handover))) await database.notify(['deliveries', 'jobs']);
  };
  const looking = repeating(
    'handovers',
    LOOK_MS,
    async () => {
      for (const handover of await store.openHandovers(database))
        await lookAt(handover).catch((error: unknown) => log.warn(`handover ${handover.folder}: ${messageOf(error)}`));
    },
    log,
  );

  const statesOf = async (deliveryIds: readonly string[]): Promise<Map<string, Handover>> =>
    new Map(
      (await store.statesOf(database, deliveryIds)).map(
        ({ deliveryId, program, outcome, closed, back, waiting, folder }) => [
          deliveryId,
          { folder: rootOf({ folder }), program, outcome, closed, back, waiting },
        ],
      ),
    );

  /** What files differ in from what is said of their originals now. Of several that belong to one photo each is looked at by itself. */
  const differences = async (files: readonly store.ReturnedFile[], person: Person) => {
    const originals = files.flatMap(({ originalId }) => originalId ?? []);
    const has = new Map((await describing.whatPhotosHave([...new Set(originals)])).map((each) => [each.id, each]));
    const { tree, matcher: matcherOf } = await terms.current();
    const matcher = matcherOf();
    const labels = (ids: readonly number[]) => ids.map((id) => tree.get(id)?.label ?? '');
    const found = new Map<number, Pick<ReturnedFile, 'fields' | 'contested'>>();
    let rest = files.flatMap((file) => {
      const of = has.get(file.originalId ?? 0);
      return of && file.problem === null ? [{ file, of, says: saysOfOriginal(file, of, matcher) }] : [];
    });
    while (rest.length > 0) {
      const round = new Map(rest.map((each) => [each.of.id, each]));
      const previews = await describing.previewEach(
        new Map([...round].map(([id, { says }]) => [id, says.edits])),
        person,
      );
      for (const { file, of, says } of round.values())
        found.set(file.id, {
          fields: [...(previews.get(of.id) ?? []), ...otherChanges(says.given, of, labels)],
          contested: says.contested.map((id: FieldId) => fieldOf(id).label),
        });
      rest = rest.filter((each) => round.get(each.of.id) !== each);
    }
    return found;
  };

  /** Looks now: twice, as only what looks the same two times is read. */
  async function look(deliveryId: string): Promise<Handover> {
    const handover = await required(deliveryId);
    await lookAt(handover);
    await lookAt(handover);
    const state = (await statesOf([deliveryId])).get(deliveryId);
    if (!state) throw new StellinError('notFound', { what: 'such handover' });
    return state;
  }

  return {
    rootOf,
    statesOf,

    /** What can be started with files, and where that is put. */
    programs: async () => ({ folder: folders.programs, programs: await listPrograms(folders.programs) }),

    /** Refuses a program that is not there, or that somebody may not start. */
    async requireProgram(program: string, { everywhere, role }: Person): Promise<void> {
      if (program === '') return;
      if (!everywhere.includes('administer')) throw new StellinError('notAllowed', { role: role || 'no role' });
      await requireProgram(folders.programs, program);
    },

    /** Begins a handover of the delivery of that number. */
    begin: (deliveryId: string, program: string, at: Date, tx: Transaction): Promise<void> =>
      store.addHandover(
        database,
        { deliveryId, program, folder: `${at.toISOString().slice(0, 10)} ${deliveryId.slice(0, 8)}` },
        tx,
      ),

    /** The folder in the system that the files of a delivery go to; it is made. */
    folderFor: async (deliveryId: string): Promise<string> => makeFolder(rootOf(await required(deliveryId))),

    /** Notes files as they are now, when they go out; paths are below the folder. */
    async noteHanded(deliveryId: string, files: readonly { position: number; path: string }[]): Promise<void> {
      if (files.length === 0) return;
      const root = rootOf(await required(deliveryId));
      const paths = files.map(({ path }) => join(root, path));
      const hashes = await reader.hashes(paths);
      const records = await reader.read(
        paths.map((path, i) => {
          const hash = hashes[i];
          return {
            path,
            sidecarPath: hash?.ok && hash.sidecar !== null ? sidecarPath(path) : undefined,
          };
        }),
      );
      const noted = files.flatMap(({ position, path }, i) => {
        const [hash, record] = [hashes[i], records[i]];
        if (!hash?.ok) return [];
        const { sha256, picture, sidecar } = hash;
        return [{ position, path, sha256, picture, sidecar, said: record?.ok ? record.metadata.fields : {} }];
      });
      await store.noteHanded(database, deliveryId, noted);
    },

    /** Everything went out: the program is started with it. */
    async startProgram(deliveryId: string): Promise<void> {
      const handover = await required(deliveryId);
      if (handover.program === '' || handover.outcome !== null) return;
      const root = rootOf(handover);
      const ended = (outcome: string) => {
        void store
          .noteOutcome(database, deliveryId, outcome)
          .then(() => database.notify(['deliveries', 'jobs']))
          .catch((error: unknown) => log.warn(`handover ${handover.folder}: ${messageOf(error)}`));
      };
      const files = (await store.handedFiles(database, deliveryId)).map(({ path }) => join(root, path));
      await startProgram(folders.programs, handover.program, { root, files, ended }).catch((error: unknown) =>
        ended(`could not be started: ${messageOf(error)}`),
      );
    },

    /** What came back, with what it differs in. */
    async returned(
      deliveryId: string,
      page: { offset: number; limit: number },
      person: Person,
    ): Promise<{ files: ReturnedFile[]; total: number }> {
      await required(deliveryId);
      const { files, total } = await store.listReturned(database, deliveryId, page);
      const found = await differences(files, person);
      return {
        total,
        files: files.map((file) => {
          const { id, path, at, kind, bytes, state, photoId, originalId, originalName, previewVersion } = file;
          const isGone = file.position !== null && originalId === null;
          return {
            ...{ id, path, at, kind, bytes, state },
            problem: file.problem ?? (isGone ? 'the photo that it belongs to is no more' : null),
            original: originalId === null ? null : { photoId: originalId, name: originalName ?? '', previewVersion },
            photoId: state === 'taken' ? photoId : null,
            goesTo: kind === 'picture' ? goesTo(file) : null,
            fields: [],
            contested: [],
            ...found.get(id),
          };
        }),
      };
    },

    /** Starts taking in what came back, a job for each drive that originals are on; `ids` null: of all that waits. */
    async take(deliveryId: string, ids: readonly number[] | null, { accountId }: Person): Promise<Job[]> {
      await required(deliveryId);
      const files = await store.takeable(database, deliveryId, ids);
      const byDrive = new Map<string, number[]>();
      for (const { driveId, id } of files) byDrive.set(driveId ?? '', [...(byDrive.get(driveId ?? '') ?? []), id]);
      if (files.length === 0) throw new StellinError('nothingToDo', { why: 'Nothing of that can be taken in.' });
      const started: Job[] = [];
      for (const [driveId, some] of byDrive) {
        const title = `Take in ${countText(some.length, 'file')} that came back`;
        started.push(await jobs.start(TAKE_RETURNED_JOB, title, { deliveryId, driveId, ids: some }, accountId));
      }
      return started;
    },

    async leave(deliveryId: string, ids: readonly number[]): Promise<void> {
      await required(deliveryId);
      await store.leave(database, deliveryId, ids);
      await database.notify(['deliveries', 'jobs']);
    },

    look,

    /** Ends a handover. What waits keeps it from that; what nobody took stays in the folder. */
    async end(deliveryId: string): Promise<{ removed: number; kept: number }> {
      const handover = await required(deliveryId);
      const { waiting } = await look(deliveryId);
      if (waiting > 0)
        throw new StellinError('nothingToDo', {
          why: `${countText(waiting, 'file')} that came back wait: take them in, or leave them where they are.`,
        });
      const { known, kept } = await looker.sortOut(handover, rootOf(handover));
      await clear(rootOf(handover), known);
      await store.close(database, deliveryId);
      looker.forget(deliveryId);
      await database.notify(['deliveries', 'jobs']);
      return { removed: known.length, kept };
    },

    /** A small picture of a file that came back, as JPEG. */
    async picture(deliveryId: string, id: number): Promise<Buffer> {
      const handover = await required(deliveryId);
      const file = await store.findReturned(database, deliveryId, id);
      if (!file) throw new StellinError('notFound', { what: 'such file' });
      try {
        return await smallPicture(rootOf(handover), file.path);
      } catch (error) {
        const why = systemCode(error) === undefined ? messageOf(error) : problemOf(error);
        throw new StellinError('noPreview', { why });
      }
    },

    /** Begins to look whether something came back. */
    start: looking.start,
    close: looking.close,
  };
}
