// Debian packages that are needed and may be missing.

import { spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { postgresPrograms } from '@stellin/server/database/cluster';
import { step } from './steps';

interface Need {
  package: string;
  isThere(): boolean;
  /** How long installing it takes, about. */
  seconds: number;
}

export const NEEDS = {
  postgres: { package: 'postgresql', isThere: () => postgresPrograms() !== undefined, seconds: 40 },
  chromium: {
    package: 'chromium-headless-shell',
    isThere: () => existsSync('/usr/bin/chromium-headless-shell'),
    seconds: 60,
  },
  /** Tests read PDFs with it. */
  poppler: { package: 'poppler-utils', isThere: () => existsSync('/usr/bin/pdftotext'), seconds: 10 },
  /** Tests give files access control lists and extended attributes with them. */
  acl: { package: 'acl', isThere: () => existsSync('/usr/bin/setfacl'), seconds: 5 },
  attr: { package: 'attr', isThere: () => existsSync('/usr/bin/setfattr'), seconds: 5 },
} as const satisfies Record<string, Need>;

/** Installs with apt-get what is not there, as root or through sudo. */
export async function ensureInstalled(needs: readonly Need[]): Promise<void> {
  const missing = needs.filter((need) => !need.isThere());
  if (missing.length === 0) return;
  const names = missing.map((need) => need.package);
  const seconds = missing.reduce((sum, need) => sum + need.seconds, 0);
  await step(
    `Installing ${names.join(', ')} from Debian`,
    async () => {
      await aptGet(['update', '-qq']);
      await aptGet(['install', '-y', '-qq', '--no-install-recommends', ...names]);
    },
    { seconds },
  );
}

async function aptGet(args: readonly string[]): Promise<void> {
  const command = ['env', 'DEBIAN_FRONTEND=noninteractive', 'apt-get', ...args];
  const [program = '', ...rest] = process.getuid?.() === 0 ? command : ['sudo', ...command];
  const child = spawn(program, rest, { stdio: ['inherit', 'ignore', 'pipe'] });
  let problem = '';
  child.stderr.on('data', (chunk: Buffer) => (problem += chunk.toString()));
  const status = await new Promise<number | null>((resolve, reject) => {
    child.on('error', reject);
    child.on('close', resolve);
  });
  if (status !== 0) throw new Error(`apt-get ${args.join(' ')} failed: ${problem}`);
}
