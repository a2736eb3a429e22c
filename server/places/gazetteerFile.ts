// The gazetteer as a file: it is made of packages once, when the program is built (makeGazetteer.ts), and read in a fraction of that time.

import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { deserialize } from 'node:v8';
import { Gazetteer, type PackedGazetteer } from '@stellin/core/timeplace/gazetteer';
import { DIST } from '../threads/program';

export const GAZETTEER_FILE = join(DIST, 'gazetteer.v8');

/** The gazetteer of the file. Throws an Error that names it when the program has not been built. */
export function readGazetteerFile(): Gazetteer {
  return new Gazetteer(deserialize(bytesOf(GAZETTEER_FILE)) as PackedGazetteer);
}

function bytesOf(file: string): Buffer {
  try {
    return readFileSync(file);
  } catch {
    throw new Error(`${file} is missing; ./stellin build makes it`);
  }
}
