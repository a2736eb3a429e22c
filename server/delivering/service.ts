// Deliveries: what one would be, beginning it, and what became of it.

import { randomUUID } from 'node:crypto';
import type { Readable } from 'node:stream';
import { formatFacts } from '@stellin/core/delivering/formats';
import { copyNaming, sidecarOf, uniqueNames, type NameCopy } from '@stellin/core/delivering/names';
import { copySize } from '@stellin/core/delivering/sizing';
import { TABLE_FORMATS } from '@stellin/core/delivering/tableFormats';
import { nameParts } from '@stellin/core/filing/names';
import { kindLabel, kindsWhere, type FileKind } from '@stellin/core/metadata/containers/kinds';
import {
  copySettings,
  presetShape,
  sheetSettings,
  tableSettings,
  deliverySettings,
  gallerySettings,
  type CopiesRequest,
  type CopySettings,
  type Delivery,
  type DeliveryKind,
  type DeliveryFile,
  type DeliveryPlan,
  type DeliveryRequest,
  type DeliveryTarget,
  type PlannedCopy,
  type Preset,
  type SheetSettings,
} from '@stellin/contract/delivering';
import { countText } from '@stellin/contract/wording';
import { ownOrAll, PROGRAM, type Person, type Viewer } from '../catalogue/viewer';
import type { VocabularyIndex } from '../catalogue/vocabularySnapshot';
import type { Database } from '../database/database';
import type { Describing } from '../describing/service';
import type { Drives } from '../drives/service';
import { StellinError, systemCode } from '../errors';
import { problemOf } from '../files/problem';
import { ensureFolderInside, joinPath } from '../files/drivePath';
import type { Handovers } from '../handover/service';
import type { Jobs } from '../jobs/service';
import type { Search } from '../search/service';
import { letOutBy } from './copy';
import { DELIVER_JOB } from './job';
import { requireNewBag } from './bags';
import { once, viewerFor, type Outside } from './outside';
import { readOriginal } from './original';
import type { DeliveryServers } from './servers';
import * as store from './store';
import { GALLERY_FIELDS, writeGallery, type GalleryContext, type ShownPhoto } from './gallery';
import { writeSheet, type SheetContext } from './sheet';
import type { SpreadsheetWriter } from './spreadsheets';
import { requireWritable, writeTable } from './table';
import { zipDelivery } from './zip';

export { positionOf } from './gallery';
export { groundOf, type World } from './mapGround';
export type { Outside } from './outside';
export type Deliveries = ReturnType<typeof deliveryService>;

interface Services {
  database: Database;
  outside: Outside;
  search: Search;
  drives: Drives;
  describing: Describing;
  terms: VocabularyIndex;
  jobs: Jobs;
  servers: Pick<DeliveryServers, 'required'>;
  handovers: Pick<Handovers, 'begin' | 'requireProgram' | 'statesOf'>;
  /** The file with the preview of a photo; null where there is none. */
  previewOf: store.PreviewOf;
  world: GalleryContext['world'];
  spreadsheets: SpreadsheetWriter;
}

/** Copies of one delivery, and photos of a table or sheet. */
const MAX_COPIES = 200_000;
const MAX_LISTED = 2_000_000;
const NOTHING = 'There is nothing to deliver.';
const PHOTOS_PER_READ = 5000;
const FILES_PER_INSERT = 5000;
/** What can’t be drawn, only handed over as it is. */
const UNDRAWN: ReadonlySet<string> = new Set(kindsWhere(({ media }) => media === 'sidecar'));

const PHOTOS_SHOWN = 50;
/** As many photos as a page can show. */
const MAX_ON_PAGE = 240;
/** Tables and sheets take no copies; their photos are called as they are. */
const AS_THEY_ARE = copySettings.parse({ format: 'original' });

interface Download {
  stream: Readable;
  extension: string;
  mediaType: string;
}

interface Named extends PlannedCopy {
  isNumbered: boolean;
}

