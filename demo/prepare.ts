// The living archive: the demo opens on work that is under way. It opens once the first drive is described; the others
// arrive while somebody looks around already. Each step is done once and noted in the catalogue, so an interrupted start
// goes on where it was. Everything that is described goes through changes, as a cataloguer's work does.

import { randomBytes } from 'node:crypto';
import { z } from 'zod';
import { readSetting, writeSetting } from '@stellin/server/database/settings';
import type { Database } from '@stellin/server/database/database';
import { messageOf, StellinError } from '@stellin/server/errors';
import type { JobKind } from '@stellin/server/jobs/service';
import type { Services } from '@stellin/server/services';
import { DEMO_ACCOUNTS } from '@stellin/server/accounts/demoAccounts';
import { makeDrive } from './archive/make';
import { planArchive, type DriveLabel } from './archive/plan';
import { ARCHIVIST, type Preparing } from './steps/applying';
import { describe, leaveWork, prepareDescribing } from './steps/describing';
import { sayWhereFrom } from './steps/accessions';
import { plugIn, takeIn, unplug, writeBack } from './steps/drives';
import { setUpPlaces } from './steps/places';
import { setUpPlans } from './steps/plans';
import { setUpPresets } from './steps/delivering';
import { setUpProjects } from './steps/projects';
import { formTeam } from './steps/team';
import { defineMarks, gatherDossiers, markPhotos, saveSearches } from './steps/gathering';
import { settlePeople } from './steps/people';
import { addVocabulary, leaveDoubts, tendVocabulary } from './steps/vocabulary';

export interface Step {
  /** Under which it is noted that it is done. */
  name: string;
  title: string;
  /** How long it takes on two cores, about; for saying how much time is left. */
  seconds: number;
  work(preparing: Preparing): Promise<void>;
}

export interface Steps {
  /** What there has to be before the demo opens. */
  opening: readonly Step[];
  /** What is done behind it then. */
  behind: readonly Step[];
}

const SMALL_SHARE = 0.1;
/** The first drive, which the demo opens with. */
const FIRST: DriveLabel = 'Vault 1';
/** Pictures that are looked at for faces before names are settled. */
const LOOKED_AT = { whole: 96, small: 24 };
const SETTING = 'demoSteps';

/** The steps of the whole demo, or of the small one with a tenth of its photos. */
export function stepsOf(small: boolean): Steps {
  const share = small ? SMALL_SHARE : 1;
  const plan = planArchive(share);
  const painted = (drive: DriveLabel, seconds: number): Step => ({
    name: `make ${drive}`,
    title: `Painting ${drive}`,
    seconds: seconds * share,
    work: async (preparing) => {
      await makeDrive(preparing.services.config.home, plan, drive, preparing);
      await plugIn(preparing.services, drive);
    },
  });
  const taken = (drive: DriveLabel, seconds: number): Step => ({
    name: `index ${drive}`,
    title: `Taking in ${drive}`,
    seconds: 1 + seconds * share,
    work: (preparing) => takeIn(preparing, drive),
  });
  const described = (drive: DriveLabel, people: readonly string[], seconds: number): Step => ({
    name: `describe ${drive}`,
    title: `Describing part of ${drive}`,
    seconds,
    work: (preparing) => describe(preparing, drive, people),
  });
  const written = (drive: DriveLabel): Step => ({
    name: `write ${drive}`,
    title: `Writing back what is said of ${drive}`,
    seconds: 3,
    work: (preparing) => writeBack(preparing, drive),
  });
  const step = (name: string, title: string, seconds: number, work: Step['work']): Step => ({
    name,
    title,
    seconds,
    work,
  });
  return {
    opening: [
      painted(FIRST, 24),
      taken(FIRST, 15),
      step('vocabulary', 'Building the vocabulary', 2, addVocabulary),
      described(FIRST, ['keeper', 'cataloguer', 'cataloguer'], 6),
    ],
    behind: [
      step('searches', 'Keeping searches', 1, saveSearches),
      step('marks', 'Defining marks', 1, defineMarks),
      step('thesaurus', 'Tending the vocabulary', 1, tendVocabulary),
      step('prepared', 'Preparing field sets and templates', 1, prepareDescribing),
      painted('Vault 2', 26),
      taken('Vault 2', 16),
      described('Vault 2', [ARCHIVIST], 5),
      painted('Field disk', 15),
      painted('Camera card A', 6),
      painted('Studio disk', 12),
      taken('Studio disk', 8),
      described('Studio disk', [ARCHIVIST], 3),
      painted('Kessel bequest', 12),
      taken('Kessel bequest', 8),
      described('Kessel bequest', [ARCHIVIST], 2),
      step('unplug', 'Putting the Kessel bequest on the shelf', 1, ({ services }) =>
        unplug(services, 'Kessel bequest'),
      ),
      written('Vault 1'),
      written('Vault 2'),
      step('doubts', 'Leaving something to mend in the vocabulary', 2, leaveDoubts),
      step('describe more', 'Leaving some work under way', 1, leaveWork),
      step('marked', 'Marking photos', 1, markPhotos),
      step('dossiers', 'Gathering dossiers', 1, gatherDossiers),
      step('places', 'Setting up places', 1, setUpPlaces),
      step('plans', 'Drawing site plans', 3, setUpPlans),
      step('accessions', 'Saying where the bequest comes from', 1, sayWhereFrom),
      step('projects', 'Setting up projects', 1, setUpProjects),
      step('presets', 'Setting up presets', 1, setUpPresets),
      step('team', 'Forming a team', 1, formTeam),
      step('people', 'Looking at the first pictures for faces, and settling names', small ? 15 : 60, (preparing) =>
        settlePeople(preparing, small ? LOOKED_AT.small : LOOKED_AT.whole),
      ),
    ],
  };
}

