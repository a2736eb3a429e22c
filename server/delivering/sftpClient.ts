// A server of files that is spoken to by SFTP (draft-ietf-secsh-filexfer-02) over SSH.

import { createHash } from 'node:crypto';
import { posix } from 'node:path';
import type { Readable } from 'node:stream';
import SftpConnection from 'ssh2-sftp-client';
import type { z } from 'zod';
import type { sftpServer } from '@stellin/contract/deliveryServers';
import { messageOf } from '../errors';
import { OtherKey } from './otherKey';
import { hashOf, type ServerClient } from './serverDestination';

type Server = z.infer<typeof sftpServer>;

const ANSWERS_WITHIN_MS = 20_000;

const nothing = () => undefined;

/** The fingerprint of a key as programs show it. */
function fingerprint(key: Buffer): string {
  return `SHA256:${createHash('sha256').update(key).digest('base64').replace(/=+$/, '')}`;
}

/**
 * Signs in to a server. `noted` is given the fingerprint of the key that it shows. Of a server that is not known by a key yet any key is
 * taken; another one than the known is refused as OtherKey.
 */
export async function sftpClient(
  server: Server,
  secret: string,
  noted: (hostKey: string) => void = () => undefined,
): Promise<ServerClient> {
  // What goes wrong later is said where something is asked for.
  const connection = new SftpConnection('stellin', { error: nothing, end: nothing, close: nothing });
  let other: OtherKey | undefined;
  try {
    await connection.connect({
      host: server.host,
      port: server.port,
      username: server.user,
      password: secret,
      readyTimeout: ANSWERS_WITHIN_MS,
      // One that has gone without a word is noticed.
      keepaliveInterval: ANSWERS_WITHIN_MS,
      keepaliveCountMax: 2,
      hostVerifier: (key: Buffer) => {
        const shown = fingerprint(key);
        noted(shown);
        if (server.hostKey !== null && server.hostKey !== shown) other = new OtherKey(shown);
        return other === undefined;
      },
    });
  } catch (error) {
    throw other ?? new Error(messageOf(error), { cause: error });
  }
  const full = (path: string) => posix.join(server.root, path);
  /** Folders that are there, or are being made. */
  const folders = new Map<string, Promise<void>>();
  const makeFolder = async (folder: string) => {
    if (!(await connection.exists(folder))) await connection.mkdir(folder, true);
  };
  /** Makes a folder with those above it, once; one after the other, since two would be in each other’s way. */
  const ensureFolder = async (path: string) => {
    const folder = posix.dirname(full(path));
    const known = folders.get(folder) ?? Promise.all([...folders.values()]).then(() => makeFolder(folder));
    folders.set(folder, known);
    await known.catch((error: unknown) => {
      folders.delete(folder);
      throw error;
    });
  };
  /** Gives a file its name; what stands there goes. Servers without the extension for that need two steps. */
  const takePlace = async (part: string, path: string) => {
    try {
      await connection.posixRename(part, path);
    } catch (error) {
      if (!/does not support/.test(messageOf(error))) throw error;
      await connection.delete(path, true);
      await connection.rename(part, path);
    }
  };
  const read = (path: string): Readable => {
    const stream = connection.createReadStream(path) as unknown as Readable;
    // Who reads is told; what comes after nobody waits for.
    return stream.on('error', nothing);
  };

  return {
    async lookAt(path) {
      // A file, a folder, or something else; false for nothing.
      if (!(await connection.exists(full(path)))) return undefined;
      const { size, modifyTime } = await connection.stat(full(path));
      return { bytes: size, mtimeMs: modifyTime };
    },

    read: (path) => Promise.resolve(read(full(path))),

    async put(path, { open, sha256 }, work) {
      await ensureFolder(path);
      const part = posix.join(posix.dirname(full(path)), `.stellin-${work}.part`);
      try {
        await connection.put(open(), part);
        if ((await hashOf(read(part))) !== sha256) throw new Error('what stands on the server is not what was written');
        await takePlace(part, full(path));
      } catch (error) {
        await connection.delete(part, true).catch(() => undefined);
        throw error;
      }
    },

    async remove(path) {
      await connection.delete(full(path), true);
    },

    isThere: () =>
      connection.cwd().then(
        () => true,
        () => false,
      ),

    async close() {
      await connection.end().catch(() => undefined);
    },
  };
}
