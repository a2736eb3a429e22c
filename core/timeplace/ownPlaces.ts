// The archive's own places: a tree of countries, regions, towns and spots, since archives know piers and barns that no gazetteer has.

import type { FieldId } from '../metadata/fields';
import { contains, latitudesOf, type Area, type Point } from './areas';
import { compareLabels } from '../vocabulary/tree';
import { metresBetween } from './nearest';
import { METS, PlaceNames, plainName, type Met } from './placeNames';

/** From the widest to the narrowest. */
export const PLACE_KINDS = ['country', 'region', 'town', 'spot'] as const;
export type PlaceKind = (typeof PLACE_KINDS)[number];

export const PLACE_KIND_LABELS: Readonly<Record<PlaceKind, string>> = {
  country: 'Country',
  region: 'Region',
  town: 'Town',
  spot: 'Spot',
};

/** The field of a photo that says the name of a place of each kind (IPTC Core, location created). */
export const PLACE_FIELDS = {
  country: 'country',
  region: 'provinceState',
  town: 'city',
  spot: 'sublocation',
} as const satisfies Readonly<Record<PlaceKind, FieldId>>;

/** Within how many metres of its point a place without an extent of its own is meant. */
export const USUAL_METRES: Readonly<Record<PlaceKind, number>> = { country: 0, region: 0, town: 5000, spot: 300 };

export interface OtherPlaceName {
  name: string;
  /** The years in which it was called so, if that is over or is known: '' where not. */
  from: string;
  until: string;
}

export interface OwnPlace {
  id: number;
  parentId: number | null;
  kind: PlaceKind;
  name: string;
  otherNames: readonly OtherPlaceName[];
  /** ISO 3166-1, of countries; may be empty. */
  countryCode: string;
  note: string;
  /** Its middle; null where it is not known. */
  point: Point | null;
  /** Around its middle; null: as is usual for its kind. */
  metres: number | null;
  /** The corners of its outline; null: a circle. */
  corners: readonly Point[] | null;
  /** The place of the gazetteer that it is, by its number at GeoNames; null where none is said. */
  geonamesId: number | null;
  /** The term that stands for it. */
  termId: number | null;
}

/** The names of places that hold a point, by the fields that say them. */
export type PlaceNamesSaid = Partial<Record<FieldId, string>>;

/** Why a place can't stand below another one; undefined when it can. */
export function placingProblem(kind: PlaceKind, parent: OwnPlace | null): string | undefined {
  if (!parent) return undefined;
  const [own, above] = [PLACE_KINDS.indexOf(kind), PLACE_KINDS.indexOf(parent.kind)];
  if (own > above || (kind === 'spot' && parent.kind === 'spot')) return undefined;
  const label = PLACE_KIND_LABELS[kind].toLowerCase();
  return `a ${label} can’t lie in a ${PLACE_KIND_LABELS[parent.kind].toLowerCase()}`;
}

export class OwnPlaces {
  private readonly byId: ReadonlyMap<number, OwnPlace>;
  private readonly children = new Map<number | null, OwnPlace[]>();
  private readonly names: PlaceNames;
  private readonly ofName: OwnPlace[];
  /** Those with an extent, the narrowest kind first. */
  private readonly extents: { place: OwnPlace; area: Area; south: number; north: number }[];

  constructor(readonly all: readonly OwnPlace[]) {
    this.byId = new Map(all.map((place) => [place.id, place]));
    for (const place of [...all].sort((a, b) => compareLabels(a.name, b.name))) {
      const beside = this.children.get(place.parentId) ?? [];
      beside.push(place);
      this.children.set(place.parentId, beside);
    }
    this.ofName = all.flatMap((place) => [place, ...place.otherNames.map(() => place)]);
    this.names = PlaceNames.of(all.flatMap(({ name, otherNames }) => [name, ...otherNames.map((other) => other.name)]));
    this.extents = all
      .flatMap((place) => {
        const area = extentOf(place);
        if (!area) return [];
        const [south, north] = latitudesOf(area);
        return [{ place, area, south, north }];
      })
      .sort((a, b) => PLACE_KINDS.indexOf(b.place.kind) - PLACE_KINDS.indexOf(a.place.kind));
  }

