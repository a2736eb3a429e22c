import { mkdtemp, readdir, rm, truncate } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Query } from '@stellin/core/query/query';
import { openWorld, putFiles, realJpeg, type World } from '../testing/world';
import { finderClient } from './finder';
import { PROGRAM, viewpointOf } from '../catalogue/viewer';

let world: World;
let folder: string;
beforeEach(async () => {
  world = await openWorld();
  folder = await mkdtemp(join(tmpdir(), 'stellin-finder-'));
  const drive = await world.addDrive('Vault');
  await putFiles(drive, {
    'a.jpg': await realJpeg({ description: 'A kite over the dunes', rating: 3 }),
    'b.jpg': await realJpeg({ description: 'The harbour', keywords: ['boats'] }, 70),
  });
  await world.takeIn(drive);
});
afterEach(async () => {
  await world.close();
  await rm(folder, { recursive: true });
});

const PHRASE: Query = { kind: 'words', text: 'kite' };

/** What an index of its own says, begun with what was kept and kept again at the end. */
async function asked(query: Query): Promise<{ photos: number; made: boolean }> {
  const started = await world.services.database.row<{ entries: string }>(ENTRIES);
  const finder = finderClient(world.databaseUrl, folder, 0);
  try {
    const [found] = await finder.ask('counts', { queries: [query], from: viewpointOf(PROGRAM) });
    const after = await world.services.database.row<{ entries: string }>(ENTRIES);
    // Making it anew forgets old changes, and notes up to when.
    return { photos: found?.photos ?? 0, made: started?.entries !== after?.entries };
  } finally {
    await finder.close();
  }
}
const ENTRIES = `select coalesce((select value::text from setting where name = 'changesForgotten'), '') as entries`;

test('a restart takes up what was kept and reads only what has changed since', async () => {
  expect(await asked(PHRASE)).toEqual({ photos: 1, made: true });
  expect(await readdir(folder)).toEqual(['index']);
  await world.apply({
    kind: 'setFields',
    selection: { query: 'name:b.jpg' },
    edits: [{ target: 'description', mode: 'replace', value: 'Another kite' }],
  });
  expect(await asked(PHRASE)).toEqual({ photos: 2, made: false });
  await world.services.ledger.undo(world.keeperId);
  expect(await asked(PHRASE)).toEqual({ photos: 1, made: false });
  await world.services.ledger.redo(world.keeperId);
  expect(await asked({ kind: 'criterion', criterion: 'changedBy', operator: '=', value: '*keeper*' })).toEqual({
    photos: 1,
    made: false,
  });
});

test('what is not whole, or of another catalogue, or too old is left aside', async () => {
  const path = join(folder, 'index');
  const damages: (() => Promise<unknown>)[] = [
    () => truncate(path, 500),
    () =>
      world.services.database.rows(`update setting set value = to_jsonb('9999'::text) where name = 'changesForgotten'`),
    () => world.services.database.rows(`update migration set name = 'x' || name where name like '0001%'`),
  ];
  for (const damage of damages) {
    await asked(PHRASE);
    await damage();
    expect(await asked(PHRASE)).toEqual({ photos: 1, made: true });
  }
});
