// A ZIP that is made while it is read, a file after the other. What is put in is stored as it is: pictures are packed already.

import { createHash } from 'node:crypto';
import { PassThrough, type Readable } from 'node:stream';
import { finished } from 'node:stream/promises';
import { ZipFile } from 'yazl';
import { streamOf, type FileContent } from '../files/fileContent';

export interface ZipStream {
  output: Readable;
  /** Puts a file in, as quickly as it is read. Throws when nobody reads on. */
  add(path: string, content: FileContent): Promise<void>;
  /** The same; returns its SHA-256, hexadecimal. */
  addHashed(path: string, content: FileContent): Promise<string>;
  finish(): void;
}

/** Begins a ZIP (with ZIP64 where it grows large). `fill` puts everything in; what it throws ends the ZIP with an error. */
export function zipStream(at: Date, fill: (zip: ZipStream) => Promise<void>): Readable {
  const zip = new ZipFile();
  const output = new PassThrough();
  zip.outputStream.pipe(output);
  const ended = finished(output);
  // Whoever adds to it is told.
  ended.catch(() => undefined);
  const add = async (path: string, bytes: Readable) => {
    zip.addReadStream(bytes, path, { compress: false, mtime: at });
    await Promise.race([finished(bytes), ended]);
    if (output.destroyed) throw new Error('nobody reads it any more');
  };
  const made: ZipStream = {
    output,
    add: (path, content) => add(path, streamOf(content)),
    async addHashed(path, content) {
      const hash = createHash('sha256');
      const bytes = streamOf(content);
      bytes.on('data', (chunk: Buffer) => hash.update(chunk)).pause();
      await add(path, bytes);
      return hash.digest('hex');
    },
    finish: () => zip.end(),
  };
  void fill(made)
    .then(() => made.finish())
    .catch((error: unknown) => output.destroy(error as Error));
  return output;
}
