import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { parse } from 'csv-parse/sync';
import fc from 'fast-check';
import writeExcelFile from 'write-excel-file/node';
import type { IncomingSettings } from '@stellin/contract/incomingTables';
import { incomingRestPath, incomingTableRoutes } from '@stellin/contract/incomingTables';
import { deliverySettings } from '@stellin/contract/delivering';
import { tableReader, UnreadableTable } from './reading';
import { openWorld, PASSWORDS, putFiles, realJpeg, type World } from '../testing/world';

let world: World;
let photos: Map<string, number>;
beforeEach(async () => {
  world = await openWorld();
  const vault = await world.addDrive('Vault');
  await putFiles(vault, {
    'July/a.jpg': await realJpeg({ headline: 'Dunes', jobId: 'K-1', keywords: ['beach'] }, 20),
    'July/b.jpg': await realJpeg({ headline: 'Harbour', jobId: 'K-2' }, 90),
    'c.jpg': await realJpeg({ headline: 'Secret', jobId: 'K-2' }, 200),
  });
  await world.takeIn(vault);
  await world.apply({
    kind: 'addTerms',
    parentId: null,
    terms: [{ label: 'Sea' }, { label: 'Places', narrower: [{ label: 'Saltmarsh' }, { label: 'Norland' }] }],
  });
  photos = await world.ids();
});
afterEach(() => world.close());

const tables = () => world.services.incomingTables;
const keeper = () => world.services.rights.personOf(world.keeperId);
const bringIn = async (content: string | Buffer, name = 'kites.csv') => {
  const bytes = Buffer.from(content);
  return tables().add(name, Readable.from([bytes]), bytes.length, await keeper());
};
const show = async (id: number) => tables().show(id, await keeper());
const use = async (id: number, part: Partial<IncomingSettings>) =>
  tables().use(id, { ...(await show(id)).settings, ...part }, await keeper());
const preview = async (id: number) =>
  (await tables().preview(id, { offset: 0, limit: 100 }, await keeper())).photos.map(({ name, fields }) => [
    name,
    ...fields.map(({ label, before, after }) => [label, before, after]),
  ]);
const take = (id: number) => world.apply({ kind: 'takeTable', tableId: id, name: 'kites.csv' });
const says = async (name: string) => {
  const id = photos.get(name) ?? 0;
  const { fields, keywords, rating, mark } = await world.services.photos.find(await keeper(), id);
  const terms = await world.services.database.rows<{ label: string }>(
    'select t.label from photo_term g join term t on t.id = g.term_id where g.photo_id = $1 order by t.label',
    [id],
  );
  return { ...fields, terms: terms.map(({ label }) => label), rating, mark, freeKeywords: keywords };
};

test('a table is recognised, its rows find their photos, and all of it is one step that is undone by name', async () => {
  const id = await bringIn(
    'File name;Headline;City;Terms;Rating\r\nA.JPG;Dünen;Saltmarsh;Sea; 4\r\nb;"Harbour; at night";;Saltmarsh > Nowhere;9\r\nz.jpg;Lost;;;\r\n',
  );
  const table = await show(id);
  expect(table).toMatchObject({
    ...{ name: 'kites.csv', format: 'text', encoding: 'utf-8', separator: 'semicolon', rows: 3, photos: 2 },
    counts: { found: 2, none: 1, several: 0, again: 0, partly: 1 },
    taken: null,
  });
  expect(table.columns[1]).toEqual({ header: 'Headline', samples: ['Dünen', 'Harbour; at night', 'Lost'] });
  expect(await preview(id)).toEqual([
    ['a.jpg', ['Headline', 'Dunes', 'Dünen'], ['City', null, 'Saltmarsh'], ['Terms', [], ['Sea']], ['Rating', 0, 4]],
    ['b.jpg', ['Headline', 'Harbour', 'Harbour; at night'], ['Other keywords', [], ['Saltmarsh > Nowhere']]],
  ]);
  const entry = await take(id);
  expect(entry).toMatchObject({ title: 'Take in the table “kites.csv”: 2 photos', photos: 2 });
  expect(await says('a.jpg')).toMatchObject({ headline: 'Dünen', city: 'Saltmarsh', terms: ['Sea'], rating: 4 });
  expect(await says('b.jpg')).toMatchObject({ headline: 'Harbour; at night', rating: 0 });
  expect((await show(id)).taken).toMatchObject({ title: entry.title, undone: false });
  await expect(take(id)).rejects.toThrow('Nothing would change');
  await world.services.ledger.undo(world.keeperId);
  expect(await says('a.jpg')).toMatchObject({ headline: 'Dunes', terms: [], rating: 0, freeKeywords: ['beach'] });
  expect((await show(id)).taken).toMatchObject({ undone: true });
});

