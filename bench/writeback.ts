// `bench writeback`: 5,000 described photos on two drives are written, once anew since they have no room yet, once where they
// stand; against what the drive itself allows. Files and a PostgreSQL cluster of its own are made for it and deleted after.

import { mkdir, readdir, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { concatBytes, uint32 } from '@stellin/core/metadata/bytes';
import { change as changeSchema } from '@stellin/contract/ledger';
import type { Services } from '@stellin/server/services';
import { timed } from './bare';
import { BENCH_ACCOUNT } from './catalogue';
import { copyRaw, patchRaw } from './drive';
import { until, withEmptyArchive } from './emptyArchive';
import { paintNoise } from './picture';
import { atLeast, report, type Report } from './report';
import { PROGRAM } from '@stellin/server/catalogue/viewer';

const FILES = Number(process.env['STELLIN_BENCH_FILES'] ?? 5000);
const DRIVES = ['First', 'Second'];

export async function benchWriteBack(): Promise<Report> {
  return withEmptyArchive(makeDrives, measure);
}

async function measure(services: Services, driveOf: (label: string) => string): Promise<Report> {
  const root = dirname(driveOf('First'));
  await services.accounts.ensure([BENCH_ACCOUNT]);
  const keeper = (await services.accounts.find(BENCH_ACCOUNT.name))?.id ?? 0;
  await services.drives.refresh();
  for (const { key } of await services.drives.list(PROGRAM))
    await ended(services, (await services.intake.takeIn({ driveKey: key }, keeper)).id);
  const entries = await readdir(root, { recursive: true });
  const files = entries.filter((name) => name.endsWith('.jpg')).map((name) => join(root, name));

  const describe = (text: string) =>
    services.ledger.apply(
      changeSchema.parse({
        kind: 'fillTemplate',
        selection: { query: '' },
        edits: [
          { target: 'title', mode: 'replace', value: `${text} {number:5}` },
          { target: 'description', mode: 'replace', value: `${text}: a rokkaku over the dunes, {name}` },
          { target: 'city', mode: 'replace', value: 'Saltmarsh' },
        ],
      }),
      keeper,
    );
  const write = async () => {
    const { id } = await services.writeBack.run(services.jobs, { retryFailed: false }, keeper);
    await ended(services, id);
  };
  const rate = (ms: number) => (files.length / ms) * 1000;
  await describe('First');
  const anew = await timed(write);
  const copied = await timed(() => Promise.resolve(copyRaw(files)));
  // Copying gave the files new times: they are read again.
  for (const { key } of await services.drives.list(PROGRAM))
    await ended(services, (await services.intake.takeIn({ driveKey: key }, keeper)).id);
  await describe('Later');
  const inPlace = await timed(write);
  const patched = await timed(() => Promise.resolve(patchRaw(files)));
  const written = await services.search.all.count('is:written');
  if (written !== files.length) throw new Error(`${written} of ${files.length} files were written`);
  return report(
    'writeback',
    [
      { id: 'limit: copy + fsync + rename', value: rate(copied), unit: 'files/s' },
      { id: 'written anew, two drives', value: rate(anew), unit: 'files/s' },
      { id: 'limit: 8 KB pwrite + fsync', value: rate(patched), unit: 'files/s' },
      { id: 'written where they stand, two drives', value: rate(inPlace), unit: 'files/s' },
    ],
    [
      atLeast('anew against its limit', copied / anew, 0.5),
      atLeast('where they stand against its limit', patched / inPlace, 0.5),
    ],
  );
}

const ended = (services: Services, id: string) =>
  until(services, async () => (await services.jobs.find(id)).finishedAt !== null);

async function makeDrives(driveOf: (label: string) => string): Promise<void> {
  const picture = await paintNoise();
  for (const [at, label] of DRIVES.entries()) {
    const folder = join(driveOf(label), '2026');
    await mkdir(folder, { recursive: true });
    for (let i = at; i < FILES; i += DRIVES.length)
      // What stands behind the end makes each picture one of its own.
      await writeFile(join(folder, `IMG_${i}.jpg`), concatBytes([picture, uint32(i)]));
  }
}
