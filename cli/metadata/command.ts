// `./stellin metadata show|set|check FILE …`: the codec as a tool.

import { places, readConfig } from '@stellin/server/config';
import { messageOf } from '@stellin/server/errors';
import { recoverFileJournals, type Settled } from '@stellin/server/files/journal';
import { check } from './check';
import { chosenFiles } from './files';
import { parse, UsageError } from './options';
import { set } from './set';
import { show } from './show';

const HELP = `Usage: ./stellin metadata show FILE … [--json] [--blocks] [--recursive]
       ./stellin metadata set FILE … [--field NAME=VALUE] … [--add-keyword TEXT] … [--remove-keyword TEXT] …
                             [--sidecar] [--dry-run] [--recursive]
       ./stellin metadata check FILE … [--recursive]

show    the fields of files and their sidecars
  --json            one object a file, each on a line of its own (docs/metadata.md)
  --blocks          what EXIF, IIM, XMP and the sidecar say, each for itself

set     write fields into files; kinds that can’t hold them get a sidecar beside them
  --field NAME=VALUE      a field by its name or its name in XMP; lists are split at “; ”, structures and several
                          languages are JSON, nothing behind the = removes the field. May be given several times.
  --add-keyword TEXT      add a keyword, --remove-keyword TEXT to take one out; both may be given several times
  --sidecar               write into sidecars only
  --dry-run               say what would be written, and write nothing

check   problems of files: what can’t be read, blocks that disagree, texts that IIM cuts; exit status 1 if there are any

FILE may be a pattern in quotes; --recursive takes the files in folders. A name that begins with - comes behind --.

Examples
  ./stellin metadata show kite.jpg
  ./stellin metadata set kite.jpg --field "Headline=Kites over the dunes" --field "Creator=Ida Brandt; Jon Marsh"
  ./stellin metadata set 'festival/*.jpg' --add-keyword Rokkaku --remove-keyword kite --dry-run
  ./stellin metadata set kite.jpg --field 'Title={"x-default": "Kite", "de": "Drachen"}' --field "Date created=1952-06"
  ./stellin metadata check --recursive archive/

Exit status: 0 when all went well, 1 when a file could not be read or written or has problems, 2 for a wrong command line.`;

const ACTIONS = {
  show: { run: show, options: ['json', 'blocks'] },
  set: { run: set, options: ['field', 'add-keyword', 'remove-keyword', 'sidecar', 'dry-run'] },
  check: { run: check, options: [] },
} as const;
type Action = keyof typeof ACTIONS;

/** Runs the command; returns the exit status. */
export async function metadata(args: string[]): Promise<number> {
  try {
    return await act(args);
  } catch (error) {
    if (!(error instanceof UsageError)) throw error;
    console.error(`✗ ${error.message}\n  ./stellin metadata --help says how it is used`);
    return 2;
  }
}

async function act(args: string[]): Promise<number> {
  const { values, positionals } = parsed(args);
  const [action = '', ...names] = positionals;
  if (values.help || action === '') {
    console.log(HELP);
    return values.help ? 0 : 2;
  }
  if (!isAction(action)) throw new UsageError(`there is no “metadata ${action}”`);
  const allowed: readonly string[] = [...ACTIONS[action].options, 'recursive', 'help'];
  const given = Object.entries(values).filter(([, value]) => (Array.isArray(value) ? value.length > 0 : value));
  for (const [name] of given)
    if (!allowed.includes(name)) throw new UsageError(`--${name} does not belong to “metadata ${action}”`);
  if (names.length === 0) throw new UsageError('no file is named');

  const journals = places.journals(readConfig().home);
  recover(journals);
  const { files, problems } = chosenFiles(names, values.recursive);
  for (const problem of problems) console.error(`✗ ${problem}`);
  const status = await ACTIONS[action].run(files, { ...values, journals });
  return problems.length > 0 ? 1 : status;
}

function parsed(args: string[]): ReturnType<typeof parse> {
  try {
    return parse(args);
  } catch (error) {
    throw new UsageError(messageOf(error));
  }
}

function isAction(name: string): name is Action {
  return name in ACTIONS;
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
