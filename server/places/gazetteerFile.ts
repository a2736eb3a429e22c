// The gazetteer as a file: it is made of the packages once, when the program is built, and read in a fraction of that time.

import { readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { deserialize, serialize } from 'node:v8';
import { Gazetteer, type PackedGazetteer } from '@stellin/core/timeplace/gazetteer';
import { DIST } from '../threads/program';
import { countryShapes, readAtlas, readCountries, readTowns } from './world';

const FILE = join(DIST, 'gazetteer.v8');

/** The gazetteer of all that ships along; takes some seconds. */
export function makeGazetteer(): Gazetteer {
  return Gazetteer.of(readTowns(), readCountries(), countryShapes(readAtlas('10m')));
}

/** Makes the file; whoever reads it meanwhile has the one before. */
export function writeGazetteerFile(): void {
  const part = `${FILE}.part`;
  writeFileSync(part, serialize(makeGazetteer().packed));
  renameSync(part, FILE);
}

/** The gazetteer of the file. Throws an Error that names it when the program has not been built. */
export function readGazetteerFile(): Gazetteer {
  return new Gazetteer(deserialize(bytesOf(FILE)) as PackedGazetteer);
}

function bytesOf(file: string): Buffer {
  try {
    return readFileSync(file);
  } catch {
    throw new Error(`${file} is missing; ./stellin build makes it`);
  }
}
