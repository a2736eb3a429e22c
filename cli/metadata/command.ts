// `./stellin metadata show|set|check FILE …`: the codec as a tool.

import { places, readConfig } from '@stellin/server/config';
import { recoverFileJournals, type Settled } from '@stellin/server/files/journal';
import { check } from './check';
import { chosenFiles } from './files';
import { UsageError, type SetOptions, type ShowOptions, type Which } from './options';
import { set } from './set';
import { show } from './show';

/** `metadata show` */
export function showMetadata(names: readonly string[], options: ShowOptions & Which): Promise<number> {
  return withFiles(names, options, (files) => show(files, options));
}

/** `metadata set` */
export function setMetadata(names: readonly string[], options: Omit<SetOptions, 'journals'> & Which): Promise<number> {
  return withFiles(names, options, (files, journals) => set(files, { ...options, journals }));
}

/** `metadata check` */
export function checkMetadata(names: readonly string[], options: Which): Promise<number> {
  return withFiles(names, options, check);
}

/** Sorts out writes that were cut off, then works on the files named. Returns the exit status. */
async function withFiles(
  names: readonly string[],
  { recursive }: Which,
  work: (files: readonly string[], journals: string) => Promise<number>,
): Promise<number> {
  const journals = places.journals(readConfig().home);
  recover(journals);
  const { files, problems } = chosenFiles(names, recursive);
  for (const problem of problems) console.error(`✗ ${problem}`);
  try {
    const status = await work(files, journals);
    return problems.length > 0 ? 1 : status;
  } catch (error) {
    if (!(error instanceof UsageError)) throw error;
    console.error(`✗ ${error.message}\n  ./stellin metadata set --help says how it is used`);
    return 2;
  }
}

const SETTLED: Readonly<Record<Settled, string | undefined>> = {
  old: undefined,
  new: undefined,
  gone: undefined,
  restored: 'a write that was cut off was undone; the file is as it was before',
  foreign: 'a write was cut off here, and another program has written the file since; it was left alone',
};

/** Sorts out writes that were cut off, before anything else. */
function recover(journals: string): void {
  for (const { path, settled } of recoverFileJournals(journals)) {
    const text = typeof settled === 'string' ? SETTLED[settled] : settled.message;
    if (text) console.error(`! ${path}: ${text}`);
  }
}
