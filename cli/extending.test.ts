// docs/extending.md names files and what stands in them: both are there.

import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from '@stellin/server/root';

const DOCS = join(ROOT, 'docs');
const page = readFileSync(join(DOCS, 'extending.md'), 'utf8');
const steps = [...page.matchAll(/^- `([^`]+)`: (.*)$/gm)].map(([, file = '', what = '']) => ({ file, what }));

test.each(steps)('$file: $what', ({ file, what }) => {
  const text = readFileSync(join(ROOT, file), 'utf8');
  const names = [...what.matchAll(/`([A-Za-z_]+)`/g)].map(([, name = '']) => name);
  for (const name of names) expect([name, text.includes(name)]).toEqual([name, true]);
});

test('every kind of thing has its steps', () => {
  const parts = page.split(/^## /m).slice(1);
  expect(parts.map((part) => part.split('\n')[0])).toEqual([
    'A field',
    'A criterion',
    'A facet',
    'A change',
    'A job',
    'A container',
    'A screen',
    'A package of terms',
  ]);
  for (const part of parts) expect(part).toMatch(/^- `/m);
});

test('the files that the pages name are there', () => {
  const pages = ['README.md', ...readdirSync(DOCS).flatMap((name) => (name.endsWith('.md') ? [`docs/${name}`] : []))];
  const missing = pages.flatMap((each) =>
    [
      ...readFileSync(join(ROOT, each), 'utf8').matchAll(
        /`((?:core|contract|server|web|demo|cli|bench|e2e)\/[\w./-]+)`/g,
      ),
    ]
      .map(([, path = '']) => path)
      .filter((path) => !existsSync(join(ROOT, path)))
      .map((path) => `${each}: ${path}`),
  );
  expect(missing).toEqual([]);
});
