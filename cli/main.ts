// `./stellin COMMAND`: all commands with their options. What each does is loaded only when it is called, so that starting stays
// quick.

import { Command, CommanderError, InvalidArgumentError } from 'commander';
import { messageOf } from '@stellin/server/errors';

/** Exit status of a wrong command line. */
const WRONG_USAGE = 2;

let status = 0;

/** An action whose number is the exit status. */
function running<Given extends unknown[]>(action: (...given: Given) => Promise<number> | number) {
  return async (...given: Given): Promise<void> => {
    status = await action(...given);
  };
}

function wholeNumber(least: number) {
  return (text: string): number => {
    const number = Number(text);
    if (Number.isInteger(number) && number >= least) return number;
    throw new InvalidArgumentError(`It takes a whole number from ${least.toLocaleString('en')} on.`);
  };
}

const several = (text: string, before: string[]) => [...before, text];

const program = new Command('./stellin')
  .description('For the person who looks after a large photo archive.')
  .configureHelp({ showGlobalOptions: false })
  .helpCommand(false)
  .showHelpAfterError('--help says how it is used')
  .exitOverride();

program
  .command('demo')
  .description('Serve the demo archive of the Saltmarsh Kite Museum')
  .option('--fresh', 'begin anew')
  .option('--small', 'make a tenth of it')
  .option('--background', 'serve in the background')
  .action(running(async (flags) => (await import('./serve')).serveCommand('demo', flags)));

program
  .command('start')
  .description('Serve an archive of your own')
  .option('--background', 'serve in the background')
  .option('--adopt', 'go on with data that an earlier version kept together with the demo')
  .action(running(async (flags) => (await import('./serve')).serveCommand('archive', flags)));

program
  .command('stop')
  .description('End a server that runs in the background')
  .option('--demo', 'that of the demo')
  .action(running(async (options) => (await import('./background')).stopCommand(options)));

program
  .command('status')
  .description('Tell whether a server runs, and where')
  .option('--demo', 'that of the demo')
  .action(running(async (options) => (await import('./background')).statusCommand(options)));

program
  .command('logs')
  .description('Show what a server in the background has printed')
  .option('--demo', 'that of the demo')
  .option('-f, --follow', 'and what it prints from now on')
  .action(running(async (options) => (await import('./background')).logsCommand(options)));

const service = program.command('service').description('Have systemd start it with the machine');
for (const [name, description] of [
  ['install', 'write the unit'],
  ['remove', 'remove it again'],
] as const)
  service
    .command(name)
    .description(description)
    .option('--user <name>', 'who it runs as')
    .option('--folder <folder>', 'where units of systemd lie', '/etc/systemd/system')
    .action(running(async (options) => (await import('./systemdService')).serviceCommand(name, options)));

const remote = () => import('./remote');
const TOKEN_HELP = '\nSTELLIN_TOKEN holds the token; “Your account” makes one.';
program
  .command('query <query>')
  .description('What a query finds, asked of a server that runs')
  .option('--limit <count>', 'how many photos are listed at most', Number, 50)
  .option('--json', 'for programs', false)
  .option('--url <address>', 'of the server; else the one on this machine')
  .addHelpText('after', TOKEN_HELP)
  .action(running(async (query, options) => (await remote()).queryCommand(query, options)));
program
  .command('change <kind> <json>')
  .description('Make a change on a server that runs')
  .option('--json', 'for programs', false)
  .option('--url <address>', 'of the server; else the one on this machine')
  .addHelpText('after', `\n  ./stellin change setRating '{"selection": {"query": "kite"}, "rating": 4}'\n${TOKEN_HELP}`)
  .action(running(async (kind, json, options) => (await remote()).changeCommand(kind, json, options)));

const account = program
  .command('account')
  .description('Look after accounts on the machine itself, also when nobody can sign in')
  .addHelpText('after', '\nA password is asked for, or read from standard input.');
const accounts = () => import('./account');
account
  .command('list')
  .description('who may sign in')
  .action(running(async () => (await accounts()).listAccounts()));
