// Making the file of the gazetteer, when the program is built: the packages that it is made of are large, and nobody else reads them.

import { renameSync, writeFileSync } from 'node:fs';
import { serialize } from 'node:v8';
import { Gazetteer } from '@stellin/core/timeplace/gazetteer';
import { countryShapes, readAtlas } from './atlas';
import { GAZETTEER_FILE } from './gazetteerFile';
import { readCountries, readTowns } from './towns';

/** Makes the file, which takes some seconds; whoever reads it meanwhile has the one before. */
export function writeGazetteerFile(): void {
  const gazetteer = Gazetteer.of(readTowns(), readCountries(), countryShapes(readAtlas('10m')));
  const part = `${GAZETTEER_FILE}.part`;
  writeFileSync(part, serialize(gazetteer.packed));
  renameSync(part, GAZETTEER_FILE);
}
