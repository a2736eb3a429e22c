import { readFileSync } from 'node:fs';
import { pages } from './docs';

test('the tables in docs/ are those of the code; ./stellin docs makes them anew', () => {
  for (const [path, text] of pages()) expect(readFileSync(path, 'utf8')).toBe(text);
});
