// Places: the archive's own ones before those of the gazetteer, found by name and by where they lie; and photos on the map.

import { namesIn, type NamesOfPlace } from '@stellin/core/describing/placing';
import { positionOf } from '@stellin/core/metadata/values';
import { criterion } from '@stellin/core/query/query';
import { queryText } from '@stellin/core/search/language';
import type { MapView } from '@stellin/core/search/index/mapCells';
import type { Point } from '@stellin/core/timeplace/areas';
import type { FoundPlace as Found, Whereabouts as Known } from '@stellin/core/timeplace/gazetteer';
import { PLACE_KIND_LABELS, type OwnPlace, type OwnPlaces } from '@stellin/core/timeplace/ownPlaces';
import {
  MAX_READ_PLACES,
  readPlace,
  type ReadPlaceRow,
  type FoundPlace,
  type OwnPlaceRow,
  type ShownOnMap,
  type Whereabouts,
} from '@stellin/contract/places';
import type { Selection } from '@stellin/contract/photos';
import { plainName } from '@stellin/core/timeplace/placeNames';
import { PLACE_PREFIXES, placesFrom, placeStatements } from '@stellin/core/timeplace/placesSkos';
import { readTurtle, writeTurtle } from '@stellin/core/vocabulary/formats/rdf';
import { messageOf, StellinError } from '../errors';
import { previewVersions } from '../catalogue/previewVersions';
import type { Viewer } from '../catalogue/viewer';
import type { Database, Transaction } from '../database/database';
import type { Search } from '../search/service';
import type { GazetteerClient } from './gazetteer';
import { ownPlacesOf } from './ownPlaces';
import * as store from './store';

export type Places = ReturnType<typeof placeService>;

/** Where an archive has its photos: its fullest squares of the world, each about 300 km wide, and at most so many. */
const MAX_HOMES = 30;
const WORLD: MapView = { south: -85, west: -180, north: 85, east: 180, level: 7 };
/** So many photos are shown before names are filled in. */
const MAX_PREVIEWED = 50;
const NO_NAMES: NamesOfPlace = { sublocation: '', city: '', provinceState: '', country: '', countryCode: '' };

