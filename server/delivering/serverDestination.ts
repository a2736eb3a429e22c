// A folder on a server, as a place that copies go to: what is the same for all kinds of servers.

import { createHash } from 'node:crypto';
import type { Readable } from 'node:stream';
import { joinPath } from '../files/drivePath';
import { sizeOf, streamOf, type FileContent } from '../files/fileContent';
import { TakenError } from '../files/relocate';
import { messageOf } from '../errors';
import type { Destination } from './destination';

/** What is put on a server. */
export interface Upload {
  bytes: number;
  /** SHA-256, hexadecimal. */
  sha256: string;
  /** Can be called again where a first try was cut off. */
  open: () => Readable;
}

/** A server that somebody is signed in to. Paths are below its root. */
export interface ServerClient {
  /** What stands at a path; undefined for nothing. */
  lookAt(path: string): Promise<{ bytes: number; mtimeMs: number } | undefined>;
  read(path: string): Promise<Readable>;
  /** Puts a file there, whole and compared, or not at all. */
  put(path: string, upload: Upload, work: string): Promise<void>;
  remove(path: string): Promise<void>;
  /** Whether it still answers. */
  isThere(): Promise<boolean>;
  close(): Promise<void>;
}

export function serverDestination(client: ServerClient, label: string, folder: string): Destination {
  const below = (path: string) => joinPath(folder, path);
  return {
    label,

    async standing(path, content) {
      const there = await client.lookAt(below(path));
      if (!there) return undefined;
      const { bytes, sha256 } = await uploadOf(content);
      const same = there.bytes === bytes && (await hashOf(await client.read(below(path)))) === sha256;
      return { mtimeMs: there.mtimeMs, same };
    },

    async put(path, content, { work, mayReplace }) {
      if (!mayReplace && (await client.lookAt(below(path)))) throw new TakenError(path);
      const upload = await uploadOf(content);
      await client.put(below(path), upload, work);
      return upload.bytes;
    },

    read: async (path) => ((await client.lookAt(below(path))) ? client.read(below(path)) : undefined),

    settle: () => Promise.resolve(),

    async requireThere(cause) {
      if (await client.isThere()) return;
      throw new Error(
        `“${label}” does not answer any more (${messageOf(cause)}). Try again later: what is there is passed over.`,
        { cause },
      );
    },

    close: () => client.close(),
  };
}

async function uploadOf(content: FileContent): Promise<Upload> {
  const open = () => streamOf(content);
  return { bytes: await sizeOf(content), open, sha256: await hashOf(open()) };
}

/** SHA-256 of what a stream gives, hexadecimal. */
export async function hashOf(stream: Readable): Promise<string> {
  const hash = createHash('sha256');
  for await (const part of stream) hash.update(part as Buffer);
  return hash.digest('hex');
}
