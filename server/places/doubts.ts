// Doubts about places: positions that contradict names, photos that can't have been taken one after the other, and names that
// no place knows.

import { NAME_FIELDS, namesTold, type NamesOfPlace } from '@stellin/core/describing/placing';
import { allOf, criterion, type Query } from '@stellin/core/query/query';
import { cameraName } from '@stellin/core/search/said';
import { queryText } from '@stellin/core/search/language';
import { boxCriterion } from '@stellin/core/timeplace/areaQuery';
import { CONTRADICTING_METRES, metresFromAny } from '@stellin/core/timeplace/doubts';
import { PLACE_KINDS } from '@stellin/core/timeplace/ownPlaces';
import type { PlaceDoubts } from '@stellin/contract/places';
import { previewVersions } from '../catalogue/previewVersions';
import type { Viewer } from '../catalogue/viewer';
import type { Database } from '../database/database';
import type { Search } from '../search/service';
import * as store from './doubtStore';
import type { Places } from './service';

/** So many of each are listed; the others come up once these are settled. */
const MAX_LISTED = 100;

export type Doubts = ReturnType<typeof doubtReader>;

export function doubtReader(database: Database, search: Search, places: Places) {
  // One closure for what its functions share; each of them fits a screen.
  /** Finds the photos that say just these names. */
  const saying = (names: NamesOfPlace): Query[] =>
    NAME_FIELDS.filter((field) => names[field] !== '').map((field) => criterion(field, names[field]));

  /** Rows with how many photos the query of each finds now, and a picture; those that find none are left out. */
  const shown = async <Row extends { query: string; photoId: number }>(
    viewer: Viewer,
    rows: readonly Row[],
    found = rows.length,
  ) => {
    const first = rows.slice(0, MAX_LISTED);
    const [counts, versions] = await Promise.all([
      search.seenBy(viewer).counts(first.map(({ query }) => query)),
      previewVersions(
        database,
        first.map(({ photoId }) => photoId),
      ),
    ]);
    return {
      found,
      rows: first.flatMap((row, i) => {
        const photos = counts[i] ?? 0;
        return photos > 0 ? [{ ...row, photos, previewVersion: versions.get(row.photoId) ?? 0 }] : [];
      }),
    };
  };

  async function contradictions(viewer: Viewer) {
    const groups = await store.namesLying(database, viewer.sight);
    const middles = groups.map(({ south, west, north, east }) => ({
      latitude: (south + north) / 2,
      longitude: (west + east) / 2,
    }));
    const [meant, lying] = await Promise.all([places.meantBy(groups), places.whereabouts(middles)]);
    return groups.flatMap((group, i) => {
      const [point, there] = [middles[i], lying[i]?.names];
      if (!point) return [];
      const metres = metresFromAny(point, meant[i] ?? []);
      const isFar = metres !== undefined && metres > CONTRADICTING_METRES;
      // A country alone is no place to measure from, but a position lies in one.
      const isAbroad = metres === undefined && there !== undefined && saysOtherCountry(group, there);
      if (!isFar && !isAbroad) return [];
      const { south, west, north, east } = group;
      const query = queryText(allOf([...saying(group), boxCriterion({ south, west, north, east })]));
      return [
        {
          query,
          photoId: group.photoId,
          says: textOf(group),
          lies: there ? textOf(there) : '',
          metres: metres ?? null,
        },
      ];
    });
  }

  async function jumps(viewer: Viewer) {
    const found = await store.impossibleJumps(database, viewer.sight, MAX_LISTED);
    const rows = found.map(({ make, model, from, to, metres, photoId }) => {
      const camera = cameraName({ make, model });
      const span: Query = { kind: 'criterion', criterion: 'taken', operator: '..', value: from, to };
      return {
        query: queryText(allOf([criterion('camera', camera), span, criterion('has', 'position')])),
        ...{ photoId, camera, metres, seconds: (Date.parse(`${to}Z`) - Date.parse(`${from}Z`)) / 1000 },
      };
    });
    return { rows, found: found[0]?.found ?? 0 };
  }

  async function unknownNames(viewer: Viewer) {
    const [groups, left] = await Promise.all([store.namesSaid(database, viewer.sight), store.namesLeft(database)]);
    const own = await places.own();
    // A pier that stands in the field of towns is known all the same.
    const isOwn = (name: string) => PLACE_KINDS.some((kind) => own.called(name, kind).length > 0);
    const open = groups.filter((group) => {
      const name = group.sublocation || group.city;
      return name !== '' && !left.has(store.keyOfNames(group)) && !isOwn(name);
    });
    const meant = await places.meantBy(open, own);
    return open.flatMap((group, i) => {
      if ((meant[i] ?? []).length > 0) return [];
      const { photos: _, photoId, ...names } = group;
      return [{ query: queryText(allOf(saying(group))), photoId, says: textOf(group), names }];
    });
  }

  return {
    /** The doubts about the photos that exist for somebody: how many of each, and the first of them. */
    async doubts(viewer: Viewer): Promise<PlaceDoubts> {
      const [contradicting, jumping, unknown] = await Promise.all([
        contradictions(viewer),
        jumps(viewer),
        unknownNames(viewer),
      ]);
      return {
        contradictions: await shown(viewer, contradicting),
        jumps: await shown(viewer, jumping.rows, jumping.found),
        unknownNames: await shown(viewer, unknown),
      };
    },
  };
}

/** Whether names say another country than the one a position lies in. */
function saysOtherCountry(names: NamesOfPlace, there: NamesOfPlace): boolean {
  if (names.countryCode !== '' && there.countryCode !== '')
    return names.countryCode.toUpperCase() !== there.countryCode.toUpperCase();
  const [said, lies] = [names.country, there.country].map((name) => name.toLowerCase());
  return said !== '' && lies !== '' && said !== lies;
}

function textOf(names: NamesOfPlace): string {
  return namesTold(names).join(', ');
}
