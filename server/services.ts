// All services, wired together: which one uses which can be read here.

import { mkdir } from 'node:fs/promises';
import type { Logger } from 'pino';
import { backupRoutes } from '@stellin/contract/backup';
import { doubleRoutes } from '@stellin/contract/doubles';
import { keywordRoutes } from '@stellin/contract/keywords';
import { peopleRoutes } from '@stellin/contract/people';
import { placeRoutes } from '@stellin/contract/places';
import { sharingRoutes } from '@stellin/contract/sharing';
import { vocabularyRoutes } from '@stellin/contract/vocabulary';
import { rightsService } from './accounts/rights';
import { secondFactorService } from './accounts/secondFactor';
import { accessionChanges } from './accessions/changes';
import { accessionService } from './accessions/service';
import { accountService } from './accounts/service';
import { sessionService } from './accounts/sessions';
import { teamService } from './accounts/teams';
import { tokenService } from './accounts/tokens';
import { backupJob, checkBackupJob } from './backup/jobs';
import { backupSchedule } from './backup/schedule';
import { backupService } from './backup/service';
import { bundleChanges } from './bundles/changes';
import { bundleService } from './bundles/service';
import { places, type Config } from './config';
import { emptyingSourceJob, provingSourceJob } from './copying/emptying';
import { calendarChanges } from './calendar/changes';
import { calendarService } from './calendar/service';
import { copyingJob } from './copying/job';
import { copyingService } from './copying/service';
import { openDatabase, type Transaction } from './database/database';
import { migrate } from './database/migrate';
import { deliveringChanges } from './delivering/changes';
import { deliveryServerService } from './delivering/servers';
import { secretsBy } from './files/secrets';
import { deliveringJob } from './delivering/job';
import { outsideService } from './delivering/outside';
import { deliveryService } from './delivering/service';
import { describingChanges } from './describing/changes';
import { descriptionRecorder } from './describing/recording';
import { describingService } from './describing/service';
import { dossierChanges } from './dossiers/changes';
import { dossierService } from './dossiers/service';
import { doubleChanges } from './doubles/changes';
import { doubleService } from './doubles/service';
import { driveService } from './drives/service';
import { StellinError } from './errors';
import { openEventHub } from './events/hub';
import { recoverFileJournals } from './files/journal';
import { markDatabase, requireDatabase } from './identity';
import { fixityChanges } from './fixity/changes';
import { copyBackJob } from './fixity/copyingBack';
import { fixityJob } from './fixity/reading';
import { fixitySchedule } from './fixity/schedule';
import { fixityService } from './fixity/service';
import { filingChanges } from './filing/changes';
import { emptyingJob } from './filing/emptying';
import { filingJob } from './filing/job';
import { filingService } from './filing/service';
import { indexingJob, rereadFiles } from './intake/indexing';
import { largePictures, largePicturesJob } from './intake/large';
import { linkingService } from './intake/linking';
import { previewService } from './intake/previews';
import { posterFollower } from './intake/posters';
import { pictureTurner } from './intake/turning';
import { handoverChanges } from './handover/changes';
import { takingReturnedJob } from './handover/job';
import { handoverService } from './handover/service';
import { incomingTableChanges } from './incomingTables/changes';
import { incomingTableService } from './incomingTables/service';
import { tableFiles } from './incomingTables/tableFiles';
import { holdingService } from './holdings/service';
import { intakeService } from './intake/service';
import { presenceAt } from './jobs/presence';
import { roomOn } from './jobs/room';
import { jobService, type JobKind } from './jobs/service';
import { changeJob, largeChanges } from './ledger/large';
import { accessRecord } from './ledger/access';
import { sealLedger } from './ledger/sealing';
import type { Follower } from './ledger/kinds';
import { ledgerService, type AfterChange, type AfterCommit } from './ledger/service';
import { mailingService } from './mailing/service';
import { markChanges } from './marks/changes';
import { mediaPartsJob, playableJob } from './media/jobs';
import { mediaService } from './media/service';
import { stretchFiles } from './media/stretches';
import { markService } from './marks/service';
import { peopleChanges } from './people/changes';
import { guessKeeper } from './people/guessing';
import { measuringJob } from './lookalikes/job';
import { isPasswordOf, plainHashOf } from './accounts/passwords';
import { lookalikeService } from './lookalikes/service';
import { LINK_PICTURES_JOB, linkPicturesJob } from './sharing/job';
import { sharedPictures } from './sharing/pictures';
import { openLinkService } from './sharing/showing';
import { linkFollower } from './sharing/following';
import { linkTeller } from './sharing/telling';
import { viewLinkService } from './sharing/service';
import { likenessIndex } from './people/likeness';
import { proposePersons } from './people/proposing';
import { namesFound } from './people/names';
import { facePictures } from './people/pictures';
import { scanningService } from './people/scanning';
import { peopleService } from './people/service';
import { photoChanges, photoService } from './photos/service';
import { placeChanges } from './places/changes';
import { clockChanges } from './places/clockChanges';
import { clockService } from './places/clocks';
import { doubtChanges } from './places/doubtChanges';
import { doubtReader } from './places/doubts';
import { oldMapService } from './places/oldMaps';
import { streetMapService } from './places/streetMaps';
import { placingChanges } from './places/placing';
import { planChanges } from './plans/changes';
import { planService } from './plans/service';
import { trackService } from './places/tracks';
import { pictureTextJob } from './pictureText/job';
import { pictureTextService } from './pictureText/service';
import { placeService } from './places/service';
import { projectChanges } from './projects/changes';
import { projectGuard } from './projects/guard';
import { projectService } from './projects/service';
import { repeating } from './repeating';
import { searchChanges } from './search/changes';
import { finderClient } from './search/finder';
import { searchService } from './search/service';
import { openThreads, type Threads } from './openThreads';
import { trackingService } from './tracking/service';
import { giveTermsTo, vocabularyChanges } from './vocabulary/changes';
import { padChanges } from './vocabulary/pads';
import { settlingChanges } from './vocabulary/settling';
import { TERM_OBJECTS } from './vocabulary/ledger';
import { vocabularyService } from './vocabulary/service';
import { vocabularyIndex } from './catalogue/vocabularySnapshot';
import { automaticWriting } from './writeback/automatic';
import { conflictChanges } from './writeback/conflicts';
import { LEDGER_KINDS, type AspectName, type ObjectName } from './ledgerKinds';
import { writeBackService } from './writeback/service';
import { pocketService } from './pocket/service';
import { reportService } from './reports/service';
import { steppingService } from './stepping/service';
import { workListService } from './workLists/service';
import { takingBackJob } from './writeback/takingBack';
import type { Reread } from './catalogue/rereading';
import { writingJob } from './writeback/writing';