/** The kind of the job that does what is left once the demo is open. */
const JOB = 'prepareDemo';
const jobParameters = z.object({ small: z.boolean() });

export interface OpeningOptions {
  small: boolean;
  /** Runs the work of a step and tells how it goes; `left` are the steps after it. */
  perform(step: Step, left: readonly Step[], work: (progress: Preparing['progress']) => Promise<void>): Promise<void>;
  isStopped(): boolean;
}

/** Brings the demo to where it opens; what was done before stays as it is. Throws when it is stopped. */
export async function prepareOpening(services: Services, { small, perform, isStopped }: OpeningOptions): Promise<void> {
  await services.accounts.ensure([
    ...DEMO_ACCOUNTS,
    // Does what is done behind the open demo, so that nobody who looks around takes back what is not theirs.
    { name: ARCHIVIST, displayName: 'Signe Holt', role: 'keeper', password: randomBytes(24).toString('base64url') },
  ]);
  const steps = await notedSteps(services.database);
  const left = steps.left(stepsOf(small).opening);
  for (const [i, step] of left.entries()) {
    await perform(step, left.slice(i + 1), (progress) => step.work({ services, progress, isStopped }));
    await steps.note(step);
  }
}

/** Starts the job that does the rest, unless it is under way or nothing is left. Resolves to whether something is. */
export async function startRest(services: Services, small: boolean): Promise<boolean> {
  if ((await notedSteps(services.database)).left(stepsOf(small).behind).length === 0) return false;
  try {
    await services.jobs.start(JOB, 'Prepare the rest of the demo', { small }, null, {});
  } catch (error) {
    if (!(error instanceof StellinError && error.code === 'alreadyRunning')) throw error;
  }
  return true;
}

/**
 * The job that does what is left once the demo is open. A step that can't be done is told as a failure of the job and tried
 * again at the next start. `ended` is called once nothing is left.
 */
export function restJob(services: () => Services, ended: () => Promise<void>): JobKind {
  return {
    kind: JOB,
    async run(run) {
      const { small } = jobParameters.parse(run.parameters);
      const { behind } = stepsOf(small);
      const steps = await notedSteps(services().database);
      let stopped: { reason: unknown } | undefined;
      const tell = (progress: Parameters<typeof run.progress>[0]): void =>
        void run.progress(progress).catch((reason: unknown) => (stopped ??= { reason }));
      const left = new Set(steps.left(behind));
      const total = Math.ceil(secondsOf(behind));
      const doneBefore = () => total - secondsOf([...left]);
      for (const step of [...left]) {
        await run.progress({ total, done: Math.round(doneBefore()), current: step.title });
        try {
          await step.work({
            services: services(),
            isStopped: () => stopped !== undefined,
            progress: (done, of, note) =>
              tell({
                done: Math.round(doneBefore() + (step.seconds * done) / Math.max(1, of)),
                current: note ? `${step.title}: ${note}` : step.title,
              }),
          });
          await steps.note(step);
        } catch (error) {
          if (stopped) throw stopped.reason;
          await run.failure(step.title, messageOf(error));
        }
        left.delete(step);
      }
      await run.progress({ done: total, current: '' });
      await ended();
      return {};
    },
  };
}

export function secondsOf(steps: readonly Step[]): number {
  return steps.reduce((sum, { seconds }) => sum + seconds, 0);
}

/** The steps that have been done, as the catalogue has them noted. */
async function notedSteps(database: Database) {
  const done = new Set(z.array(z.string()).parse((await readSetting(database, SETTING)) ?? []));
  return {
    left: (steps: readonly Step[]): Step[] => steps.filter(({ name }) => !done.has(name)),
    async note({ name }: Step): Promise<void> {
      done.add(name);
      await writeSetting(database, SETTING, [...done]);
    },
  };
}
