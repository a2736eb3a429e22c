// `./stellin test`: every check and test, added up in the last line. Checks of the code run two at a time, tests by themselves.

import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { z } from 'zod';
import { ROOT } from '@stellin/server/root';
import { startTestCluster } from '@stellin/server/testing/cluster';
import { scratchInMemory } from '@stellin/server/testing/scratch';
import { ensureInstalled, NEEDS } from './debian';

const RESULTS = join(ROOT, 'test-results');
const BIN = join(ROOT, 'node_modules', '.bin');

interface Counts {
  passed: number;
  failed: number;
}

interface Check {
  name: string;
  /** Gives what it printed, where it did not print it itself. */
  run(): Promise<Counts & { output?: string }>;
  /** Others may run beside it. */
  besides: boolean;
}

const CHECKS: readonly Check[] = [
  check('types', 'tsc', ['--noEmit', '-p', 'tsconfig.json']),
  check('types-web', 'tsc', ['--noEmit', '-p', 'web/tsconfig.json']),
  check('lint', 'oxlint', ['--deny-warnings']),
  check('format', 'oxfmt', ['--check']),
  check('architecture', 'depcruise', [
    '--config',
    '.dependency-cruiser.cjs',
    'core',
    'contract',
    'server',
    'web',
    'demo',
    'cli',
    'bench',
    'e2e',
  ]),
  check('unused', 'knip', []),
  { name: 'jest', run: () => Promise.resolve(runJest()), besides: false },
  { name: 'e2e', run: () => Promise.resolve(runPlaywright()), besides: false },
];

/** Runs all checks, or those named. */
export async function test(names: string[]): Promise<number> {
  const unknown = names.find((name) => !CHECKS.some((candidate) => candidate.name === name));
  if (unknown)
    throw new Error(`There is no check “${unknown}”; there are ${CHECKS.map(({ name }) => name).join(', ')}`);
  await ensureInstalled(Object.values(NEEDS));
  rmSync(RESULTS, { recursive: true, force: true });
  mkdirSync(RESULTS, { recursive: true });
  const removeScratch = scratchInMemory();
  const cluster = await startTestCluster();
  const total: Counts = { passed: 0, failed: 0 };
  try {
    const chosen = CHECKS.filter((candidate) => names.length === 0 || names.includes(candidate.name));
    const queue = chosen.filter(({ besides }) => besides).values();
    const hand = async () => {
      for (const each of queue) add(total, await perform(each));
    };
    await Promise.all([hand(), hand()]);
    for (const each of chosen.filter(({ besides }) => !besides)) add(total, await perform(each));
  } finally {
    await cluster?.stop();
    removeScratch();
  }
  console.log(`\n${total.passed} passed, ${total.failed} failed`);
  return total.failed === 0 && total.passed > 0 ? 0 : 1;
}

/** Runs a check and tells how it went; what runs beside others is told once it has ended. */
async function perform({ name, run, besides }: Check): Promise<Counts> {
  if (!besides) console.log(`\n── ${name}`);
  const started = performance.now();
  const { passed, failed, output = '' } = await run();
  if (besides) console.log(`\n── ${name}\n${output.trimEnd()}`);
  const seconds = ((performance.now() - started) / 1000).toFixed(0);
  console.log(`${failed ? '✗' : '✓'} ${name}: ${passed} passed, ${failed} failed (${seconds} s)`);
  return { passed, failed };
}

function add(total: Counts, { passed, failed }: Counts): void {
  total.passed += passed;
  total.failed += failed;
}

/** A program that passes or fails as a whole. */
function check(name: string, program: string, args: readonly string[]): Check {
  const run = async () => {
    const { status, output } = await captured(program, args);
    return { ...(status === 0 ? { passed: 1, failed: 0 } : { passed: 0, failed: 1 }), output };
  };
  return { name, run, besides: true };
}

/** Runs a program to its end, with all that it prints. */
function captured(program: string, args: readonly string[]): Promise<{ status: number; output: string }> {
  const env = { ...process.env, NODE_OPTIONS: '' };
  const child = spawn(join(BIN, program), args, { cwd: ROOT, stdio: ['ignore', 'pipe', 'pipe'], env });
  const printed: Buffer[] = [];
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk: Buffer) => printed.push(chunk));
  return new Promise((resolve, reject) => {
    child.on('error', reject);
    child.on('close', (status) => resolve({ status: status ?? 1, output: Buffer.concat(printed).toString() }));
  });
}

function execute(program: string, args: readonly string[], nodeOptions = ''): number {
  const env = { ...process.env, NODE_OPTIONS: nodeOptions };
  return spawnSync(join(BIN, program), args, { cwd: ROOT, stdio: 'inherit', env }).status ?? 1;
}

const jestResults = z.object({
  numPassedTests: z.number(),
  numFailedTests: z.number(),
  numFailedTestSuites: z.number(),
  numRuntimeErrorTestSuites: z.number(),
});

function runJest(): Counts {
  const file = join(RESULTS, 'jest.json');
  // Some packages import others dynamically, which Jest allows only with this flag.
  const status = execute('jest', ['--json', `--outputFile=${file}`], '--experimental-vm-modules --no-warnings');
  if (!existsSync(file)) return { passed: 0, failed: 1 };
  const results = jestResults.parse(JSON.parse(readFileSync(file, 'utf8')));
  return {
    passed: results.numPassedTests,
    failed: atLeastOneIf(status !== 0, results.numFailedTests + results.numRuntimeErrorTestSuites),
  };
}

const playwrightResults = z.object({
  stats: z.object({ expected: z.number(), unexpected: z.number(), flaky: z.number() }),
});

function runPlaywright(): Counts {
  const status = execute('playwright', ['test']);
  const file = join(RESULTS, 'e2e.json');
  if (!existsSync(file)) return { passed: 0, failed: 1 };
  const { stats } = playwrightResults.parse(JSON.parse(readFileSync(file, 'utf8')));
  // One that passes at times has failed.
  return { passed: stats.expected, failed: atLeastOneIf(status !== 0, stats.unexpected + stats.flaky) };
}

/** A runner that ended badly has failed, whatever it counted. */
function atLeastOneIf(badly: boolean, failed: number): number {
  return badly ? Math.max(1, failed) : failed;
}
