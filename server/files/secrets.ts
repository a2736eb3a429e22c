// Passwords of other servers, which have to be known again: encrypted (AES-256-GCM) with a key that lies in the data folder, so that
// the catalogue, its backups and its exports do not hold them readable.

import { createCipheriv, createDecipheriv, randomBytes, randomUUID } from 'node:crypto';
import { link, readFile, rm, writeFile } from 'node:fs/promises';
import { dirname } from 'node:path';
import { systemCode } from '../errors';
import { flushFolder } from './flush';

export type Secrets = ReturnType<typeof secretsBy>;

const KEY_BYTES = 32;
const IV_BYTES = 12;
const TAG_BYTES = 16;
const CIPHER = 'aes-256-gcm';

/** `keyFile`: the key is made there when it is first needed. */
export function secretsBy(keyFile: string) {
  let known: Buffer | undefined;
  const key = async () => (known ??= await keyAt(keyFile));
  return {
    async seal(text: string): Promise<Buffer> {
      const iv = randomBytes(IV_BYTES);
      const cipher = createCipheriv(CIPHER, await key(), iv);
      const sealed = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()]);
      return Buffer.concat([iv, cipher.getAuthTag(), sealed]);
    },

    /** The text that was sealed; undefined where it was sealed with another key, or changed since. */
    async open(sealed: Buffer): Promise<string | undefined> {
      const by = await key();
      try {
        const decipher = createDecipheriv(CIPHER, by, sealed.subarray(0, IV_BYTES));
        decipher.setAuthTag(sealed.subarray(IV_BYTES, IV_BYTES + TAG_BYTES));
        return Buffer.concat([decipher.update(sealed.subarray(IV_BYTES + TAG_BYTES)), decipher.final()]).toString();
      } catch {
        // It says no more than that: what does not fit the key can't be told from what was changed.
        return undefined;
      }
    },
  };
}

async function keyAt(file: string): Promise<Buffer> {
  const known = await readKey(file);
  if (known) return known;
  // It gets its name when it is there whole. Whoever comes first has made it; several machines share the folder.
  const part = `${file}.${randomUUID()}.part`;
  try {
    await writeFile(part, randomBytes(KEY_BYTES), { flag: 'wx', mode: 0o600, flush: true });
    await link(part, file).catch((error: unknown) => {
      if (systemCode(error) !== 'EEXIST') throw error;
    });
    await flushFolder(dirname(file));
  } finally {
    await rm(part, { force: true });
  }
  const made = await readKey(file);
  if (!made) throw new Error(`${file} is not there, though it was written a moment ago`);
  return made;
}

async function readKey(file: string): Promise<Buffer | undefined> {
  try {
    const key = await readFile(file);
    if (key.length !== KEY_BYTES) throw new Error(`${file} is no key`);
    return key;
  } catch (error) {
    if (systemCode(error) === 'ENOENT') return undefined;
    throw error;
  }
}
