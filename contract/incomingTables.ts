// Tables that come in: their rows are matched with photos, their columns say what is to be said of these.

import { z } from 'zod';
import { DATE_ORDER_IDS } from '@stellin/core/incomingTables/dates';
import { LIST_MARK_IDS } from '@stellin/core/incomingTables/cells';
import { ENCODING_IDS, INCOMING_FORMAT_IDS, SEPARATOR_IDS } from '@stellin/core/incomingTables/recognising';
import { WORD_DECISIONS } from '@stellin/core/incomingTables/terms';
import { isFillable, KEY_IDS } from '@stellin/core/incomingTables/uses';
import { EDIT_MODES } from '@stellin/core/describing/editing';
import { changedField, target } from './describing';
import { chosenId, done, id, idParams, isoTime, route, rowCount, text } from './route';
import { termName } from './termName';

export const MAX_INCOMING_COLUMNS = 500;
export const MAX_INCOMING_ROWS = 1_000_000;

const fillable = target.refine(isFillable, 'a structure can’t stand in a cell');
const mode = z.enum(EDIT_MODES);

export const columnUse = z.discriminatedUnion('to', [
  z.object({ to: z.literal('nothing') }),
  z.object({ to: z.literal('key'), key: z.enum(KEY_IDS) }),
  z.object({ to: z.literal('keyField'), target: fillable }),
  z.object({
    to: z.literal('field'),
    target: fillable,
    mode,
    language: text.max(35).describe('Of texts by language; empty: the default one'),
    dates: z.enum(DATE_ORDER_IDS).describe('Of dates: how they are written'),
  }),
  z.object({ to: z.literal('terms'), mode }),
  z.object({ to: z.literal('rating') }),
  z.object({ to: z.literal('mark') }),
]);

export const wordDecision = z.object({
  word: text.max(1000).describe('In small letters, without accents'),
  decision: z.enum(WORD_DECISIONS).describe('A term; kept as a keyword that waits to be settled; or left out'),
  termId: chosenId.nullable(),
});

/** How the rows of a table are read. */
export const incomingSettings = z.object({
  uses: z.array(columnUse).max(MAX_INCOMING_COLUMNS).describe('What each column is for'),
  listMark: z.enum(LIST_MARK_IDS).default('semicolon').describe('What several values in a cell are separated by'),
  emptyClears: z.boolean().default(false).describe('Empty cells take out what is said'),
  words: z.array(wordDecision).max(10_000).default([]).describe('What becomes of words that are no terms'),
});
export type IncomingSettings = z.infer<typeof incomingSettings>;

/** How a file is read; what is not said is told from the file. */
export const incomingReading = z.object({
  encoding: z.enum(ENCODING_IDS).optional(),
  separator: z.enum(SEPARATOR_IDS).optional(),
});
export type IncomingReading = z.infer<typeof incomingReading>;

/** What may be the matter with a row. */
export const ROW_STATES = ['found', 'none', 'several', 'again', 'partly'] as const;
export type RowState = (typeof ROW_STATES)[number];

export const incomingTable = z.object({
  id: z.number(),
  name: z.string(),
  at: isoTime,
  format: z.enum(INCOMING_FORMAT_IDS),
  encoding: z.enum(ENCODING_IDS),
  separator: z.enum(SEPARATOR_IDS),
  rows: z.number(),
  columns: z.array(z.object({ header: z.string(), samples: z.array(z.string()).describe('Some of its values') })),
  settings: incomingSettings,
  counts: z
    .record(z.enum(ROW_STATES), z.number())
    .describe(
      'found: rows that are about one photo; none, several: about none or more than one; again: about the photo of another row; partly: with values that can’t be taken',
    ),
  photos: z.number().describe('That rows are about'),
  taken: z.object({ at: isoTime, title: z.string(), undone: z.boolean() }).nullable().describe('When it was taken in'),
});
export type IncomingTable = z.infer<typeof incomingTable>;

