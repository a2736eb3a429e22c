// Where trashed files are: in a hidden folder of their drive, below the folders they came from.

import { joinPath } from './drivePath';
import { TRASH_FOLDER } from './walk';

/** The condition that a folder (by its alias) is not in the trash. */
export function outsideTrash(folder: string): string {
  return `${folder}.path <> '${TRASH_FOLDER}' and ${folder}.path not like '${TRASH_FOLDER}/%'`;
}

/** Where the files of a folder go when they are trashed; SQL over the folder's path. */
export const TRASHED_PATH = `'${TRASH_FOLDER}' || case when f.path = '' then '' else '/' || f.path end`;

/** Whether a path lies in the trash. */
export function isInTrash(path: string): boolean {
  return path === TRASH_FOLDER || path.startsWith(joinPath(TRASH_FOLDER, ''));
}
