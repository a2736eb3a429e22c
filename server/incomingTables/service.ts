// Tables that come in: kept with their rows, matched with photos, looked at before they are taken in.

import { Readable } from 'node:stream';
import type { OwnField } from '@stellin/core/describing/ownFields';
import { cellProblem, isChecked, LIST_MARKS, type Reading } from '@stellin/core/incomingTables/cells';
import { wordReader, type WordReader } from '@stellin/core/incomingTables/terms';
import { proposedUses, type ColumnUse } from '@stellin/core/incomingTables/uses';
import type { FieldEdit } from '@stellin/core/describing/editing';
import { csvLines } from '@stellin/core/text/csv';
import { foldText } from '@stellin/core/text/words';
import {
  columnUse,
  incomingSettings,
  type IncomingChange,
  type IncomingReading,
  type IncomingSettings,
  type IncomingTable,
  type IncomingWord,
  type RowState,
} from '@stellin/contract/incomingTables';
import { countText } from '@stellin/contract/wording';
import { reachOf, type Person } from '../catalogue/viewer';
import type { VocabularyIndex } from '../catalogue/vocabularySnapshot';
import type { Database, Transaction } from '../database/database';
import { otherChanges, type Describing, type Has } from '../describing/service';
import { StellinError } from '../errors';
import { UnreadableTable, type TableReader, type Written } from './reading';
import { photosSay, type PhotoSays } from './says';
import * as store from './store';
import type { TableFiles } from './tableFiles';

export type IncomingTables = ReturnType<typeof incomingTableService>;

const SAMPLES = 4;
const KEPT_DAYS = 90;

interface Parts {
  database: Database;
  describing: Pick<Describing, 'ownFields' | 'previewEach' | 'whatPhotosHave'>;
  terms: VocabularyIndex;
  reader: TableReader;
  files: TableFiles;
}