test('rows that meet none, several, or can’t be taken wholly go out again as a table that says why', async () => {
  const id = await bringIn('Job,Headline,Date created\nK-1,One,31.2.2020\nK-2,Two,2020\nK-9,Nine,2020\n');
  await use(id, {
    uses: [
      { to: 'keyField', target: 'jobId' },
      { to: 'field', target: 'headline', mode: 'replace', language: '', dates: 'yearFirst' },
      { to: 'field', target: 'dateCreated', mode: 'replace', language: '', dates: 'dayFirst' },
    ],
  });
  expect((await show(id)).counts).toEqual({ found: 1, none: 1, several: 1, again: 0, partly: 1 });
  const cookie = await signIn('keeper');
  const { body, headers } = await world.app.inject({ url: incomingRestPath(id), headers: { cookie } });
  expect(headers['content-disposition']).toContain('kites rest.csv');
  expect(parse(body, { bom: true })).toEqual([
    ['Job', 'Headline', 'Date created', 'What is the matter'],
    ['K-1', 'One', '31.2.2020', expect.stringContaining('31.2.2020')],
    ['K-2', 'Two', '2020', '2 photos are meant'],
    ['K-9', 'Nine', '2020', 'No photo is meant'],
  ]);
  await take(id);
  // What could be taken of the row was.
  expect(await says('a.jpg')).toMatchObject({ headline: 'One' });
  expect(await says('b.jpg')).toMatchObject({ headline: 'Harbour' });
});

test('several columns find a photo together, paths with their drive or without it, whatever way slashes go', async () => {
  const id = await bringIn('Path\tHeadline\nVault/July/b.jpg\tOne\njuly\\A.jpg\tTwo\n/c.jpg\tThree\n');
  expect((await show(id)).counts).toMatchObject({ found: 3, none: 0 });
  const both = await bringIn('Path,Job\nJuly/b.jpg,K-2\nc.jpg,K-1\n');
  const { counts } = await use(both, {
    uses: [
      { to: 'key', key: 'path' },
      { to: 'keyField', target: 'jobId' },
    ],
  });
  expect(counts).toMatchObject({ found: 1, none: 1 });
});

test.each([
  ['replace', ['New'], { headline: 'New', creator: ['New'] }],
  ['add', ['New'], { headline: 'Dunes New', creator: ['Ida', 'New'] }],
  ['fill', ['New'], { headline: 'Dunes', creator: ['Ida'] }],
  ['remove', ['Ida'], { headline: 'Dunes' }],
] as const)('the mode %s', async (mode, [text], expected) => {
  const selection = { query: 'name:a.jpg' };
  await world.apply({
    kind: 'setFields',
    selection,
    edits: [{ target: 'creator', mode: 'replace', value: ['Ida'] }],
  });
  const id = await bringIn(`File name,Headline,Creator\na.jpg,${text},${text}\n`);
  const field = (target: 'headline' | 'creator') =>
    ({ to: 'field', target, mode, language: '', dates: 'yearFirst' }) as const;
  await use(id, { uses: [{ to: 'key', key: 'name' }, field('headline'), field('creator')] });
  if (mode === 'fill') await expect(take(id)).rejects.toThrow('Nothing would change');
  else await take(id);
  const { headline, creator }: Record<string, unknown> = await says('a.jpg');
  expect({ headline, creator }).toEqual(expected);
});

test('words that are no terms are listed with what they may mean, and become what somebody decides', async () => {
  const id = await bringIn('File name,Keywords\na.jpg,Saltmarch; Gulls; beach\nb.jpg,gulls; Seas\nc.jpg,Sea\n');
  const { words } = await tables().words(id, { offset: 0, limit: 10 }, await keeper());
  expect(words.map(({ written, rows, proposal }) => [written, rows, proposal?.label])).toEqual([
    ['Gulls', 2, undefined],
    ['Saltmarch', 1, 'Saltmarsh'],
    ['Seas', 1, 'Sea'],
    ['beach', 1, undefined],
  ]);
  const saltmarsh = words.find(({ word }) => word === 'saltmarch')?.proposal?.id ?? 0;
  await use(id, {
    words: [
      { word: 'saltmarch', decision: 'term', termId: saltmarsh },
      { word: 'seas', decision: 'drop', termId: null },
    ],
  });
  await take(id);
  expect(await says('a.jpg')).toMatchObject({ terms: ['Saltmarsh'], freeKeywords: ['beach', 'Gulls'] });
  expect(await says('b.jpg')).toMatchObject({ terms: [], freeKeywords: ['gulls'] });
  expect(await says('c.jpg')).toMatchObject({ terms: ['Sea'] });
  // They wait to be settled, as those that files bring along.
  const { keywords } = await world.services.vocabulary.incoming({ source: 'keywords', levels: 1, limit: 10 });
  expect(keywords.map(({ keyword }) => keyword)).toEqual(expect.arrayContaining(['Gulls', 'gulls']));
});

