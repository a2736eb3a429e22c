// The places a person has pinned as they are now: what is gone, or does not exist for them, is left out.

import { useMemo } from 'react';
import { queryText } from '@stellin/core/search/language';
import { folderQuery } from '@stellin/core/stepping/stepping';
import type { PinnedPlace } from '@stellin/contract/stepping';
import { useDossiers } from '../dossiers/queries';
import { useDrives, useFolders } from '../drives/queries';
import { usePinned } from '../pinned/queries';
import type { Result } from '../photos/queries';
import { useSearches } from '../search/queries';

export interface PlaceOnTop extends PinnedPlace {
  label: string;
  /** Where it is, where the label does not say it. */
  within: string;
  shows: Partial<Result>;
}

/** Folders with the whole path, as people read it. */
export function useFolderPaths() {
  const { data: drives } = useDrives();
  const { data: folders } = useFolders();
  return useMemo(() => {
    const labels = new Map(drives?.drives.map(({ id, label }) => [id, label]));
    return (folders ?? []).flatMap((folder) => {
      const drive = labels.get(folder.driveId);
      return drive === undefined
        ? []
        : [{ ...folder, drive, shown: folder.path === '' ? drive : `${drive}/${folder.path}` }];
    });
  }, [drives, folders]);
}

export function usePlacesOnTop(): PlaceOnTop[] {
  const { data: pinned = [] } = usePinned();
  const folders = useFolderPaths();
  const { data: dossiers = [] } = useDossiers();
  const { data: searches = [] } = useSearches();
  const places: Readonly<Record<PinnedPlace['kind'], (id: number) => Omit<PlaceOnTop, keyof PinnedPlace> | undefined>> =
    {
      folder(id) {
        const folder = folders.find((each) => each.id === id);
        if (!folder) return undefined;
        const { drive, path, name, shown } = folder;
        return {
          label: name || drive,
          within: name ? shown.slice(0, -name.length - 1) : '',
          shows: { query: queryText(folderQuery(drive, path)) },
        };
      },
      dossier(id) {
        const dossier = dossiers.find((each) => each.id === id);
        return dossier && { label: dossier.name, within: 'dossier', shows: { query: dossier.query, sort: 'hand' } };
      },
      search(id) {
        const search = searches.find((each) => each.id === id);
        return (
          search && { label: search.name, within: 'saved search', shows: { query: search.asks, sort: search.sort } }
        );
      },
    };
  return pinned.flatMap(({ kind, id }) => {
    const place = places[kind](id);
    return place ? [{ kind, id, ...place }] : [];
  });
}
