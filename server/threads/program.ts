// What threads and processes of ours run: JavaScript made from their TypeScript when it is first needed. One that read
// TypeScript by itself would take several times as long to start.

import { createHash, randomUUID } from 'node:crypto';
import { existsSync, mkdirSync, renameSync, writeFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import { buildSync } from 'esbuild';
import { ROOT } from '../root';

/** Below node_modules, so that packages are found from there. */
const FOLDER = join(ROOT, 'node_modules', '.cache', 'stellin');

const made = new Map<string, string>();

/** The JavaScript file made from a TypeScript file and all it imports of ours. Its name tells what is in it. */
export function programOf(file: string): string {
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
    define: { 'process.env.STELLIN_ROOT': JSON.stringify(ROOT) },
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
