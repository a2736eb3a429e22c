// Looking at pictures: their hashes and previews. A photo on somebody's screen gets its preview at once if it has none yet.

import { existsSync } from 'node:fs';
import { kindFacts } from '@stellin/core/metadata/containers/index';
import { between } from '@stellin/core/metadata/orientation';
import type { Database } from '../database/database';
import { messageOf, systemCode } from '../errors';
import { resolveInside } from '../files/drivePath';
import { makePreview, previewPath, turnPreview } from '../files/preview';
import { removeFile } from '../files/relocate';
import type { FileReader } from '../catalogue/reader';
import { hasStill } from '../files/still';
import { isToolMissing } from '../files/tools';
import * as store from './store';

export type Previews = ReturnType<typeof previewService>;

/** One more than threads of a small machine: while one waits for its file, the others are busy. */
const PREVIEWS_SIDE_BY_SIDE = 3;

type Failed = (path: string, message: string) => Promise<void>;

export interface Looked {
  /** How many pictures are others than before. */
  changed: number;
  /** Files that are not there, below the drive: nothing is concluded from that. */
  lost: string[];
  /** Resolves when what was found is in the catalogue. */
  noted: Promise<void>;
}

export function previewService(database: Database, folder: string, reader: FileReader) {
  const inMaking = new Map<string, Promise<string | null>>();

  /** Looks at the pictures of a few photos; one that can't be decoded is noted as such, with the reason. */
  const look = async (mountPoint: string, tasks: readonly store.PictureTask[], failed: Failed): Promise<Looked> => {
    const results: store.PictureResult[] = [];
    let changed = 0;
    const paths = await Promise.all(tasks.map(({ path }) => resolveInside(mountPoint, path).catch(unlessNotThere)));
    const there = tasks.flatMap((task, i) => (paths[i] === undefined ? [] : [{ task, path: paths[i] }]));
    const lost = tasks.flatMap(({ path }, i) => (paths[i] === undefined ? [path] : []));
    const hashing = reader.hashes(there.map(({ path }) => path));
    const queue = there.entries();
    const hand = async () => {
      for (const [i, { task, path }] of queue) {
        // Of a picture that was looked at before it matters first whether it is still the same.
        const isKept = task.version > 0 && existsSync(previewPath(folder, task.id, task.version));
        const known = task.hash !== null && isKept ? (await hashing)[i] : undefined;
        const before = task.hash?.toString('hex');
        const isSame = known?.ok === true && known.picture === before && task.shownAs === task.orientation;
        const found = isSame
          ? { preview: undefined, whole: true, issue: null }
          : await previewOf(path, task, previewPath(folder, task.id, task.version + 1));
        if (!found) {
          lost.push(task.path);
          continue;
        }
        const read = (await hashing)[i];
        const hashes = read?.ok ? read : null;
        if (before !== undefined && hashes?.picture && hashes.picture !== before) changed += 1;
        const { id, known: expected, orientation, poster } = task;
        results.push({ id, hashes, known: expected, orientation, poster, ...found });
        if (found.issue) await failed(task.path, found.issue);
      }
    };
    try {
      await Promise.all(Array.from({ length: PREVIEWS_SIDE_BY_SIDE }, hand));
    } catch (error) {
      await hashing.catch(() => undefined);
      await store.notePictures(database, results);
      throw error;
    }
    const noted = store.notePictures(database, results);
    // Who waits for it is told.
    noted.catch(() => undefined);
    return { changed, lost, noted };
  };

  const once = (key: string, make: () => Promise<string | null>): Promise<string | null> => {
    const making = inMaking.get(key) ?? make().finally(() => inMaking.delete(key));
    inMaking.set(key, making);
    return making;
  };

  return {
    look,

    /** Whether a run that was cut off has turned the preview of a photo without noting it. */
    isTurned: ({ id, version }: store.TurnedPhoto): boolean => existsSync(previewPath(folder, id, version + 1)),

    /** Turns the kept preview of a photo, by what it was to be seen so far and is to be seen now. Undefined: it is not there. */
    async turn({
      id,
      version,
      shownAs,
      orientation,
      poster,
    }: store.TurnedPhoto): Promise<store.NotedRemake | undefined> {
      const kept = previewPath(folder, id, version);
      if (!existsSync(kept)) return undefined;
      const made = await turnPreview(kept, between(shownAs, orientation), previewPath(folder, id, version + 1));
      return { id, version, orientation, poster, ...made, likeness: String(made.likeness) };
    },

    /** Makes the preview of a film show the picture that was chosen. Throws an Error that says why there is none. */
    async showPoster({ id, version, orientation, poster, kind, path, mountPoint }: store.PosterTask) {
      const original = await resolveInside(mountPoint, path);
      const { whole: _, ...made } = await makePreview(original, kind, previewPath(folder, id, version + 1), { poster });
      return { id, version, orientation, poster, ...made, likeness: String(made.likeness) };
    },

    /** Notes previews that took the place of others, and those that are not there: they are made when somebody looks. */
    async noteRemade(remade: readonly store.NotedRemake[], gone: readonly number[] = []): Promise<void> {
      const noted = await store.noteRemade(database, remade, gone);
      for (const { id, version } of remade) if (noted.has(id)) await removeFile(previewPath(folder, id, version));
    },

    /** Deletes the preview of a photo that is going for good. */
    remove: (photoId: number, version: number): Promise<void> => removeFile(previewPath(folder, photoId, version)),

    /** The file of a photo's preview, made now if need be; null when there is none to be had. Of a known version that is kept the database is not asked. */
    async fileOf(photoId: number, known = 0): Promise<string | null> {
      if (known > 0 && existsSync(previewPath(folder, photoId, known))) return previewPath(folder, photoId, known);
      const photo = await findPhoto(photoId);
      if (!photo) return null;
      const kept = previewPath(folder, photoId, photo.version);
      if (photo.version > 0 && existsSync(kept)) return kept;
      const { mountPoint } = photo;
      if (photo.state === 2 || mountPoint === null || photo.missing) return null;
      return once(`${photoId}`, async () => {
        const { noted } = await look(mountPoint, [photo], () => Promise.resolve());
        await noted;
        const target = previewPath(folder, photoId, photo.version + 1);
        return existsSync(target) ? target : null;
      });
    },
  };

  async function findPhoto(photoId: number) {
    return store.findPictureTask(database, photoId);
  }
}

function unlessNotThere(error: unknown): undefined {
  if (systemCode(error) !== 'ENOENT' && systemCode(error) !== 'ENOTDIR') throw error;
}

/** Makes a preview, or says why there is none; undefined when the file is not there. */
async function previewOf(
  path: string,
  { kind, orientation, poster }: Pick<store.PictureTask, 'kind' | 'orientation' | 'poster'>,
  target: string,
): Promise<Pick<store.PictureResult, 'preview' | 'whole' | 'issue'> | undefined> {
  try {
    const { whole, ...made } = await makePreview(path, kind, target, { orientation, poster });
    const issue = whole ? null : 'the picture data breaks off';
    return { preview: { ...made, likeness: String(made.likeness) }, whole, issue };
  } catch (error) {
    // Away in the middle: not the picture's fault.
    if (!existsSync(path)) return undefined;
    const isUntold = hasStill(kind) && (!kindFacts(kind).raw || isToolMissing(error));
    return { preview: null, whole: isUntold, issue: `no preview can be made: ${messageOf(error)}` };
  }
}
