// Building the interface, if what it is made of has changed since the last time.

import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { WEB_BUILD } from '@stellin/server/app';
import { ROOT } from '@stellin/server/root';
import { step } from './steps';

const SOURCES = ['web', 'core', 'contract', 'package-lock.json'];

export async function buildInterface(): Promise<void> {
  const stamp = join(WEB_BUILD, '.sources');
  const now = hashOf(SOURCES.map((name) => join(ROOT, name)));
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === now) return;
  await step('Building the interface', async () => {
    const { build } = await import('vite');
    await build({ root: join(ROOT, 'web'), configFile: join(ROOT, 'web', 'vite.config.ts'), logLevel: 'error' });
    writeFileSync(stamp, now);
  });
}

function hashOf(paths: readonly string[]): string {
  const hash = createHash('sha256');
  for (const path of paths) {
    for (const file of filesIn(path)) hash.update(file).update(readFileSync(file));
  }
  return hash.digest('hex');
}

function filesIn(path: string): string[] {
  if (!existsSync(path)) return [];
  if (path.endsWith('.json')) return [path];
  return readdirSync(path, { withFileTypes: true })
    .filter(({ name }) => name !== 'dist' && name !== 'node_modules' && !name.endsWith('.test.ts'))
    .flatMap((entry) => (entry.isDirectory() ? filesIn(join(path, entry.name)) : [join(path, entry.name)]))
    .sort();
}
