// `./stellin bench NAME [--json]`: the table of benchmarks.

import { parseArgs } from 'node:util';
import { tableOf, type Report } from '@stellin/bench/report';
import { benchIntake } from '@stellin/bench/intake';
import { benchMetadata } from '@stellin/bench/metadata';
import { benchStart } from '@stellin/bench/start';
import { benchVocabulary } from '@stellin/bench/vocabulary';
import { buildInterface } from './build';
import { ensureInstalled, NEEDS } from './debian';

const BENCHES: Record<string, { help: string; run: () => Promise<Report> }> = {
  intake: {
    help: 'taking in 20,000 small JPEGs, their previews, and looking again (4 GB, deleted after)',
    run: benchIntake,
  },
  metadata: {
    help: 'reading and writing the metadata of 2,000 JPEGs of 9 MB (20 GB, deleted after)',
    run: benchMetadata,
  },
  vocabulary: {
    help: 'a thesaurus of 20,000 terms over a made catalogue of a million photos (6 GB, made once and kept)',
    run: benchVocabulary,
  },
  start: { help: 'from the command to the first answer, with an empty catalogue', run: benchStart },
};

export async function bench(args: string[]): Promise<number> {
  const { values, positionals } = parseArgs({
    args,
    options: { json: { type: 'boolean', default: false } },
    allowPositionals: true,
  });
  const [name = ''] = positionals;
  const chosen = BENCHES[name];
  if (!chosen) {
    for (const [id, { help }] of Object.entries(BENCHES)) console.log(`${id.padEnd(12)} ${help}`);
    return name === '' ? 0 : 2;
  }
  if (!values.json) {
    await ensureInstalled([NEEDS.postgres]);
    await buildInterface();
  }
  const result = await chosen.run();
  console.log(values.json ? JSON.stringify(result) : tableOf(result));
  return 0;
}
