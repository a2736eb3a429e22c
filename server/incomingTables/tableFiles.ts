// The files of tables that came in, in the data folder: named by us, kept until their tables are forgotten.

import { randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, readdir, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { sizeText } from '@stellin/contract/sizeText';
import { StellinError, systemCode } from '../errors';
import { freeBytesOn } from '../files/volume';
import { UnreadableTable } from './reading';

/** A file is at most so large, in bytes. */
const MAX_TABLE_BYTES = 500 * 1024 ** 2;
const FORGOTTEN_MS = 24 * 3_600_000;

export type TableFiles = ReturnType<typeof tableFiles>;

/** `leastFreeBytes` stay free on the disk of the folder. */
export function tableFiles(folder: string, leastFreeBytes: number) {
  const remove = (file: string) => rm(join(folder, file), { force: true });
  return {
    /** Keeps what comes in; gives the name of its file. Throws an UnreadableTable for what is too large. */
    async keep(content: Readable, bytes: number): Promise<string> {
      await mkdir(folder, { recursive: true });
      if ((await freeBytesOn(folder)) - bytes < leastFreeBytes)
        throw new StellinError('noRoom', { drive: 'the disk of the data folder' });
      const file = randomUUID();
      try {
        await pipeline(content, within, createWriteStream(join(folder, file), { flags: 'wx', mode: 0o600 }));
      } catch (error) {
        await remove(file);
        throw error;
      }
      return file;
    },

    /** Where a file is. Refuses one that is no more. */
    async pathOf(file: string): Promise<string> {
      const path = join(folder, file);
      try {
        await stat(path);
      } catch (error) {
        if (systemCode(error) !== 'ENOENT') throw error;
        throw new StellinError('notFound', { what: 'file of this table any more: bring it in once more' });
      }
      return path;
    },

    remove,

    /** Removes files that no table knows of, but for those that are just coming in. */
    async sweep(known: ReadonlySet<string>): Promise<void> {
      await mkdir(folder, { recursive: true });
      for (const file of await readdir(folder)) {
        if (known.has(file)) continue;
        const { mtimeMs } = await stat(join(folder, file));
        if (Date.now() - mtimeMs > FORGOTTEN_MS) await remove(file);
      }
    },
  };
}

/** Passes on what is no larger than a table may be. */
async function* within(content: AsyncIterable<Buffer>): AsyncGenerator<Buffer> {
  let bytes = 0;
  for await (const part of content) {
    bytes += part.length;
    if (bytes > MAX_TABLE_BYTES) throw new UnreadableTable(`it has more than ${sizeText(MAX_TABLE_BYTES)}`);
    yield part;
  }
}
