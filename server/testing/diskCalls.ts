// The calls by which files below a folder are opened, written, flushed, renamed, deleted and made: a test can do something before
// each of them, or let it fail as a drive does.

import fs from 'node:fs';
import promises from 'node:fs/promises';

export interface DiskCall {
  /** Counted from 1. */
  number: number;
  name: string;
  path: string;
}

/**
 * Has every call told of before it is made; what `before` throws is what the call fails with. The folders below the root count as drives
 * of their own, from one of which to another nothing is renamed. Returns what puts the calls back. Modules must take them from `fs` when they use them, as compiled ones do.
 */
export function interceptDisk(root: string, before: (call: DiskCall) => void): () => void {
  const own = { ...fs };
  const asked = { ...promises };
  const paths = new Map<number, string>();
  let number = 0;
  let busy = false;
  const tell = (name: string, path: unknown) => {
    if (busy || typeof path !== 'string' || !path.startsWith(`${root}/`)) return;
    // What is done before a call is told of nobody.
    busy = true;
    try {
      before({ number: ++number, name, path });
    } finally {
      busy = false;
    }
  };
  const requireSameDrive = (from: unknown, to: unknown) => {
    const [one, other] = [from, to].map((path) =>
      typeof path === 'string' && path.startsWith(`${root}/`) ? path.slice(root.length + 1).split('/')[0] : undefined,
    );
    if (one !== undefined && other !== undefined && one !== other) throw systemError('EXDEV');
  };
  const pathOf = (descriptor: number) => paths.get(descriptor);

  const sync: Partial<typeof fs> = {
    openSync: (path, flags, mode) => {
      tell('open', path);
      const descriptor = own.openSync(path, flags, mode);
      if (typeof path === 'string') paths.set(descriptor, path);
      return descriptor;
    },
    closeSync: (descriptor) => {
      own.closeSync(descriptor);
      paths.delete(descriptor);
    },
    writeSync: ((
      descriptor: number,
      ...rest: Parameters<typeof fs.writeSync> extends [number, ...infer R] ? R : never
    ) => {
      tell('write', pathOf(descriptor));
      return (own.writeSync as (descriptor: number, ...rest: unknown[]) => number)(descriptor, ...rest);
    }) as typeof fs.writeSync,
    fsyncSync: (descriptor) => {
      tell('fsync', pathOf(descriptor));
      own.fsyncSync(descriptor);
    },
    fsync: ((descriptor: number, done: fs.NoParamCallback) => {
      try {
        tell('fsync', pathOf(descriptor));
      } catch (error) {
        return void setImmediate(() => done(error as NodeJS.ErrnoException));
      }
      own.fsync(descriptor, done);
    }) as typeof fs.fsync,
    renameSync: (from, to) => {
      tell('rename', from);
      requireSameDrive(from, to);
      own.renameSync(from, to);
    },
    unlinkSync: (path) => {
      tell('unlink', path);
      own.unlinkSync(path);
    },
  };
  const asynchronous: Partial<typeof promises> = {
    open: async (path, flags, mode) => {
      tell('open', path);
      const file = await asked.open(path, flags, mode);
      const [write, flush] = [file.write.bind(file), file.sync.bind(file)];
      return Object.assign(file, {
        write: (bytes: Uint8Array, offset: number, length: number, position: number) => {
          tell('write', path);
          return write(bytes, offset, length, position);
        },
        sync: () => {
          tell('fsync', path);
          return flush();
        },
      });
    },
    rename: async (from, to) => {
      tell('rename', from);
      requireSameDrive(from, to);
      await asked.rename(from, to);
    },
    unlink: async (path) => {
      tell('unlink', path);
      await asked.unlink(path);
    },
  };
  Object.assign(fs, sync);
  Object.assign(promises, asynchronous);
  return () => {
    for (const name of Object.keys(sync)) Object.assign(fs, { [name]: own[name as keyof typeof fs] });
    for (const name of Object.keys(asynchronous))
      Object.assign(promises, { [name]: asked[name as keyof typeof promises] });
  };
}

/** An error as the system gives it. */
export function systemError(code: string): Error {
  return Object.assign(new Error(`${code}: played by a test`), { code });
}
