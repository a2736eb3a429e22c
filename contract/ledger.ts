// Changes: the one way in which anything in the catalogue is changed. Each kind is an entry of the union.

import { z } from 'zod';
import { PERMISSION_IDS, type Permission } from '@stellin/core/accounts/permissions';
import { MARK_COLOURS, MARK_LETTERS } from '@stellin/core/describing/marks';
import { filmSeconds } from './media';
import { accessFilter } from './access';
import type { Holder } from './accounts';
import { calendarChanges } from './calendar';
import { deliveringChanges } from './delivering';
import { handoverChanges } from './handover';
import { incomingTableChanges } from './incomingTables';
import { describingChanges } from './describing';
import { accessionChanges } from './accessions';
import { dossierChanges, dossierShape } from './dossiers';
import { fixityChanges } from './fixity';
import { folderPath, namePattern, renaming, target } from './filing';
import { job } from './jobs';
import { KEYWORD_SOURCES, keywordDecision } from './keywords';
import { peopleChanges } from './people';
import { SORTS } from '@stellin/core/search/sorts';
import { queryTextSchema, selection } from './photos';
import { day, id, idParams, route, text } from './route';
import { placeChanges } from './places';
import { planChanges } from './plans';
import { projectChanges } from './projects';
import { placingChanges } from './tracks';
import { searchDefinition, searchFolder } from './search';
import { termChanges } from './termChanges';

export const change = z.discriminatedUnion('kind', [
  ...termChanges,
  ...accessionChanges,
  ...dossierChanges,
  ...placeChanges,
  ...placingChanges,
  ...planChanges,
  ...calendarChanges,
  ...projectChanges,
  ...describingChanges,
  ...peopleChanges,
  ...fixityChanges,
  ...deliveringChanges,
  ...handoverChanges,
  ...incomingTableChanges,
  z.object({ kind: z.literal('setRating'), selection, rating: z.number().int().min(-1).max(5) }),
  z.object({ kind: z.literal('setPrivate'), selection, private: z.boolean() }),
  z.object({ kind: z.literal('choosePoster'), photoId: id, seconds: filmSeconds.nullable() }),
  z.object({
    kind: z.literal('setMark'),
    selection,
    mark: text.trim().max(64).describe('Empty takes the mark off'),
  }),
  z.object({
    kind: z.literal('defineMark'),
    markId: id.nullable().describe('Null defines a new one'),
    name: text.trim().min(1).max(64),
    letter: z.enum(MARK_LETTERS as [string, ...string[]]),
    colour: z.enum(MARK_COLOURS),
  }),
  z.object({ kind: z.literal('removeMark'), markId: id }),
  z.object({
    kind: z.literal('settleConflicts'),
    selection,
    field: text.max(100).optional().describe('Only this field; else all that are in conflict'),
    keep: z.enum(['catalogue', 'file']),
  }),
  target.extend({ kind: z.literal('moveFiles'), selection }),
  target.extend({ kind: z.literal('copyFiles'), selection }),
  renaming.extend({ kind: z.literal('renameFiles'), selection, pattern: namePattern }),
  z.object({ kind: z.literal('trashFiles'), selection }),
  z.object({ kind: z.literal('restoreFiles'), selection }),
  z.object({ kind: z.literal('removePhotos'), selection }),
  z.object({ kind: z.literal('returnPhotos'), selection }),
  z.object({ kind: z.literal('bundlePhotos'), selection }),
  z.object({ kind: z.literal('unbundlePhotos'), selection }),
  z.object({ kind: z.literal('chooseLead'), photoId: id }),
  z.object({
    kind: z.literal('tellApart'),
    photoIds: z.array(id).min(2).max(100).describe('They look alike and are different pictures'),
  }),
  z.object({ kind: z.literal('openBundles'), selection }),
  z.object({ kind: z.literal('closeBundles'), selection }),
  z.object({ kind: z.literal('makeFolder'), driveId: z.uuid(), parent: folderPath, name: text.max(255) }),
  z.object({ kind: z.literal('renameFolder'), folderId: id, name: text.max(255) }),
  z.object({
    kind: z.literal('moveFolder'),
    folderId: id,
    parent: folderPath.describe('The folder of the same drive into which it goes'),
  }),
  z.object({ kind: z.literal('removeFolder'), folderId: id.describe('An empty one') }),
  z.object({
    kind: z.literal('describeFolder'),
    folderId: id,
    colour: dossierShape.shape.colour,
    note: text.trim().max(2000),
  }),
  z.object({
    kind: z.literal('settleKeywords'),
    source: z.enum(KEYWORD_SOURCES).default('keywords'),
    decisions: z.array(keywordDecision).min(1).max(1000),
    accession: id.optional().describe('Only photos of this taking-in'),
    levels: z.number().int().min(1).max(20).default(1).describe('Of folders: how many, counted from the photo up'),
    remember: z.boolean().default(true).describe('Decide alike for files still to come'),
  }),
  searchDefinition.extend({
    kind: z.literal('saveSearch'),
    dossierId: id
      .nullable()
      .default(null)
      .describe('The dossier of the project within which it is asked, instead of its scope'),
  }),
  z.object({
    kind: z.literal('changeSearch'),
    searchId: id,
    name: searchDefinition.shape.name.optional(),
    query: queryTextSchema.optional(),
    sort: z.enum(SORTS).optional(),
    note: text.max(5000).optional(),
    folder: searchFolder.optional(),
    pinned: z.boolean().optional(),
    scope: queryTextSchema.optional(),
    dossierId: id.nullable().optional(),
    size: searchDefinition.shape.size.unwrap().optional(),
  }),
  z.object({ kind: z.literal('removeSearch'), searchId: id }),
  z.object({ kind: z.literal('importSearches'), searches: z.array(searchDefinition).min(1).max(5000) }),
]);
export type Change = z.infer<typeof change>;
export type ChangeInput = z.input<typeof change>;
export type ChangeKind = Change['kind'];
export type ChangeOf<Kind extends ChangeKind> = Extract<Change, { kind: Kind }>;

