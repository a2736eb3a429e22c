// A process of its own that reads the metadata of files named on its input ten times over, and tells its largest size in MB.

import { readFileSync } from 'node:fs';
import { readMetadata } from '@stellin/core/metadata/read';
import { withSource } from '@stellin/server/files/source';

const ROUNDS = 10;
const files = readFileSync(0, 'utf8').split('\n');
for (let round = 0; round < ROUNDS; round++)
  for (const file of files) withSource(file, (source) => readMetadata(source));
// Kilobytes (getrusage(2)).
process.stdout.write(String(process.resourceUsage().maxRSS / 1000));
