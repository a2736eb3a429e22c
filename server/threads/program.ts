// What threads and processes of ours run: JavaScript that ./stellin has built from their TypeScript (cli/build.ts).

import { createHash } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { ROOT } from '../root';

/** Where the build step puts what it makes; its folders mirror those of the sources. */
export const DIST = join(ROOT, 'dist');

/** The built interface. */
export const WEB_BUILD = join(DIST, 'web');

/** The JavaScript file built from a TypeScript file. Throws an Error that names it when it has not been built. */
export function programOf(file: string): string {
  const program = join(DIST, relative(ROOT, file).replace(/\.ts$/, '.cjs'));
  if (!existsSync(program)) throw new Error(`${program} is missing; ./stellin build makes it`);
  return program;
}

/** Tells a built program from every other, by what is in it. */
export function versionOf(program: string): string {
  return createHash('sha256').update(readFileSync(program)).digest('hex');
}
