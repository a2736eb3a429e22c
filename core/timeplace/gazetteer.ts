// The towns and countries of the world that ship along: found by name, and the other way round by where a point lies.

import type { Point } from './areas';
import { Borders, type PackedBorders, type Ring } from './borders';
import { metresBetween, NearestPoints, type PackedPoints } from './nearest';
import { PlaceNames, plainName, type Met, type PackedNames } from './placeNames';

export interface Town extends Point {
  name: string;
  /** ISO 3166-1, two letters. */
  country: string;
  /** The part of the country (a state, a province, a county); '' where none is known. */
  region: string;
  /** 0 where it is not known. */
  population: number;
  /** Its number at GeoNames, where that is known. */
  geonamesId?: number;
  /** It is known to be a part of a town. */
  isPart?: boolean;
}

export interface Country {
  /** ISO 3166-1, two letters. */
  code: string;
  /** In English, as it is written into descriptions. */
  name: string;
  /** In other languages. */
  otherNames: readonly string[];
}

/** A town or a country by what was typed. */
export interface FoundPlace extends Point {
  kind: 'town' | 'country';
  name: string;
  region: string;
  country: string;
  countryCode: string;
  population: number;
  /** Of a town, its number at GeoNames where that is known. */
  geonamesId: number | null;
}

/** What is said of a point. What is not known of it is ''. */
export interface Whereabouts {
  town: string;
  /** How far the middle of the town is, in metres along the great circle; -1 where there is no town. */
  metres: number;
  region: string;
  country: string;
  countryCode: string;
}

/** A town says something of a point within this distance of it. */
const TOWN_METRES = 50_000;
/** A town off the coast belongs to no coast farther away than this. */
const FAR_METRES = 200_000;
/** Territorial waters reach 12 nautical miles from the coast (UN Convention on the Law of the Sea, article 3). */
const COAST_METRES = 12 * 1852;
/** What is added to a town's score, the logarithm of its people to the base of ten, for how its name was met. */
const MET_WEIGHT: Readonly<Record<Met, number>> = { whole: 2.5, beginning: 1, word: 0, slip: 0 };
/** The radius of a town is about this times the square root of its people, in metres: some 3,200 live on a square kilometre. */
const METRES_PER_ROOT_OF_PEOPLE = 10;
/** Towns are compared by size, the largest first: how many people those of each size have at least. */
const SIZES_IN_PEOPLE = [1_000_000, 100_000, 10_000, 1000];
/** What is added to the score of a town near where the archive's photos are: it counts like one with a thousand times the people. */
const NEAR_WEIGHT = 3;
const NEAR_METRES = 100_000;
/** `NEAR_METRES` in degrees of latitude, rounded up. */
const NEAR_DEGREES = 1;

/** All that a gazetteer has worked out, to be kept and taken up again. */
export interface PackedGazetteer {
  towns: PackedTowns;
  countries: readonly Country[];
  names: PackedNames;
  whole: PackedTree;
  byShape: ReadonlyMap<number, PackedTree>;
  borders: PackedBorders;
}

/** Towns by what is said of them. */
interface PackedTowns {
  names: string[];
  countries: PackedTexts;
  regions: PackedTexts;
  latitudes: Float64Array;
  longitudes: Float64Array;
  populations: Float64Array;
  /** 0: not known. */
  geonamesIds: Int32Array;
  areParts: Uint8Array;
}

/** Texts of which many are the same. */
interface PackedTexts {
  different: string[];
  ofEach: Int32Array;
}

/** Some of the towns, by their places in the list, so that the nearest can be found. */
interface PackedTree {
  towns: Int32Array;
  nearest: PackedPoints;
}

export class Gazetteer {
  private readonly names: PlaceNames;
  private readonly countryNames: PlaceNames;
  private readonly countryOfName: Country[];
  /** The towns that are none's part. */
  private readonly whole: TownTree;
  /** Those in each shape of the borders. */
  private readonly byShape: ReadonlyMap<number, TownTree>;
  private readonly borders: Borders;
  private readonly countries: ReadonlyMap<string, Country>;
  /** The town with most people of each country, at which the country is shown. */
  private readonly largest = new Map<string, Town>();
  private readonly people = new Map<string, number>();
  /** What the people of each town count when names are put in order. */
  private readonly weights: Float32Array;

