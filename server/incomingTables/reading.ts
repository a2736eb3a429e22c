// Reading the file of a table: how it is written, then its rows some at a time.

import { createReadStream } from 'node:fs';
import { open } from 'node:fs/promises';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import { Readable } from 'node:stream';
import { parse } from 'csv-parse';
import { open as openZip, type ZipFile } from 'yauzl';
import {
  encodingRecogniser,
  recogniseFormat,
  recogniseSeparator,
  SEPARATORS,
  type Encoding,
  type IncomingFormat,
  type Separator,
} from '@stellin/core/incomingTables/recognising';
import { MAX_INCOMING_COLUMNS, MAX_INCOMING_ROWS, type IncomingReading } from '@stellin/contract/incomingTables';
import { numberText } from '@stellin/contract/wording';
import { messageOf } from '../errors';
import { ROOT } from '../root';
import { threadPool } from '../threads/pool';

export interface Written {
  format: IncomingFormat;
  encoding: Encoding;
  separator: Separator;
}

/** The rows of a table in parts; the first of them is the head. */
export type Rows = AsyncGenerator<string[][]>;

/** Says why a file can’t be read as a table. */
export class UnreadableTable extends Error {}

export type TableReader = ReturnType<typeof tableReader>;

const LOOKED_AT_BYTES = 256 * 1024;
const ROWS_PER_PART = 2000;
const MAX_CELL = 100_000;
/** A spreadsheet is held in memory; this is what it may hold unpacked. */
const MAX_XLSX_BYTES = 300 * 1024 ** 2;

export function tableReader() {
  const sheets = threadPool(join(ROOT, 'server', 'incomingTables', 'spreadsheet.worker.ts'), {
    maxThreads: 1,
    idleTimeout: 10_000,
    resourceLimits: { maxOldGenerationSizeMb: 2048 },
  });

  const readers: Record<IncomingFormat, (path: string, written: Written) => Rows> = {
    text: textRows,
    jsonl: objectRows,
    async *xlsx(path) {
      await requireModest(path);
      const rows = await sheets.run<string[][]>('read', path);
      for (let at = 0; at < rows.length; at += ROWS_PER_PART) yield rows.slice(at, at + ROWS_PER_PART);
    },
  };

  return {
    /** How a file is written; `told` goes before what it looks like. */
    async recognise(path: string, told: IncomingReading): Promise<Written> {
      const beginning = await beginningOf(path);
      const format = recogniseFormat(beginning);
      if (format === 'xlsx') return { format, encoding: 'utf-8', separator: 'comma' };
      const encoding = told.encoding ?? (await encodingOf(path));
      const text = new TextDecoder(encoding).decode(beginning);
      return { format, encoding, separator: told.separator ?? recogniseSeparator(text) };
    },

    /** The rows of a file. Throws an UnreadableTable. */
    async *rows(path: string, written: Written): Rows {
      let count = 0;
      try {
        for await (const rows of readers[written.format](path, written)) {
          count += rows.length;
          requireWithin(rows, count);
          yield rows;
        }
      } catch (error) {
        throw new UnreadableTable(messageOf(error), { cause: error });
      }
      if (count < 2) throw new UnreadableTable('it has no rows below its header');
    },

    close: () => sheets.close(),
  };
}

function requireWithin(rows: readonly string[][], count: number): void {
  const problem =
    count > MAX_INCOMING_ROWS + 1
      ? `it has more than ${numberText(MAX_INCOMING_ROWS)} rows`
      : rows.some((row) => row.length > MAX_INCOMING_COLUMNS)
        ? `it has more than ${MAX_INCOMING_COLUMNS} columns: is the separator right?`
        : rows.some((row) => row.some((cell) => cell.length > MAX_CELL))
          ? `a cell has more than ${numberText(MAX_CELL)} characters: is the separator right?`
          : undefined;
  if (problem) throw new Error(problem);
}

async function beginningOf(path: string): Promise<Uint8Array> {
  const file = await open(path);
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(LOOKED_AT_BYTES), 0, LOOKED_AT_BYTES, 0);
    return buffer.subarray(0, bytesRead);
  } finally {
    await file.close();
  }
}

async function encodingOf(path: string): Promise<Encoding> {
  const { look, end } = encodingRecogniser();
  for await (const part of createReadStream(path)) look(part as Buffer);
  return end();
}

/** The text of a file; what is no character in its encoding becomes U+FFFD. */
async function* decoded(path: string, encoding: Encoding): AsyncGenerator<string> {
  const decoder = new TextDecoder(encoding);
  for await (const part of createReadStream(path)) yield decoder.decode(part as Buffer, { stream: true });
  yield decoder.decode();
}

async function* textRows(path: string, { encoding, separator }: Written): Rows {
  const parser = Readable.from(decoded(path, encoding)).pipe(
    parse({
      delimiter: SEPARATORS[separator].character,
      // Tables from elsewhere are not always after the book.
      relax_column_count: true,
      relax_quotes: true,
      skip_empty_lines: true,
      max_record_size: MAX_CELL * 20,
    }),
  );
  let part: string[][] = [];
  for await (const row of parser) {
    part.push(row as string[]);
    if (part.length < ROWS_PER_PART) continue;
    yield part;
    part = [];
  }
  yield part;
}

/** Objects, one a line: the head has all names that are in any of them. */
async function* objectRows(path: string, { encoding }: Written): Rows {
  const names = new Set<string>();
  for await (const { object } of objects(path, encoding)) {
    for (const name of Object.keys(object)) names.add(name);
    if (names.size > MAX_INCOMING_COLUMNS) break;
  }
  const head = [...names];
  let part: string[][] = [head];
  for await (const { object } of objects(path, encoding)) {
    part.push(head.map((name) => valueText(object[name])));
    if (part.length < ROWS_PER_PART) continue;
    yield part;
    part = [];
  }
  yield part;
}

async function* objects(
  path: string,
  encoding: Encoding,
): AsyncGenerator<{ object: Record<string, unknown>; line: number }> {
  let line = 0;
  for await (const text of createInterface({ input: Readable.from(decoded(path, encoding)), crlfDelay: Infinity })) {
    line++;
    if (text.trim() === '') continue;
    yield { object: parsedObject(text, line), line };
  }
}

function parsedObject(text: string, line: number): Record<string, unknown> {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    value = undefined;
  }
  if (typeof value !== 'object' || value === null || Array.isArray(value))
    throw new Error(`line ${numberText(line)} is no JSON object`);
  return value as Record<string, unknown>;
}

/** A value as one cell; lists as our own tables have them. */
function valueText(value: unknown): string {
  if (value === null || value === undefined) return '';
  if (Array.isArray(value)) return value.map(valueText).join('; ');
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  return typeof value === 'string' || typeof value === 'number' ? String(value) : JSON.stringify(value);
}

/** Refuses a spreadsheet that would fill the memory: a small ZIP file can say a lot. */
async function requireModest(path: string): Promise<void> {
  const zip = await new Promise<ZipFile>((resolve, reject) =>
    openZip(path, { lazyEntries: true }, (error, opened) => (error ? reject(error) : resolve(opened))),
  );
  try {
    let bytes = 0;
    await new Promise<void>((resolve, reject) => {
      zip.on('error', reject);
      zip.on('end', resolve);
      zip.on('entry', ({ uncompressedSize }: { uncompressedSize: number }) => {
        bytes += uncompressedSize;
        zip.readEntry();
      });
      zip.readEntry();
    });
    if (bytes > MAX_XLSX_BYTES) throw new Error('it is too large; save it as CSV');
  } finally {
    zip.close();
  }
}
