// Debian packages that are needed and may be missing.

import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { postgresPrograms } from '@stellin/server/database/cluster';
import { step } from './steps';

interface Need {
  package: string;
  isThere(): boolean;
}

export const NEEDS = {
  postgres: { package: 'postgresql', isThere: () => postgresPrograms() !== undefined },
  chromium: { package: 'chromium-headless-shell', isThere: () => existsSync('/usr/bin/chromium-headless-shell') },
} as const satisfies Record<string, Need>;

/** Installs with apt-get what is not there, as root or through sudo. */
export async function ensureInstalled(needs: readonly Need[]): Promise<void> {
  const missing = needs.filter((need) => !need.isThere()).map((need) => need.package);
  if (missing.length === 0) return;
  await step(`Installing ${missing.join(', ')} from Debian`, () => {
    aptGet(['update', '-qq']);
    aptGet(['install', '-y', '-qq', '--no-install-recommends', ...missing]);
  });
}

function aptGet(args: readonly string[]): void {
  const command = ['env', 'DEBIAN_FRONTEND=noninteractive', 'apt-get', ...args];
  const [program = '', ...rest] = process.getuid?.() === 0 ? command : ['sudo', ...command];
  const { status, stderr, error } = spawnSync(program, rest, {
    encoding: 'utf8',
    stdio: ['inherit', 'ignore', 'pipe'],
  });
  if (status !== 0) throw new Error(`apt-get ${args.join(' ')} failed: ${error?.message ?? stderr}`);
}