export const incomingRow = z.object({
  position: z.number().describe('From 1, as rows below the header'),
  cells: z.array(z.string()),
  photos: z.number().describe('How many it may be about'),
  problem: z.string().nullable().describe('What of it can’t be taken'),
});
export type IncomingRow = z.infer<typeof incomingRow>;

export const incomingWord = z.object({
  word: z.string().describe('As it is decided on'),
  written: z.string().describe('As it stands in the table'),
  rows: z.number(),
  proposal: termName.nullable().describe('The term that it may mean'),
});
export type IncomingWord = z.infer<typeof incomingWord>;

export const incomingChange = z.object({
  photoId: z.number(),
  name: z.string(),
  previewVersion: z.number(),
  fields: z.array(changedField),
});
export type IncomingChange = z.infer<typeof incomingChange>;

/** The change of this subject. */
export const incomingTableChanges = [
  z.object({
    kind: z.literal('takeTable'),
    tableId: id,
    name: text.max(300).describe('Of its file, as people call it'),
  }),
] as const;

const ROWS_PER_PAGE = rowCount.max(500).default(100);
const page = z.object({ offset: rowCount.default(0), limit: ROWS_PER_PAGE });

export const incomingTableRoutes = {
  listIncomingTables: route({
    method: 'GET',
    path: '/api/incoming-tables',
    access: 'describe',
    shows: 'seen',
    summary: 'The tables that one has brought in, the latest first',
    response: z.object({
      tables: z.array(incomingTable.pick({ id: true, name: true, at: true, rows: true, taken: true })),
    }),
  }),
  showIncomingTable: route({
    method: 'GET',
    path: '/api/incoming-tables/:id',
    access: 'describe',
    shows: 'seen',
    summary: 'A table that one has brought in, matched with photos',
    params: idParams,
    response: incomingTable,
  }),
  readTableAgain: route({
    method: 'POST',
    path: '/api/incoming-tables/:id/reading',
    access: 'describe',
    shows: 'seen',
    summary: 'Read the file of a table once more, in another way',
    params: idParams,
    body: incomingReading,
    response: incomingTable,
  }),
  useIncomingTable: route({
    method: 'POST',
    path: '/api/incoming-tables/:id/settings',
    access: 'describe',
    shows: 'seen',
    summary: 'Say what the columns of a table are for',
    params: idParams,
    body: incomingSettings,
    response: incomingTable,
  }),
  listIncomingRows: route({
    method: 'GET',
    path: '/api/incoming-tables/:id/rows',
    access: 'describe',
    shows: 'seen',
    summary: 'Rows of a table, by what is the matter with them',
    params: idParams,
    query: page.extend({ state: z.enum(ROW_STATES) }),
    response: z.object({ rows: z.array(incomingRow), total: z.number() }),
  }),
  listIncomingWords: route({
    method: 'GET',
    path: '/api/incoming-tables/:id/words',
    access: 'describe',
    shows: 'seen',
    summary: 'Words of a table that are no terms, the most frequent first',
    params: idParams,
    query: page,
    response: z.object({ words: z.array(incomingWord), total: z.number() }),
  }),
  previewIncomingTable: route({
    method: 'GET',
    path: '/api/incoming-tables/:id/preview',
    access: 'describe',
    shows: 'seen',
    summary: 'Before and after of the photos of a table',
    params: idParams,
    query: page,
    response: z.object({ photos: z.array(incomingChange), total: z.number().describe('Photos that rows are about') }),
  }),
  removeIncomingTable: route({
    method: 'DELETE',
    path: '/api/incoming-tables/:id',
    access: 'describe',
    shows: 'seen',
    summary: 'Forget a table; what was taken in from it stays',
    params: idParams,
    response: done,
  }),
};

/** Where a file is brought in as a table: its content is the body, the answer says its number. */
export const incomingFilePath = (name: string): string => `/api/incoming-tables/files/${encodeURIComponent(name)}`;
export const incomingFileAnswer = z.object({ id: z.number() });

/** Where the rows that were not taken in, or not wholly, are downloaded as a table. */
export const incomingRestPath = (tableId: number): string => `/api/incoming-tables/${tableId}/rest.csv`;
