// The build step, run by ./stellin when a source has changed: server, command line and worker threads become JavaScript
// files in dist/ that mirror their sources, the interface goes to dist/web.

import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { build } from 'esbuild';
import { ROOT } from '@stellin/server/root';
import { DIST, WEB_BUILD } from '@stellin/server/threads/program';

/** Files that Node.js runs: the command line itself, and each worker thread or child process by its ending. */
const PROGRAMS = ['cli/main.ts', ...['server', 'demo', 'bench'].map((folder) => `${folder}/**/*.worker.ts`)];
const INTERFACE_SOURCES = ['web', 'core', 'contract', 'package-lock.json'];
const GAZETTEER_SOURCES = [
  ...[
    'core/timeplace',
    'core/text',
    'server/places/towns.ts',
    'server/places/atlas.ts',
    'server/places/makeGazetteer.ts',
  ],
  'package-lock.json',
];

async function buildPrograms(): Promise<void> {
  await build({
    absWorkingDir: ROOT,
    entryPoints: PROGRAMS,
    outdir: DIST,
    outbase: ROOT,
    outExtension: { '.js': '.cjs' },
    bundle: true,
    packages: 'external',
    alias: { '@stellin': ROOT },
    platform: 'node',
    target: 'node20',
    format: 'cjs',
    logLevel: 'error',
  });
}

/** Builds the interface unless what it is made of is the same as the last time. */
async function buildInterface(): Promise<void> {
  const stamp = join(WEB_BUILD, '.sources');
  const now = hashOf(INTERFACE_SOURCES.map((name) => join(ROOT, name)));
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === now) return;
  // Whoever starts the build, tests for one: React is several times slower when it is not built for production.
  process.env['NODE_ENV'] = 'production';
  const { build: buildWithVite } = await import('vite');
  const root = join(ROOT, 'web');
  await buildWithVite({ root, configFile: join(root, 'vite.config.ts'), logLevel: 'error' });
  writeFileSync(stamp, now);
}

/** Makes the file of the gazetteer unless what it is made of is the same as the last time. */
async function buildGazetteer(): Promise<void> {
  const stamp = join(DIST, '.gazetteer-sources');
  const now = hashOf(GAZETTEER_SOURCES.map((name) => join(ROOT, name)));
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === now) return;
  const { writeGazetteerFile } = await import('@stellin/server/places/makeGazetteer');
  writeGazetteerFile();
  writeFileSync(stamp, now);
}

function hashOf(paths: readonly string[]): string {
  const hash = createHash('sha256');
  for (const path of paths) {
    for (const file of filesIn(path)) hash.update(file).update(readFileSync(file));
  }
  return hash.digest('hex');
}

function filesIn(path: string): string[] {
  if (!statSync(path).isDirectory()) return [path];
  return readdirSync(path, { withFileTypes: true })
    .filter(({ name }) => !/^node_modules$|\.test\.tsx?$/.test(name))
    .flatMap((entry) => (entry.isDirectory() ? filesIn(join(path, entry.name)) : [join(path, entry.name)]))
    .sort();
}

Promise.all([buildPrograms(), buildInterface()])
  .then(buildGazetteer)
  .catch((error: unknown) => {
    console.error(error);
    process.exit(1);
  });
