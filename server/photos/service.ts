// Photos: lists, details, and the changes of ratings and privacy.

import { clockText } from '@stellin/core/media/moments';
import { kindFacts } from '@stellin/core/metadata/containers/index';
import { compareLabels } from '@stellin/core/vocabulary/tree';
import type { Sort } from '@stellin/core/search/sorts';
import type { Photo, PhotoDetails, Selection } from '@stellin/contract/photos';
import { countText } from '@stellin/contract/wording';
import type { Dossiers } from '../dossiers/service';
import type { Viewer } from '../catalogue/viewer';
import type { Database } from '../database/database';
import { StellinError } from '../errors';
import type { ChangeHandlers } from '../ledger/service';
import type { Search } from '../search/service';
import type { Vocabulary } from '../vocabulary/service';
import * as store from './store';

export type Photos = ReturnType<typeof photoService>;

export function photoService(database: Database, search: Search, vocabulary: Vocabulary, dossiers: Dossiers) {
  /** Photos by their ids, in the order of these. */
  const photosOf = async (viewer: Viewer, ids: readonly number[]): Promise<Photo[]> => {
    const [photos, described] = await Promise.all([
      store.photosById(database, viewer, ids),
      search.seenBy(viewer).described(ids),
    ]);
    if (!described) return photos;
    const known = new Map(ids.map((id, i) => [id, described[i] ?? null]));
    return photos.map((photo) => ({ ...photo, described: known.get(photo.id) ?? null }));
  };

  return {
    async list(
      viewer: Viewer,
      { query, sort, offset, limit }: { query: string; sort: Sort; offset: number; limit: number },
    ): Promise<Photo[]> {
      return photosOf(viewer, await search.seenBy(viewer).page(query, sort, offset, limit));
    },
    async ofSelection(viewer: Viewer, selection: Selection, sort: Sort, limit: number): Promise<Photo[]> {
      return photosOf(viewer, await search.seenBy(viewer).ofSelection(selection, sort, limit));
    },
    position: (viewer: Viewer, id: number, query: string, sort: Sort) =>
      search.seenBy(viewer).position(id, query, sort),
    groups: (viewer: Viewer, query: string, sort: Sort) => search.seenBy(viewer).groups(query, sort),

    /** What a selection means, with its terms by name in the order of their paths. */
    async describe(viewer: Viewer, selection: Selection) {
      const described = await search.seenBy(viewer).describe(selection);
      const { photos: count, drives, terms: given, within, keywords } = described;
      const names = await vocabulary.names(given.map(([termId]) => termId));
      const terms = given.map(([id, photos], i) => ({ ...(names[i] ?? { id, label: '', path: [] }), photos }));
      return {
        count,
        drives: drives.sort((a, b) => compareLabels(a.label, b.label)),
        terms: terms.sort((a, b) => compareLabels(pathText(a), pathText(b))),
        within: narrowerOnly(given, within),
        keywords,
      };
    },

    /** The number of photos a query finds, the time it took, and what of its text was not understood. */
    async count(viewer: Viewer, text: string) {
      const started = performance.now();
      const counted = await search.seenBy(viewer).counted(text);
      return { ...counted, milliseconds: Math.round(performance.now() - started) };
    },

    async find(viewer: Viewer, id: number): Promise<PhotoDetails> {
      const [photo, within, described] = await Promise.all([
        store.findPhoto(database, viewer, id),
        dossiers.ofPhoto(id),
        search.seenBy(viewer).described([id]),
      ]);
      if (!photo) throw new StellinError('notFound', { what: 'such photo' });
      return { ...photo, described: described?.[0] ?? null, dossiers: within };
    },
  };
}

/** Terms of which a narrower one is given, and to how many photos it is so; given itself or not. */
function narrowerOnly(
  given: readonly [id: number, photos: number][],
  within: readonly [id: number, photos: number][],
): { termId: number; photos: number }[] {
  const direct = new Map(given);
  return within.flatMap(([termId, photos]) => (direct.get(termId) === photos ? [] : [{ termId, photos }]));
}

function pathText({ path, label }: { path: readonly string[]; label: string }): string {
  return [...path, label].join('\u0000');
}

const RATING_TEXTS: Record<number, string> = { [-1]: 'Reject', 0: 'Take the rating off' };

export function photoChanges(database: Database): Pick<ChangeHandlers, 'setRating' | 'setPrivate' | 'choosePoster'> {
  return {
    async setRating({ selection, rating }, { tx, entryId }) {
      await store.recordValue(database, entryId, selection, 'rating', rating, tx);
      return (photos) => `${RATING_TEXTS[rating] ?? `Rate ${rating}:`} ${countText(photos, 'photo')}`;
    },
    async setPrivate({ selection, private: wanted }, { tx, entryId }) {
      await store.recordValue(database, entryId, selection, 'private', wanted, tx);
      return (photos) =>
        wanted
          ? `Mark ${countText(photos, 'photo')} as private`
          : `Mark ${countText(photos, 'photo')} as no longer private`;
    },
    async choosePoster({ photoId, seconds }, { tx, entryId }) {
      const photo = await store.kindOfPhoto(database, photoId, tx);
      if (!photo) throw new StellinError('notFound', { what: 'such photo' });
      if (kindFacts(photo.kind).media !== 'film')
        throw new StellinError('describingRefused', { why: `“${photo.name}” is no film` });
      await store.recordPoster(database, entryId, photoId, seconds, tx);
      return () =>
        seconds === null
          ? `Let the picture of “${photo.name}” be found`
          : `Choose the picture of “${photo.name}” at ${clockText(seconds)}`;
    },
  };
}
