// pg_dump and pg_restore as processes: what they are told, and what they say when they fail.

import { spawn, type ChildProcess } from 'node:child_process';
import { join } from 'node:path';
import type { Readable, Writable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { createGunzip, createGzip } from 'node:zlib';
import { requirePostgresPrograms } from '../database/cluster';

/** gzip’s quickest: three times as quick as its usual level, for a tenth more bytes. */
export const COMPRESSION = 1;
const PACKED_BYTES_AT_ONCE = 256 * 1024;
const MAX_ERROR_LETTERS = 2000;

/**
 * Writes a database, as it was in a snapshot, in the custom format of pg_dump and packed with gzip (RFC 1952), and ends what it is
 * written into. Packed here it takes about half as long as by pg_dump itself. `passed` is told of bytes as they come, and may reject to give up. */
export async function dumpDatabase(
  url: string,
  snapshot: string,
  into: Writable,
  passed: (bytes: number) => Promise<void>,
): Promise<void> {
  const child = start('pg_dump', url, [
    '--format=custom',
    '--compress=0',
    '--no-owner',
    '--no-privileges',
    `--snapshot=${snapshot}`,
  ]);
  const ended = endOf('pg_dump', child);
  ended.catch(() => undefined);
  try {
    await pipeline(
      child.stdout,
      createGzip({ level: COMPRESSION, chunkSize: PACKED_BYTES_AT_ONCE }),
      async function* (source: AsyncIterable<Buffer>) {
        for await (const chunk of source) {
          await passed(chunk.length);
          yield chunk;
        }
      },
      into,
    );
  } catch (error) {
    child.kill();
    // That the other end was closed is no reason of its own.
    await ended.catch(() => undefined);
    throw error;
  }
  await ended;
}

/** Restores a dump in the custom format of pg_dump into an empty database, all or nothing; one that is `packed` as `dumpDatabase` does. */
export async function restoreDatabase(url: string, dump: Readable, packed: boolean): Promise<void> {
  const child = start('pg_restore', url, [
    '--exit-on-error',
    '--single-transaction',
    '--no-owner',
    '--no-privileges',
    `--dbname=${databaseOf(url)}`,
  ]);
  const ended = endOf('pg_restore', child);
  ended.catch(() => undefined);
  // Where it fails it reads no further: its own reason is the better one.
  await pipeline(packed ? [dump, createGunzip(), child.stdin] : [dump, child.stdin]).catch(async (error: unknown) => {
    child.kill();
    await ended;
    throw error;
  });
  await ended;
}

function start(program: string, url: string, args: readonly string[]) {
  // The password goes through the environment: everybody can read the arguments of a process.
  return spawn(join(requirePostgresPrograms(), program), args, {
    env: environmentOf(url),
    stdio: ['pipe', 'pipe', 'pipe'],
  });
}

function databaseOf(url: string): string {
  return decodeURIComponent(new URL(url).pathname.slice(1));
}

/** How PostgreSQL’s programs are told which database is meant. */
export function environmentOf(url: string): NodeJS.ProcessEnv {
  const { hostname, port, username, password } = new URL(url);
  return {
    PATH: process.env['PATH'],
    PGHOST: hostname,
    PGPORT: port === '' ? '5432' : port,
    PGUSER: decodeURIComponent(username),
    PGPASSWORD: decodeURIComponent(password),
    PGDATABASE: databaseOf(url),
    PGAPPNAME: 'stellin backup',
  };
}

function endOf(program: string, child: ChildProcess): Promise<void> {
  let said = '';
  child.stderr?.on('data', (chunk: Buffer) => {
    if (said.length < MAX_ERROR_LETTERS) said += chunk.toString();
  });
  return new Promise((resolve, reject) => {
    child.on('error', reject);
    child.on('close', (code, signal) => {
      if (code === 0) resolve();
      else reject(new Error(said.trim() || `${program} ended with ${code ?? signal}`));
    });
  });
}