account
  .command('add <name>')
  .description('add an account')
  .option('--role <role>', 'keeper, cataloguer or viewer', 'cataloguer')
  .option('--display <name>', 'the name that others see')
  .option('--generate', 'make a password and show it', false)
  .action(running(async (name, options) => (await accounts()).addAccount(name, options)));
account
  .command('password <name>')
  .description('set another password')
  .option('--generate', 'make one and show it', false)
  .action(running(async (name, { generate }) => (await accounts()).changePassword(name, generate)));
account
  .command('single-factor <name>')
  .description('take the second factor off')
  .action(running(async (name) => (await accounts()).resetSecondFactor(name)));
account
  .command('disable <name>')
  .description('let nobody sign in with it')
  .action(running(async (name) => (await accounts()).disableAccount(name)));
account
  .command('enable <name>')
  .description('let it be used again')
  .action(running(async (name) => (await accounts()).enableAccount(name)));

program
  .command('backup')
  .description('Back the catalogue up, also while it is served')
  .option('--to <folder>', 'where; else as it is planned on Holdings')
  .option('--demo', 'that of the demo')
  .action(running(async (options) => (await import('./backup')).backupCommand(options)));

program
  .command('restore <file>')
  .description('Take a catalogue back from a backup, into a new data folder')
  .option('--check', 'only for trial: nothing is changed')
  .option('--replace', 'put it in the place of the catalogue that is there, which is kept under another name')
  .option('--demo', 'that of the demo')
  .action(running(async (file, options) => (await import('./backup')).restoreCommand(file, options)));

program
  .command('export')
  .description('Take all of the catalogue out in open formats, also while it is served')
  .requiredOption('--all <folder>', 'a folder that is not there yet')
  .option('--demo', 'that of the demo')
  .action(running(async (options) => (await import('./takeout')).exportCommand(options)));

program
  .command('import <folder>')
  .description('Make a catalogue of one that was taken out, in a new data folder')
  .option('--replace', 'put it in the place of the catalogue that is there, which is kept under another name')
  .option('--demo', 'that of the demo')
  .action(running(async (folder, options) => (await import('./takeout')).importCommand(folder, options)));

program
  .command('bag')
  .description('Write what the files of a drive should hold as a bag (BagIt), or check one')
  .option('--drive <label>', 'whose files')
  .option('--to <folder>', 'a folder that is not there yet')
  .option('--from <manifest>', 'what somebody else says its files should hold: a file, or a bag')
  .option('--check <folder>', 'a bag, by whatever program it was made')
  .option('--demo', 'a drive of the demo')
  .action(running(async (options) => (await import('./takeout')).bagCommand(options)));

program
  .command('ledger')
  .description('The ledger')
  .command('verify')
  .description('Look whether any entry was altered or removed since it was written')
  .option('--known <hash>', 'a last hash that was told before; may be given several times', several, [])
  .option('--demo', 'that of the demo')
  .action(running(async (options) => (await import('./ledger')).verifyLedgerCommand(options)));

program
  .command('worker')
  .description('Only work on jobs, against the database in STELLIN_DATABASE_URL')
  .action(running(async () => (await import('./worker')).workerCommand()));

program
  .command('links-role')
  .description('Make the database role with which view links are served, and print its address')
  .option('--demo', 'that of the demo')
  .action(running(async (options) => (await import('./links')).linksRoleCommand(options)));

program
  .command('serve-links')
  .description('Serve nothing but view links, with the role in STELLIN_DATABASE_URL')
  .option('--demo', 'those of the demo')
  .action(running(async (options) => (await import('./links')).serveLinksCommand(options)));

program
  .command('test [names...]')
  .description('Run every check and test, or those named')
  .action(running(async (names) => (await import('./test')).test(names)));

program
  .command('bench [name]')
  .description('Measure; without a name the benchmarks are listed')
  .option('--json', 'the figures as JSON', false)
  .option('--photos <count>', 'of how many photos a catalogue is made', wholeNumber(1000), 1_000_000)
  .option('--fit', 'of people: keep what was learnt', false)
  .action(running(async (name, options) => (await import('./bench')).bench(name, options)));

