// `./stellin docs`: the tables in docs/ that are made from the code.

import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fieldTable } from '@stellin/core/metadata/fieldTable';
import { placeholderTable } from '@stellin/core/describing/placeholders';
import { criteriaTable } from '@stellin/core/query/criteria';
import { ROOT } from '@stellin/server/root';

const TABLES: readonly { file: string; name: string; make: () => string }[] = [
  { file: 'docs/metadata.md', name: 'fields', make: fieldTable },
  { file: 'docs/describing.md', name: 'placeholders', make: placeholderTable },
  { file: 'docs/search.md', name: 'criteria', make: criteriaTable },
];

/** The pages as they should be, by file. */
export function pages(): Map<string, string> {
  const made = new Map<string, string>();
  for (const { file, name, make } of TABLES) {
    const path = join(ROOT, file);
    const text = made.get(path) ?? readFileSync(path, 'utf8');
    const [opening, closing] = [`<!-- ${name}: made by ./stellin docs -->`, `<!-- end of ${name} -->`];
    const [start, end] = [text.indexOf(opening), text.indexOf(closing)];
    if (start < 0 || end < start) throw new Error(`${file} has no place for its table of ${name}`);
    const whole = `${text.slice(0, start + opening.length)}\n\n${make()}\n\n${text.slice(end)}`;
    made.set(path, formatted(file, whole));
  }
  return made;
}

/** Writes the tables anew. */
export function docs(): number {
  for (const [path, text] of pages()) writeFileSync(path, text);
  return 0;
}

function formatted(file: string, text: string): string {
  const formatter = join(ROOT, 'node_modules', '.bin', 'oxfmt');
  return execFileSync(formatter, ['--stdin-filepath', file], { cwd: ROOT, input: text, encoding: 'utf8' });
}
