// Changes: the one way in which anything in the catalogue is changed. Each kind is an entry of the union.

import { z } from 'zod';
import { MARK_COLOURS, MARK_LETTERS } from '@stellin/core/describing/marks';
import { describingChanges } from './describing';
import { dossierChanges } from './dossiers';
import { fixityChanges } from './fixity';
import { folderPath, namePattern, renaming } from './filing';
import { job } from './jobs';
import { KEYWORD_SOURCES, keywordDecision } from './keywords';
import { peopleChanges } from './people';
import { SORTS } from '@stellin/core/search/sorts';
import { queryTextSchema, selection } from './photos';
import { id, idParams, route, type Role, text } from './route';
import { searchDefinition, searchFolder } from './search';
import { termChanges } from './termChanges';

export const change = z.discriminatedUnion('kind', [
  ...termChanges,
  ...dossierChanges,
  ...describingChanges,
  ...peopleChanges,
  ...fixityChanges,
  z.object({ kind: z.literal('setRating'), selection, rating: z.number().int().min(-1).max(5) }),
  z.object({ kind: z.literal('setPrivate'), selection, private: z.boolean() }),
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
  z.object({ kind: z.literal('moveFiles'), selection, driveId: z.uuid(), folder: folderPath }),
  z.object({ kind: z.literal('copyFiles'), selection, driveId: z.uuid(), folder: folderPath }),
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
    kind: z.literal('settleKeywords'),
    source: z.enum(KEYWORD_SOURCES).default('keywords'),
    decisions: z.array(keywordDecision).min(1).max(1000),
    accession: id.optional().describe('Only photos of this taking-in'),
    levels: z.number().int().min(1).max(20).default(1).describe('Of folders: how many, counted from the photo up'),
    remember: z.boolean().default(true).describe('Decide alike for files still to come'),
  }),
  searchDefinition.extend({ kind: z.literal('saveSearch') }),
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

/** Who makes which change, and may take it back: keepers what everybody works with; cataloguers propose terms instead. */
export const CHANGE_ACCESS: Readonly<Record<ChangeKind, Role>> = {
  addTerms: 'keeper',
  renameTerm: 'keeper',
  editTerm: 'keeper',
  swapLabels: 'keeper',
  moveTerms: 'keeper',
  mergeTerms: 'keeper',
  splitTerm: 'keeper',
  setHeading: 'keeper',
  deprecateTerm: 'keeper',
  removeTerm: 'keeper',
  relateTerms: 'keeper',
  acceptTerms: 'keeper',
  refuseTerm: 'keeper',
  defineVocabulary: 'keeper',
  removeVocabulary: 'keeper',
  importTerms: 'keeper',
  saveFieldSet: 'keeper',
  removeFieldSet: 'keeper',
  saveQualityRule: 'keeper',
  removeQualityRule: 'keeper',
  giveTerms: 'cataloguer',
  takeTerms: 'cataloguer',
  proposeTerm: 'cataloguer',
  definePad: 'cataloguer',
  removePad: 'cataloguer',
  makeDossier: 'cataloguer',
  changeDossier: 'cataloguer',
  placeDossier: 'cataloguer',
  copyDossier: 'cataloguer',
  removeDossier: 'cataloguer',
  putInDossier: 'cataloguer',
  takeFromDossier: 'cataloguer',
  arrangeDossier: 'cataloguer',
  setFields: 'cataloguer',
  replaceText: 'cataloguer',
  tidyText: 'cataloguer',
  changeTime: 'cataloguer',
  fillTemplate: 'cataloguer',
  applyTemplate: 'cataloguer',
  saveTemplate: 'cataloguer',
  removeTemplate: 'cataloguer',
  nameFaces: 'cataloguer',
  refuseFaces: 'cataloguer',
  setFaces: 'cataloguer',
  drawFace: 'cataloguer',
  moveFace: 'cataloguer',
  namePhotos: 'cataloguer',
  takePersons: 'cataloguer',
  savePerson: 'cataloguer',
  mergePersons: 'cataloguer',
  splitPerson: 'cataloguer',
  removePerson: 'cataloguer',
  settleNames: 'cataloguer',
  setRating: 'cataloguer',
  setPrivate: 'cataloguer',
  setMark: 'cataloguer',
  defineMark: 'cataloguer',
  removeMark: 'cataloguer',
  settleConflicts: 'cataloguer',
  putCopyBack: 'cataloguer',
  moveFiles: 'cataloguer',
  copyFiles: 'cataloguer',
  renameFiles: 'cataloguer',
  trashFiles: 'cataloguer',
  restoreFiles: 'cataloguer',
  removePhotos: 'cataloguer',
  returnPhotos: 'cataloguer',
  bundlePhotos: 'cataloguer',
  unbundlePhotos: 'cataloguer',
  chooseLead: 'cataloguer',
  tellApart: 'cataloguer',
  openBundles: 'cataloguer',
  closeBundles: 'cataloguer',
  makeFolder: 'cataloguer',
  renameFolder: 'cataloguer',
  settleKeywords: 'cataloguer',
  saveSearch: 'cataloguer',
  changeSearch: 'cataloguer',
  removeSearch: 'cataloguer',
  importSearches: 'cataloguer',
};

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

export const ledgerRoutes = {
  apply: route({
    method: 'POST',
    path: '/api/changes',
    access: 'cataloguer',
    summary: 'Change something',
    body: z.object({ change }),
    response: applied,
  }),
  nextSteps: route({
    method: 'GET',
    path: '/api/changes/next',
    access: 'viewer',
    summary: 'What undo and redo would do for the one who asks',
    response: z.object({ undo: step, redo: step }),
  }),
  undo: route({
    method: 'POST',
    path: '/api/changes/undo',
    access: 'cataloguer',
    summary: 'Take back one’s last change',
    response: applied,
  }),
  redo: route({
    method: 'POST',
    path: '/api/changes/redo',
    access: 'cataloguer',
    summary: 'Repeat the change taken back last',
    response: applied,
  }),
  listEntries: route({
    method: 'GET',
    path: '/api/ledger',
    access: 'viewer',
    summary: 'The ledger, newest first',
    query: z.object({
      before: id.optional(),
      photoId: id.optional(),
      limit: z.coerce.number().int().min(1).max(200).default(50),
    }),
    response: z.object({ entries: z.array(ledgerEntry) }),
  }),
  showEntry: route({
    method: 'GET',
    path: '/api/ledger/:id',
    access: 'viewer',
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
    access: 'cataloguer',
    summary: 'Take back an entry that nothing later built on',
    params: idParams,
    response: applied,
  }),
  repeatEntry: route({
    method: 'POST',
    path: '/api/ledger/:id/redo',
    access: 'cataloguer',
    summary: 'Repeat an entry that was taken back',
    params: idParams,
    response: applied,
  }),
};