type SchemaOf<Kind extends ChangeKind> = Extract<
  (typeof change)['options'][number],
  { shape: { kind: { value: Kind } } }
>;

/** The schema of one kind of change, of which forms take what they ask for. */
export function changeSchema<Kind extends ChangeKind>(kind: Kind): SchemaOf<Kind> {
  const found = change.options.find(({ shape }) => shape.kind.value === kind);
  if (!found) throw new Error(`there is no change ${kind}`);
  return found as SchemaOf<Kind>;
}

/** What somebody needs to make a change, and to take it back. */
export interface ChangeAccess {
  permission: Permission;
  /**
   * `photos`: in the parts of the catalogue that hold the photos it changes; `dossiers`: in the dossiers that it changes, or that
   * what it changes lies in, and for photos that are concerned where these are; `everywhere`: for the whole catalogue.
   */
  where: 'photos' | 'dossiers' | 'everywhere';
}
const inPhotos = (permission: Permission): ChangeAccess => ({ permission, where: 'photos' });
const inDossiers = (permission: Permission): ChangeAccess => ({ permission, where: 'dossiers' });
const everywhere = (permission: Permission): ChangeAccess => ({ permission, where: 'everywhere' });

/** Who makes which change. Cataloguers propose terms instead of adding them. */
export const CHANGE_ACCESS: Readonly<Record<ChangeKind, ChangeAccess>> = {
  addTerms: everywhere('vocabulary'),
  renameTerm: everywhere('vocabulary'),
  editTerm: everywhere('vocabulary'),
  swapLabels: everywhere('vocabulary'),
  moveTerms: everywhere('vocabulary'),
  mergeTerms: everywhere('vocabulary'),
  splitTerm: everywhere('vocabulary'),
  setHeading: everywhere('vocabulary'),
  deprecateTerm: everywhere('vocabulary'),
  removeTerm: everywhere('vocabulary'),
  relateTerms: everywhere('vocabulary'),
  acceptTerms: everywhere('vocabulary'),
  refuseTerm: everywhere('vocabulary'),
  defineVocabulary: everywhere('vocabulary'),
  removeVocabulary: everywhere('vocabulary'),
  importTerms: everywhere('vocabulary'),
  saveFieldSet: everywhere('vocabulary'),
  removeFieldSet: everywhere('vocabulary'),
  saveQualityRule: everywhere('vocabulary'),
  removeQualityRule: everywhere('vocabulary'),
  giveTerms: inPhotos('describe'),
  takeTerms: inPhotos('describe'),
  proposeTerm: inPhotos('describe'),
  definePad: everywhere('describe'),
  removePad: everywhere('describe'),
  makeDossier: inDossiers('describe'),
  changeDossier: inDossiers('describe'),
  placeDossier: inDossiers('describe'),
  copyDossier: inDossiers('describe'),
  removeDossier: inDossiers('describe'),
  putInDossier: inDossiers('describe'),
  takeFromDossier: inDossiers('describe'),
  arrangeDossier: inDossiers('describe'),
  takeReturned: everywhere('files'),
  takeTable: inPhotos('describe'),
  followTracks: inPhotos('describe'),
  namePlaces: inPhotos('describe'),
  spreadPhotos: inPhotos('describe'),
  noteZones: inPhotos('describe'),
  putClocksRight: inPhotos('describe'),
  saveCameraClock: everywhere('describe'),
  removeCameraClock: everywhere('describe'),
  nameEvent: inDossiers('describe'),
  placeByNames: inPhotos('describe'),
  saveOwnPlace: everywhere('vocabulary'),
  mergeOwnPlaces: everywhere('vocabulary'),
  removeOwnPlace: everywhere('vocabulary'),
  importOwnPlaces: everywhere('vocabulary'),
  leavePlaceNames: everywhere('vocabulary'),
  makePlan: everywhere('describe'),
  changePlan: everywhere('describe'),
  removePlan: everywhere('vocabulary'),
  savePins: everywhere('describe'),
  removePins: everywhere('describe'),
  mergePins: everywhere('describe'),
  numberPins: everywhere('describe'),
  pinPhotos: inPhotos('describe'),
  unpinPhotos: inPhotos('describe'),
  placeByPlan: inPhotos('describe'),
  writePinRegions: inPhotos('describe'),
  makeProject: everywhere('vocabulary'),
  changeProject: everywhere('vocabulary'),
  closeProject: everywhere('vocabulary'),
  removeProject: everywhere('vocabulary'),
  setFields: inPhotos('describe'),
  replaceText: inPhotos('describe'),
  tidyText: inPhotos('describe'),
  changeTime: inPhotos('describe'),
  turnPhotos: inPhotos('describe'),
  turnUpright: inPhotos('describe'),
  setStretches: inPhotos('describe'),
  fillTemplate: inPhotos('describe'),
  applyTemplate: inPhotos('describe'),
  savePreset: everywhere('deliver'),
  removePreset: everywhere('deliver'),
  saveTemplate: everywhere('describe'),
  removeTemplate: everywhere('describe'),
  nameFaces: inPhotos('people'),
  refuseFaces: inPhotos('people'),
  setFaces: inPhotos('people'),
  drawFace: inPhotos('people'),
  moveFace: inPhotos('people'),
  namePhotos: inPhotos('people'),
  takePersons: inPhotos('people'),
  savePerson: everywhere('people'),
  mergePersons: everywhere('vocabulary'),
  splitPerson: everywhere('vocabulary'),
  removePerson: everywhere('vocabulary'),
  settleNames: everywhere('people'),
  setRating: inPhotos('describe'),
  setPrivate: inPhotos('private'),
  choosePoster: inPhotos('describe'),
  setMark: inPhotos('describe'),
  defineMark: everywhere('vocabulary'),
  removeMark: everywhere('vocabulary'),
  settleConflicts: inPhotos('writeBack'),
  putCopyBack: everywhere('files'),
  moveFiles: everywhere('files'),
  copyFiles: everywhere('files'),
  renameFiles: everywhere('files'),
  trashFiles: everywhere('files'),
  restoreFiles: everywhere('files'),
  removePhotos: inPhotos('files'),
  returnPhotos: inPhotos('files'),
  bundlePhotos: inPhotos('describe'),
  unbundlePhotos: inPhotos('describe'),
  chooseLead: inPhotos('describe'),
  tellApart: inPhotos('describe'),
  openBundles: inPhotos('describe'),
  closeBundles: inPhotos('describe'),
  makeFolder: everywhere('files'),
  renameFolder: everywhere('files'),
  moveFolder: everywhere('files'),
  removeFolder: everywhere('files'),
  describeFolder: everywhere('files'),
  describeAccession: everywhere('intake'),
  settleKeywords: everywhere('describe'),
  saveSearch: inDossiers('describe'),
  changeSearch: inDossiers('describe'),
  removeSearch: inDossiers('describe'),
  importSearches: everywhere('describe'),
};

