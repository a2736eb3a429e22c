// Site plans: what is read of them, their pictures, and how their pins are taken along.

import { allOf, criterion, type Query } from '@stellin/core/query/query';
import { queryText } from '@stellin/core/search/language';
import { MARK_COLOURS } from '@stellin/core/describing/marks';
import { positionOf } from '@stellin/core/metadata/values';
import type { SaidPin } from '@stellin/core/plans/geojson';
import { nextNumber, pinPath, type PlanSize } from '@stellin/core/plans/pins';
import { pinsOfRegions } from '@stellin/core/plans/regions';
import { pinFor, reachOf, tiedBy } from '@stellin/core/plans/tying';
import { boxCriterion } from '@stellin/core/timeplace/areaQuery';
import type { PinForm, PinFormat, PinOfPhoto, Plan, PlanPin } from '@stellin/contract/plans';
import type { Viewer } from '../catalogue/viewer';
import type { Database } from '../database/database';
import { StellinError } from '../errors';
import type { Pdf } from '../paper/pdf';
import type { Search } from '../search/service';
import { readPins, writtenPins } from './exchange';
import { planPictures, type PlanPictures } from './pictures';
import { printPlan, type PrintedPhoto } from './printing';
import * as store from './store';

export type Plans = ReturnType<typeof planService>;

interface Parts {
  database: Database;
  search: Search;
  /** Where tiles are kept. */
  folder: string;
  /** The file with the large picture of a page of a photo. */
  largeOf: (photoId: number, page: number) => Promise<string>;
  /** The file with the preview of a photo; null where there is none. */
  previewOf: (photoId: number) => Promise<string | null>;
}

/** So many photos with a position on a plan are looked at before pins are proposed. */
const MAX_PROPOSED = 2000;
/** So many photos of each pin are printed. */
const MAX_PRINTED = 20;
const EVERYTHING: Query = { kind: 'everything' };
const GONE = { what: 'such plan (it may have been removed meanwhile)' };