  readonly towns: readonly Town[];

  constructor(readonly packed: PackedGazetteer) {
    const { countries } = packed;
    const towns = unpackedTowns(packed.towns);
    const treeOfPacked = ({ towns: places, nearest }: PackedTree): TownTree => ({
      towns: Array.from(places, (at) => towns[at]).filter((town) => town !== undefined),
      nearest: new NearestPoints(nearest),
    });
    this.towns = towns;
    this.names = new PlaceNames(packed.names);
    this.countries = new Map(countries.map((country) => [country.code, country]));
    this.countryOfName = countries.flatMap((country) => [country, ...country.otherNames.map(() => country)]);
    this.countryNames = PlaceNames.of(countries.flatMap(({ name, otherNames }) => [name, ...otherNames]));
    this.weights = Float32Array.from(towns, ({ population }) => Math.log10(1 + population));
    this.borders = new Borders(packed.borders);
    this.whole = treeOfPacked(packed.whole);
    this.byShape = new Map([...packed.byShape].map(([shape, tree]) => [shape, treeOfPacked(tree)]));
    for (const town of towns) {
      this.people.set(town.country, (this.people.get(town.country) ?? 0) + town.population);
      if (town.population >= (this.largest.get(town.country)?.population ?? 0)) this.largest.set(town.country, town);
    }
  }

  /** `shapes`: the outlines of countries, in any order; whose they are is told by the towns in them. */
  static of(towns: readonly Town[], countries: readonly Country[], shapes: readonly (readonly Ring[])[]): Gazetteer {
    const borders = Borders.of(shapes);
    const placeOf = new Map(towns.map((town, at) => [town, at]));
    const packed = (tree: TownTree): PackedTree => ({
      towns: Int32Array.from(tree.towns, (town) => placeOf.get(town) ?? 0),
      nearest: tree.nearest.packed,
    });
    const whole = treeOf(withoutParts(towns));
    const byShape = treesByShape(whole, (point) => borders.find(point));
    return new Gazetteer({
      ...{ towns: packedTowns(towns), countries },
      names: PlaceNames.of(towns.map(({ name }) => name)).packed,
      ...{ whole: packed(whole), borders: borders.packed },
      byShape: new Map([...byShape].map(([shape, tree]) => [shape, packed(tree)])),
    });
  }

  /**
   * The places that a typed text begins, the likeliest first: by how the name is met, how many people live there, and whether
   * it is near one of the archive's own points. What stands behind commas narrows: `Springfield, Ill`, `Paris, fr`.
   */
  find(typed: string, limit: number, near: readonly Point[] = []): FoundPlace[] {
    const [text = '', ...parts] = typed.split(',').map(plainName);
    const within = parts.filter((part) => part !== '');
    const own = near.length === 0 ? undefined : near;
    const names = this.names.find(text);
    const scores = new Float32Array(names.length);
    names.forEach(({ at, met }, i) => (scores[i] = MET_WEIGHT[met] + (this.weights[at] ?? 0)));
    // Most of many names can't come among the first, even if they were near.
    const least = within.length > 0 ? -Infinity : lowestOfHighest(scores, limit) - (own ? NEAR_WEIGHT : 0);
    const found: Scored[] = [];
    names.forEach(({ at, met }, i) => {
      const score = scores[i] ?? 0;
      const town = score < least ? undefined : this.towns[at];
      if (town && within.every((part) => this.liesIn(town, part))) found.push({ met, town, score });
    });
    if (within.length === 0) found.push(...this.foundCountries(text, found));
    found.sort((a, b) => b.score - a.score);
    return (own ? withNear(found, limit, own) : found.slice(0, limit)).map((each) => this.foundPlace(each));
  }

