// `./stellin test`: every check and test, one after the other, added up in the last line.

import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { z } from 'zod';
import { startTestCluster } from '@stellin/server/testing/cluster';
import { buildInterface } from './build';
import { ensureInstalled, NEEDS } from './debian';

const ROOT = join(__dirname, '..');
const RESULTS = join(ROOT, 'test-results');
const BIN = join(ROOT, 'node_modules', '.bin');

interface Counts {
  passed: number;
  failed: number;
}

interface Check {
  name: string;
  run(): Counts;
}

const CHECKS: readonly Check[] = [
  check('types', 'tsc', ['--noEmit', '-p', 'tsconfig.json']),
  check('types-web', 'tsc', ['--noEmit', '-p', 'web/tsconfig.json']),
  check('lint', 'eslint', ['.', '--max-warnings', '0']),
  check('format', 'prettier', ['--check', '--log-level', 'warn', '.']),
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
  { name: 'jest', run: runJest },
  { name: 'e2e', run: runPlaywright },
];

/** Runs all checks, or those named. */
export async function test(names: string[]): Promise<number> {
  const unknown = names.find((name) => !CHECKS.some((candidate) => candidate.name === name));
  if (unknown)
    throw new Error(`There is no check “${unknown}”; there are ${CHECKS.map(({ name }) => name).join(', ')}`);
  await ensureInstalled([NEEDS.postgres, NEEDS.chromium]);
  rmSync(RESULTS, { recursive: true, force: true });
  mkdirSync(RESULTS, { recursive: true });
  await buildInterface();
  const cluster = await startTestCluster();
  const total: Counts = { passed: 0, failed: 0 };
  try {
    for (const { name, run } of CHECKS.filter((candidate) => names.length === 0 || names.includes(candidate.name))) {
      console.log(`\n── ${name}`);
      const started = performance.now();
      const { passed, failed } = run();
      total.passed += passed;
      total.failed += failed;
      console.log(
        `${failed ? '✗' : '✓'} ${name}: ${passed} passed, ${failed} failed (${((performance.now() - started) / 1000).toFixed(0)} s)`,
      );
    }
  } finally {
    cluster?.stop();
  }
  console.log(`\n${total.passed} passed, ${total.failed} failed`);
  return total.failed === 0 && total.passed > 0 ? 0 : 1;
}

/** A program that passes or fails as a whole. */
function check(name: string, program: string, args: readonly string[]): Check {
  return { name, run: () => (execute(program, args) === 0 ? { passed: 1, failed: 0 } : { passed: 0, failed: 1 }) };
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
  return { passed: stats.expected, failed: atLeastOneIf(status !== 0, stats.unexpected + stats.flaky) };
}

/** A runner that ended badly has failed, whatever it counted. */
function atLeastOneIf(badly: boolean, failed: number): number {
  return badly ? Math.max(1, failed) : failed;
}
