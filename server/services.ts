// All services, wired together: which one uses which can be read here.

import { mkdir } from 'node:fs/promises';
import type { Logger } from 'pino';
import { accountService } from './accounts/service';
import { bundleChanges } from './bundles/changes';
import { bundleService } from './bundles/service';
import { places, type Config } from './config';
import { emptyingSourceJob } from './copying/emptying';
import { copyingJob } from './copying/job';
import { copyingService } from './copying/service';
import { openDatabase, type Transaction } from './database/database';
import { migrate } from './database/migrate';
import { doubleService } from './doubles/service';
import { driveService } from './drives/service';
import { openEventHub } from './events/hub';
import { recoverFileJournals } from './files/journal';
import { filingChanges } from './filing/changes';
import { emptyingJob } from './filing/emptying';
import { filingJob } from './filing/job';
import { filingService } from './filing/service';
import { fileReader } from './intake/reader';
import { fileWriter } from './files/writer';
import { indexingJob, rereadFiles } from './intake/indexing';
import { largePictures, largePicturesJob } from './intake/large';
import { linkingService } from './intake/linking';
import { previewService } from './intake/previews';
import { intakeService } from './intake/service';
import { jobService, type Jobs } from './jobs/service';
import { ledgerService } from './ledger/service';
import { markChanges } from './marks/changes';
import { markService } from './marks/service';
import { photoChanges, photoService } from './photos/service';
import { searchChanges } from './search/changes';
import { searchService } from './search/service';
import { trackingService } from './tracking/service';
import { vocabularyChanges } from './vocabulary/changes';
import { padChanges } from './vocabulary/pads';
import { settlingChanges } from './vocabulary/settling';
import { vocabularyService } from './vocabulary/service';
import { vocabularyIndex } from './vocabulary/snapshot';
import { thinker } from './vocabulary/thinking';
import { writeBackService } from './writeback/service';
import { takingBackJob } from './writeback/takingBack';
import { writingJob, type Reread } from './writeback/writing';

export type Services = Awaited<ReturnType<typeof openServices>>;

/** Opens everything there is against a database, migrated first. `close` ends it in the right order. */
export async function openServices(config: Config, databaseUrl: string, log: Logger) {
  const database = openDatabase(databaseUrl);
  await migrate(database);
  await mkdir(places.previews(config.home), { recursive: true });

  const accounts = accountService(database);
  const drives = driveService(database, config, log);
  const terms = vocabularyIndex(database);
  const search = searchService(database, terms);
  const writeBack = writeBackService(database);
  const thinking = thinker();
  const vocabulary = vocabularyService(database, terms, search, writeBack, thinking);
  const marks = markService(database);
  const photos = photoService(database, search, vocabulary);
  const reader = fileReader();
  const previews = previewService(database, places.previews(config.home), reader);
  const writer = fileWriter();
  const bundles = bundleService(database);
  const doubles = doubleService(database);
  const afterReading = async (photoIds: readonly number[], tx: Transaction) => {
    await vocabulary.afterReading(photoIds, tx);
    await writeBack.afterReading(photoIds, tx);
    await bundles.afterReading(photoIds, tx);
  };
  const reread: Reread = (files, tx) => rereadFiles({ database, reader, afterReading }, files, tx);
  const filing = filingService(database, drives);
  // Jobs know the ledger's work and the ledger starts jobs: it gets them once both are there.
  const late: { jobs?: Jobs } = {};
  const ledger = ledgerService(
    database,
    {
      ...vocabularyChanges(database, terms, search),
      ...settlingChanges(database, terms),
      ...padChanges(database),
      ...photoChanges(database),
      ...markChanges(database),
      ...searchChanges(database),
      ...filingChanges(database, drives),
      ...bundleChanges(database),
    },
    [vocabulary.afterChange, writeBack.afterChange, filing.afterChange, bundles.afterChange],
    [vocabulary.beforeReverse],
    async (entry, accountId) => {
      if (late.jobs) await filing.start(late.jobs, entry, accountId);
    },
  );
  const large = largePictures(database, drives, places.previews(config.home), config.largeBytes);
  const indexing = indexingJob({ database, drives, previews, large, reader, afterReading });
  const jobs = await jobService(
    database,
    [
      indexing,
      largePicturesJob(database, large),
      copyingJob({ database, drives, reader, indexing }),
      emptyingSourceJob({ database, drives, reader }),
      writingJob({ database, drives, writer, reader, reread }),
      takingBackJob({ database, drives, writer, reread }),
      filingJob({ database, drives, reread }),
      emptyingJob({ database, drives }),
    ],
    log,
  );
  late.jobs = jobs;
  const linking = linkingService({ database, drives, reader, reread });
  const intake = intakeService(database, drives, jobs);
  const copying = copyingService(database, drives, reader, jobs);
  const tracking = trackingService(database, drives, jobs, log);
  const events = await openEventHub(databaseUrl, log);

  return {
    config,
    log,
    database,
    accounts,
    drives,
    doubles,
    vocabulary,
    writeBack,
    search,
    marks,
    photos,
    previews,
    large,
    reader,
    ledger,
    filing,
    jobs,
    intake,
    linking,
    copying,
    tracking,
    events,

    /** Looks for drives, sorts out what a killed process left, and starts working on jobs. */
    async start(): Promise<void> {
      await drives.refresh();
      for (const { path, settled } of recoverFileJournals(places.journals(config.home)))
        if (typeof settled !== 'string')
          log.warn(`a write that was cut off is not sorted out: ${path}: ${settled.message}`);
      await writeBack.recover();
      await jobs.work();
      await filing.recover(jobs);
      void drives.watch();
      tracking.start();
    },

    async close(): Promise<void> {
      drives.stop();
      await tracking.close();
      await jobs.close();
      await events.close();
      await reader.close();
      await writer.close();
      await thinking.close();
      await database.close();
    },
  };
}