export function incomingTableService({ database, describing, terms, reader, files }: Parts) {
  // One closure for what its functions share; each of them fits a screen.

  const required = async (tableId: number, { accountId }: Person, tx?: Transaction): Promise<store.TableRow> => {
    const row = await store.findTable(database, tableId, accountId, tx);
    if (!row) throw new StellinError('notFound', { what: 'such table (it may have been removed meanwhile)' });
    return { ...row, settings: incomingSettings.parse(row.settings) };
  };

  const readingOf = (settings: IncomingSettings, own: readonly OwnField[]): Reading => ({
    listMark: settings.listMark,
    emptyClears: settings.emptyClears,
    own: new Map(own.map((field) => [field.name, field])),
  });

  const wordsFor = async ({ words }: IncomingSettings, tx?: Transaction): Promise<WordReader> => {
    const { tree, matcher } = await (tx ? terms.seenIn(tx) : terms.current());
    return wordReader(tree.all(), matcher(), words);
  };

  /** Finds the photos of the rows, and what of these can’t be taken. */
  const look = async (tableId: number, settings: IncomingSettings, person: Person, tx: Transaction): Promise<void> => {
    const reading = readingOf(settings, await describing.ownFields(tx));
    await store.matchRows(database, tableId, settings.uses, sightsOf(person), tx);
    await store.forgetProblems(database, tableId, tx);
    for (const [column, use] of settings.uses.entries()) {
      if (!hasProblems(use, reading)) continue;
      for await (const texts of store.valuesOf(database, tableId, column, tx)) {
        const problems = texts.flatMap((text) => {
          const problem = cellProblem(text, use, reading);
          return problem === undefined ? [] : [{ text, problem }];
        });
        await store.noteProblems(database, tableId, column, problems, tx);
      }
    }
  };

  /** Reads the rows of a file; gives the head. */
  const readRows = async (
    tableId: number,
    path: string,
    written: Written,
    tx: Transaction,
  ): Promise<{ headers: string[]; rows: number }> => {
    let headers: string[] | undefined;
    let rows = 0;
    await store.removeRows(database, tableId, tx);
    for await (const part of reader.rows(path, written)) {
      const body = headers === undefined ? part.slice(1) : part;
      headers ??= headersOf(part[0] ?? []);
      const width = headers.length;
      const numbered = body
        .filter((cells) => cells.some((cell) => cell.trim() !== ''))
        .map((cells) => ({ position: ++rows, cells: Array.from({ length: width }, (_, i) => clean(cells[i] ?? '')) }));
      if (numbered.length > 0) await store.addRows(database, tableId, numbered, tx);
    }
    if (!headers || headers.length === 0 || rows === 0) throw new UnreadableTable('it has no rows below its header');
    return { headers, rows };
  };

  const proposed = async (
    tableId: number,
    headers: string[],
    person: Person,
    tx: Transaction,
  ): Promise<ColumnUse[]> => {
    const samples = await store.samplesOf(database, tableId, headers.length, SAMPLES * 10, tx);
    const before = (await store.usesBefore(database, person.accountId, tx)).flatMap(({ header, use }) => {
      const { data } = columnUse.safeParse(use);
      return data ? [[foldText(header), data] as const] : [];
    });
    return proposedUses(headers, samples, new Map(before));
  };

  const show = async (tableId: number, person: Person): Promise<IncomingTable> => {
    const row = await required(tableId, person);
    const [samples, { counts, photos }] = await Promise.all([
      store.samplesOf(database, tableId, row.headers.length, SAMPLES),
      store.countStates(database, tableId),
    ]);
    const { id, name, at, rows, settings } = row;
    return {
      ...{ id, name, at, rows, settings, counts, photos },
      ...writtenOf(row),
      columns: row.headers.map((header, i) => ({ header, samples: samples[i] ?? [] })),
      taken: takenOf(row),
    };
  };

  /** What rows say of some photos. */
  const saysOf = async (
    table: Pick<store.TableRow, 'id' | 'settings'>,
    photoIds: readonly number[],
    { reading, words }: { reading: Reading; words: WordReader },
    tx?: Transaction,
  ): Promise<{ says: Map<number, PhotoSays>; has: Has[] }> => {
    const [rows, has] = await Promise.all([
      store.rowsAbout(database, table.id, photoIds, tx),
      describing.whatPhotosHave(photoIds, tx),
    ]);
    return { says: photosSay(rows, has, { uses: table.settings.uses, reading, words }), has };
  };

  return {
    async list({ accountId }: Person) {
      return (await store.listTables(database, accountId)).map((row) => {
        const { id, name, at, rows } = row;
        return { id, name, at, rows, taken: takenOf(row) };
      });
    },

    show,

    /** Keeps a file that comes in, reads it, and proposes what its columns are for. Gives the number of the table. */
    async add(name: string, content: Readable, bytes: number, person: Person): Promise<number> {
      await forgetOld();
      const file = await files.keep(content, bytes).catch((error: unknown) => {
        throw unreadable(name, error);
      });
      try {
        const path = await files.pathOf(file);
        const written = await reader.recognise(path, {});
        return await database.transaction(async (tx) => {
          const settings = incomingSettings.parse({ uses: [] });
          const { accountId } = person;
          const id = await store.keepTable(database, { name, file, accountId, ...written, headers: [], settings }, tx);
          const read = await readRows(id, path, written, tx);
          const uses = await proposed(id, read.headers, person, tx);
          await store.changeTable(database, id, { ...read, settings: { ...settings, uses } }, tx);
          await look(id, { ...settings, uses }, person, tx);
          return id;
        });
      } catch (error) {
        await files.remove(file);
        throw unreadable(name, error);
      }
    },

    /** Reads the file once more in another way. */
    async readAgain(tableId: number, told: IncomingReading, person: Person): Promise<IncomingTable> {
      const { file, headers: before, ...table } = await required(tableId, person);
      const path = await files.pathOf(file);
      const written = await reader.recognise(path, { ...writtenOf(table), ...told });
      await database.transaction(async (tx) => {
        await store.lockTable(database, tableId, tx);
        const read = await readRows(tableId, path, written, tx).catch((error: unknown) => {
          throw unreadable(table.name, error);
        });
        const isSame = JSON.stringify(read.headers) === JSON.stringify(before);
        const uses = isSame ? table.settings.uses : await proposed(tableId, read.headers, person, tx);
        const settings = { ...table.settings, uses };
        await store.changeTable(database, tableId, { ...read, ...written, settings }, tx);
        await look(tableId, settings, person, tx);
      });
      return show(tableId, person);
    },

    /** Says what the columns are for. */
    async use(tableId: number, settings: IncomingSettings, person: Person): Promise<IncomingTable> {
      await database.transaction(async (tx) => {
        await store.lockTable(database, tableId, tx);
        const { headers } = await required(tableId, person, tx);
        if (settings.uses.length !== headers.length)
          throw new StellinError('badRequest', { problem: `the table has ${countText(headers.length, 'column')}` });
        await store.changeTable(database, tableId, { settings }, tx);
        await look(tableId, settings, person, tx);
      });
      return show(tableId, person);
    },

    async rows(tableId: number, asked: { state: RowState; offset: number; limit: number }, person: Person) {
      await required(tableId, person);
      const [rows, { counts }] = await Promise.all([
        store.rowsOf(database, tableId, asked),
        store.countStates(database, tableId),
      ]);
      return {
        rows: rows.map(({ position, cells, photos, problem }) => ({ position, cells, photos, problem })),
        total: counts[asked.state],
      };
    },

    /** Words of columns of terms that mean none without doubt, each with the term it may mean. */
    async words(tableId: number, { offset, limit }: { offset: number; limit: number }, person: Person) {
      const { settings } = await required(tableId, person);
      const columns = settings.uses.flatMap(({ to }, i) => (to === 'terms' ? [i] : []));
      const reader = await wordsFor(settings);
      const { tree } = await terms.current();
      const found = new Map<string, { word: string; written: string; rows: number }>();
      for (const { word: written, rows } of await store.wordsOf(
        database,
        tableId,
        columns,
        LIST_MARKS[settings.listMark].character,
      )) {
        if (reader.termOf(written) !== undefined) continue;
        const word = foldText(written);
        const known = found.get(word);
        found.set(word, { word, written: known?.written ?? written, rows: rows + (known?.rows ?? 0) });
      }
      const page = [...found.values()].slice(offset, offset + limit).map((each): IncomingWord => {
        const like = reader.propose(each.written);
        const path = like ? tree.path(like.termId).map(({ label }) => label) : [];
        const label = path.pop();
        return { ...each, proposal: like && label !== undefined ? { id: like.termId, label, path } : null };
      });
      return { words: page, total: found.size };
    },

    /** Before and after of photos that rows are about. */
    async preview(tableId: number, page: { offset: number; limit: number }, person: Person) {
      const table = await required(tableId, person);
      const { photos, total } = await store.photosOf(database, tableId, sightsOf(person), page);
      const about = {
        reading: readingOf(table.settings, await describing.ownFields()),
        words: await wordsFor(table.settings),
      };
      const ids = photos.map(({ id }) => id);
      const { says, has } = await saysOf(table, ids, about);
      const fields = await describing.previewEach(editsOf(says), person);
      const { tree } = await terms.current();
      const labels = (termIds: readonly number[]) => termIds.flatMap((id) => tree.get(id)?.label ?? []);
      const before = new Map(has.map((each) => [each.id, each]));
      return {
        total,
        photos: photos.map(({ id, name, previewVersion }): IncomingChange => ({
          ...{ photoId: id, name, previewVersion },
          fields: [...(fields.get(id) ?? []), ...otherChanges(says.get(id), before.get(id), labels)],
        })),
      };
    },

    /** The rows that were not taken in, or not wholly, as CSV with what is the matter with each. */
    async rest(tableId: number, person: Person): Promise<{ name: string; content: Readable }> {
      const { name, headers } = await required(tableId, person);
      const rows = store.rest(database, tableId);
      // Programs tell from the first character (U+FEFF) that the text is UTF-8.
      async function* lines(): AsyncGenerator<string> {
        yield `\uFEFF${csvLines([[...headers, 'What is the matter']])}`;
        for await (const part of rows) yield csvLines(part.map((row) => [...row.cells, matterOf(row)]));
      }
      return {
        name: `${name.replace(/\.\w{1,5}$/, '')} rest.csv`,
        content: Readable.from(lines(), { objectMode: false }),
      };
    },

    async remove(tableId: number, person: Person): Promise<void> {
      const { file } = await required(tableId, person);
      await store.removeTable(database, tableId);
      await files.remove(file);
    },

    /** How many photos rows of a table are about. */
    async countPhotos(tableId: number): Promise<number> {
      return (await store.countStates(database, tableId)).photos;
    },

    /** For the change: looks once more for the photos, then gives what rows say of some of them. */
    async settled(tableId: number, person: Person, tx: Transaction) {
      await store.lockTable(database, tableId, tx);
      const table = await required(tableId, person, tx);
      await look(tableId, table.settings, person, tx);
      const about = {
        reading: readingOf(table.settings, await describing.ownFields(tx)),
        words: await wordsFor(table.settings, tx),
      };
      return {
        photos: store.photosSql(tableId),
        saysOf: async (photoIds: readonly number[]) => (await saysOf(table, photoIds, about, tx)).says,
      };
    },
  };

  /** Forgets tables of long ago, and files that no table knows of. */
  async function forgetOld(): Promise<void> {
    for (const { file } of await store.removeOlder(database, KEPT_DAYS)) await files.remove(file);
    await files.sweep(new Set((await store.listFiles(database)).map(({ file }) => file)));
  }
}

