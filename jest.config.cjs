// Packages that ship as ES modules only, which Jest cannot load on Node 20 as they are.
const ES_MODULES = '(react-hotkeys-hook)';

/** @type {import('jest').Config} */
module.exports = {
  testMatch: ['<rootDir>/{core,contract,server,web,demo,cli,bench}/**/*.test.{ts,tsx}'],
  transform: {
    '\\.tsx?$': [
      '@swc/jest',
      {
        jsc: {
          parser: { syntax: 'typescript', tsx: true },
          target: 'es2022',
          transform: { react: { runtime: 'automatic' } },
        },
      },
    ],
    [`/node_modules/${ES_MODULES}/.+\\.js$`]: [
      '@swc/jest',
      { jsc: { target: 'es2022' }, module: { type: 'commonjs' } },
    ],
  },
  transformIgnorePatterns: [`/node_modules/(?!${ES_MODULES}/)`],
  moduleNameMapper: { '^@stellin/(.*)$': '<rootDir>/$1' },
  globalSetup: '<rootDir>/server/testing/globalSetup.ts',
  globalTeardown: '<rootDir>/server/testing/globalTeardown.ts',
  testPathIgnorePatterns: ['/node_modules/', '<rootDir>/.stellin/', '<rootDir>/dist/'],
  modulePathIgnorePatterns: ['<rootDir>/.stellin/', '<rootDir>/dist/'],
  maxWorkers: 2,
  // Modules of each file of tests stay in the memory of its worker; from here on it begins anew.
  workerIdleMemoryLimit: '1500MB',
  // Against what hangs; how long something takes is a matter of benchmarks, and machines that run several things at once take their time.
  testTimeout: 300_000,
};