/** Whether somebody may make changes of a kind, of some photos at least. Kinds that are no more are for who administers. */
export function mayChange(holder: Holder, kind: string): boolean {
  const { permission, where }: ChangeAccess = CHANGE_ACCESS[kind as ChangeKind] ?? everywhere('administer');
  return (where === 'everywhere' ? holder.everywhere : holder.permissions).includes(permission);
}

export const ledgerEntry = z.object({
  id: z.number(),
  at: z.string(),
  by: z.string(),
  title: z.string(),
  photos: z.number().describe('How many photos it changed'),
  state: z
    .enum(['done', 'undone', 'undo', 'redo'])
    .describe('undo and redo: an entry that took back or repeated another'),
  objectId: z.number().nullable().describe('The term or saved search it made, when it made just one'),
});
export type LedgerEntry = z.infer<typeof ledgerEntry>;

/** Changes of very many photos are made by a job. */
const applied = z.union([z.object({ entry: ledgerEntry, job: z.null() }), z.object({ entry: z.null(), job })]);

const step = z.object({ id: z.number(), title: z.string() }).nullable();

const shownChange = z.object({ what: z.string(), before: z.string(), after: z.string() });

/** Which entries are meant. */
export const ledgerFilter = z.object({
  photoId: id.optional(),
  accountId: id.optional().describe('Who made them'),
  work: z.enum(PERMISSION_IDS).optional().describe('What one needs to be allowed to make such changes'),
  containing: text.trim().max(200).optional().describe('Words of the title'),
  from: day.optional().describe('The first day'),
  to: day.optional().describe('The last day'),
  driveId: z.uuid().optional().describe('They touched photos of this drive'),
  dossierId: id.optional().describe('They touched photos of this dossier, such as that of a project'),
});
export type LedgerFilter = z.infer<typeof ledgerFilter>;

