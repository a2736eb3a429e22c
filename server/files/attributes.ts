// Owner, mode, times and extended attributes of files. Node.js knows no extended attributes, so `cp` of the system does it.
// One shell that is told which files serves them all: to start a program takes a process of our size tens of milliseconds.

import { spawn } from 'node:child_process';
import { Socket } from 'node:net';

const COPY = 'cp --attributes-only --preserve=all -- "$from" "$to" < /dev/null';
/** For each pair of lines a line comes back. */
const SERVE = `while IFS= read -r from && IFS= read -r to; do ${COPY}; echo; done`;
const ONCE = `from=$1; to=$2; ${COPY}`;

interface Helper {
  copy(from: string, to: string): Promise<void>;
}

let helper: Helper | undefined;

/** Gives a file the attributes of another. A file to that is not there is made, empty. */
export function copyAttributesOf(from: string, to: string): Promise<void> {
  // A name may hold what ends a line.
  if (`${from}${to}`.includes('\n')) return copyOnce(from, to);
  return (helper ??= openHelper()).copy(from, to);
}

// Where it fails the reason shows when the file itself is written; without attributes no write is worse than before.

function copyOnce(from: string, to: string): Promise<void> {
  return new Promise((resolve) => {
    const child = spawn('sh', ['-c', ONCE, 'sh', from, to], { stdio: 'ignore' });
    child.on('exit', () => resolve());
    child.on('error', () => resolve());
  });
}

/** It ends with us: then it can neither read nor answer. */
function openHelper(): Helper {
  const child = spawn('sh', ['-c', SERVE], { stdio: ['pipe', 'pipe', 'ignore'] });
  const waiting: (() => void)[] = [];
  const pipes = [child.stdin, child.stdout].flatMap((pipe) => (pipe instanceof Socket ? [pipe] : []));
  const parts = [child, ...pipes];
  /** It holds up the end of a process only while somebody waits. */
  const hold = () => parts.forEach((part) => (waiting.length > 0 ? part.ref() : part.unref()));
  const done = (count: number) => {
    for (const resolve of waiting.splice(0, count)) resolve();
    hold();
  };
  const gone = () => {
    if (helper === own) helper = undefined;
    done(waiting.length);
  };
  child.on('error', gone);
  child.on('exit', gone);
  child.stdin.on('error', gone);
  child.stdout.on('data', (chunk: Buffer) => done(chunk.length));
  const own: Helper = {
    copy: (from, to) =>
      new Promise((resolve) => {
        waiting.push(resolve);
        hold();
        child.stdin.write(`${from}\n${to}\n`);
      }),
  };
  return own;
}