  /** Towns that have exactly this name, the largest first: more than one is a doubt to be shown. */
  called(name: string, country = ''): FoundPlace[] {
    const wanted = plainName(country);
    return this.names
      .called(name)
      .flatMap((at) => this.towns[at] ?? [])
      .filter((town) => wanted === '' || this.liesIn(town, wanted))
      .map((town) => this.foundPlace({ town }))
      .sort((a, b) => b.population - a.population);
  }

  /** What is known of a point: the nearest town of the country it lies in, its region and its country. */
  whereabouts(point: Point): Whereabouts {
    const shape = this.borders.find(point);
    // On land the towns beyond a border say nothing; at sea those of the next coast do.
    const tree = shape < 0 ? this.whole : this.byShape.get(shape);
    const found = tree?.nearest.find(point, undefined, shape < 0 ? TOWN_METRES : undefined);
    const town = found && tree?.towns[found.at];
    if (!town) return { town: '', metres: -1, region: '', country: '', countryCode: '' };
    const isNear = found.metres <= TOWN_METRES;
    const isThere = shape >= 0 || found.metres <= COAST_METRES;
    return {
      town: isNear ? town.name : '',
      metres: isNear ? Math.round(found.metres) : -1,
      region: isNear && isThere ? town.region : '',
      country: isThere ? this.nameOf(town.country) : '',
      countryCode: isThere ? town.country : '',
    };
  }

  /** What a country is called in English; its code where that is not known. */
  nameOf(code: string): string {
    return this.countries.get(code)?.name ?? code;
  }

  /** Countries by any of their names, shown at their largest town; those with wrong letters only where towns are, too. */
  private foundCountries(text: string, towns: readonly Scored[]): Scored[] {
    const isRight = towns.some(({ met }) => met !== 'slip');
    const found = new Map<Country, Scored>();
    for (const { at, met } of this.countryNames.find(text)) {
      const country = this.countryOfName[at];
      const town = country && this.largest.get(country.code);
      if (!town || met === 'word' || (met === 'slip' && isRight)) continue;
      const score = MET_WEIGHT[met] + Math.log10(1 + (this.people.get(country.code) ?? 0));
      if (score > (found.get(country)?.score ?? 0)) found.set(country, { met, town, country, score });
    }
    return [...found.values()];
  }

  private foundPlace({ town, country }: Pick<Scored, 'town' | 'country'>): FoundPlace {
    const { name, region, population, latitude, longitude } = town;
    const countryName = this.nameOf(town.country);
    return {
      ...(country ? { kind: 'country', name: country.name, region: '' } : { kind: 'town', name, region }),
      ...{ country: countryName, countryCode: town.country, latitude, longitude },
      population: country ? (this.people.get(country.code) ?? 0) : population,
      geonamesId: country ? null : (town.geonamesId ?? null),
    };
  }

  /** Whether a town lies in something whose plain name begins so: its region, or its country by code or any name. */
  private liesIn(town: Town, part: string): boolean {
    if (plainName(town.region).startsWith(part) || town.country.toLowerCase() === part) return true;
    const { name = '', otherNames = [] } = this.countries.get(town.country) ?? {};
    return [name, ...otherNames].some((each) => plainName(each).startsWith(part));
  }
}

function packedTowns(towns: readonly Town[]): PackedTowns {
  return {
    names: towns.map(({ name }) => name),
    countries: packedTexts(towns.map(({ country }) => country)),
    regions: packedTexts(towns.map(({ region }) => region)),
    latitudes: Float64Array.from(towns, ({ latitude }) => latitude),
    longitudes: Float64Array.from(towns, ({ longitude }) => longitude),
    populations: Float64Array.from(towns, ({ population }) => population),
    geonamesIds: Int32Array.from(towns, ({ geonamesId }) => geonamesId ?? 0),
    areParts: Uint8Array.from(towns, ({ isPart }) => Number(isPart ?? false)),
  };
}

function packedTexts(texts: readonly string[]): PackedTexts {
  const numbers = new Map<string, number>();
  const ofEach = Int32Array.from(texts, (text) => {
    const known = numbers.get(text) ?? numbers.size;
    numbers.set(text, known);
    return known;
  });
  return { different: [...numbers.keys()], ofEach };
}