export function deliveryService({
  database,
  outside,
  search,
  drives,
  describing,
  terms,
  jobs,
  servers,
  handovers,
  previewOf,
  world,
  spreadsheets,
}: Services) {
  // One closure for what its functions share; each of them fits a screen.
  const { contextOf, wantedOf, open } = outside;
  async function presetName(presetId: number | null, accountId: number): Promise<store.PresetRow | undefined> {
    if (presetId === null) return undefined;
    const found = (await store.listPresets(database, accountId)).find(({ id }) => id === presetId);
    if (!found) throw new StellinError('notFound', { what: 'such preset (it may have been removed meanwhile)' });
    return found;
  }

  /** The photos that are meant, in their order. */
  async function idsOf(
    { selection, sort }: Pick<DeliveryRequest, 'selection' | 'sort'>,
    viewer: Viewer,
    most = MAX_LISTED,
  ): Promise<number[]> {
    const ids = await search.seenBy(viewer).ofSelection(selection, sort, most + 1);
    if (ids.length > most)
      throw new StellinError('badRequest', { problem: `more than ${countText(most, 'photo')} at once` });
    return ids;
  }

  /** The photos of a delivery with the names that their copies get, some at a time. Private ones are left out. */
  async function* namedCopies(request: CopiesRequest, viewer: Viewer, preset: string): AsyncGenerator<Named[]> {
    const { settings, recipient } = request;
    const naming = copyNaming(settings);
    if (typeof naming !== 'function')
      throw new StellinError('nameRefused', { name: settings.name, why: naming.problem });
    const ids = await idsOf(request, viewer, MAX_COPIES);
    const unique = uniqueNames(undefined, (path) => (settings.sidecars ? [sidecarOf(path)] : []));
    let number = settings.start;
    for (let at = 0; at < ids.length; at += PHOTOS_PER_READ) {
      const photos = await store.plannedPhotos(database, viewer, ids.slice(at, at + PHOTOS_PER_READ), settings.bundles);
      yield photos.map((photo) => {
        // Those that stay take no number: nobody is to see that one is left out.
        const copy = plan(photo, settings, naming, { number, preset, recipient }, unique);
        if (!photo.private) number += 1;
        return copy;
      });
    }
  }

  const withWords = async (rows: readonly store.ListedDelivery[]): Promise<Delivery[]> => {
    const handed = rows.flatMap(({ id, target }) => (target.kind === 'handover' ? [id] : []));
    const states = handed.length > 0 ? await handovers.statesOf(handed) : new Map<string, never>();
    return Promise.all(rows.map(async (row) => ({ ...(await inWords(row)), handover: states.get(row.id) ?? null })));
  };

  const inWords = async (row: store.ListedDelivery): Promise<Omit<Delivery, 'handover'>> => {
    const { target, targetLabel, jobId, ...rest } = row;
    const where = whereTo(target, targetLabel);
    // Of one that is done nobody asks how it goes on.
    const isDone = rest.written + rest.skipped === rest.photos;
    const job = jobId === null || isDone ? null : await jobs.find(jobId);
    return { ...rest, target: where, download: target.kind === 'download', job };
  };

  /** A delivery that somebody made, or any for who administers. */
  async function requireMine(id: string, person: Person): Promise<store.DeliveryRow> {
    const row = await store.findDelivery(database, id);
    if (!row || (row.accountId !== person.accountId && !person.everywhere.includes('administer')))
      throw new StellinError('notFound', { what: 'such delivery' });
    return row;
  }

  async function show(id: string, person: Person): Promise<Delivery> {
    await requireMine(id, person);
    const row = await store.listedDelivery(database, id);
    if (!row) throw new StellinError('notFound', { what: 'such delivery' });
    const [shown] = await withWords([row]);
    if (!shown) throw new StellinError('notFound', { what: 'such delivery' });
    return shown;
  }

  const startJob = async (id: string, title: string, accountId: number) => {
    const job = await jobs.start(DELIVER_JOB, `Deliver ${title}`, { deliveryId: id }, accountId);
    await store.noteJob(database, id, job.id);
  };

  const sheetContext = async (settings: SheetSettings, at: Date, photos: number): Promise<SheetContext> => ({
    ...(await contextOf(settings)),
    previewOf,
    at,
    photos,
  });

  /** The photos of a delivery with their files, and with what is said of them. */
  async function* shownPhotos(deliveryId: string, viewer: Viewer, wanted: store.Wanted): AsyncGenerator<ShownPhoto[]> {
    for (let after = -1; ;) {
      const photos = await store.nextPhotos(database, viewer, { deliveryId, after, limit: PHOTOS_SHOWN, all: true });
      const last = photos.at(-1);
      if (!last) return;
      after = last.position;
      const ids = photos.map(({ id }) => id);
      for await (const rows of await open(once(store.tableRows(database, viewer, ids, wanted)))) {
        const files = new Map(photos.map((file) => [file.id, file]));
        yield rows.flatMap((row) => {
          const file = files.get(row.id);
          return file ? [{ file, row }] : [];
        });
      }
    }
  }

  /** How each kind of delivery is downloaded. */
  const DOWNLOADS: Record<DeliveryKind, (delivery: store.DeliveryRow, viewer: Viewer) => Promise<Download>> = {
    async copies(delivery, viewer) {
      const letOut = await letOutBy(database, terms, delivery.at.toISOString().replace(/\.\d+Z$/, 'Z'));
      const settings = copySettings.parse(delivery.settings);
      const stream = zipDelivery({ database, viewer, delivery, settings, letOut });
      return { stream, extension: '.zip', mediaType: 'application/zip' };
    },
    async table({ id, settings: given }, viewer) {
      const settings = tableSettings.parse(given);
      const stream = writeTable(
        await open(store.tablePages(database, viewer, id, await wantedOf(settings.columns))),
        settings,
        { ...(await contextOf(settings)), spreadsheets },
      );
      const { extension, mediaType } = TABLE_FORMATS[settings.format];
      return { stream, extension, mediaType };
    },
    async sheet({ id, settings: given, at }, viewer) {
      const settings = sheetSettings.parse(given);
      const { photos } = await store.countFiles(database, id);
      const context = await sheetContext(settings, at, photos);
      const stream = writeSheet(
        await open(store.tablePages(database, viewer, id, await wantedOf(settings.fields))),
        settings,
        context,
      );
      return { stream, extension: '.pdf', mediaType: 'application/pdf' };
    },
    async gallery({ id, settings: given, at }, viewer) {
      const settings = gallerySettings.parse(given);
      const stream = writeGallery(
        shownPhotos(id, viewer, await wantedOf(settings.fields, GALLERY_FIELDS, ['terms'])),
        settings,
        {
          ...(await contextOf({ language: '' })),
          at,
          previewOf,
          world,
          noteOutcomes: (outcomes) => store.recordOutcomes(database, id, outcomes),
        },
      );
      return { stream, extension: '.zip', mediaType: 'application/zip' };
    },
  };

  const requireLeaving = async (photoId: number, person: Person): Promise<store.PlannedPhoto> => {
    const [photo] = await store.plannedPhotos(database, viewerFor(person), [photoId], 'lead');
    if (!photo) throw new StellinError('notFound', { what: 'such photo that you may deliver' });
    const why = photo.private ? IS_PRIVATE : photo.missing ? IS_MISSING : undefined;
    if (why) throw new StellinError('originalRefused', { name: photo.name, why });
    return photo;
  };

  return {
    show,

    async presets(accountId: number): Promise<Preset[]> {
      return (await store.listPresets(database, accountId)).map(({ owner_id: owner, created_by: maker, ...row }) => ({
        id: row.id,
        version: row.version,
        name: row.name,
        note: row.note,
        settings: copySettings.parse(row.settings),
        shared: owner === null,
        mine: maker === accountId,
      }));
    },

    async presetVersions(id: number, accountId: number) {
      await presetName(id, accountId);
      return (await store.presetVersions(database, id)).map(({ at, by, before }) => ({
        at,
        by,
        preset: presetShape.parse(before),
      }));
    },

    /** What a delivery would be, with a page of its copies. */
    async plan(request: CopiesRequest & { offset: number; limit: number }, person: Person): Promise<DeliveryPlan> {
      const viewer = viewerFor(person);
      const preset = await presetName(request.presetId, person.accountId);
      const sum = { photos: 0, bytes: 0, private: 0, away: 0, problems: 0, renamed: 0 };
      const page: Named[] = [];
      try {
        for await (const copies of namedCopies(request, viewer, preset?.name ?? '')) {
          for (const copy of copies) {
            if (copy.problem === IS_PRIVATE) {
              sum.private += 1;
              continue;
            }
            if (sum.photos >= request.offset && page.length < request.limit) page.push(copy);
            sum.photos += 1;
            sum.bytes += copy.bytes ?? 0;
            sum.away += copy.away ? 1 : 0;
            sum.problems += copy.problem === null ? 0 : 1;
            sum.renamed += copy.isNumbered ? 1 : 0;
          }
        }
      } catch (error) {
        if (!(error instanceof StellinError)) throw error;
        return { ...sum, problem: error.message, copies: [] };
      }
      const lacked = await describing.lackedBy(
        viewer,
        page.map(({ photoId }) => photoId),
      );
      const copies = page.map(({ isNumbered: _, ...copy }) => ({
        ...copy,
        lacks: lacked.get(copy.photoId) ?? [],
      }));
      const problem = sum.photos === 0 ? NOTHING : null;
      return { ...sum, problem, copies };
    },

    /** Refuses, with the reason, a photo that can’t leave by somebody’s hands. */
    requireLeaving,

    /** The original of one photo, to be downloaded. Refuses, with the reason, what can’t leave. */
    async original(photoId: number, person: Person): Promise<{ name: string; stream: Readable; bytes: number }> {
      const { name, folder, driveId } = await requireLeaving(photoId, person);
      const { mountPoint } = await drives.requireAttached(driveId);
      try {
        return { name, ...(await readOriginal({ mountPoint, folder, name })) };
      } catch (error) {
        if (systemCode(error) === undefined) throw error;
        throw new StellinError('originalRefused', { name, why: problemOf(error) });
      }
    },

    /** Begins a delivery: its photos and their names are settled now. */
    async deliver(request: DeliveryRequest, person: Person): Promise<Delivery> {
      const { settings, target, recipient, reason } = request;
      const preset = await presetName(request.presetId, person.accountId);
      const copies = { ...request, settings: settings.kind === 'copies' ? settings : AS_THEY_ARE };
      if (settings.kind !== 'copies' && target.kind !== 'download')
        throw new StellinError('badRequest', { problem: 'tables and sheets are downloaded' });
      const id = randomUUID();
      const at = new Date();
      const files: store.NamedCopy[] = [];
      let bytes = 0;
      const isListed = settings.kind === 'table' || settings.kind === 'sheet';
      const ids = isListed ? await idsOf(request, viewerFor(person)) : [];
      if (settings.kind === 'table') requireWritable(settings, ids.length);
      for await (const named of isListed ? [] : namedCopies(copies, viewerFor(person), preset?.name ?? ''))
        for (const { photoId, original, path, problem, ...copy } of named) {
          if (problem !== null) continue;
          bytes += copy.bytes ?? 0;
          files.push({ position: files.length, photoId, original, path });
        }
      if (files.length === 0 && ids.length === 0) throw new StellinError('nothingToDo', { why: NOTHING });
      if (target.kind === 'drive') await requireTarget(target, copies.settings, bytes);
      if (target.kind === 'server') await servers.required(target.serverId);
      if (target.kind === 'handover') await handovers.requireProgram(target.program, person);
      const titleOf = (photos: number) => `${countText(photos, 'photo')}${recipient === '' ? '' : ` for ${recipient}`}`;
      const title = titleOf(files.length);
      await database.transaction(async (tx) => {
        await store.insertDelivery(
          database,
          {
            id,
            title,
            settings,
            target,
            recipient,
            reason,
            preset: preset?.name ?? '',
            presetVersion: preset?.version ?? null,
            accountId: person.accountId,
            jobId: null,
            at,
          },
          tx,
        );
        if (target.kind === 'handover') await handovers.begin(id, target.program, at, tx);
        for (let at = 0; at < files.length; at += FILES_PER_INSERT)
          await store.insertFiles(database, id, files.slice(at, at + FILES_PER_INSERT), tx);
        if (!isListed) return;
        const photos = await store.insertAsTheyAre(database, viewerFor(person), id, ids, tx);
        if (photos === 0) throw new StellinError('nothingToDo', { why: NOTHING });
        await store.entitle(database, id, titleOf(photos), tx);
      });
      if (target.kind !== 'download') await startJob(id, title, person.accountId);
      await database.notify(['deliveries']);
      return show(id, person);
    },

    /** Tries what failed once more, and what a job that failed left open. */
    async retry(id: string, person: Person): Promise<Delivery> {
      const { target, title } = await requireMine(id, person);
      if (target.kind === 'download') throw new StellinError('nothingToDo', { why: 'Download it once more.' });
      await store.reopenFailed(database, id);
      await startJob(id, title, person.accountId);
      await database.notify(['deliveries']);
      return show(id, person);
    },

    async list(person: Person, page: { offset: number; limit: number }) {
      const of = ownOrAll(person);
      const { deliveries, total } = await store.listDeliveries(database, of, page);
      return { deliveries: await withWords(deliveries), total };
    },

    async files(
      id: string,
      page: { state?: string | undefined; offset: number; limit: number },
      person: Person,
    ): Promise<{ files: DeliveryFile[]; total: number }> {
      await requireMine(id, person);
      return store.listFiles(database, person, id, page);
    },

    /** What a delivery that is downloaded comes to, made while it is read. */
    async download(id: string, person: Person) {
      const delivery = await requireMine(id, person);
      if (delivery.target.kind !== 'download') throw new StellinError('notFound', { what: 'such download' });
      const settings = deliverySettings.parse(delivery.settings);
      const made = await DOWNLOADS[settings.kind](delivery, viewerFor(person));
      const name = `stellin-${delivery.at.toISOString().slice(0, 10)}-${delivery.id.slice(0, 8)}${made.extension}`;
      return { ...made, name };
    },

    /** The first page of a sheet. */
    async firstPage(request: DeliveryRequest, person: Person): Promise<Readable> {
      const { settings, selection, sort } = request;
      if (settings.kind !== 'sheet') throw new StellinError('badRequest', { problem: 'only sheets have pages' });
      const viewer = viewerFor(person);
      const ids = await search.seenBy(viewer).ofSelection(selection, sort, MAX_ON_PAGE);
      const { photos } = await search
        .seenBy(viewer)
        .within(selection, [''], 0)
        .then(([found]) => found ?? { photos: 0 });
      return writeSheet(
        await open(once(store.tableRows(database, viewer, ids, await wantedOf(settings.fields)))),
        settings,
        await sheetContext(settings, new Date(), photos),
        true,
      );
    },
  };

  /** Refuses a folder that can’t be delivered to. A drive that is away is waited for. */
  async function requireTarget(
    { driveId, folder }: Extract<DeliveryTarget, { kind: 'drive' }>,
    { bag }: CopySettings,
    bytes: number,
  ): Promise<void> {
    const drive = (await drives.list(PROGRAM)).find(({ id }) => id === driveId);
    if (!drive) throw new StellinError('notFound', { what: 'such drive' });
    if (drive.readOnly) throw new StellinError('driveReadOnly', { drive: drive.label });
    if (drive.state !== 'attached' || drive.mountPoint === null) return;
    if (drive.freeBytes !== null && drive.freeBytes < bytes) throw new StellinError('noRoom', { drive: drive.label });
    const root = await ensureFolderInside(drive.mountPoint, folder);
    if (bag) await requireNewBag(root);
  }
}

