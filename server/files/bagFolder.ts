// A bag (BagIt, RFC 8493) as a folder: what is written into it is hashed on the way, and the folder gets its name when all of it is
// flushed to the drive. And the check of one, by whatever program it was made.

import { execFile } from 'node:child_process';
import { createHash } from 'node:crypto';
import { createReadStream, createWriteStream, existsSync } from 'node:fs';
import { mkdir, open, readdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { promisify } from 'node:util';
import { manifestText, parseManifest } from '@stellin/core/bagit/manifest';
import { systemCode } from '../errors';
import { BAG_MANIFEST, writeBagTags } from './bagTags';
import { sha256OnDrive } from './fileHashes';
import { problemOf } from './problem';
import { flushFolder } from './flush';

const PAYLOAD = 'data';
const run = promisify(execFile);

export interface BagFolder {
  /** Writes a file below data/, from its bytes or lines as they come. */
  add(name: string, content: string | Uint8Array | AsyncIterable<string>): Promise<void>;
  /** Copies a file to below data/. */
  addFile(name: string, source: string): Promise<void>;
  /** Writes the manifests, flushes all of it to the drive and gives the folder its name. */
  finish(info: Readonly<Record<string, string>>): Promise<void>;
  /** Gives up: nothing is left of it. */
  abandon(): Promise<void>;
}

/** Begins a bag as a folder, which must not be there or be empty. */
export async function writeBagFolder(folder: string): Promise<BagFolder> {
  if (existsSync(folder) && (await readdir(folder)).length > 0)
    throw new Error(`${folder} is not empty. Name a folder that is not there yet. Nothing was changed.`);
  const part = join(dirname(folder), `.${basename(folder)}.part`);
  await rm(part, { recursive: true, force: true });
  await mkdir(join(part, PAYLOAD), { recursive: true, mode: 0o700 });
  const manifest = await open(join(part, BAG_MANIFEST), 'wx', 0o600);
  const folders = new Set<string>();
  const place = async (name: string): Promise<string> => {
    const path = join(part, PAYLOAD, name);
    if (!folders.has(dirname(path))) await mkdir(dirname(path), { recursive: true, mode: 0o700 });
    folders.add(dirname(path));
    return path;
  };
  const note = (name: string, sha256: string) =>
    manifest.appendFile(manifestText(new Map([[`${PAYLOAD}/${name}`, sha256]])));
  return {
    async add(name, content) {
      const path = await place(name);
      const hash = createHash('sha256');
      if (typeof content === 'string' || content instanceof Uint8Array) {
        hash.update(content);
        await writeFile(path, content, { flag: 'wx', mode: 0o600 });
      } else {
        await pipeline(
          content,
          async function* (lines: AsyncIterable<string>) {
            for await (const line of lines) {
              hash.update(line);
              yield line;
            }
          },
          createWriteStream(path, { flags: 'wx', mode: 0o600 }),
        );
      }
      await note(name, hash.digest('hex'));
    },
    async addFile(name, source) {
      const path = await place(name);
      const hash = createHash('sha256');
      await pipeline(
        createReadStream(source),
        async function* (chunks: AsyncIterable<Buffer>) {
          for await (const chunk of chunks) {
            hash.update(chunk);
            yield chunk;
          }
        },
        createWriteStream(path, { flags: 'wx', mode: 0o600 }),
      );
      await note(name, hash.digest('hex'));
    },
    async finish(info) {
      await manifest.close();
      await writeBagTags(part, info);
      // Of very many small files all at once: each by itself would take hours.
      await run('sync', ['-f', part]);
      await rm(folder, { recursive: true, force: true });
      await rename(part, folder);
      await flushFolder(dirname(folder));
    },
    async abandon() {
      await manifest.close().catch(() => undefined);
      await rm(part, { recursive: true, force: true });
    },
  };
}

export interface BagCheck {
  files: number;
  /** Sentences, one a file that is not as the manifests say. */
  problems: string[];
}

/** The text of a manifest: a file, or that of SHA-256 in the folder of a bag. Throws an Error where there is none. */
export async function readManifest(path: string): Promise<string> {
  const isFolder = (await stat(path)).isDirectory();
  const file = isFolder ? join(path, BAG_MANIFEST) : path;
  if (isFolder && !existsSync(file)) throw new Error(`${path} has no ${BAG_MANIFEST}`);
  return readFile(file, 'utf8');
}

/** Algorithms that bags are made with, and what we call them; the strongest first. */
const ALGORITHMS = ['sha512', 'sha256', 'sha1', 'md5'] as const;

/**
 * Reads all files of a bag as the drive holds them, and compares them with its manifest. Throws an Error when it is no bag, or has
 * no manifest that can be read.
 */
export async function checkBagFolder(
  folder: string,
  progress: (done: number, total: number, path: string) => Promise<void> | void = () => undefined,
): Promise<BagCheck> {
  const declared = await readFile(join(folder, 'bagit.txt'), 'utf8').catch(() => '');
  if (!/^BagIt-Version:\s*\d/m.test(declared)) throw new Error(`${folder} is no bag: it has no bagit.txt`);
  const algorithm = ALGORITHMS.find((name) => existsSync(join(folder, `manifest-${name}.txt`)));
  if (algorithm === undefined) throw new Error(`${folder} is no whole bag: it has no manifest that is known here`);
  const problems: string[] = [];
  const check = async (manifestName: string) => {
    const manifest = parseManifest(await readFile(join(folder, manifestName), 'utf8'));
    let done = 0;
    for (const [path, checksum] of manifest) {
      if (path.split('/').includes('..') || path.startsWith('/'))
        throw new Error(`${manifestName} names a file outside the bag: ${path}`);
      const problem = await problemWith(join(folder, path), algorithm, checksum);
      if (problem) problems.push(`${path} ${problem}`);
      done += 1;
      await progress(done, manifest.size, path);
    }
    return manifest.size;
  };
  const tags = `tagmanifest-${algorithm}.txt`;
  if (existsSync(join(folder, tags))) await check(tags);
  return { files: await check(`manifest-${algorithm}.txt`), problems };
}

async function problemWith(path: string, algorithm: string, checksum: string): Promise<string | undefined> {
  try {
    const found = algorithm === 'sha256' ? await sha256OnDrive(path) : await hashOf(path, algorithm);
    return found === checksum ? undefined : 'is not as it was written';
  } catch (error) {
    return systemCode(error) === 'ENOENT' ? 'is missing' : `can’t be read: ${problemOf(error)}`;
  }
}

async function hashOf(path: string, algorithm: string): Promise<string> {
  const hash = createHash(algorithm);
  await pipeline(createReadStream(path), hash);
  return hash.digest('hex');
}
