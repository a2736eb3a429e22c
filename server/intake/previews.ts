// Making and serving previews. A photo on somebody's screen gets its preview at once if it has none yet.

import { existsSync } from 'node:fs';
import { resolveInside } from '../files/drivePath';
import { makePreview, previewPath } from '../files/preview';
import { messageOf } from '../errors';
import type { Database } from '../database/database';
import * as store from './store';

export type Previews = ReturnType<typeof previewService>;

const AT_ONCE = 2;

export function previewService(database: Database, folder: string) {
  const inMaking = new Map<number, Promise<string | null>>();

  /** Makes the previews of a few photos; one that can't be decoded is noted as such, with the reason. Throws the file system's error when the file can't be reached. */
  const make = async (
    mountPoint: string,
    tasks: readonly store.PreviewTask[],
    failed: (path: string, message: string) => Promise<void>,
  ): Promise<void> => {
    const results: Parameters<typeof store.notePreviews>[1][number][] = [];
    const queue = [...tasks];
    const worker = async () => {
      for (let task = queue.shift(); task; task = queue.shift()) {
        const original = await resolveInside(mountPoint, task.path);
        try {
          const { placeholder, whole } = await makePreview(original, previewPath(folder, task.id, task.version + 1));
          const issue = whole ? null : 'the picture data breaks off';
          results.push({ id: task.id, placeholder, whole, issue });
          if (issue) await failed(task.path, issue);
        } catch (error) {
          // Away in the middle: not the picture's fault.
          if (!existsSync(original)) throw error;
          const issue = `no preview can be made: ${messageOf(error)}`;
          results.push({ id: task.id, placeholder: null, whole: false, issue });
          await failed(task.path, issue);
        }
      }
    };
    try {
      await Promise.all(Array.from({ length: AT_ONCE }, worker));
    } finally {
      await store.notePreviews(database, results);
    }
  };

  return {
    make,

    /** The file of a photo's preview, made now if need be; null when there is none to be had. */
    async fileOf(photoId: number): Promise<string | null> {
      const photo = await database.row<{ state: number; version: number; mountPoint: string | null; path: string }>(
        `select p.preview_state as state, p.preview_version as version, case when d.attached then d.mount_point end as "mountPoint",
           ltrim(f.path || '/' || p.name, '/') as path
         from photo p join folder f on f.id = p.folder_id join drive d on d.id = p.drive_id where p.id = $1`,
        [photoId],
      );
      if (!photo) return null;
      const kept = previewPath(folder, photoId, photo.version);
      if (photo.version > 0 && existsSync(kept)) return kept;
      const { mountPoint } = photo;
      if (photo.state === 2 || mountPoint === null) return null;
      const made =
        inMaking.get(photoId) ??
        makeOne(mountPoint, { id: photoId, path: photo.path, version: photo.version }).finally(() =>
          inMaking.delete(photoId),
        );
      inMaking.set(photoId, made);
      return made;
    },
  };

  async function makeOne(mountPoint: string, task: store.PreviewTask): Promise<string | null> {
    await make(mountPoint, [task], () => Promise.resolve());
    const target = previewPath(folder, task.id, task.version + 1);
    return existsSync(target) ? target : null;
  }
}
