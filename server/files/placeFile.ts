// Putting a file under a name, for copies that leave the archive: there whole, flushed, read back past the cache and compared; or not
// there at all. Nothing is written over that the caller did not mean. At once, for threads that do nothing else: the many short calls
// of the system cost more time in between than they take.

import {
  closeSync,
  copyFileSync,
  fsyncSync,
  futimesSync,
  linkSync,
  openSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { dirname, join } from 'node:path';
import { systemCode } from '../errors';
import { compareWith, type FileContent } from './fileContent';
import { eachChunkOnDriveNow } from './pastCache';
import { TakenError } from './relocate';

export interface HowPlaced {
  /** Whose file it is: tried once more under the same name, what a process that was killed left of it is written over. */
  work: string;
  /** What stands there goes; else TakenError is thrown, unless it is empty: a reservation that a killed process left. */
  mayReplace: boolean;
}

/** Puts a file at a path; its folder is there, and is to be flushed by the caller before anybody relies on the name. Returns its size in bytes. */
export function placeFile(path: string, content: FileContent, { work, mayReplace }: HowPlaced): number {
  if (!mayReplace && (statSync(path, { throwIfNoEntry: false })?.size ?? 0) > 0) throw new TakenError(path);
  const part = join(dirname(path), `.stellin-${work}.part`);
  try {
    writePart(part, content);
    if (!isOnDrive(part, content)) throw new Error('what stands on the drive is not what was written');
    const { size } = statSync(part);
    if (mayReplace) renameSync(part, path);
    else takeName(part, path);
    return size;
  } catch (error) {
    rmSync(part, { force: true });
    throw error;
  }
}

function writePart(part: string, content: FileContent): void {
  // The system copies a file without its bytes coming through here.
  if ('from' in content) copyFileSync(content.from, part);
  const file = openSync(part, 'from' in content ? 'r+' : 'w');
  try {
    if ('bytes' in content) writeFileSync(file, content.bytes);
    if ('from' in content) {
      const { atime, mtime } = statSync(content.from);
      futimesSync(file, atime, mtime);
    }
    fsyncSync(file);
  } finally {
    closeSync(file);
  }
}

function isOnDrive(part: string, content: FileContent): boolean {
  const comparison = compareWith(content);
  try {
    eachChunkOnDriveNow(part, comparison.take);
    return comparison.isSame();
  } finally {
    comparison.close();
  }
}

/** Gives a file a name that nothing has. */
function takeName(part: string, path: string): void {
  try {
    // A second name for the same file: the file system writes nothing twice, and never over another file.
    linkSync(part, path);
    rmSync(part);
  } catch (error) {
    // Taken, perhaps by an empty reservation only; or the file system knows one name for each file.
    if (systemCode(error) !== 'EEXIST') reserve(path);
    else if (statSync(path).size > 0) throw new TakenError(path);
    renameSync(part, path);
  }
}

/** Takes the name, so that nothing else can. */
function reserve(path: string): void {
  try {
    closeSync(openSync(path, 'wx'));
  } catch (error) {
    throw systemCode(error) === 'EEXIST' ? new TakenError(path) : error;
  }
}
