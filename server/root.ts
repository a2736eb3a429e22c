// Where the files of the program are: the folder with package-lock.json, above the sources and above what is built of them.

import { existsSync } from 'node:fs';
import { dirname, join } from 'node:path';

export const ROOT = rootAbove(__dirname);

function rootAbove(folder: string): string {
  if (existsSync(join(folder, 'package-lock.json'))) return folder;
  const above = dirname(folder);
  if (above === folder) throw new Error(`package-lock.json is not in any folder above ${__dirname}`);
  return rootAbove(above);
}
