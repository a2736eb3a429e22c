// Another program, as the demo and the tests have it: it is given pictures, saves a lighter TIFF of each beside it, as programs do that
// retouch, and notes in the sidecar of those that have one that it did.

import { chmod, mkdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import sharp from 'sharp';
import { memorySource } from '@stellin/core/metadata/bytes';
import { readMetadata } from '@stellin/core/metadata/read';
import { textsOf } from '@stellin/core/metadata/values';
import { planSidecar } from '@stellin/core/metadata/write';
import { systemCode } from '../../errors';

const LIGHTER = 1.15;

/** Puts a program into a folder that calls a command with what it is given; it replaces the one of before. */
export async function installProgram(folder: string, name: string, command: readonly string[]): Promise<void> {
  const quoted = command.map((word) => `'${word.replaceAll("'", `'\\''`)}'`).join(' ');
  await mkdir(folder, { recursive: true });
  await writeFile(join(folder, name), `#!/bin/sh\nexec ${quoted} "$@"\n`);
  await chmod(join(folder, name), 0o755);
}

/** Retouches pictures by their full paths; what can’t be opened is passed over. Returns the files that it made or changed. */
export async function retouch(paths: readonly string[], now: string): Promise<string[]> {
  const made: string[] = [];
  for (const path of paths) {
    const base = path.replace(/\.[^./]*$/, '');
    try {
      const picture = await sharp(path)
        .autoOrient()
        .modulate({ brightness: LIGHTER })
        .tiff({ compression: 'lzw' })
        .toBuffer();
      await writeFile(`${base} retouched.tif`, picture);
      made.push(`${base} retouched.tif`);
    } catch {
      continue;
    }
    const sidecar = await readFile(`${base}.xmp`).catch((error: unknown) => {
      if (systemCode(error) !== 'ENOENT') throw error;
      return undefined;
    });
    if (!sidecar) continue;
    const [headline] = textsOf(readMetadata(memorySource(new Uint8Array()), sidecar).fields.headline);
    await writeFile(`${base}.xmp`, planSidecar(sidecar, { headline: `${headline ?? 'Picture'} (retouched)` }, { now }));
    made.push(`${base}.xmp`);
  }
  return made;
}
