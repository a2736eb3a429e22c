// The folder that a query shows, as a place for files.

import { folderAsked } from '@stellin/core/stepping/stepping';
import { useDrives, useFolders } from '../drives/queries';
import type { Place } from './FolderPicker';

/** Undefined where no folder is shown, or its drive can’t be written to now. */
export function usePlaceShown(query: string): Place | undefined {
  const { data: drives } = useDrives();
  const { data: folders = [] } = useFolders();
  const asked = folderAsked(query);
  if (!asked) return undefined;
  const drive = drives?.drives.find(({ label }) => asked.path === label || asked.path.startsWith(`${label}/`));
  if (!drive || drive.state !== 'attached' || drive.readOnly) return undefined;
  const path = asked.path.slice(drive.label.length + 1);
  return folders.some((folder) => folder.driveId === drive.id && folder.path === path)
    ? { driveId: drive.id ?? '', folder: path }
    : undefined;
}
