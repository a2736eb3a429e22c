// A backup as a file: a bag (BagIt, RFC 8493) in a tar archive, with a SHA-256 of everything in it, so that other programs can
// check it and take it apart as well. The manifests come last: a file that was cut off has none and is refused.

import { createHash } from 'node:crypto';
import { once } from 'node:events';
import { createReadStream, createWriteStream } from 'node:fs';
import { open, rename, rm, stat, type FileHandle } from 'node:fs/promises';
import { basename, dirname } from 'node:path';
import { Readable, Transform, type Writable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { extract, pack } from 'tar-stream';
import { manifestDifferences, manifestText, parseManifest } from '@stellin/core/bagit/manifest';
import { messageOf } from '../errors';
import { BAG_DECLARATION, bagInfoText, BAG_MANIFEST } from '../files/bagTags';
import { flushFolder } from '../files/flush';

const TAG_MANIFEST = 'tagmanifest-sha256.txt';
const PAYLOAD = 'data/';
/** Of the small files in it: what is larger is no text of ours. */
const MAX_TEXT_BYTES = 512 * 1024 * 1024;

/** Told how many bytes more have gone by; may reject to give up. */
export type Passed = (bytes: number) => Promise<void>;

export interface BagWriter {
  /**
   * Writes the first file below data/, of which nobody knows the size before it has ended; its header is put in front of it then.
   * Nothing may have been added before.
   */
  begin(name: string, content: (into: Writable) => Promise<void>): Promise<void>;
  /** Adds a file below data/. The bytes are those it has when it is opened. */
  addFile(name: string, path: string, passed: Passed): Promise<void>;
  addText(name: string, text: string): Promise<void>;
  /** Adds the manifests, flushes the file to the drive and gives it its name. Returns its size in bytes. */
  finish(info: Readonly<Record<string, string>>): Promise<number>;
  /** Gives up: nothing is left of it. */
  abandon(): Promise<void>;
}

/** Begins a bag that is going to stand at a path; until it is finished it stands at `part`, in the same folder. */
// One closure for what its functions share; each of them fits a screen.
export async function writeBag(path: string, part: string): Promise<BagWriter> {
  const base = basename(path).replace(/\.tar$/, '');
  const file = await open(part, 'w', 0o600);
  const tar = pack();
  const payload = new Map<string, string>();
  const tags = new Map<string, string>();
  let writing: Promise<void> | undefined;
  /** From where the file is written by entries whose size is known. */
  const write = (start: number): Promise<void> => {
    writing ??= pipeline(tar, streamAt(file, start));
    // Whoever adds to it is told.
    writing.catch(() => undefined);
    return writing;
  };

  const add = async (name: string, size: number, content: Readable, passed?: Passed): Promise<string> => {
    const hash = createHash('sha256');
    const entry = tar.entry({ name: `${base}/${name}`, size, mode: 0o600 });
    await Promise.race([
      pipeline(content, hashing(hash, passed), entry),
      // The disk may be full: then nobody takes what is added.
      write(0).then(() => Promise.reject(new Error('the file was closed too early'))),
    ]);
    return hash.digest('hex');
  };
  const addTag = async (name: string, text: string) => {
    const bytes = Buffer.from(text);
    tags.set(name, await add(name, bytes.length, Readable.from([bytes])));
  };

  return {
    async begin(name, content) {
      const hash = createHash('sha256');
      const counting = hashing(hash);
      let size = 0;
      counting.on('data', (chunk: Buffer) => (size += chunk.length));
      await Promise.all([content(counting), pipeline(counting, streamAt(file, BLOCK_BYTES))]);
      payload.set(`${PAYLOAD}${name}`, hash.digest('hex'));
      await writeAt(file, await headerOf({ name: `${base}/${PAYLOAD}${name}`, size, mode: 0o600 }), 0);
      // The next entry begins at the next block.
      void write(BLOCK_BYTES + Math.ceil(size / BLOCK_BYTES) * BLOCK_BYTES);
    },
    async addFile(name, source, passed) {
      const file = await open(source, 'r');
      try {
        const { size } = await file.stat();
        const content = size === 0 ? Readable.from([]) : file.createReadStream({ end: size - 1, autoClose: false });
        payload.set(`${PAYLOAD}${name}`, await add(`${PAYLOAD}${name}`, size, content, passed));
      } finally {
        await file.close();
      }
    },
    async addText(name, text) {
      const bytes = Buffer.from(text);
      payload.set(`${PAYLOAD}${name}`, await add(`${PAYLOAD}${name}`, bytes.length, Readable.from([bytes])));
    },
    async finish(info) {
      await addTag('bagit.txt', BAG_DECLARATION);
      await addTag('bag-info.txt', bagInfoText(info));
      await addTag(BAG_MANIFEST, manifestText(payload));
      const last = Buffer.from(manifestText(tags));
      await add(TAG_MANIFEST, last.length, Readable.from([last]));
      tar.finalize();
      await write(0);
      await file.sync();
      await file.close();
      const { size } = await stat(part);
      await rename(part, path);
      await flushFolder(dirname(path));
      return size;
    },
    async abandon() {
      tar.destroy();
      await writing?.catch(() => undefined);
      await file.close();
      await rm(part, { force: true });
    },
  };
}

/** Of a tar archive (POSIX.1-1988, ustar): headers and contents begin at multiples of it. */
const BLOCK_BYTES = 512;

/** The header of an entry, as tar-stream writes it. Throws a RangeError where it takes more than a block. */
async function headerOf(entry: { name: string; size: number; mode: number }): Promise<Buffer> {
  const tar = pack();
  const content = tar.entry(entry);
  content.on('error', () => undefined);
  const [bytes] = (await once(tar, 'data')) as [Buffer];
  tar.destroy();
  if (bytes.length !== BLOCK_BYTES) throw new RangeError(`the name ${entry.name} is too long for a backup`);
  return bytes;
}

/** By its number: a stream of the handle itself holds up its closing. */
function streamAt({ fd }: FileHandle, start: number): Writable {
  return createWriteStream('', { fd, start, autoClose: false });
}

async function writeAt(file: FileHandle, bytes: Buffer, position: number): Promise<void> {
  for (let written = 0; written < bytes.length;)
    written += (await file.write(bytes, written, bytes.length - written, position + written)).bytesWritten;
}

/** Reads what is in a bag, in its order; what `each` does not read of an entry goes by. Names are without the folder of the bag. Throws an Error when the file can't be read. */
export async function readBag(
  path: string,
  each: (name: string, content: Readable, size: number) => Promise<void>,
): Promise<void> {
  const entries = extract();
  const feeding = pipeline(createReadStream(path, { highWaterMark: 1024 * 1024 }), entries);
  feeding.catch(() => undefined);
  for await (const entry of entries) {
    const { name, type, size } = entry.header;
    if (type === 'file') await each(name.slice(name.indexOf('/') + 1), entry as unknown as Readable, size ?? 0);
    // What nobody read goes by.
    entry.resume();
  }
  await feeding;
}

/** Reads all of a bag and compares it with its manifests. Returns its small texts by name. Throws an Error that says what is damaged. */
export async function verifyBag(path: string, texts: readonly string[], passed?: Passed): Promise<Map<string, string>> {
  const found = new Map<string, string>();
  const read = new Map<string, string>();
  const kept = new Set([...texts.map((name) => `${PAYLOAD}${name}`), BAG_MANIFEST, TAG_MANIFEST]);
  try {
    await readBag(path, async (name, content, size) => {
      const hash = createHash('sha256');
      const parts: Buffer[] = [];
      if (kept.has(name) && size > MAX_TEXT_BYTES) throw new Error(`${name} is too large`);
      const keep = new Transform({
        transform(chunk: Buffer, _encoding, done) {
          if (kept.has(name)) parts.push(chunk);
          done();
        },
      });
      await pipeline(content, hashing(hash, passed), keep.resume());
      found.set(name, hash.digest('hex'));
      if (kept.has(name)) read.set(name, Buffer.concat(parts).toString('utf8'));
    });
  } catch (error) {
    throw new Error(`${path} is damaged: ${messageOf(error)}`, { cause: error });
  }
  const last = read.get(TAG_MANIFEST);
  if (last === undefined)
    throw new Error(`${path} is cut off, or is no backup of Stellin: its manifests are not there`);
  const problems = [
    ...problemsOf(last, (name) => !name.startsWith(PAYLOAD) && name !== TAG_MANIFEST, found),
    ...problemsOf(read.get(BAG_MANIFEST) ?? '', (name) => name.startsWith(PAYLOAD), found),
  ];
  if (problems.length > 0) throw new Error(`${path} is damaged: ${problems.join('; ')}. Nothing was changed.`);
  return new Map(texts.map((name) => [name, read.get(`${PAYLOAD}${name}`) ?? '']));
}

function problemsOf(text: string, concerns: (name: string) => boolean, found: ReadonlyMap<string, string>): string[] {
  const there = new Map([...found].filter(([name]) => concerns(name)));
  const { changed, missing, unlisted } = manifestDifferences(parseManifest(text), there);
  return [
    ...changed.map((name) => `${name} is not as it was written`),
    ...missing.map((name) => `${name} is missing`),
    ...unlisted.map((name) => `${name} does not belong to it`),
  ];
}

/** Passes bytes on while they are hashed and counted. */
function hashing(hash: ReturnType<typeof createHash>, passed?: Passed): Transform {
  return new Transform({
    transform(chunk: Buffer, _encoding, done) {
      hash.update(chunk);
      if (!passed) return done(null, chunk);
      passed(chunk.length).then(
        () => done(null, chunk),
        (error: unknown) => done(error as Error),
      );
    },
  });
}
