// The options of `metadata`.

import { parseArgs, type ParseArgsConfig } from 'node:util';

const OPTIONS = {
  json: { type: 'boolean', default: false },
  blocks: { type: 'boolean', default: false },
  recursive: { type: 'boolean', default: false },
  field: { type: 'string', multiple: true, default: [] as string[] },
  'add-keyword': { type: 'string', multiple: true, default: [] as string[] },
  'remove-keyword': { type: 'string', multiple: true, default: [] as string[] },
  sidecar: { type: 'boolean', default: false },
  'dry-run': { type: 'boolean', default: false },
  help: { type: 'boolean', short: 'h', default: false },
} as const satisfies ParseArgsConfig['options'];

/** Options and names of a command line. Throws a TypeError on options that there are not. */
export function parse(args: string[]) {
  return parseArgs({ args, options: OPTIONS, allowPositionals: true, strict: true });
}

export type Options = ReturnType<typeof parse>['values'] & { journals: string };
/** A wrong command line, told with the way to the help. */
export class UsageError extends Error {}
