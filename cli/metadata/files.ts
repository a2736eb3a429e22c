// Which files a command line means: files, patterns, and folders with all in them.

import { statSync } from 'node:fs';
import { globSync } from 'tinyglobby';
import { kindByName } from '@stellin/core/metadata/containers/index';
import { problemOf } from '@stellin/server/files/problem';

export interface Chosen {
  files: string[];
  /** What was named and can't be read, with the reason. */
  problems: string[];
}

/** The files meant by the arguments, each once, in order. Folders need `recursive`; of them the files of a known kind are taken, hidden ones left aside. */
export function chosenFiles(names: readonly string[], recursive: boolean): Chosen {
  const chosen: Chosen = { files: [], problems: [] };
  for (const name of names) {
    const found = expand(name, recursive);
    if (typeof found === 'string') chosen.problems.push(`${name}: ${found}`);
    else chosen.files.push(...found);
  }
  chosen.files = [...new Set(chosen.files)];
  return chosen;
}

function expand(name: string, recursive: boolean): string[] | string {
  try {
    const entry = statSync(name);
    if (!entry.isDirectory()) return [name];
    if (!recursive) return 'it is a folder; --recursive takes the files in it';
    return globSync('**/*', { cwd: name, onlyFiles: true })
      .filter((file) => kindByName(file) !== undefined)
      .sort()
      .map((file) => `${name.replace(/\/$/, '')}/${file}`);
  } catch (error) {
    // A shell expands patterns; one that reaches us was quoted, or matched nothing there.
    if (!/[*?[{]/.test(name)) return problemOf(error);
    const found = globSync(name, { onlyFiles: true, absolute: name.startsWith('/'), expandDirectories: false }).sort();
    return found.length > 0 ? found : 'no file matches it';
  }
}
