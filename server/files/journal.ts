// The journal of writes into files where they stand: old and new bytes are on the drive before the first is changed, so
// that a write that was cut off half-way can be undone or finished.

import {
  closeSync,
  fsyncSync,
  futimesSync,
  mkdirSync,
  openSync,
  readdirSync,
  readFileSync,
  readSync,
  unlinkSync,
  writeSync,
} from 'node:fs';
import { join } from 'node:path';
import { z } from 'zod';
import type { Patch } from '@stellin/core/metadata/pieces';
import { messageOf, systemCode } from '../errors';
import { fingerprintOf } from './fingerprint';
import { flushFolderNow } from './flush';
import { patchesStand } from './pastCache';
import type { PlannedFile } from './planWrite';
import { removeLeftover } from './carryOut';

/** What must be known of a file to sort out a write that was cut off. */
export interface JournalEntry {
  path: string;
  temporary: string;
  /** The file's time before the write. */
  mtimeMs: number | null;
  patches: Patch[];
}

/** How a file that was being written was found and left. */
export type Settled = 'old' | 'new' | 'restored' | 'foreign' | 'gone';

const bytesText = z.base64().transform((text) => new Uint8Array(Buffer.from(text, 'base64')));
const entrySchema = z.object({
  path: z.string(),
  temporary: z.string(),
  mtimeMs: z.number().nullable(),
  patches: z.array(z.object({ offset: z.number().int().min(0), before: bytesText, after: bytesText })),
});

export function journalEntryOf({ path, temporary, before, patches }: PlannedFile): JournalEntry {
  return { path, temporary, mtimeMs: before?.mtimeMs ?? null, patches: patches ?? [] };
}

export function serializeEntry({ path, temporary, mtimeMs, patches }: JournalEntry): string {
  const text = (bytes: Uint8Array) => Buffer.from(bytes).toString('base64');
  return JSON.stringify({
    path,
    temporary,
    mtimeMs,
    patches: patches.map(({ offset, before, after }) => ({ offset, before: text(before), after: text(after) })),
  });
}

/** An entry as it was written down. Throws an Error when it is none. */
export function parseEntry(text: string): JournalEntry {
  return entrySchema.parse(JSON.parse(text));
}

/**
 * Sorts out one file: a new file that was not renamed yet is removed; a file that is neither the old nor the new one gets
 * its old bytes back, unless other bytes than ours stand there, which means that another program wrote it since.
 */
export function settle({ path, temporary, mtimeMs, patches }: JournalEntry): Settled {
  removeLeftover(temporary);
  if (!fingerprintOf(path)) return 'gone';
  if (patches.length === 0) return 'old';
  const descriptor = openSync(path, 'r+');
  try {
    const now = patches.map(({ offset, before }) => {
      const bytes = Buffer.alloc(before.length);
      return bytes.subarray(0, readSync(descriptor, bytes, 0, bytes.length, offset));
    });
    if (patches.every(({ before }, i) => same(now[i], before))) return 'old';
    if (patches.every(({ after }, i) => same(now[i], after))) return 'new';
    if (!patches.every((patch, i) => isTorn(patch, now[i] ?? Buffer.alloc(0)))) return 'foreign';
    for (const { offset, before } of patches) writeSync(descriptor, before, 0, before.length, offset);
    if (mtimeMs !== null) futimesSync(descriptor, mtimeMs / 1000, mtimeMs / 1000);
    fsyncSync(descriptor);
    if (!patchesStand(path, descriptor, patches, 'before')) throw new Error('the drive did not keep the old bytes');
    return 'restored';
  } finally {
    closeSync(descriptor);
  }
}

/** A journal as a file of its own, for writes that no catalogue knows of. */
export interface FileJournal {
  /** To be called when all its files are written. */
  close(): void;
}

/** Writes the entries down and flushes them, before any of the files is touched. */
export function openFileJournal(folder: string, entries: readonly JournalEntry[]): FileJournal {
  mkdirSync(folder, { recursive: true });
  const path = join(folder, `${process.pid}-${startOf(process.pid) ?? 0}-${process.hrtime.bigint()}.journal`);
  const descriptor = openSync(path, 'wx');
  try {
    writeSync(descriptor, `${entries.map(serializeEntry).join('\n')}\nend\n`);
    fsyncSync(descriptor);
  } finally {
    closeSync(descriptor);
  }
  flushFolderNow(folder);
  return { close: () => unlinkSync(path) };
}

/** Sorts out what processes left that are no more. Returns how each file was found; problems are told, and their journal stays. */
export function recoverFileJournals(folder: string): { path: string; settled: Settled | Error }[] {
  const found: { path: string; settled: Settled | Error }[] = [];
  for (const name of namesIn(folder)) {
    const [pid = '', start = ''] = name.split('-');
    if (isAlive(Number(pid), start)) continue;
    const path = join(folder, name);
    const lines = readFileSync(path, 'utf8').split('\n');
    // Without its last line the journal was never finished, so none of its files was touched.
    if (!lines.includes('end')) {
      unlinkSync(path);
      continue;
    }
    const results = lines.filter((line) => line !== '' && line !== 'end').map(settleLine);
    found.push(...results);
    if (results.every(({ settled }) => typeof settled === 'string')) unlinkSync(path);
  }
  return found;
}

function settleLine(line: string): { path: string; settled: Settled | Error } {
  let path = 'a line of the journal';
  try {
    const entry = parseEntry(line);
    path = entry.path;
    return { path, settled: settle(entry) };
  } catch (error) {
    return { path, settled: new Error(messageOf(error)) };
  }
}

function namesIn(folder: string): string[] {
  try {
    return readdirSync(folder).filter((name) => name.endsWith('.journal'));
  } catch (error) {
    if (systemCode(error) === 'ENOENT') return [];
    throw error;
  }
}

/** Whether the very process that a journal names is alive: another may have got its number. */
function isAlive(pid: number, start: string): boolean {
  const now = startOf(pid);
  if (now !== undefined && /^[1-9]/.test(start)) return now === start;
  if (pid === process.pid) return true;
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return systemCode(error) === 'EPERM';
  }
}

/** When a process began, in ticks since the machine did (proc(5), stat, field 22); undefined where that can’t be told. */
function startOf(pid: number): string | undefined {
  try {
    // The name of the program stands in brackets and may hold anything.
    return readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ').at(-1)?.split(' ')[19];
  } catch {
    return undefined;
  }
}

function same(a: Uint8Array | undefined, b: Uint8Array): boolean {
  return a !== undefined && Buffer.compare(a, b) === 0;
}

/** Whether every byte is the old one or the new one. */
function isTorn({ before, after }: Patch, now: Uint8Array): boolean {
  return now.length === before.length && now.every((byte, i) => byte === before[i] || byte === after[i]);
}
