// What of the catalogue exists for a person: the photos in the parts that their rights name, private ones only where a right
// says so. Whatever is found, counted, shown or changed for them is so within their sight.

import type { Query } from '../query/query';
import type { Permission } from './permissions';

/** A part of the catalogue, by numbers: whoever renames something widens nobody’s sight. */
export type Scope =
  | { kind: 'catalogue' }
  | { kind: 'drive'; driveId: string }
  /** With all folders below it. */
  | { kind: 'folder'; folderId: number }
  /** With all dossiers below it. */
  | { kind: 'dossier'; dossierId: number }
  /** What a saved search finds; saved searches in it are opened. */
  | { kind: 'search'; searchId: number; query: Query };

/** A role in a part of the catalogue. */
export interface Right {
  permissions: readonly Permission[];
  scope: Scope;
}

/** The photos of a part. */
export interface SightPart {
  scope: Scope;
  /** The private ones among them too. */
  private: boolean;
}

/** The photos that lie within any of the parts; null: all there are. */
export type Sight = readonly SightPart[] | null;

/** Of what photos somebody with these rights has a permission. */
export function sightOf(rights: readonly Right[], permission: Permission): Sight {
  const parts = rights
    .filter(({ permissions }) => permissions.includes(permission))
    .map(({ permissions, scope }) => ({ scope, private: permissions.includes('private') }));
  const whole = parts.filter(({ scope }) => scope.kind === 'catalogue');
  if (whole.some((part) => part.private)) return null;
  // The whole catalogue holds what others hold, but for what is private.
  return whole.length > 0 ? [...whole.slice(0, 1), ...parts.filter((part) => part.private)] : parts;
}

/** Whether somebody with these rights has a permission for the whole catalogue. */
export function holdsEverywhere(rights: readonly Right[], permission: Permission): boolean {
  return rights.some(({ scope, permissions }) => scope.kind === 'catalogue' && permissions.includes(permission));
}

/** Where a photo is, as scopes name it. */
export interface PlacedPhoto {
  driveId: string;
  /** Its folder and those above it. */
  folderIds: readonly number[];
  /** Its dossiers and those above them. */
  dossierIds: readonly number[];
  isPrivate: boolean;
}

/** Whether a photo is within a sight; `meets` says whether it meets a query. The meaning that index and SQL must agree with. */
export function isSeen(sight: Sight, photo: PlacedPhoto, meets: (query: Query) => boolean): boolean {
  return (
    sight === null || sight.some((part) => (part.private || !photo.isPrivate) && isWithin(part.scope, photo, meets))
  );
}

function isWithin(scope: Scope, photo: PlacedPhoto, meets: (query: Query) => boolean): boolean {
  switch (scope.kind) {
    case 'catalogue':
      return true;
    case 'drive':
      return photo.driveId === scope.driveId;
    case 'folder':
      return photo.folderIds.includes(scope.folderId);
    case 'dossier':
      return photo.dossierIds.includes(scope.dossierId);
    case 'search':
      return meets(scope.query);
  }
}