/** Where a delivery went, in words. */
function whereTo(target: DeliveryTarget, label: string | null): string {
  switch (target.kind) {
    case 'download':
      return 'Download';
    case 'handover':
      return target.program === '' ? 'the folder of handovers' : `the program “${target.program}”`;
    case 'drive':
    case 'server':
      return [label ?? `a ${target.kind} that is no more`, ...target.folder.split('/')].filter(Boolean).join(' › ');
  }
}

const IS_PRIVATE = 'it is private, and stays';
const IS_MISSING = 'its file is not where it was';

/** Where the copy of a photo goes and how large it becomes, or why it can’t leave. */
function plan(
  photo: store.PlannedPhoto,
  settings: CopySettings,
  naming: NameCopy,
  about: { number: number; preset: string; recipient: string },
  unique: (path: string) => string,
): Named {
  const { base, extension } = nameParts(photo.name);
  const named = naming({
    ...photo,
    ...about,
    name: base,
    folder: photo.folder.slice(photo.folder.lastIndexOf('/') + 1),
    folders: photo.folder,
  });
  const problem = photo.private
    ? IS_PRIVATE
    : photo.missing
      ? IS_MISSING
      : settings.format !== 'original' && UNDRAWN.has(photo.kind)
        ? `of ${kindLabel(photo.kind as FileKind)} there is no picture`
        : settings.format !== 'original' && photo.damaged
          ? 'its picture can’t be decoded in full'
          : named.ok
            ? null
            : named.problem;
  const wanted = named.ok ? `${named.path}${formatFacts(settings.format).extension || extension}` : '';
  const path = problem === null ? unique(wanted) : wanted;
  const { width, height } = photo;
  const size = width && height ? copySize({ width, height }, settings.size) : undefined;
  const isCopied = settings.format === 'original';
  return {
    photoId: photo.id,
    original: [photo.drive, joinPath(photo.folder, photo.name)].join('/'),
    path,
    width: (isCopied ? width : size?.width) ?? null,
    height: (isCopied ? height : size?.height) ?? null,
    bytes: isCopied ? photo.sizeBytes : size ? estimate(size, settings) : null,
    away: photo.away,
    problem,
    lacks: [],
    previewVersion: photo.previewVersion,
    isNumbered: problem === null && path !== wanted,
  };
}

function estimate(size: { width: number; height: number }, { format, quality, bits, maxBytes }: CopySettings): number {
  const { bytesPerPixel, lossy, bits: most } = formatFacts(format);
  const deep = bits === 16 && most === 16 ? 2 : 1;
  const bytes = Math.round(size.width * size.height * bytesPerPixel(quality) * deep);
  return lossy && maxBytes !== null ? Math.min(bytes, maxBytes) : bytes;
}
