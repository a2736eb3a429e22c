// A disk that loses what was not flushed: what files below a folder go through is recorded while it happens for real, and then every
// state that a power cut could have left is made anew, in another folder.
//
// The model is that of POSIX without further promises: bytes of a file are safe once it was fsynced, names in a folder once the
// folder was. What was not may be there, be lost, or (bytes) be there in part. Names change in order, as journaled file systems keep it.

import fs from 'node:fs';
import promises from 'node:fs/promises';
import { dirname, join, relative } from 'node:path';

interface Node {
  /** What was written, and when (by the number of the step). */
  writes: { step: number; offset: number; bytes: Buffer; truncates?: boolean }[];
  /** Steps after which all that was written before is safe. */
  syncs: number[];
}

type NameChange =
  | { step: number; kind: 'link'; path: string; node: Node }
  | { step: number; kind: 'unlink'; path: string }
  | { step: number; kind: 'rename'; from: string; to: string }
  | { step: number; kind: 'folder'; path: string };

/** What of the bytes that were not flushed is there. */
export type Torn = 'lost' | 'half' | 'whole';

export interface Recording {
  /** How many steps there were: the power can go before each, and after the last. */
  readonly steps: number;
  /** Ends the recording; the calls are the system's own again. */
  stop(): void;
  /** Every state that a cut before a step could have left, as files by their path below the folder. */
  statesAt(step: number): Map<string, Buffer>[];
}

/**
 * Records what happens below a folder from now on; the folders in it count as drives of their own, from one of which to another nothing
 * is renamed. Modules must take the calls from `fs` when they use them, as compiled ones do.
 */
export function recordDisk(root: string): Recording {
  const live = new Map<string, Node>();
  const changes: NameChange[] = [];
  const folderSyncs: { step: number; path: string }[] = [];
  const open = new Map<number, { node?: Node; path: string }>();
  let step = 0;

  /** While the recording itself reads. */
  let quiet = false;
  const inside = (path: unknown): path is string =>
    !quiet && typeof path === 'string' && (path === root || path.startsWith(`${root}/`));
  const below = (path: string) => relative(root, path);
  const nodeAt = (path: string): Node => {
    const known = live.get(below(path));
    if (known) return known;
    quiet = true;
    const bytes = fs.readFileSync(path);
    quiet = false;
    const node: Node = { writes: bytes.length > 0 ? [{ step, offset: 0, bytes }] : [], syncs: [] };
    live.set(below(path), node);
    changes.push({ step: step++, kind: 'link', path: below(path), node });
    return node;
  };
  const noteOpen = (path: string, descriptor: number) => {
    if (fs.fstatSync(descriptor).isDirectory()) open.set(descriptor, { path });
    else open.set(descriptor, { node: nodeAt(path), path });
  };
  const noteWrite = (descriptor: number, bytes: Uint8Array, offset: number) => {
    open.get(descriptor)?.node?.writes.push({ step: step++, offset, bytes: Buffer.from(bytes) });
  };
  const noteSync = (descriptor: number) => {
    const found = open.get(descriptor);
    if (!found) return;
    if (found.node) found.node.syncs.push(step++);
    else folderSyncs.push({ step: step++, path: below(found.path) });
  };
  const driveOf = (path: string) => below(path).split('/')[0];
  const mayRename = (from: unknown, to: unknown) => !inside(from) || !inside(to) || driveOf(from) === driveOf(to);
  const noteRename = (from: string, to: string) => {
    const node = live.get(below(from));
    if (node) {
      live.delete(below(from));
      live.set(below(to), node);
    }
    changes.push({ step: step++, kind: 'rename', from: below(from), to: below(to) });
  };
  const noteUnlink = (path: string) => {
    live.delete(below(path));
    changes.push({ step: step++, kind: 'unlink', path: below(path) });
  };

  const restore = patched({
    inside,
    mayRename,
    noteOpen,
    noteWrite,
    noteSync,
    noteRename,
    noteUnlink,
    close: (fd) => void open.delete(fd),
    truncate: (fd) => {
      open.get(fd)?.node?.writes.push({ step: step++, offset: 0, bytes: Buffer.alloc(0), truncates: true });
    },
    folder: (path) => changes.push({ step: step++, kind: 'folder', path: below(path) }),
  });

  // What is there already is safe.
  for (const entry of fs.readdirSync(root, { recursive: true, withFileTypes: true })) {
    const path = join(entry.parentPath, entry.name);
    if (entry.isFile()) nodeAt(path).syncs.push(step++);
    else if (entry.isDirectory()) changes.push({ step: step++, kind: 'folder', path: below(path) });
  }
  const begun = step++;

  return {
    get steps() {
      return step - begun;
    },
    stop: restore,
    statesAt(at) {
      const cut = begun + at;
      const isSafe = (change: NameChange) =>
        change.step < begun ||
        foldersOf(change).every((folder) =>
          folderSyncs.some((sync) => sync.path === folder && sync.step > change.step && sync.step < cut),
        );
      const past = changes.filter((change) => change.step < cut);
      const safe = past.filter(isSafe).length;
      const states: Map<string, Buffer>[] = [];
      // Names change in order: of those that are not safe some first ones may be there.
      for (let there = Math.max(safe, past.findLastIndex(isSafe) + 1); there <= past.length; there++) {
        const names = namesAfter(past.slice(0, there));
        for (const torn of ['lost', 'half', 'whole'] as const)
          states.push(new Map([...names].map(([path, node]) => [path, bytesOf(node, cut, begun, torn)])));
      }
      return states;
    },
  };
}