export function placeService(database: Database, search: Search, gazetteer: GazetteerClient) {
  // One closure for what its functions share; each of them fits a screen.
  const own = async (tx?: Transaction): Promise<OwnPlaces> => ownPlacesOf(await store.listOwnPlaces(database, tx));

  /** Where most photos are that exist for somebody. */
  const homes = async (viewer: Viewer): Promise<Point[]> => {
    const { cells } = await search.seenBy(viewer).onMap({ query: '', minus: [], plus: [] }, WORLD);
    return cells.sort((a, b) => b.photos - a.photos).slice(0, MAX_HOMES);
  };

  return {
    /** The archive's own places. */
    own,

    async listOwn(): Promise<OwnPlaceRow[]> {
      const [places, terms] = await Promise.all([own(), store.termsOfPlaces(database)]);
      return places.all.map(({ id, otherNames, corners, ...place }) => ({
        ...place,
        ...{ id, otherNames: [...otherNames], corners: corners && [...corners] },
        path: namesAbove(places, id),
        query: queryText(criterion('place', place.name)),
        termLabel: terms.get(place.termId ?? 0)?.label ?? null,
      }));
    },

    /** The archive's own places as SKOS in Turtle. */
    async exportOwn(): Promise<string> {
      const [{ all }, terms] = await Promise.all([own(), store.termsOfPlaces(database)]);
      return writeTurtle(
        placeStatements(all, (termId) => terms.get(termId)?.uri),
        PLACE_PREFIXES,
      );
    },

    /** The places that SKOS in Turtle tells of, and how many of them are new. Refuses what can't be read, by its reason. */
    async readOwn(text: string): Promise<{ places: ReadPlaceRow[]; fresh: number }> {
      const read = readPlaces(text);
      const places = await own();
      const ids: (number | undefined)[] = [];
      for (const { name, parent } of read) {
        const parentId = parent === null ? null : ids[parent];
        const wanted = plainName(name);
        const beside = parentId === undefined ? [] : places.within(parentId);
        ids.push(beside.find((place) => plainName(place.name) === wanted)?.id);
      }
      return { places: read, fresh: ids.filter((id) => id === undefined).length };
    },

    /** Places that a typed text begins: own ones, then those of the gazetteer. */
    async find(viewer: Viewer, text: string, limit: number): Promise<FoundPlace[]> {
      const [places, near] = await Promise.all([own(), homes(viewer)]);
      const mine = places.find(text, limit).map(({ id, kind, name, point }): FoundPlace => ({
        ...{ kind, name, ownId: id, population: 0, geonamesId: null },
        detail: namesAbove(places, id).reverse().join(', ') || PLACE_KIND_LABELS[kind],
        latitude: point?.latitude ?? null,
        longitude: point?.longitude ?? null,
      }));
      const known = await gazetteer.find(text, limit, near);
      // A town that is one of the archive's own places is offered as that.
      const linked = new Set(mine.map(({ ownId }) => places.get(ownId ?? 0)?.geonamesId ?? null));
      const towns = known.filter(({ geonamesId }) => geonamesId === null || !linked.has(geonamesId));
      const others = towns.map(({ kind, name, region, country, ...found }): FoundPlace => ({
        ...{ kind, name, ownId: null, population: found.population, geonamesId: found.geonamesId },
        ...{ latitude: found.latitude, longitude: found.longitude },
        detail: kind === 'country' ? PLACE_KIND_LABELS.country : [region, country].filter(Boolean).join(', '),
      }));
      return [...mine, ...others].slice(0, limit);
    },

    /** The names of the places that points lie in: own places (those `within`, or all there are now) say theirs, the gazetteer what these leave open. */
    async whereabouts(points: readonly Point[], within?: OwnPlaces): Promise<Whereabouts[]> {
      if (points.length === 0) return [];
      const places = within ?? (await own());
      const known = await gazetteer.whereabouts(points);
      return points.map((point, i) => whereaboutsOf(places, places.at(point), known[i]));
    },

    /** All places that the names of photos may mean: own ones where any is called so, else towns of the gazetteer. */
    async meantBy(names: readonly NamesOfPlace[], within?: OwnPlaces): Promise<(readonly (OwnPlace | Found)[])[]> {
      const places = within ?? (await own());
      const meant = names.map((said) => places.meant(said));
      const towns = await gazetteer.called(
        names.map(({ city, country }, i) => ({ name: meant[i]?.length === 0 ? city : '', country })),
      );
      return meant.map((found, i) => (found.length > 0 ? found : (towns[i] ?? [])));
    },

    /** Where the names of photos are: own places (those `within`, or all there are now) before towns of the gazetteer. */
    async located(names: readonly NamesOfPlace[], within?: OwnPlaces): Promise<Located[]> {
      const places = within ?? (await own());
      return (await this.meantBy(names, places)).map((meant) => locatedOf(places, meant));
    },

    /** Where photos of a selection that say names would come to lie: how many have names but no position, and the first of those. */
    async previewPositions(viewer: Viewer, selection: Selection) {
      const [named] = await search.seenBy(viewer).within(selection, ['has:place missing:position'], MAX_PREVIEWED);
      const photos = await store.placesSaid(database, named?.first ?? []);
      const said = photos.map(({ fields, ...photo }) => ({ ...photo, names: namesIn(fields) }));
      const found = await this.located(said.map(({ names }) => names));
      return {
        photos: named?.photos ?? 0,
        rows: said.flatMap((row, i) => (found[i] ? [{ ...row, ...found[i] }] : [])),
      };
    },

    /** What of a selection lies in a part of the map. */
    async onMap(viewer: Viewer, selection: Selection, view: MapView): Promise<ShownOnMap> {
      const { cells, ...others } = await search.seenBy(viewer).onMap(selection, view);
      const versions = await previewVersions(
        database,
        cells.map(({ id }) => id),
      );
      return {
        ...others,
        cells: cells.map(({ latitude, longitude, photos: count, named, id }) => ({
          ...{ latitude, longitude, photos: count, named, photoId: id },
          previewVersion: versions.get(id) ?? 0,
        })),
      };
    },

    /** The names that photos of a selection would be filled with: how many have a position, and the first of those. */
    async previewNames(viewer: Viewer, selection: Selection) {
      const seen = search.seenBy(viewer);
      const [lying] = await seen.within(selection, ['has:position'], MAX_PREVIEWED);
      const photos = await store.placesSaid(database, lying?.first ?? []);
      const rows = photos.flatMap(({ fields, ...photo }) => {
        const point = positionOf(fields.position);
        return point ? [{ ...photo, point }] : [];
      });
      const found = await this.whereabouts(rows.map(({ point }) => point));
      return {
        photos: lying?.photos ?? 0,
        rows: rows.flatMap((row, i) => (found[i] ? [{ ...row, place: found[i] }] : [])),
      };
    },

    towns: gazetteer.towns,
    outline: gazetteer.outline,
  };
}