export function planService({ database, search, folder, largeOf, previewOf }: Parts) {
  // One closure for what its functions share; each of them fits a screen.
  const pictures: PlanPictures = planPictures(database, folder);

  const find = async (viewer: Viewer, planId: number): Promise<store.PlanRow> => {
    const [row] = await store.listPlans(database, viewer, { planId });
    if (!row) throw new StellinError('notFound', GONE);
    return row;
  };

  const shown = async (viewer: Viewer, rows: readonly store.PlanRow[]): Promise<Plan[]> => {
    const asked = rows.map(({ name }) => criterion('plan', name));
    const counts = await search.seenBy(viewer).countParts(EVERYTHING, asked);
    return rows.map(({ id, name, note, width, height, picture_id, photoId, page, pins, ties, addedBy }, i) => ({
      ...{ id, name, note, width, height, pictureId: picture_id, photoId, page, pins, ties: [...ties], addedBy },
      photos: counts[i] ?? 0,
      query: queryText(criterion('plan', name)),
    }));
  };

  const pinned = async (viewer: Viewer, { id, name }: store.PlanRow): Promise<PlanPin[]> => {
    const [rows, covers, links] = await Promise.all([
      store.pinsOf(database, id),
      store.coversOf(database, id, viewer),
      store.linksOf(database, id),
    ]);
    const asked = rows.map((pin) => criterion('plan', pinPath(name, pin)));
    const counts = await search.seenBy(viewer).countParts(EVERYTHING, asked);
    return rows.map((row, i) => ({
      ...formOf(row),
      id: row.id,
      name: row.name,
      query: queryText(criterion('plan', pinPath(name, row))),
      photos: counts[i] ?? 0,
      cover: covers.get(row.id) ?? null,
      termLabel: links.terms.get(row.term_id ?? 0)?.label ?? null,
      placeName: links.places.get(row.place_id ?? 0) ?? null,
    }));
  };

  /** Pins that were read, as they are saved: each with a number, and with the terms and places that are known here. */
  const forms = async (planId: number, read: readonly SaidPin[]): Promise<PinForm[]> => {
    const present = await store.pinsOf(database, planId);
    const { terms, places } = await store.linksNamed(database, {
      uris: read.map(({ term }) => term),
      names: read.map(({ place }) => place),
    });
    const taken = new Set(present.map(({ number }) => number));
    let next = nextNumber([...present, ...read]);
    return read.map(({ term, place, colour, number: said, ...pin }) => {
      const number = said > 0 && !taken.has(said) ? said : next++;
      taken.add(number);
      return {
        ...pin,
        ...{ number, termId: terms.get(term) ?? null, placeId: places.get(place) ?? null },
        corners: pin.corners && [...pin.corners],
        label: pin.label.replaceAll('/', '-').slice(0, 200),
        note: pin.note.slice(0, 5000),
        layer: pin.layer.slice(0, 100),
        colour: MARK_COLOURS.find((each) => each === colour) ?? 'teal',
      };
    });
  };

  return {
    list: async (viewer: Viewer): Promise<Plan[]> => shown(viewer, await store.listPlans(database, viewer)),

    async show(viewer: Viewer, planId: number): Promise<Plan & { pinned: PlanPin[] }> {
      const row = await find(viewer, planId);
      const [[plan], pins] = await Promise.all([shown(viewer, [row]), pinned(viewer, row)]);
      if (!plan) throw new StellinError('notFound', GONE);
      return { ...plan, pinned: pins };
    },

    /** Keeps a picture that somebody has as a file. */
    addFile: (name: string, bytes: Uint8Array, accountId: number) =>
      pictures.add({ name, bytes, photoId: null, page: 1 }, accountId),

    /** Keeps a page of a photo as the picture of a plan, as large as it can be had. */
    async addPhoto(photoId: number, page: number, accountId: number) {
      const file = await largeOf(photoId, page);
      return pictures.add({ name: `photo ${photoId}`, bytes: file, photoId, page }, accountId);
    },

    /** A tile of a plan’s picture as WebP; undefined where it has none. */
    async tile(viewer: Viewer, planId: number, at: { z: number; x: number; y: number }): Promise<Buffer | undefined> {
      return pictures.tile((await find(viewer, planId)).picture_id, at);
    },

    /** The pins that a file tells of. */
    async read(viewer: Viewer, planId: number, text: string) {
      const { width, height, ties } = await find(viewer, planId);
      const size = { width, height };
      const { pins, leftOut } = readPins(text, size, tiedBy(ties, size));
      return { pins: await forms(planId, pins), leftOut };
    },

    /** The pins that the regions of the plan’s photo tell of. */
    async readRegions(viewer: Viewer, planId: number) {
      const { width, height, photoId } = await find(viewer, planId);
      const said = photoId === null ? undefined : await store.regionsIn(database, photoId);
      const pins = pinsOfRegions(said, { width, height });
      return { pins: await forms(planId, pins), leftOut: (Array.isArray(said) ? said.length : 0) - pins.length };
    },

    /** The pins of a plan as a file. */
    async write(viewer: Viewer, planId: number, format: PinFormat): Promise<{ name: string; text: string }> {
      const row = await find(viewer, planId);
      const { name, note, width, height, ties } = row;
      const [pins, links] = await Promise.all([store.pinsOf(database, planId), store.linksOf(database, planId)]);
      const size: PlanSize = { width, height };
      const said = pins.map((pin) => saidOf(pin, links));
      return {
        name,
        text: writtenPins(format, { name, note, size, tied: tiedBy(ties, size), pins: said, at: new Date() }),
      };
    },

    /** The plan as PDF; of some layers, or of all. */
    async print(
      viewer: Viewer,
      planId: number,
      { withPictures, layers }: { withPictures: boolean; layers: readonly string[] | undefined },
    ): Promise<{ name: string; pdf: Pdf }> {
      const row = await find(viewer, planId);
      const [all, found, picture] = await Promise.all([
        pinned(viewer, row),
        withPictures ? store.photosByPin(database, planId, viewer, MAX_PRINTED) : [],
        pictures.picture(row.picture_id),
      ]);
      const pins = all.filter(({ layer }) => layers === undefined || layers.includes(layer));
      const photos = new Map<number, PrintedPhoto[]>(all.map(({ id }) => [id, []]));
      for (const photo of found) photos.get(photo.pinId)?.push(photo);
      const { name, note } = row;
      return { name, pdf: printPlan({ name, note, picture, pins, photos, previewOf, at: new Date() }) };
    },

    /** Photos of a result with a position on the plan and without a pin on it, by the pin they belong to. */
    async propose(viewer: Viewer, planId: number, query: string) {
      const row = await find(viewer, planId);
      const size = { width: row.width, height: row.height };
      const tied = tiedBy(row.ties, size);
      if (!tied) throw new StellinError('planRefused', { name: row.name, why: 'it is not tied to the map yet' });
      const asked = queryText(allOf([boxCriterion(reachOf(tied)), { kind: 'not', of: criterion('plan', row.name) }]));
      const selection = { query, minus: [], plus: [] };
      const [found] = await search.seenBy(viewer).within(selection, [asked], MAX_PROPOSED);
      const [photos, pins] = await Promise.all([
        store.positionsOf(database, found?.first ?? []),
        store.pinsOf(database, planId),
      ]);
      const placed = photos.map(({ position, ...photo }) => {
        const point = positionOf(position);
        return { photo, pin: point && pinFor(pins, point, { tied, size }) };
      });
      const proposed = pins.map(({ id }) => ({
        pinId: id,
        photos: placed.filter(({ pin }) => pin?.id === id).map(({ photo }) => photo),
      }));
      return {
        pins: proposed.filter(({ photos: there }) => there.length > 0),
        without: placed.filter(({ pin }) => pin === undefined).length,
        looked: photos.length,
      };
    },

    /** The pins that hold a photo, of plans that exist for somebody. */
    async ofPhoto(viewer: Viewer, photoId: number): Promise<PinOfPhoto[]> {
      const [pins, plans] = await Promise.all([
        store.pinsOfPhoto(database, photoId),
        store.listPlans(database, viewer),
      ]);
      const known = new Set(plans.map(({ id }) => id));
      return pins
        .filter(({ planId }) => known.has(planId))
        .map((found) => ({ ...found, query: queryText(criterion('plan', `${found.plan}/${found.pin}`)) }));
    },
  };
}

function formOf(row: store.PinRecord): PinForm {
  const { kind, number, x, y, corners, direction, label, note, shape, layer, term_id: termId, place_id: placeId } = row;
  return {
    ...{ kind, number, x, y, direction, label, note, shape, layer, termId, placeId },
    corners: corners && [...corners],
    colour: row.colour as PinForm['colour'],
  };
}

/** A pin as it is taken along. */
export function saidOf(
  row: store.PinRecord,
  { terms, places }: { terms: ReadonlyMap<number, { uri: string }>; places: ReadonlyMap<number, string> },
): SaidPin {
  const { kind, number, x, y, corners, direction, label, note, layer, colour, shape } = row;
  return {
    ...{ kind, number, x, y, corners, direction, label, note, layer, colour, shape },
    term: terms.get(row.term_id ?? 0)?.uri ?? '',
    place: places.get(row.place_id ?? 0) ?? '',
  };
}
