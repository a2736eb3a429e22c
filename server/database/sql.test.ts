import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import ts from 'typescript';
import { ROOT } from '../root';

// Where SQL may stand, and why.
const PLACES: readonly { why: string; files: RegExp }[] = [
  { why: 'a store holds the SQL of its subject', files: /(^|\/)(store|\w+Store)\.ts$/ },
  { why: 'what the ledger does to a subject’s tables is put together by the ledger’s store', files: /\/ledger\.ts$/ },
  { why: 'queries and selections are compiled to SQL', files: /^server\/catalogue\// },
  { why: 'the schema, and what all stores stand on', files: /^server\/database\// },
  { why: 'reading the change feed is all it does', files: /^server\/search\/changeFeed\.ts$/ },
  {
    why: 'states of bundles, as the store and the ledger put them into their statements',
    files: /^server\/bundles\/states\.ts$/,
  },
];
const STATEMENT =
  /^\s*((select|insert into|update|delete from|drop|create) \S+ |with (recursive )?\w+ (\([^)]*\) )?as )/;

test('SQL stands in stores', () => {
  const found = readdirSync(join(ROOT, 'server'), { recursive: true, encoding: 'utf8' })
    .filter((file) => file.endsWith('.ts'))
    .map((file) => `server/${file}`)
    .filter((file) => !/\.test\.ts$|^server\/testing\//.test(file) && !PLACES.some(({ files }) => files.test(file)))
    .flatMap((file) => statementsIn(readFileSync(join(ROOT, file), 'utf8')).map((text) => `${file}: ${text}`));
  expect(found).toEqual([]);
});

test('a statement is seen whatever its quotes, and what only begins like one is not', () => {
  expect(
    statementsIn(
      "run('select 1 from photo'); run(`insert into photo (id) values (${1})`); run('with few as (select 1)'); say('with a face');",
    ),
  ).toEqual(['select 1 from photo', 'insert into photo (id) values (', 'with few as (select 1)']);
});

/** The SQL statements among the texts of a source file, by how they begin. */
function statementsIn(source: string): string[] {
  const found: string[] = [];
  const look = (node: ts.Node): void => {
    const text = ts.isStringLiteralLike(node) ? node.text : ts.isTemplateExpression(node) ? node.head.text : undefined;
    if (text !== undefined && STATEMENT.test(text)) found.push(text);
    ts.forEachChild(node, look);
  };
  look(ts.createSourceFile('read.ts', source, ts.ScriptTarget.ES2022));
  return found;
}
