// A stand-in for somebody's server of files: speaks SFTP on this machine and keeps what comes in a folder. For the demo and for tests.

import { generateKeyPairSync, timingSafeEqual, createHash } from 'node:crypto';
import { existsSync } from 'node:fs';
import { mkdir, open, readFile, rename, rm, stat, writeFile, type FileHandle } from 'node:fs/promises';
import { join, posix } from 'node:path';
import ssh2, { type Connection, type SFTPWrapper } from 'ssh2';
import { systemCode } from '../../errors';
import { serveHere, type StandIn } from '../../standIn';

const { Server } = ssh2;
const { OPEN_MODE, STATUS_CODE } = ssh2.utils.sftp;

interface Options {
  /** What is kept there; its key beside it. */
  folder: string;
  /** 0: any that is free. */
  port: number;
  user: string;
  password: string;
}

/** Starts it on the loopback interface. */
export async function sftpStandIn({ folder, port, user, password }: Options): Promise<StandIn> {
  await mkdir(folder, { recursive: true });
  const open = new Set<Connection>();
  const server = new Server({ hostKeys: [await hostKey(`${folder}.key`)] }, (client) => {
    open.add(client);
    client.on('error', () => undefined);
    client.on('close', () => open.delete(client));
    client.on('authentication', (asked) =>
      asked.method === 'password' && same(asked.username, user) && same(asked.password, password)
        ? asked.accept()
        : asked.reject(['password']),
    );
    client.on('session', (accept) => {
      accept().on('sftp', (acceptSftp) => serveFiles(acceptSftp(), folder));
    });
  });
  return serveHere(server, port, () => {
    for (const client of open) client.end();
  });
}

function serveFiles(sftp: SFTPWrapper, folder: string): void {
  const files = new Map<number, FileHandle>();
  let handles = 0;
  const full = (path: string) => join(folder, posix.normalize(`/${path}`));
  const fileOf = (handle: Buffer): FileHandle => {
    const file = files.get(handle.readUInt32BE(0));
    if (!file) throw new Error('no such handle');
    return file;
  };
  /** Answers a request by what comes of it; what the system refuses is said in the words of the protocol. */
  const answer = (id: number, doing: Promise<unknown>) => {
    doing.then(
      () => undefined,
      (error: unknown) =>
        sftp.status(id, systemCode(error) === 'ENOENT' ? STATUS_CODE.NO_SUCH_FILE : STATUS_CODE.FAILURE),
    );
  };
  const done = (id: number, doing: Promise<unknown>) =>
    answer(
      id,
      doing.then(() => sftp.status(id, STATUS_CODE.OK)),
    );
  const attributes = async (id: number, path: string) => {
    const { mode, uid, gid, size, atimeMs, mtimeMs } = await stat(full(path));
    sftp.attrs(id, { mode, uid, gid, size, atime: Math.floor(atimeMs / 1000), mtime: Math.floor(mtimeMs / 1000) });
  };

  sftp.on('REALPATH', (id, path) => {
    const filename = posix.normalize(`/${path}`);
    sftp.name(id, [{ filename, longname: filename, attrs: { mode: 0, uid: 0, gid: 0, size: 0, atime: 0, mtime: 0 } }]);
  });
  sftp.on('STAT', (id, path) => answer(id, attributes(id, path)));
  sftp.on('LSTAT', (id, path) => answer(id, attributes(id, path)));
  sftp.on('FSTAT', (id, handle) =>
    answer(
      id,
      (async () => {
        const { mode, uid, gid, size, atimeMs, mtimeMs } = await fileOf(handle).stat();
        sftp.attrs(id, { mode, uid, gid, size, atime: Math.floor(atimeMs / 1000), mtime: Math.floor(mtimeMs / 1000) });
      })(),
    ),
  );
  sftp.on('OPEN', (id, path, flags) =>
    answer(
      id,
      (async () => {
        const file = await open(full(path), flags & OPEN_MODE.WRITE ? 'w' : 'r');
        files.set(++handles, file);
        const handle = Buffer.alloc(4);
        handle.writeUInt32BE(handles);
        sftp.handle(id, handle);
      })(),
    ),
  );
  sftp.on('READ', (id, handle, offset, length) =>
    answer(
      id,
      (async () => {
        const { buffer, bytesRead } = await fileOf(handle).read(Buffer.alloc(length), 0, length, offset);
        if (bytesRead === 0) sftp.status(id, STATUS_CODE.EOF);
        else sftp.data(id, buffer.subarray(0, bytesRead));
      })(),
    ),
  );
  sftp.on('WRITE', (id, handle, offset, data) => done(id, fileOf(handle).write(data, 0, data.length, offset)));
  sftp.on('FSETSTAT', (id) => sftp.status(id, STATUS_CODE.OK));
  sftp.on('SETSTAT', (id) => sftp.status(id, STATUS_CODE.OK));
  sftp.on('CLOSE', (id, handle) => {
    const file = fileOf(handle);
    files.delete(handle.readUInt32BE(0));
    done(id, file.close());
  });
  sftp.on('MKDIR', (id, path) => done(id, mkdir(full(path))));
  sftp.on('REMOVE', (id, path) => done(id, rm(full(path))));
  // As version 3 of the protocol has it: what stands under the new name is not replaced.
  sftp.on('RENAME', (id, from, to) => {
    if (existsSync(full(to))) sftp.status(id, STATUS_CODE.FAILURE);
    else done(id, rename(full(from), full(to)));
  });
}

function same(given: string, wanted: string): boolean {
  const hash = (text: string) => createHash('sha256').update(text).digest();
  return timingSafeEqual(hash(given), hash(wanted));
}

/** The key by which it is known, made when it starts for the first time. */
async function hostKey(file: string): Promise<string> {
  if (existsSync(file)) return readFile(file, 'utf8');
  const { privateKey } = generateKeyPairSync('rsa', {
    modulusLength: 2048,
    publicKeyEncoding: { type: 'spki', format: 'pem' },
    privateKeyEncoding: { type: 'pkcs1', format: 'pem' },
  });
  await writeFile(file, privateKey, { mode: 0o600 });
  return privateKey;
}