  get(id: number): OwnPlace | undefined {
    return this.byId.get(id);
  }

  /** What lies directly in a place, by name; null: what lies in none. */
  within(id: number | null): readonly OwnPlace[] {
    return this.children.get(id) ?? [];
  }

  /** A place with those it lies in, the widest first. */
  path(id: number): OwnPlace[] {
    const path: OwnPlace[] = [];
    for (let place = this.get(id); place && !path.includes(place); place = this.get(place.parentId ?? 0))
      path.unshift(place);
    return path;
  }

  /** A place and all that lies in it, at any depth. */
  below(id: number): OwnPlace[] {
    const place = this.get(id);
    return place ? [place, ...this.within(id).flatMap((each) => this.below(each.id))] : [];
  }

  /** The narrowest place that holds a point; of several the one whose middle is nearest. */
  at(point: Point): OwnPlace | undefined {
    let found: { place: OwnPlace; metres: number } | undefined;
    for (const { place, area, south, north } of this.extents) {
      if (found && place.kind !== found.place.kind) break;
      if (point.latitude < south || point.latitude > north || !contains(area, point)) continue;
      const metres = place.point ? metresBetween(place.point, point) : Infinity;
      if (!found || metres < found.metres) found = { place, metres };
    }
    return found?.place;
  }

  /** Places by what somebody types of any of their names, those met best first. */
  find(typed: string, limit: number): OwnPlace[] {
    const met = new Map<OwnPlace, Met>();
    const found = this.names.find(typed).sort((a, b) => METS.indexOf(a.met) - METS.indexOf(b.met));
    for (const { at, met: how } of found) {
      const place = this.ofName[at];
      if (place && !met.has(place)) met.set(place, how);
    }
    return [...met.keys()].slice(0, limit);
  }

  /** Places of a kind that are called exactly so, by any of their names. */
  called(name: string, kind: PlaceKind): OwnPlace[] {
    const found = this.names.called(name).flatMap((at) => this.ofName[at] ?? []);
    return [...new Set(found)].filter((place) => place.kind === kind);
  }

  /**
   * The spots or towns that the names of a photo mean: spots that are called so, else towns, as far as the wider names it says
   * agree. Several where the names leave a doubt; none where no own place is called so. A region or a country alone says too
   * little to set a photo there.
   */
  meant(names: PlaceNamesSaid): OwnPlace[] {
    for (const kind of ['spot', 'town'] as const) {
      const name = names[PLACE_FIELDS[kind]];
      const found = name ? this.called(name, kind).filter(({ id }) => this.agrees(id, kind, names)) : [];
      if (found.length > 0) return found;
    }
    return [];
  }

  /** Whether what a place lies in is called as a photo says, where it says something of it. */
  private agrees(id: number, kind: PlaceKind, names: PlaceNamesSaid): boolean {
    return this.path(id)
      .slice(0, -1)
      .every((wider) => {
        const said = names[PLACE_FIELDS[wider.kind]];
        return !said || wider.kind === kind || isCalled(wider, said);
      });
  }

  /** What fields of a photo say that was taken there. Of several spots in one another the narrowest is said. */
  said(id: number): PlaceNamesSaid {
    const said: PlaceNamesSaid = {};
    for (const { kind, name, countryCode } of this.path(id)) {
      said[PLACE_FIELDS[kind]] = name;
      if (kind === 'country' && countryCode !== '') said.countryCode = countryCode;
    }
    return said;
  }
}

/** Whether a place is called so, by any of its names. */
function isCalled({ name, otherNames }: OwnPlace, said: string): boolean {
  const wanted = plainName(said);
  return [name, ...otherNames.map((other) => other.name)].some((each) => plainName(each) === wanted);
}

/** Where a place is; undefined while that is not known. */
export function extentOf({ kind, point, metres, corners }: OwnPlace): Area | undefined {
  if (corners && corners.length > 2) return { kind: 'polygon', corners: [...corners] };
  const reach = metres ?? USUAL_METRES[kind];
  return point && reach > 0 ? { kind: 'circle', centre: point, metres: reach } : undefined;
}