const metadata = program
  .command('metadata')
  .description('Read, write and check the metadata of files')
  .addHelpText(
    'after',
    `
A FILE may be a pattern in quotes. A name that begins with - comes behind --.

Examples
  ./stellin metadata show kite.jpg
  ./stellin metadata set kite.jpg --field "Headline=Kites over the dunes" --field "Creator=Ida Brandt; Jon Marsh"
  ./stellin metadata set 'festival/*.jpg' --add-keyword Rokkaku --remove-keyword kite --dry-run
  ./stellin metadata set kite.jpg --field 'Title={"x-default": "Kite", "de": "Drachen"}' --field "Date created=1952-06"
  ./stellin metadata check --recursive archive/

Exit status: 0 when all went well, 1 when a file could not be read or written or has problems, 2 for a wrong command line.`,
  );
const tool = () => import('./metadata/command');
metadata
  .command('show <files...>')
  .description('the fields of files and their sidecars')
  .option('--json', 'one object a file, each on a line of its own (docs/metadata.md)', false)
  .option('--blocks', 'what EXIF, IIM, XMP and the sidecar say, each for itself', false)
  .option('--recursive', 'the files in folders', false)
  .action(running(async (files, options) => (await tool()).showMetadata(files, options)));
metadata
  .command('set <files...>')
  .description('write fields into files; kinds that can’t hold them get a sidecar beside them')
  .option(
    '--field <name=value>',
    'a field by its name or its name in XMP; lists are split at “; ”, structures and several languages are JSON, nothing behind the = removes the field; may be given several times',
    several,
    [],
  )
  .option('--add-keyword <text>', 'add a keyword; may be given several times', several, [])
  .option('--remove-keyword <text>', 'take one out; may be given several times', several, [])
  .option('--sidecar', 'write into sidecars only', false)
  .option('--dry-run', 'say what would be written, and write nothing', false)
  .option('--recursive', 'the files in folders', false)
  .action(running(async (files, options) => (await tool()).setMetadata(files, options)));
metadata
  .command('check <files...>')
  .description('problems of files: what can’t be read, blocks that disagree, texts that IIM cuts')
  .option('--recursive', 'the files in folders', false)
  .action(running(async (files, options) => (await tool()).checkMetadata(files, options)));

const bay = program
  .command('bay')
  .description('The demo’s drives; alone it lists them')
  .action(running(async () => (await import('./bay')).listDrives()));
bay
  .command('attach <name> [slot]')
  .description('plug a drive in')
  .action(running(async (name, slot) => (await import('./bay')).plug('attach', name, slot)));
bay
  .command('detach <name>')
  .description('put it on the shelf')
  .action(running(async (name) => (await import('./bay')).plug('detach', name)));
bay
  .command('touch <name> [count]')
  .description('change files there as another program would')
  .action(running(async (name, count) => (await import('./bay')).touchFiles(name, Number(count ?? 5) || 5)));

program
  .command('retouch <files...>')
  .description('The stand-in of another program that the demo hands pictures over to: saves a lighter TIFF beside each')
  .action(running(async (files) => (await import('./retouch')).retouchCommand(files)));

program
  .command('docs')
  .description('Make the tables in docs/ anew from the code')
  .action(running(async () => (await import('./docs')).docs()));

program
  .command('shots')
  .description('Take the pictures of docs/screenshots/ from the demo')
  .action(running(async () => (await import('./shots')).shots()));

// The process of lower priority that a server starts beside itself.
program.command('beside', { hidden: true }).action(running(async () => (await import('./worker')).besideCommand()));

async function main(args: readonly string[]): Promise<number> {
  try {
    await program.parseAsync(args, { from: 'user' });
    return status;
  } catch (error) {
    // Help that was asked for, or shown because no command was named, is no error.
    if (error instanceof CommanderError) return error.exitCode === 0 || args.length === 0 ? 0 : WRONG_USAGE;
    console.error(process.env['STELLIN_LOG'] === 'debug' ? error : `✗ ${messageOf(error)}`);
    return 1;
  }
}

void main(process.argv.slice(2)).then((code) => process.exit(code));