test('XLSX with dates and numbers, JSON Lines with lists, other encodings', async () => {
  const date = new Date('2020-02-03T00:00:00Z');
  const sheet = await writeExcelFile([
    [{ value: 'File name' }, { value: 'Date created' }, { value: 'Rating' }],
    [{ value: 'a.jpg' }, { value: date, type: Date, format: 'yyyy-mm-dd' }, { value: 3, type: Number }],
  ]).toBuffer();
  const xlsx = await bringIn(sheet, 'kites.xlsx');
  expect(await show(xlsx)).toMatchObject({ format: 'xlsx', rows: 1 });
  await take(xlsx);
  expect(await says('a.jpg')).toMatchObject({ dateCreated: '2020-02-03', rating: 3 });

  const lines = await bringIn('{"File name":"b.jpg","Creator":["Ida","Tomas"]}\n{"File name":"c.jpg","City":"Düne"}\n');
  expect((await show(lines)).columns.map(({ header }) => header)).toEqual(['File name', 'Creator', 'City']);
  await take(lines);
  expect(await says('b.jpg')).toMatchObject({ creator: ['Ida', 'Tomas'] });
  await expect(bringIn('{"a":1}\nnonsense\n')).rejects.toThrow('line 2 is no JSON object');

  const latin = await bringIn(Buffer.from('File name;City\nc.jpg;D\xfcne\n', 'latin1'));
  expect(await show(latin)).toMatchObject({ encoding: 'windows-1252' });
  expect((await show(latin)).columns[1]?.samples).toEqual(['Düne']);
  const again = await tables().readAgain(latin, { encoding: 'windows-1250', separator: 'comma' }, await keeper());
  expect(again).toMatchObject({ encoding: 'windows-1250', separator: 'comma' });
  expect(again.columns.map(({ header }) => header)).toEqual(['File name;City']);
});

test('what columns were for is remembered once a table was taken in', async () => {
  const first = await bringIn('Inventory,Wording\nK-1,One\n');
  expect((await show(first)).settings.uses).toEqual([{ to: 'nothing' }, { to: 'nothing' }]);
  const uses = [
    { to: 'keyField', target: 'jobId' },
    { to: 'field', target: 'headline', mode: 'add', language: '', dates: 'yearFirst' },
  ] as const;
  await use(first, { uses: [...uses] });
  await take(first);
  const second = await bringIn('Wording,INVENTORY,More\nTwo,K-1,x\n', 'second.csv');
  expect((await show(second)).settings.uses).toEqual([uses[1], uses[0], { to: 'nothing' }]);
});

test('a table that left here comes back in with three corrections', async () => {
  const { id: deliveryId } = await world.services.deliveries.deliver(
    {
      selection: { query: 'drive:Vault', minus: [], plus: [] },
      sort: 'name',
      settings: deliverySettings.parse({
        ...{ kind: 'table', format: 'csv', columns: ['id', 'name', 'field:headline', 'termPaths', 'keywords'] },
      }),
      ...{ presetId: null, recipient: '', reason: '', target: { kind: 'download' } as const },
    },
    await keeper(),
  );
  const { stream } = await world.services.deliveries.download(deliveryId, await keeper());
  let written = '';
  for await (const part of stream) written += String(part);
  const corrected = written
    .replace('Dunes', '=Dunes')
    .replace('Harbour', 'The harbour')
    .replace(/Secret,/, 'Secret,Places > Norland');
  const id = await bringIn(corrected);
  expect(await preview(id)).toEqual([
    ['a.jpg', ['Headline', 'Dunes', '=Dunes']],
    ['b.jpg', ['Headline', 'Harbour', 'The harbour']],
    ['c.jpg', ['Terms', [], ['Norland']]],
  ]);
  expect(await take(id)).toMatchObject({ photos: 3 });
});

