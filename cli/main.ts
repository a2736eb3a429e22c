// `./stellin COMMAND`: the table of commands. Each is loaded only when it is called, so that starting stays quick.

import { messageOf } from '@stellin/server/errors';

interface Command {
  usage: string;
  /** Left out for commands that only the program itself calls. */
  help?: string;
  run(args: string[]): Promise<number>;
}

const COMMANDS: Record<string, Command> = {
  demo: {
    usage: 'demo [--fresh] [--small] [--background]',
    help: 'Serve the demo archive of the Saltmarsh Kite Museum; --fresh begins anew, --small makes a tenth of it',
    run: async (args) => (await import('./serve')).serveCommand('demo', args),
  },
  start: {
    usage: 'start [--background]',
    help: 'Serve an archive of your own',
    run: async (args) => (await import('./serve')).serveCommand('archive', args),
  },
  stop: {
    usage: 'stop [--demo]',
    help: 'End a server that runs in the background',
    run: async (args) => (await import('./background')).stopCommand(args),
  },
  status: {
    usage: 'status [--demo]',
    help: 'Tell whether a server runs, and where',
    run: async (args) => (await import('./background')).statusCommand(args),
  },
  logs: {
    usage: 'logs [--follow] [--demo]',
    help: 'Show what a server in the background has printed',
    run: async (args) => (await import('./background')).logsCommand(args),
  },
  service: {
    usage: 'service install|remove',
    help: 'Have systemd start it with the machine',
    run: async (args) => (await import('./systemdService')).serviceCommand(args),
  },
  account: {
    usage: 'account list|add|password|disable|enable …',
    help: 'Look after accounts on the machine itself, also when nobody can sign in; account alone says more',
    run: async (args) => (await import('./account')).accountCommand(args),
  },
  worker: {
    usage: 'worker',
    help: 'Only work on jobs, against the database in STELLIN_DATABASE_URL',
    run: async () => (await import('./worker')).workerCommand(),
  },
  test: {
    usage: 'test [NAME …]',
    help: 'Run every check and test, or those named',
    run: async (args) => (await import('./test')).test(args),
  },
  bench: {
    usage: 'bench NAME [--json]',
    help: 'Measure; without a name the benchmarks are listed',
    run: async (args) => (await import('./bench')).bench(args),
  },
  metadata: {
    usage: 'metadata show|set|check FILE …',
    help: 'Read, write and check the metadata of files; metadata --help says more',
    run: async (args) => (await import('./metadata/command')).metadata(args),
  },
  bay: {
    usage: 'bay [attach|detach|touch NAME]',
    help: 'Plug the demo’s drives in and out; touch changes files there as another program would',
    run: async (args) => (await import('./bay')).bay(args),
  },
  docs: {
    usage: 'docs',
    help: 'Make the tables in docs/ anew from the code',
    run: async () => (await import('./docs')).docs(),
  },
  shots: {
    usage: 'shots',
    help: 'Take the pictures of docs/screenshots/ from the demo',
    run: async () => (await import('./shots')).shots(),
  },
  beside: { usage: 'beside', run: async () => (await import('./worker')).besideCommand() },
};

function printHelp(): void {
  const shown = Object.values(COMMANDS).filter(({ help }) => help !== undefined);
  const width = Math.max(...shown.map(({ usage }) => usage.length));
  console.log('Usage: ./stellin COMMAND\n');
  for (const { usage, help } of shown) console.log(`  ${usage.padEnd(width)}  ${help}`);
}

async function main([name = '', ...args]: string[]): Promise<number> {
  const command = COMMANDS[name];
  if (command) return command.run(args);
  printHelp();
  return ['', 'help', '--help', '-h'].includes(name) ? 0 : 2;
}

main(process.argv.slice(2)).then(
  (code) => process.exit(code),
  (error: unknown) => {
    console.error(process.env['STELLIN_LOG'] === 'debug' ? error : `✗ ${messageOf(error)}`);
    process.exit(1);
  },
);