/** Where names are: a point, or how many places are called so; nothing where none is. */
interface Located {
  point: Point | null;
  place: string;
  several: number;
}

function locatedOf(places: OwnPlaces, candidates: readonly (OwnPlace | Found)[]): Located {
  const [only] = candidates;
  if (!only || candidates.length > 1) return { point: null, place: '', several: candidates.length };
  if ('kind' in only && 'otherNames' in only)
    return { point: only.point, place: [...namesAbove(places, only.id), only.name].reverse().join(', '), several: 0 };
  const { name, region, country, latitude, longitude } = only;
  return { point: { latitude, longitude }, place: [name, region, country].filter(Boolean).join(', '), several: 0 };
}

function namesAbove(places: OwnPlaces, id: number): string[] {
  return places
    .path(id)
    .slice(0, -1)
    .map(({ name }) => name);
}

function whereaboutsOf(places: OwnPlaces, place: OwnPlace | undefined, known: Known | undefined): Whereabouts {
  const said = place ? places.said(place.id) : {};
  const { town = '', metres = -1, region = '', country = '', countryCode = '' } = known ?? {};
  // Names of the gazetteer are wider than what an own place says, never within it; in a country of one's own it knows nothing.
  const hasCountry = said.country !== undefined;
  const hasRegion = hasCountry || said.provinceState !== undefined;
  const hasTown = hasRegion || said.city !== undefined;
  const wider = {
    ...(!hasCountry && { country, countryCode }),
    ...(!hasRegion && { provinceState: region }),
    ...(!hasTown && { city: town }),
  };
  return {
    names: { ...NO_NAMES, ...wider, ...said },
    ownId: place?.id ?? null,
    ...{ town, metres },
  };
}

function readPlaces(text: string): ReadPlaceRow[] {
  const refused = (why: string) => new StellinError('badRequest', { problem: `the places can’t be read: ${why}` });
  const read = placesOf(text, refused);
  if (read.length === 0) throw refused('there is none in the file');
  if (read.length > MAX_READ_PLACES) throw refused(`there are more than ${MAX_READ_PLACES}`);
  return read.map((place) => {
    const checked = readPlace.safeParse(place);
    if (checked.success) return checked.data;
    const [issue] = checked.error.issues;
    throw refused(`“${place.name.slice(0, 100)}”: ${issue?.path.join(' ') ?? ''} ${issue?.message ?? ''}`);
  });
}

function placesOf(text: string, refused: (why: string) => StellinError) {
  try {
    return placesFrom(readTurtle(text));
  } catch (error) {
    throw refused(messageOf(error));
  }
}