type Following<Run> = readonly Follower<Run, AspectName, ObjectName>[];

/** Entries that have something to do with files or folders. */
const OF_FILES = {
  aspects: ['place', 'copy', 'removed'],
  objects: ['folder'],
  reversals: true,
} as const satisfies Following<unknown>[number]['of'];

/** How long an entry of the ledger waits for its seal, at most about. */
const SEALED_MS = 60_000;
/** How often is kept how long the work lists are. */
const COUNTED_MS = 60 * 60_000;
/** Not while everything starts. */
const COUNTED_AFTER_MS = 2 * 60_000;
/** How often is looked whether links have new pictures that somebody is to be told of. */
const TOLD_MS = 5 * 60_000;

/** What was done already by a run that was cut off is no error. */
function unlessNothingToDo(error: unknown): void {
  if (!(error instanceof StellinError && error.code === 'nothingToDo')) throw error;
}

export type Services = Awaited<ReturnType<typeof openServices>>;

export interface Additions {
  /** Threads that are shared with others, who close them. */
  threads?: Threads;
  /** How many statements run side by side at most. */
  connections?: number;
  /** Kinds of jobs besides those of the server itself. */
  jobs?: readonly JobKind[];
}

/** Opens everything there is against a database, migrated first. `close` ends it in the right order. */
export async function openServices(
  config: Config,
  databaseUrl: string,
  log: Logger,
  { threads: shared, connections, jobs: otherJobs = [] }: Additions = {},
) {
  // One closure for what its functions share; each of them fits a screen.
  const database = openDatabase(databaseUrl, { connections, replicaUrl: config.replicaUrl });
  try {
    await requireDatabase(database, config.kind);
    await migrate(database);
    await markDatabase(database, config.kind);
  } catch (error) {
    await database.close();
    throw error;
  }
  await mkdir(places.previews(config.home), { recursive: true });

  const events = await openEventHub(databaseUrl, log);
  const presence = presenceAt(databaseUrl);
  const room = roomOn(config.home, config.leastFreeBytes);
  const jobs = jobService(database, log, {
    room,
    presence,
    onQueued: (listener) => events.subscribe(({ topics }) => topics.includes('jobs') && listener()),
  });
  const threads = shared ?? openThreads();
  const { reader, writer, planning, thinking, looker, gazetteer, trackReading, tableReading, spreadsheets, placer } =
    threads;
  const accounts = accountService(database, config.kind);
  const drives = driveService(database, config, log, presence);
  const terms = vocabularyIndex(database);
  const finder = finderClient(databaseUrl, places.finder(config.home));
  const lookalikes = lookalikeService({ database, url: databaseUrl, folder: places.previews(config.home) });
  const search = searchService({ database, vocabulary: terms, finder, like: lookalikes.like });
  const sessions = sessionService(database);
  const rights = rightsService(database, search.queryOf);
  const teams = teamService(database);
  const secondFactor = secondFactorService(database);
  const tokens = tokenService(database);
  const writeBack = writeBackService(database, terms);
  const vocabulary = vocabularyService(database, terms, search, writeBack, thinking, (names) =>
    proposePersons(database, names),
  );
  const access = accessRecord(database, log);
  const marks = markService(database);
  const dossiers = dossierService(database, search);
  const describing = describingService(database, search, terms, planning);
  const photos = photoService(database, search, vocabulary, dossiers);
  const previews = previewService(database, places.previews(config.home), reader);
  const likeness = likenessIndex(databaseUrl);
  const facesKept = facePictures(database, places.faces(config.home), (photoId) => previews.fileOf(photoId));
  const scanning = scanningService({ database, drives, jobs, looker, pictures: facesKept, byItself: config.faces });
  const people = peopleService({ database, search, likeness, looker, pictures: facesKept, scanning });
  const large = largePictures({
    database,
    drives,
    jobs,
    folder: places.previews(config.home),
    limitBytes: config.largeBytes,
  });
  const turner = pictureTurner({ database, previews, large, faces: facesKept });
  const turnPictures = () =>
    void turner.run().catch((error: unknown) => log.warn(error, 'pictures of turned photos were not turned'));
  const media = mediaService({ database, jobs, folder: places.media(config.home), limitBytes: config.largeBytes });
  const posters = posterFollower({ database, previews, large, carry: media.carry, warn: (why) => log.warn(why) });
  const showPosters = () =>
    void posters.run().catch((error: unknown) => log.warn(error, 'chosen pictures of films were not made'));
  const bundles = bundleService(database);
  const doubles = doubleService(database);
  const pictureTexts = pictureTextService(database, jobs);
  const afterReading = async (photoIds: readonly number[], tx: Transaction) => {
    await vocabulary.afterReading(photoIds, tx);
    await writeBack.afterReading(photoIds, tx);
    await bundles.afterReading(photoIds, tx);
    await namesFound(database, photoIds, tx);
    await pictureTexts.afterReading(photoIds, tx);
  };
  const reread: Reread = (files, tx, mode) => rereadFiles({ database, reader, afterReading }, files, tx, mode);
  const filing = filingService(database, drives, jobs, planning.replace);
  const fixity = fixityService(database, drives, reader, jobs);
  const placing = placeService(database, search, gazetteer);
  const calendar = calendarService(database, search, placing);
  const plans = planService({
    ...{ database, search, folder: places.plans(config.home) },
    largeOf: (photoId, page) => large.fileOf(photoId, 'full', page),
    previewOf: (photoId) => previews.fileOf(photoId),
  });
  const tracks = trackService(database, search, trackReading);
  const projects = projectService({ database, dossiers, describing, search });
  const descriptions = descriptionRecorder({
    database,
    planner: planning,
    ownFields: describing.ownFields,
    giveTerms: (found, termIds, context) => giveTermsTo(database, found, termIds, context),
    noteKeywords: vocabulary.noteIncoming,
  });
  const secrets = secretsBy(places.secretKey(config.home));
  const deliveryServers = deliveryServerService(database, secrets);
  const incomingTables = incomingTableService({
    database,
    describing,
    terms,
    reader: tableReading,
    files: tableFiles(places.tables(config.home), config.leastFreeBytes),
  });
  const handovers = handoverService({
    database,
    describing,
    terms,
    reader,
    jobs,
    folders: { exchange: config.exchange ?? places.exchange(config.home), programs: places.programs(config.home) },
    log,
  });
  const gathering = dossierChanges(database, search, dossiers, (dossierId, home, context) =>
    projects.fillNew(dossierId, home, context, descriptions.fillNew),
  );
  const personChanges = peopleChanges(database, search);
  const termChanges = vocabularyChanges(database, terms, search);
  const describedBy = describingChanges(database, descriptions);
  const ledger = ledgerService({
    database,
    kinds: LEDGER_KINDS,
    handlers: {
      ...termChanges,
      ...settlingChanges(database, terms, personChanges.settleNames),
      ...padChanges(database),
      ...photoChanges(database),
      ...markChanges(database),
      ...describedBy,
      ...conflictChanges(database),
      ...searchChanges(database, search, projects.scopeOf, teams.givesRights),
      ...gathering,
      ...placeChanges({ database, recordEach: descriptions.recordEach }),
      ...clockChanges(database),
      ...doubtChanges(database),
      ...calendarChanges({ vocabulary: terms, steps: { ...termChanges, ...gathering, ...describedBy } }),
      ...placingChanges({ database, recordEach: descriptions.recordEach, places: placing, tracks }),
      ...planChanges({ database, search, recordEach: descriptions.recordEach }),
      ...projectChanges({ database, dossiers, describing, search, changeDossier: gathering.changeDossier }),
      ...filingChanges(database, drives, planning.replace),
      ...fixityChanges(database),
      ...deliveringChanges(database),
      ...handoverChanges({ database, describing, descriptions, terms, bundles, filing }),
      ...incomingTableChanges({ database, tables: incomingTables, descriptions }),
      ...bundleChanges(database),
      ...doubleChanges(database),
      ...accessionChanges(database),
      ...personChanges,
    },
    beforeEffect: [projectGuard(database)],
    afterChange: [
      { of: { aspects: ['fields', 'fileSays'] }, run: describing.afterChange },
      { of: { aspects: ['fields'] }, run: people.afterChange },
      { of: { objects: TERM_OBJECTS }, run: vocabulary.afterChange },
      { of: { aspects: 'any' }, run: writeBack.afterChange },
      { of: OF_FILES, run: filing.afterChange },
      { of: { aspects: ['bundle'] }, run: bundles.afterChange },
    ] satisfies Following<AfterChange>,
    beforeReverse: [vocabulary.beforeReverse],
    afterCommit: [
      { of: OF_FILES, run: (entry, accountId) => filing.start(entry, accountId) },
      { of: { aspects: ['copyBack'] }, run: (entry, accountId) => fixity.start(entry, accountId) },
      {
        of: { aspects: ['face'] },
        run: (entry) => {
          void people
            .afterCommit(entry.id)
            .catch((error: unknown) => log.warn(error, 'a drawn face was not looked at'));
          return Promise.resolve();
        },
      },
      {
        of: { aspects: ['fields'] },
        run: () => {
          turnPictures();
          return Promise.resolve();
        },
      },
      {
        of: { aspects: ['poster'] },
        run: () => {
          showPosters();
          return Promise.resolve();
        },
      },
    ] satisfies Following<AfterCommit>,
    personOf: rights.personOf,
    settled: async (change, person) =>
      'selection' in change && change.selection
        ? { ...change, selection: await search.seenBy(person).settled(change.selection) }
        : change,
  });
  const stretches = stretchFiles(database, places.media(config.home));
  const indexing = indexingJob({
    database,
    drives,
    previews,
    large,
    reader,
    afterReading,
    describe: async (accessionId, templateId, accountId) => {
      const selection = { query: `accession:${accessionId}`, minus: [], plus: [] };
      await ledger.apply({ kind: 'applyTemplate', selection, templateId }, accountId).catch(unlessNothingToDo);
    },
    gather: async (accessionId, dossierId, accountId) => {
      const selection = { query: `accession:${accessionId}`, minus: [], plus: [] };
      await ledger.apply({ kind: 'putInDossier', selection, dossierId }, accountId).catch(unlessNothingToDo);
    },
    async afterwards(accountId) {
      await scanning.follow(accountId);
      await posters.run();
      await media.follow(accountId);
      await pictureTexts.follow(accountId);
    },
  });
  const outside = outsideService(database, terms);
  const openLinks = openLinkService({ database, outside, personOf: rights.personOf, isPassword: isPasswordOf });
  const linkPictures = sharedPictures({
    previewOf: previews.fileOf,
    // Of a drive that is away without a kept large picture there is none.
    largeOf: (photoId) =>
      large.fileOf(photoId, 'large').catch((error: unknown) => {
        if (error instanceof StellinError) return null;
        throw error;
      }),
    render: outside.pictureOutside,
    folder: places.shared(config.home),
    limitBytes: config.largeBytes,
  });
  const jobKinds = [
    indexing,
    largePicturesJob(database, large),
    mediaPartsJob({ database, drives, media, reread }),
    playableJob(media),
    linkPicturesJob({ database, links: openLinks, pictures: linkPictures }),
    measuringJob(lookalikes),
    pictureTextJob(database, drives, pictureTexts),
    copyingJob({ database, drives, reader, indexing }),
    provingSourceJob({ database, drives, reader }),
    emptyingSourceJob({ database, drives, reader }),
    writingJob({ database, drives, writer, reread, terms }),
    takingBackJob({ database, drives, writer, reread }),
    filingJob({ database, drives, reread, waiting: writeBack.afterReading }),
    emptyingJob({
      database,
      drives,
      async removePictures(photos) {
        for (const { id, version, faces } of photos) {
          await previews.remove(id, version);
          await large.remove(id, version);
          await media.remove(id, version);
          await linkPictures.remove(id);
          await facesKept.remove(faces);
        }
      },
    }),
    fixityJob({ database, drives, reader, reread }),
    copyBackJob({ database, drives, reader, reread }),
    deliveringJob({ database, drives, terms, servers: deliveryServers, handovers, placer }),
    takingReturnedJob({
      database,
      drives,
      reread,
      placer,
      rootOf: handovers.rootOf,
      apply: (change, accountId) => ledger.apply(change, accountId).catch(unlessNothingToDo),
    }),
    changeJob(database, ledger),
    backupJob({ database, ...config }),
    checkBackupJob({ database, ...config }),
    scanning.job,
    ...otherJobs,
  ];
  const largeLedger = largeChanges(
    ledger,
    async (change, viewer) => {
      if (change.kind === 'takeTable') return incomingTables.countPhotos(change.tableId);
      const selection = 'selection' in change ? change.selection : undefined;
      // A selection without a query is a list of photos, which is short.
      return selection && selection.query !== null ? search.seenBy(viewer).countSelection(selection) : 0;
    },
    jobs,
  );
  const linking = linkingService({ database, drives, reader, reread });
  const intake = intakeService(database, drives, jobs);
  const copying = copyingService(drives, reader, jobs);
  const deliveries = deliveryService({
    database,
    outside,
    search,
    drives,
    describing,
    terms,
    jobs,
    servers: deliveryServers,
    handovers,
    previewOf: (photo) => previews.fileOf(photo.id, photo.previewVersion),
    world: placing,
    spreadsheets,
  });
  const viewLinks = viewLinkService({
    database,
    search,
    outside,
    publicUrl: config.network.publicUrl ?? '',
    passwordHash: plainHashOf,
    prepare: async (linkId, title, accountId) =>
      void (await jobs.start(LINK_PICTURES_JOB, `Make the pictures of “${title}”`, { linkId }, accountId)),
  });
  const mailing = mailingService({
    database,
    deliveries,
    titleOfLink: viewLinks.titleOf,
    personOf: rights.personOf,
    secrets,
    server: config.mail,
    boxFolder: places.mailBox(config.home),
    events,
    log,
  });
  const linksFollow = linkFollower({
    database,
    search,
    personOf: rights.personOf,
    viewerFor: outside.viewerFor,
    events,
    log,
  });
  const telling = linkTeller({
    database,
    follow: linksFollow.run,
    idsOf: openLinks.idsOf,
    personOf: rights.personOf,
    toldOf: mailing.toldOf,
    tell: mailing.tell,
  });
  const tellingNow = repeating('telling of new pictures', TOLD_MS, () => telling(new Date()), log);
  const tracking = trackingService(database, drives, jobs, log);
  const automatic = automaticWriting(database, writeBack, jobs, log);
  const backups = backupService(database, jobs, config);
  const schedule = backupSchedule(database, backups, jobs, log);
  const proving = fixitySchedule(database, jobs, log);
  const holdings = holdingService(database, search);
  const doubts = doubtReader(database, search, placing);
  const accessions = accessionService(database);
  const workLists = workListService({
    ...{ ending: accessions.endingBy, database, search, rules: describing.rules, photosOf: photos.ofSelection },
    things: {
      keywords: {
        route: keywordRoutes.listIncoming,
        count: async () => (await vocabulary.incoming({ source: 'keywords', limit: 0, levels: 1 })).total,
      },
      names: { route: peopleRoutes.listNames, count: async () => (await people.names()).length },
      likeness: {
        route: peopleRoutes.listLikenessGroups,
        count: async () => (await people.groups({ strictness: 'close', offset: 0, limit: 1 })).total,
      },
      doubts: {
        route: placeRoutes.placeDoubts,
        count: async (viewer) => Object.values(await doubts.doubts(viewer)).reduce((sum, { found }) => sum + found, 0),
      },
      proposals: { route: vocabularyRoutes.listProposals, count: vocabulary.countProposals },
      answers: { route: sharingRoutes.listAnswers, count: viewLinks.countAnswers },
      doubles: { route: doubleRoutes.countDoubles, count: async (viewer) => (await doubles.count(viewer)).groups },
      backups: {
        route: backupRoutes.listBackups,
        async count() {
          const { last, failed, nightly } = await backups.state();
          return failed || last?.isOld || (last === null && nightly) ? 1 : 0;
        },
      },
    },
  });
  const reports = reportService({
    ...{ database, search, drives, projects: projects.list, workLists: workLists.lists, fixity: fixity.show },
    ...{ personOf: rights.personOf, write: mailing.write },
  });
  const sendingReports = repeating('monthly reports', COUNTED_MS, reports.sendDue, log, COUNTED_AFTER_MS);
  const countingLists = repeating('counting of work lists', COUNTED_MS, workLists.keepCounts, log, COUNTED_AFTER_MS);
  let stopFollowing: (() => void) | undefined;
  const sealing = repeating(
    'sealing the ledger',
    SEALED_MS,
    async () => {
      await access.forgetOld();
      await access.flush();
      await sealLedger(database);
    },
    log,
  );
  const guesses = guessKeeper(database, likeness, events, log);

  return {
    config,
    log,
    database,
    access,
    accounts,
    sessions,
    rights,
    teams,
    tokens,
    secondFactor,
    drives,
    deliveries,
    deliveryServers,
    handovers,
    incomingTables,
    describing,
    dossiers,
    doubles,
    vocabulary,
    writeBack,
    search,
    finder,
    marks,
    people,
    places: placing,
    calendar,
    clocks: clockService(database, search),
    oldMaps: oldMapService(database),
    plans,
    holdings,
    workLists,
    reports,
    pocket: pocketService(database, search),
    accessions,
    stepping: steppingService(database, search, drives),
    streetMaps: streetMapService(database, places.maps(config.home), config.leastFreeBytes),
    doubts,
    tracks,
    projects,
    scanning,
    photos,
    previews,
    turner,
    posters,
    viewLinks,
    openLinks,
    linkPictures,
    mailing,
    linksFollow,
    tellOfNew: telling,
    large,
    media,
    stretches,
    lookalikes,
    pictureTexts,
    reader,
    writer,
    ledger,
    largeChanges: largeLedger,
    filing,
    jobs,
    room,
    intake,
    linking,
    copying,
    tracking,
    backups,
    fixity,
    events,

    /** Starts both parts of the work in this process. */
    async start(): Promise<void> {
      await this.startJobs();
      this.startWatching();
    },

    /** Sorts out what a killed process left, and starts working on jobs and on what they bring with them. */
    async startJobs(): Promise<void> {
      await drives.refresh();
      // Who works has to see the drives itself, and a new one at once.
      drives.watch();
      stopFollowing = events.subscribe(({ topics }) => {
        if (topics.includes('drives')) void drives.refresh().catch(() => undefined);
      });
      for (const { path, settled } of recoverFileJournals(places.journals(config.home)))
        if (typeof settled !== 'string')
          log.warn(`a write that was cut off is not sorted out: ${path}: ${settled.message}`);
      await writeBack.recover();
      await jobs.work(jobKinds);
      await filing.recover();
      await fixity.recover();
      turnPictures();
      showPosters();
      await stretches.clear();
      await lookalikes.follow(jobs, null);
      guesses.start();
      sealing.start();
      countingLists.start();
      sendingReports.start();
    },

    /** Starts watching drives, tracked folders and what waits to be written: they start jobs, and take little work themselves. */
    startWatching(): void {
      drives.watch();
      tracking.start();
      handovers.start();
      automatic.start();
      schedule.start();
      proving.start();
      mailing.start();
      linksFollow.start();
      tellingNow.start();
    },

    async close(): Promise<void> {
      stopFollowing?.();
      await drives.stop();
      await tracking.close();
      await handovers.close();
      await automatic.close();
      await schedule.close();
      await proving.close();
      await tellingNow.close();
      await linksFollow.close();
      await mailing.close();
      await sealing.close();
      await countingLists.close();
      await sendingReports.close();
      await guesses.close();
      await turner.close();
      await posters.close();
      await jobs.close();
      await presence.close();
      await events.close();
      await access.close();
      await finder.close();
      await likeness.close();
      await lookalikes.close();
      if (!shared) await threads.close();
      await database.close();
    },
  };
}