/** The error that says which file can’t be read as a table; others stay as they are. */
function unreadable(file: string, error: unknown): unknown {
  return error instanceof UnreadableTable ? new StellinError('unreadableTable', { file, why: error.message }) : error;
}

/** What rows can be about: what somebody sees, and may describe. */
function sightsOf(person: Person) {
  return [person.sight, reachOf(person, 'describe')];
}

/** The edits of fields among what is said of photos. */
export function editsOf(says: ReadonlyMap<number, PhotoSays>): Map<number, readonly FieldEdit[]> {
  return new Map([...says.values()].map(({ photoId, edits }) => [photoId, edits]));
}

function writtenOf({
  format,
  encoding,
  separator,
}: Pick<store.TableRow, 'format' | 'encoding' | 'separator'>): Written {
  // Only what the reader gave was ever kept.
  return { format, encoding, separator } as Written;
}

function takenOf({ takenAt, takenTitle, undone }: store.TableRow): IncomingTable['taken'] {
  return takenAt === null ? null : { at: takenAt, title: takenTitle ?? '', undone: undone ?? false };
}

/** Whether there are values that a column can’t take. */
function hasProblems(use: ColumnUse, { own }: Reading): boolean {
  return use.to === 'rating' || (use.to === 'field' && isChecked(use.target, own));
}

/** The names of columns: empty ones are called by their place, of several alike the later ones get a number. */
function headersOf(cells: readonly string[]): string[] {
  const seen = new Map<string, number>();
  return cells.map((cell, i) => {
    const name = clean(cell).trim().slice(0, 200) || `Column ${i + 1}`;
    const count = (seen.get(name) ?? 0) + 1;
    seen.set(name, count);
    return count === 1 ? name : `${name} (${count})`;
  });
}

/** PostgreSQL has no text with a zero character, and halves of characters are none. */
function clean(cell: string): string {
  return cell.replaceAll('\0', '').toWellFormed();
}

function matterOf({ photos, photoId, problem }: store.RowFound): string {
  if (photos === 0 || (photos === 1 && photoId === null)) return 'No photo is meant';
  if (photos > 1) return `${countText(photos, 'photo')} are meant`;
  return problem ?? '';
}
