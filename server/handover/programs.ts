// Other programs that are started with files: those in a folder of the data folder, which only who has the machine fills. What they are
// given never goes through a shell.

import { spawn } from 'node:child_process';
import { constants } from 'node:fs';
import { access, readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { messageOf, StellinError, systemCode } from '../errors';

/** More files than a command line takes: the program gets the folder instead. */
const MAX_FILES = 200;
const MAX_WORDS = 500;

/** The names of what can be started. */
export async function listPrograms(folder: string): Promise<string[]> {
  const names = await readdir(folder).catch((error: unknown) => {
    if (systemCode(error) === 'ENOENT') return [];
    throw error;
  });
  const found: string[] = [];
  for (const name of names.sort((one, other) => one.localeCompare(other))) {
    if (name.startsWith('.')) continue;
    const may = await access(join(folder, name), constants.X_OK).then(
      () => true,
      () => false,
    );
    if (may) found.push(name);
  }
  return found;
}

/** Refuses what is not in the folder. */
export async function requireProgram(folder: string, name: string): Promise<void> {
  if (!(await listPrograms(folder)).includes(name))
    throw new StellinError('notFound', { what: `program “${name}” in ${folder}` });
}

/** Starts a program in a folder with files (their full paths), and does not wait. `ended` is told what became of it, in words. */
export async function startProgram(
  programs: string,
  name: string,
  { root, files, ended }: { root: string; files: readonly string[]; ended: (outcome: string) => void },
): Promise<void> {
  await requireProgram(programs, name);
  const given = files.length > MAX_FILES ? [root] : files;
  const child = spawn(join(programs, name), given, {
    cwd: root,
    shell: false,
    // It lives on when this process ends.
    detached: true,
    stdio: ['ignore', 'ignore', 'pipe'],
  });
  let words = '';
  child.stderr.setEncoding('utf8').on('data', (chunk: string) => (words = (words + chunk).slice(-MAX_WORDS)));
  child.once('error', (error) => ended(`could not be started: ${messageOf(error)}`));
  child.once('close', (code) => {
    // Of one that could not be started the error has told.
    if (code === 0) ended('has ended');
    else if (child.pid !== undefined)
      ended(`ended with an error (${code ?? 'killed'})${words.trim() && `: ${words.trim()}`}`);
  });
  child.unref();
}
