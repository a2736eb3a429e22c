import { join } from 'node:path';
import { readMetadata } from '@stellin/core/metadata/read';
import { withSource } from '../files/source';
import { openWorld, putFiles, realJpeg, type World } from '../testing/world';
import { PROGRAM } from '../catalogue/viewer';

let world: World;
let drive: string;
beforeEach(async () => {
  world = await openWorld();
  drive = await world.addDrive('Vault');
  await putFiles(drive, {
    'a.jpg': await realJpeg({ mark: 'Theirs' }, 20),
    'b.jpg': await realJpeg({}, 60),
  });
  await world.takeIn(drive);
});
afterEach(() => world.close());

const count = (query: string) => world.services.search.all.count(query);
const mark = (query: string, name: string) => world.apply({ kind: 'setMark', selection: { query }, mark: name });
const inFile = (name: string) => withSource(join(drive, name), (source) => readMetadata(source)).fields.mark;
const write = async () => {
  const job = await world.services.writeBack.run(world.services.jobs, { retryFailed: false }, world.keeperId);
  await world.until(job.id, ['done']);
};

test('marks come with files, are given, written, taken off and undone', async () => {
  expect(await count('mark:theirs')).toBe(1);
  expect(await mark('name:*', 'Checked')).toMatchObject({ title: 'Mark “Checked”: 2 photos' });
  expect(await count('mark:check* is:waiting')).toBe(2);
  await write();
  expect([inFile('a.jpg'), inFile('b.jpg')]).toEqual(['Checked', 'Checked']);
  expect(await count('is:waiting')).toBe(0);
  await mark('name:b.jpg', '');
  await write();
  expect(inFile('b.jpg')).toBeUndefined();
  await world.services.ledger.undo(world.keeperId);
  await world.services.ledger.undo(world.keeperId);
  expect(await count('mark:Theirs')).toBe(1);
  await write();
  expect([inFile('a.jpg'), inFile('b.jpg')]).toEqual(['Theirs', undefined]);
});

test('a team defines its marks; names and letters are given once', async () => {
  const define = (name: string, letter: 'a' | 'b', markId: number | null = null) =>
    world.apply({ kind: 'defineMark', markId, name, letter, colour: 'green' });
  await define('Checked', 'a');
  await expect(define('Checked', 'b')).rejects.toThrow('There is a mark “Checked” with the letter A already');
  await expect(define('Other', 'a')).rejects.toThrow('already');
  await mark('name:a.jpg', 'Checked');
  const [made] = await world.services.marks.list(PROGRAM);
  expect(made).toMatchObject({ name: 'Checked', letter: 'a', photos: 1 });
  await define('Looked through', 'b', made?.id ?? 0);
  expect(await world.services.marks.list(PROGRAM)).toMatchObject([{ name: 'Looked through', letter: 'b' }]);
  expect(await count('mark:"Looked through"')).toBe(1);
  await world.services.ledger.undo(world.keeperId);
  expect(await count('mark:Checked')).toBe(1);
  await world.apply({ kind: 'removeMark', markId: made?.id ?? 0 });
  expect(await world.services.marks.list(PROGRAM)).toEqual([]);
  expect(await count('mark:Checked')).toBe(1);
});
