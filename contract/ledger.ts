// Changes: the one way in which anything in the catalogue is changed. Each kind is an entry of the union.

import { z } from 'zod';
import { MARK_COLOURS, MARK_LETTERS } from '@stellin/core/describing/marks';
import { describingChanges } from './describing';
import { dossierChanges } from './dossiers';
import { folderPath, namePattern, renaming } from './filing';
import { job } from './jobs';
import { KEYWORD_SOURCES, keywordDecision } from './keywords';
import { peopleChanges } from './people';
import { queryTextSchema, selection, SORTS } from './photos';
import { id, idParams, route } from './route';
import { searchDefinition, searchFolder } from './search';
import { termChanges } from './termChanges';

export const change = z.discriminatedUnion('kind', [
  ...termChanges,
  ...dossierChanges,
  ...describingChanges,
  ...peopleChanges,
  z.object({ kind: z.literal('setRating'), selection, rating: z.number().int().min(-1).max(5) }),
  z.object({ kind: z.literal('setPrivate'), selection, private: z.boolean() }),
  z.object({
    kind: z.literal('setMark'),
    selection,
    mark: z.string().trim().max(64).describe('Empty takes the mark off'),
  }),
  z.object({
    kind: z.literal('defineMark'),
    markId: id.nullable().describe('Null defines a new one'),
    name: z.string().trim().min(1).max(64),
    letter: z.enum(MARK_LETTERS as [string, ...string[]]),
    colour: z.enum(MARK_COLOURS),
  }),
  z.object({ kind: z.literal('removeMark'), markId: id }),
  z.object({
    kind: z.literal('settleConflicts'),
    selection,
    field: z.string().max(100).optional().describe('Only this field; else all that are in conflict'),
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
  z.object({ kind: z.literal('makeFolder'), driveId: z.uuid(), parent: folderPath, name: z.string().max(255) }),
  z.object({ kind: z.literal('renameFolder'), folderId: id, name: z.string().max(255) }),
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
    note: z.string().max(5000).optional(),
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

/** Changes that only keepers make: to what everybody works with. Cataloguers propose terms instead. */
export const KEEPER_CHANGES: ReadonlySet<ChangeKind> = new Set<ChangeKind>([
  'addTerms',
  'renameTerm',
  'editTerm',
  'swapLabels',
  'moveTerms',
  'mergeTerms',
  'splitTerm',
  'setHeading',
  'deprecateTerm',
  'removeTerm',
  'relateTerms',
  'acceptTerms',
  'refuseTerm',
  'defineVocabulary',
  'removeVocabulary',
  'importTerms',
  'saveFieldSet',
  'removeFieldSet',
  'saveQualityRule',
  'removeQualityRule',
]);

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
    summary: 'Before and after of an entry, for the first 200 photos',
    params: idParams,
    response: z.object({
      photos: z.array(
        z.object({ photoId: z.number(), name: z.string(), what: z.string(), before: z.string(), after: z.string() }),
      ),
    }),
  }),
};