test('who may change one folder finds nothing else by a table; tables of others do not exist', async () => {
  const { app } = world;
  const cookie = await signIn('viewer');
  const put = await app.inject({
    method: 'PUT',
    url: '/api/incoming-tables/files/x.csv',
    headers: { cookie, 'content-type': 'application/octet-stream' },
    payload: Buffer.from('File name,City\na.jpg,X\n'),
  });
  expect(put.statusCode).toBe(403);
  await world.apply({ kind: 'setPrivate', selection: { query: 'name:c.jpg' }, private: true });
  const id = await bringIn('File name,City\na.jpg,X\nc.jpg,Y\n');
  const cataloguer = await signIn('cataloguer');
  const other = await app.inject({
    url: incomingTableRoutes.showIncomingTable.path.replace(':id', String(id)),
    headers: { cookie: cataloguer },
  });
  expect(other.statusCode).toBe(404);
  const own = await app.inject({
    method: 'PUT',
    url: '/api/incoming-tables/files/x.csv',
    headers: { cookie: cataloguer, 'content-type': 'application/octet-stream' },
    payload: Buffer.from('File name,City\na.jpg,X\nc.jpg,Y\n'),
  });
  expect(own.statusCode).toBe(200);
});

test('a photo that somebody may not see any more is not in the preview of a table that found it', async () => {
  const id = await bringIn('File name,City\na.jpg,X\nc.jpg,Y\n');
  expect((await preview(id)).map(([name]) => name)).toEqual(['a.jpg', 'c.jpg']);
  await world.apply({ kind: 'setPrivate', selection: { query: 'name:c.jpg' }, private: true });
  const sight = [{ scope: { kind: 'catalogue' as const }, private: false }];
  const seen = await tables().preview(id, { offset: 0, limit: 10 }, { ...(await keeper()), sight });
  expect([seen.total, seen.photos.map(({ name }) => name)]).toEqual([1, ['a.jpg']]);
});

test('hostile tables are refused by name, and leave nothing behind', async () => {
  await expect(bringIn('')).rejects.toThrow('no rows below its header');
  await expect(bringIn('File name\n')).rejects.toThrow('no rows below its header');
  await expect(bringIn(Buffer.from('PK\x03\x04 no spreadsheet'))).rejects.toThrow(
    'The table “kites.csv” can’t be read',
  );
  await expect(bringIn(`${'a,'.repeat(600)}\n1\n`)).rejects.toThrow(
    'The table “kites.csv” can’t be read: it has more than 500 columns',
  );
  await expect(bringIn(`Name\n${'x'.repeat(200_000)}\n`)).rejects.toThrow('a cell has more than 100,000 characters');
  // Whatever is in it comes in as text.
  const id = await bringIn('Name,,Name\na\0.jpg,\uD800,"closed"\n');
  await expect(bringIn('Name,City\na.jpg,"unclosed\n')).rejects.toThrow('Quote Not Closed');
  expect((await show(id)).columns.map(({ header }) => header)).toEqual(['Name', 'Column 2', 'Name (2)']);
  await tables().remove(id, await keeper());
  await expect(show(id)).rejects.toThrow('There is no such table');
});

test('whatever bytes come in, they are a table or named as none', async () => {
  const reader = tableReader();
  const path = join(world.config.home, 'any');
  await fc.assert(
    fc.asyncProperty(
      fc.oneof(
        fc.uint8Array({ maxLength: 400 }),
        fc.string({ unit: fc.constantFrom('"', ',', ';', '\n', '\r', '\t', 'a', 'ü', '{', '}', ':') }).map(Buffer.from),
        fc.uint8Array({ maxLength: 200 }).map((bytes) => Buffer.concat([Buffer.from('PK\x03\x04'), bytes])),
      ),
      async (bytes) => {
        await writeFile(path, bytes);
        const written = await reader.recognise(path, {});
        try {
          for await (const rows of reader.rows(path, written))
            expect(rows.flat().every((cell) => typeof cell === 'string')).toBe(true);
        } catch (error) {
          expect(error).toBeInstanceOf(UnreadableTable);
        }
      },
    ),
    { numRuns: 150 },
  );
  await reader.close();
});

async function signIn(name: 'keeper' | 'cataloguer' | 'viewer'): Promise<string> {
  const { headers } = await world.app.inject({
    method: 'POST',
    url: '/api/session',
    payload: { name, password: PASSWORDS[name] },
  });
  return String(headers['set-cookie']).split(';')[0] ?? '';
}