function unpackedTowns({ names, countries, regions, geonamesIds, areParts, ...numbers }: PackedTowns): Town[] {
  return names.map((name, at) => {
    const town: Town = {
      name,
      country: countries.different[countries.ofEach[at] ?? 0] ?? '',
      region: regions.different[regions.ofEach[at] ?? 0] ?? '',
      latitude: numbers.latitudes[at] ?? 0,
      longitude: numbers.longitudes[at] ?? 0,
      population: numbers.populations[at] ?? 0,
    };
    if (geonamesIds[at]) town.geonamesId = geonamesIds[at];
    if (areParts[at] === 1) town.isPart = true;
    return town;
  });
}

interface Scored {
  met: Met;
  /** It itself, or where a country is shown. */
  town: Town;
  country?: Country;
  score: number;
}

/** The lowest of the `count` highest numbers. */
function lowestOfHighest(numbers: Float32Array, count: number): number {
  const sorted = numbers.slice().sort();
  return sorted[Math.max(0, sorted.length - count)] ?? -Infinity;
}

/** The first of some that are sorted by their score, once those near some points count for more. */
function withNear(sorted: readonly Scored[], limit: number, near: readonly Point[]): Scored[] {
  const best: Scored[] = [];
  for (const each of sorted) {
    // What follows could not come among them even if it were near.
    if (best.length === limit && each.score + NEAR_WEIGHT < (best.at(-1)?.score ?? 0)) break;
    const isNear = each.country === undefined && isNearAny(each.town, near);
    best.push(isNear ? { ...each, score: each.score + NEAR_WEIGHT } : each);
    best.sort((a, b) => b.score - a.score);
    best.length = Math.min(best.length, limit);
  }
  return best;
}

/** Whether a town is near one of a few points. Most are not, which their latitude tells. */
function isNearAny(town: Town, points: readonly Point[]): boolean {
  return points.some(
    (point) => Math.abs(point.latitude - town.latitude) < NEAR_DEGREES && metresBetween(point, town) <= NEAR_METRES,
  );
}

/** Towns by the shape they lie in. One that lies off the coast, as coarse outlines have it, belongs where the next town of its country does. */
function treesByShape({ towns, nearest }: TownTree, shapeOf: (point: Point) => number): Map<number, TownTree> {
  const shapes = towns.map(shapeOf);
  const byShape = new Map<number, Town[]>();
  towns.forEach((town, i) => {
    let shape = shapes[i] ?? -1;
    if (shape < 0) {
      const next = nearest.find(
        town,
        (at) => towns[at]?.country === town.country && (shapes[at] ?? -1) >= 0,
        FAR_METRES,
      );
      if (next) shape = shapes[next.at] ?? -1;
    }
    const known = byShape.get(shape);
    if (known) known.push(town);
    else byShape.set(shape, [town]);
  });
  return new Map([...byShape].map(([shape, some]) => [shape, treeOf(some)]));
}

interface TownTree {
  towns: readonly Town[];
  nearest: NearestPoints;
}

function treeOf(towns: readonly Town[]): TownTree {
  return { towns, nearest: NearestPoints.of(towns) };
}

/** Towns without those that are a part of a larger one: known as such, or of nobody knows how many people within its reach. */
function withoutParts(towns: readonly Town[]): Town[] {
  const sizes = SIZES_IN_PEOPLE.map((least, i) => {
    const most = SIZES_IN_PEOPLE[i - 1] ?? Infinity;
    const some = towns.filter(({ population, isPart }) => !isPart && population >= least && population < most);
    return { some, nearest: NearestPoints.of(some) };
  });
  const isPartOf = (town: Town) =>
    sizes.some(({ some, nearest }) => {
      const found = nearest.find(town, (at) => some[at] !== town);
      const larger = found && some[found.at];
      return larger && found.metres <= METRES_PER_ROOT_OF_PEOPLE * Math.sqrt(larger.population);
    });
  return towns.filter((town) => !town.isPart && (town.population > 0 || !isPartOf(town)));
}
