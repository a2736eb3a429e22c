import { readFileSync } from 'node:fs';
import { pages } from './docs';

test('the tables in docs/ are those of the code; ./stellin docs makes them anew', async () => {
  for (const [path, text] of await pages()) expect(readFileSync(path, 'utf8')).toBe(text);
});
