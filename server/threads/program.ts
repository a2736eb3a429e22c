// What threads run: JavaScript made from their TypeScript when it is first needed. A thread that read TypeScript by itself
// would take several times as long to start.

import { createHash, randomUUID } from 'node:crypto';
import { existsSync, mkdirSync, renameSync, writeFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import { buildSync } from 'esbuild';

const ROOT = join(__dirname, '..', '..');
/** Below node_modules, so that packages are found from there. */
const FOLDER = join(ROOT, 'node_modules', '.cache', 'stellin');

const made = new Map<string, string>();

/** The JavaScript file made from a TypeScript file and all it imports of ours. Its name tells what is in it. */
export function threadProgram(file: string): string {
  const known = made.get(file);
  if (known !== undefined) return known;
  const {
    outputFiles: [output],
  } = buildSync({
    absWorkingDir: ROOT,
    entryPoints: [file],
    bundle: true,
    packages: 'external',
    alias: { '@stellin': ROOT },
    platform: 'node',
    target: 'node20',
    format: 'cjs',
    write: false,
    logLevel: 'silent',
  });
  if (!output) throw new Error(`nothing was made of ${file}`);
  const { text } = output;
  const path = join(
    FOLDER,
    `${basename(file, '.ts')}-${createHash('sha256').update(text).digest('hex').slice(0, 20)}.cjs`,
  );
  if (!existsSync(path)) {
    mkdirSync(FOLDER, { recursive: true });
    const part = `${path}.${randomUUID()}`;
    writeFileSync(part, text);
    renameSync(part, path);
  }
  made.set(file, path);
  return path;
}
