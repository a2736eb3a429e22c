// Where copies go: a folder on a drive, or a server. Paths are below it, with slashes.

import type { Readable } from 'node:stream';
import type { FileContent } from '../files/fileContent';
import type { HowPlaced } from '../files/placeFile';

export interface Destination {
  /** As people call it. */
  label: string;
  /** What stands at a path, and whether it holds what is to be put there; undefined for nothing, and for a name that is only reserved. */
  standing(path: string, content: FileContent): Promise<{ mtimeMs: number; same: boolean } | undefined>;
  /**
   * Puts a file there, whole and compared, or not at all. `work`: whose file it is, so that what a process that was killed left of it is
   * written over. `mayReplace`: what stands there goes. Gives its size in bytes.
   */
  put(path: string, content: FileContent, how: HowPlaced): Promise<number>;
  /** The bytes of a file that stands there; undefined where there is none. */
  read(path: string): Promise<Readable | undefined>;
  /** What was put is there for good, and found by its name. */
  settle(): Promise<void>;
  /** Throws where nothing can be put there any more: the drive has gone, the server does not answer. `cause`: what went wrong. */
  requireThere(cause: unknown): Promise<void>;
  close(): Promise<void>;
}
