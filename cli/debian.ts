// Debian packages that are needed and may be missing.

import { spawn } from 'node:child_process';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { createInterface } from 'node:readline/promises';
import { z } from 'zod';
import { postgresPrograms } from '@stellin/server/database/cluster';
import { messageOf } from '@stellin/server/errors';
import { step } from './steps';

interface Need {
  package: string;
  isThere(): boolean;
  /** How long installing it takes, about. */
  seconds: number;
}

/** What the product does without, and what is missing then. */
const OPTIONAL = {
  ffmpeg: {
    package: 'ffmpeg',
    isThere: () => existsSync('/usr/bin/ffmpeg') && existsSync('/usr/bin/ffprobe'),
    seconds: 30,
    without: 'films and sounds have no pictures, and nothing is known of their streams',
  },
  /** Tests read PDFs with it, too. */
  poppler: {
    package: 'poppler-utils',
    isThere: () => existsSync('/usr/bin/pdftotext'),
    seconds: 10,
    without: 'documents have no pages to look at',
  },
  jpegXl: {
    package: 'libjxl-tools',
    isThere: () => existsSync('/usr/bin/djxl'),
    seconds: 5,
    without: 'JPEG XL files have no pictures',
  },
  jpeg2000: {
    package: 'libopenjp2-tools',
    isThere: () => existsSync('/usr/bin/opj_decompress'),
    seconds: 5,
    without: 'JPEG 2000 files have no pictures',
  },
  raw: {
    package: 'libraw-bin',
    isThere: () => existsSync('/usr/bin/dcraw_emu'),
    seconds: 5,
    without: 'raw files without a picture of their camera inside have none',
  },
  lettering: {
    package: 'tesseract-ocr',
    isThere: () => existsSync('/usr/bin/tesseract'),
    seconds: 15,
    without: 'the text in pictures can’t be read',
  },
} as const satisfies Record<string, Need & { without: string }>;

export const NEEDS = {
  ...OPTIONAL,
  postgres: { package: 'postgresql', isThere: () => postgresPrograms() !== undefined, seconds: 40 },
  chromium: {
    package: 'chromium-headless-shell',
    isThere: () => existsSync('/usr/bin/chromium-headless-shell'),
    seconds: 60,
  },
  /** Tests make HEIC files with it. */
  heif: { package: 'libheif-examples', isThere: () => existsSync('/usr/bin/heif-enc'), seconds: 5 },
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

/** What was answered stands here, in the data folder. */
const REFUSED_FILE = 'tools-not-wanted.json';

/**
 * Offers to install what is not needed but wanted, once: whoever says no is not asked again. Where nobody can be asked it is installed; where
 * that can’t be done, it is said what is missing, and all else works.
 */
export async function offerOptional(home: string): Promise<void> {
  const file = join(home, REFUSED_FILE);
  const refused = z.array(z.string()).parse(existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : []);
  const missing = Object.values(OPTIONAL).filter((need) => !need.isThere() && !refused.includes(need.package));
  const wanted: Need[] = [];
  for (const need of missing) {
    if (await isWanted(need)) wanted.push(need);
    else refused.push(need.package);
  }
  if (wanted.length < missing.length) writeFileSync(file, `${JSON.stringify(refused)}\n`);
  await ensureInstalled(wanted).catch((error: unknown) => {
    const lacks = missing.map(({ package: name, without }) => `Without ${name} ${without}.`);
    process.stderr.write(`${messageOf(error)}\n${lacks.join('\n')}\n`);
  });
}

async function isWanted({ package: name, without }: (typeof OPTIONAL)[keyof typeof OPTIONAL]): Promise<boolean> {
  if (!process.stdin.isTTY) return true;
  const asking = createInterface({ input: process.stdin, output: process.stderr });
  try {
    const answer = await asking.question(`Install ${name} from Debian? Without it ${without}. [Y/n] `);
    return !/^n/i.test(answer.trim());
  } finally {
    asking.close();
  }
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
