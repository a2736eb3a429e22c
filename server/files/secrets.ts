// Passwords of other servers, which have to be known again: encrypted (AES-256-GCM) with a key that lies in the data folder, so that
// the catalogue, its backups and its exports do not hold them readable.

import { createCipheriv, createDecipheriv, randomBytes } from 'node:crypto';
import { readFile, writeFile } from 'node:fs/promises';
import { systemCode } from '../errors';

export type Secrets = ReturnType<typeof secretsBy>;

const KEY_BYTES = 32;
const IV_BYTES = 12;
const TAG_BYTES = 16;
const CIPHER = 'aes-256-gcm';

/** `keyFile`: the key is made there when it is first needed. */
export function secretsBy(keyFile: string) {
  let known: Promise<Buffer> | undefined;
  const key = () => (known ??= keyAt(keyFile));
  return {
    async seal(text: string): Promise<Buffer> {
      const iv = randomBytes(IV_BYTES);
      const cipher = createCipheriv(CIPHER, await key(), iv);
      const sealed = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()]);
      return Buffer.concat([iv, cipher.getAuthTag(), sealed]);
    },

    /** The text that was sealed; undefined where it was sealed with another key, or changed since. */
    async open(sealed: Buffer): Promise<string | undefined> {
      try {
        const decipher = createDecipheriv(CIPHER, await key(), sealed.subarray(0, IV_BYTES));
        decipher.setAuthTag(sealed.subarray(IV_BYTES, IV_BYTES + TAG_BYTES));
        return Buffer.concat([decipher.update(sealed.subarray(IV_BYTES + TAG_BYTES)), decipher.final()]).toString();
      } catch (error) {
        // The system’s own errors say something else: that the key can’t be read.
        if (systemCode(error)?.startsWith('E') && !systemCode(error)?.startsWith('ERR_')) throw error;
        return undefined;
      }
    },
  };
}

async function keyAt(file: string): Promise<Buffer> {
  try {
    // Whoever comes first makes it; several servers share the folder.
    await writeFile(file, randomBytes(KEY_BYTES), { flag: 'wx', mode: 0o600 });
  } catch (error) {
    if (systemCode(error) !== 'EEXIST') throw error;
  }
  const key = await readFile(file);
  if (key.length !== KEY_BYTES) throw new Error(`${file} is no key`);
  return key;
}