function foldersOf(change: NameChange): string[] {
  const paths = change.kind === 'rename' ? [change.from, change.to] : [change.path];
  return paths.map((path) => (dirname(path) === '.' ? '' : dirname(path)));
}

function namesAfter(changes: readonly NameChange[]): Map<string, Node> {
  const names = new Map<string, Node>();
  for (const change of changes) {
    if (change.kind === 'link') names.set(change.path, change.node);
    else if (change.kind === 'unlink') names.delete(change.path);
    else if (change.kind === 'rename') {
      const node = names.get(change.from);
      names.delete(change.from);
      if (node) names.set(change.to, node);
    }
  }
  return names;
}

function bytesOf({ writes, syncs }: Node, cut: number, begun: number, torn: Torn): Buffer {
  const safeUntil = Math.max(begun, ...syncs.filter((sync) => sync < cut));
  let content = Buffer.alloc(0);
  for (const { step, offset, bytes, truncates } of writes) {
    if (step >= cut) continue;
    const isSafe = step < safeUntil;
    if (!isSafe && torn === 'lost') continue;
    if (truncates) {
      content = Buffer.alloc(0);
      continue;
    }
    const there = isSafe || torn === 'whole' ? bytes : bytes.subarray(0, bytes.length >> 1);
    if (content.length < offset + there.length)
      content = Buffer.concat([content, Buffer.alloc(offset + there.length - content.length)]);
    there.copy(content, offset);
  }
  return content;
}

interface Notes {
  inside(path: unknown): path is string;
  mayRename(from: unknown, to: unknown): boolean;
  noteOpen(path: string, descriptor: number): void;
  noteWrite(descriptor: number, bytes: Uint8Array, offset: number): void;
  noteSync(descriptor: number): void;
  noteRename(from: string, to: string): void;
  noteUnlink(path: string): void;
  truncate(descriptor: number): void;
  close(descriptor: number): void;
  folder(path: string): void;
}