/** The kinds of changes for which one needs a permission. */
export function kindsFor(permission: Permission): ChangeKind[] {
  return (Object.keys(CHANGE_ACCESS) as ChangeKind[]).filter((kind) => CHANGE_ACCESS[kind].permission === permission);
}

export const LEDGER_EXPORT_PATH = '/api/ledger/export';
/** How the ledger is exported: as a table or for programs; what was changed, or the record of access; and which entries of it. */
export const ledgerExport = ledgerFilter.extend({
  ...accessFilter.shape,
  format: z.enum(['csv', 'json']),
  book: z.enum(['changes', 'access']),
});

export const ledgerRoutes = {
  apply: route({
    method: 'POST',
    path: '/api/changes',
    access: 'see',
    shows: 'seen',
    summary: 'Change something',
    body: z.object({ change }),
    response: applied,
  }),
  nextSteps: route({
    method: 'GET',
    path: '/api/changes/next',
    access: 'see',
    shows: 'seen',
    summary: 'What undo and redo would do for the one who asks',
    response: z.object({ undo: step, redo: step }),
  }),
  undo: route({
    method: 'POST',
    path: '/api/changes/undo',
    access: 'see',
    shows: 'seen',
    summary: 'Take back one’s last change',
    response: applied,
  }),
  redo: route({
    method: 'POST',
    path: '/api/changes/redo',
    access: 'see',
    shows: 'seen',
    summary: 'Repeat the change taken back last',
    response: applied,
  }),
  listEntries: route({
    method: 'GET',
    path: '/api/ledger',
    access: 'see',
    shows: 'seen',
    summary: 'The ledger, newest first',
    query: ledgerFilter.extend({
      before: id.optional(),
      limit: z.coerce.number().int().min(1).max(200).default(50),
    }),
    response: z.object({ entries: z.array(ledgerEntry) }),
  }),
  showEntry: route({
    method: 'GET',
    path: '/api/ledger/:id',
    access: 'see',
    shows: 'seen',
    summary: 'What an entry changed, before and after (the first 200 rows), and whether it can be taken back',
    params: idParams,
    query: z.object({ photoId: id.optional().describe('Only what it changed of this photo') }),
    response: z.object({
      photos: z.array(shownChange.extend({ photoId: z.number(), name: z.string(), previewVersion: z.number() })),
      objects: z.array(shownChange.extend({ object: z.string().describe('Which: Term “Delta”') })),
      standing: z.object({
        step: z
          .enum(['undo', 'redo'])
          .nullable()
          .describe('It can be taken back, or repeated; null: it is itself a step back, or not for the one who asks'),
        later: z.array(ledgerEntry).describe('Entries that built on it and stand in the way, the first few'),
        laterCount: z.number(),
      }),
    }),
  }),
  takeBackEntry: route({
    method: 'POST',
    path: '/api/ledger/:id/undo',
    access: 'see',
    shows: 'seen',
    summary: 'Take back an entry that nothing later built on',
    params: idParams,
    response: applied,
  }),
  repeatEntry: route({
    method: 'POST',
    path: '/api/ledger/:id/redo',
    access: 'see',
    shows: 'seen',
    summary: 'Repeat an entry that was taken back',
    params: idParams,
    response: applied,
  }),
};
