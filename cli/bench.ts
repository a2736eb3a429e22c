// `./stellin bench NAME [--json] [--photos 1000000]`: the table of benchmarks.

import { tableOf, type Report } from '@stellin/bench/report';
import { benchBatch } from '@stellin/bench/batch';
import { benchDemo } from '@stellin/bench/demo';
import { benchDeliver } from '@stellin/bench/deliver';
import { benchHoldings } from '@stellin/bench/holdings';
import { benchIntake } from '@stellin/bench/intake';
import { benchLinks } from '@stellin/bench/links';
import { benchMany } from '@stellin/bench/many';
import { benchMedia } from '@stellin/bench/media';
import { benchMetadata } from '@stellin/bench/metadata';
import { benchPlaces } from '@stellin/bench/places';
import { benchPeople } from '@stellin/bench/people';
import { benchSafety } from '@stellin/bench/safety';
import { benchSearch } from '@stellin/bench/search';
import { benchStart } from '@stellin/bench/start';
import { benchVocabulary } from '@stellin/bench/vocabulary';
import { benchWriteBack } from '@stellin/bench/writeback';
import { ensureInstalled, NEEDS } from './debian';

const BENCHES: Record<string, { help: string; run: (photos: number, fit: boolean) => Promise<Report> }> = {
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
  batch: {
    help: 'describing 50,000 and 500,000 photos at once in a made catalogue of a million (10 GB, made once and kept)',
    run: benchBatch,
  },
  writeback: {
    help: 'writing the descriptions of 5,000 photos on two drives into their files (3 GB, deleted after)',
    run: benchWriteBack,
  },
  search: {
    help: 'finding in a made catalogue of a million photos, and how it grows from 10,000 on (8 GB, made once and kept)',
    run: benchSearch,
  },
  holdings: {
    help: 'all figures of Holdings at once in a made catalogue of a million photos (8 GB, made once and kept)',
    run: benchHoldings,
  },
  safety: {
    help: 'backing a made catalogue up and trying the backup out, finding meanwhile, and reading its files again (as root; 64 kB a photo, deleted after)',
    run: benchSafety,
  },
  many: {
    help: 'twenty people who find and describe at once for two minutes, against one alone, in a made catalogue',
    run: benchMany,
  },
  places: {
    help: 'places by name and by point, photos on the map of a made catalogue, tracks',
    run: benchPlaces,
  },
  media: {
    help: 'facts of 5,000 films against ffprobe alone, strips, pictures by kind, and looking in the browser (2 GB, deleted after)',
    run: benchMedia,
  },
  deliver: {
    help: 'copies, originals and ZIPs against bare work on the same files; tables and sheets of a made catalogue',
    run: benchDeliver,
  },
  links: {
    help: '50 people at once on a view link of 2,000 photos, while cataloguers work (deleted after)',
    run: benchLinks,
  },
  people: {
    help: 'finding, comparing, grouping and naming faces; --fit learns anew and keeps it',
    run: benchPeople,
  },
  demo: {
    help: 'the first minutes: a new demo until it opens, and its answers while the rest is prepared',
    run: benchDemo,
  },
  start: { help: 'from the command to the first answer, with an empty catalogue', run: benchStart },
};

const MEDIA_NEEDS = [NEEDS.chromium, NEEDS.ffmpeg, NEEDS.heif, NEEDS.jpegXl, NEEDS.jpeg2000];

export interface BenchOptions {
  json: boolean;
  photos: number;
  fit: boolean;
}

/** Runs a benchmark, or lists them. Returns the exit status. */
export async function bench(name: string | undefined, { json, photos, fit }: BenchOptions): Promise<number> {
  const chosen = BENCHES[name ?? ''];
  if (!chosen) {
    for (const [id, { help }] of Object.entries(BENCHES)) console.log(`${id.padEnd(12)} ${help}`);
    return name === undefined ? 0 : 2;
  }
  await ensureInstalled(name === 'media' ? [NEEDS.postgres, ...MEDIA_NEEDS] : [NEEDS.postgres]);
  const result = await chosen.run(photos, fit);
  console.log(json ? JSON.stringify(result) : tableOf(result));
  return 0;
}
