// Owner, mode, times and extended attributes of files. Node.js knows no extended attributes, so `cp` of the system does
// it, for several files in one go.

import { spawn } from 'node:child_process';

const SCRIPT = 'while [ $# -gt 0 ]; do cp --attributes-only --preserve=all -- "$1" "$2"; shift 2; done';

/** Gives files the attributes of others; pairs of paths, from and to. A file to that is not there is made, empty. */
export function copyAttributesOf(...names: readonly string[]): Promise<void> {
  return new Promise((resolve) => {
    const child = spawn('sh', ['-c', SCRIPT, 'sh', ...names], { stdio: 'ignore' });
    // Where it fails the reason shows when the file itself is written; without attributes no write is worse than before.
    child.on('exit', () => resolve());
    child.on('error', () => resolve());
  });
}