/** Lets the calls of the system tell what they do; returns what puts them back. */
function patched(notes: Notes): () => void {
  const { inside } = notes;
  const before = { ...fs };
  const asked = { ...promises };
  const truncates = (flags: unknown) => typeof flags === 'string' && flags.startsWith('w') && !flags.includes('x');
  const opened = (path: string, flags: unknown, descriptor: number) => {
    notes.noteOpen(path, descriptor);
    if (truncates(flags)) notes.truncate(descriptor);
  };
  const bytesOfText = (content: unknown): Uint8Array =>
    typeof content === 'string' ? Buffer.from(content) : (content as Uint8Array);

  const sync: Partial<typeof fs> = {
    openSync: (path, flags, mode) => {
      const descriptor = before.openSync(path, flags, mode);
      if (inside(path)) opened(path, flags, descriptor);
      return descriptor;
    },
    closeSync: (descriptor) => {
      before.closeSync(descriptor);
      notes.close(descriptor);
    },
    writeSync: ((descriptor: number, content: unknown, offset?: number, length?: number, position?: number) => {
      const bytes = bytesOfText(content);
      const [from, size] = typeof content === 'string' ? [0, bytes.length] : [offset ?? 0, length ?? bytes.length];
      const written = before.writeSync(descriptor, bytes, from, size, position ?? null);
      notes.noteWrite(descriptor, bytes.subarray(from, from + written), position ?? 0);
      return written;
    }) as typeof fs.writeSync,
    fsyncSync: (descriptor) => {
      before.fsyncSync(descriptor);
      notes.noteSync(descriptor);
    },
    fsync: ((descriptor: number, done: fs.NoParamCallback) => {
      before.fsync(descriptor, (error) => {
        if (!error) notes.noteSync(descriptor);
        done(error);
      });
    }) as typeof fs.fsync,
    renameSync: (from, to) => {
      if (!notes.mayRename(from, to)) throw elsewhere();
      before.renameSync(from, to);
      if (inside(from) && inside(to)) notes.noteRename(from, to);
    },
    unlinkSync: (path) => {
      before.unlinkSync(path);
      if (inside(path)) notes.noteUnlink(path);
    },
    mkdirSync: ((path: string, options: fs.MakeDirectoryOptions) => {
      const first = before.mkdirSync(path, options);
      if (inside(path) && first !== undefined) notes.folder(path);
      return first;
    }) as typeof fs.mkdirSync,
  };
  const asynchronous: Partial<typeof promises> = {
    open: async (path, flags, mode) => {
      const file = await asked.open(path, flags, mode);
      if (!inside(path)) return file;
      const { fd } = file;
      opened(path, flags, fd);
      const own = { write: file.write.bind(file), sync: file.sync.bind(file), close: file.close.bind(file) };
      Object.assign(file, {
        write: async (bytes: Uint8Array, offset: number, length: number, position: number) => {
          const result = await own.write(bytes, offset, length, position);
          notes.noteWrite(fd, bytes.subarray(offset, offset + result.bytesWritten), position);
          return result;
        },
        sync: async () => {
          await own.sync();
          notes.noteSync(fd);
        },
        close: async () => {
          await own.close();
          notes.close(fd);
        },
      });
      return file;
    },
    rename: async (from, to) => {
      if (!notes.mayRename(from, to)) throw elsewhere();
      await asked.rename(from, to);
      if (inside(from) && inside(to)) notes.noteRename(from, to);
    },
    unlink: async (path) => {
      await asked.unlink(path);
      if (inside(path)) notes.noteUnlink(path);
    },
    mkdir: (async (path: string, options: fs.MakeDirectoryOptions) => {
      const first = await asked.mkdir(path, options);
      if (inside(path)) notes.folder(path);
      return first;
    }) as typeof promises.mkdir,
  };
  Object.assign(fs, sync);
  Object.assign(promises, asynchronous);
  return () => {
    for (const name of Object.keys(sync)) Object.assign(fs, { [name]: before[name as keyof typeof fs] });
    for (const name of Object.keys(asynchronous))
      Object.assign(promises, { [name]: asked[name as keyof typeof promises] });
  };
}

const elsewhere = () => Object.assign(new Error('EXDEV: cross-device link not permitted'), { code: 'EXDEV' });

/** Makes a state of the disk in an empty folder. */
export async function makeState(folder: string, state: ReadonlyMap<string, Buffer>): Promise<void> {
  await promises.rm(folder, { recursive: true, force: true });
  await promises.mkdir(folder, { recursive: true });
  for (const [path, bytes] of state) {
    await promises.mkdir(dirname(join(folder, path)), { recursive: true });
    await promises.writeFile(join(folder, path), bytes);
  }
}
