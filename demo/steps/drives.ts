// The demo's drives: plugged in, taken in, written back, unplugged.

import { attach, detach, listBay, shelfName } from '@stellin/server/drives/bay';
import type { Services } from '@stellin/server/services';
import type { DriveLabel } from '../archive/plan';
import { accountId, finish, type Preparing } from './applying';
import { PROGRAM } from '@stellin/server/catalogue/viewer';

export async function plugIn(services: Services, label: DriveLabel): Promise<void> {
  const drive = (await listBay(services.config.home)).find(({ name }) => name === shelfName(label));
  if (drive?.attachedAt === null) await attach(services.config.home, label);
  await services.drives.refresh();
}

export async function unplug(services: Services, label: DriveLabel): Promise<void> {
  const drive = (await listBay(services.config.home)).find(({ name }) => name === shelfName(label));
  if (drive?.attachedAt) await detach(services.config.home, label);
  await services.drives.refresh();
}

/** Takes a drive that is plugged in into the catalogue; goes on with the job of an earlier run. */
export async function takeIn(preparing: Preparing, label: DriveLabel): Promise<void> {
  const { services } = preparing;
  const drive = (await services.drives.list(PROGRAM)).find((candidate) => candidate.label === label);
  if (!drive) throw new Error(`the drive ${label} is not plugged in`);
  const running = (await services.jobs.list()).find(
    (job) => job.title === `Take in ${label}` && job.finishedAt === null,
  );
  const keeper = await accountId(services, 'keeper');
  const request = { driveKey: drive.key, folder: '', subFolders: true };
  await finish(preparing, running ?? (await services.intake.takeIn(request, keeper)));
}

/** Writes what waits to be written on a drive. */
export async function writeBack(preparing: Preparing, wanted: DriveLabel): Promise<void> {
  const { services } = preparing;
  const drive = (await services.drives.list(PROGRAM)).find(({ label }) => label === wanted);
  const overview = (await services.writeBack.overview(PROGRAM)).find(({ id }) => id === drive?.id);
  if (!drive?.id || !overview?.waiting) return;
  const given = { driveId: drive.id, retryFailed: false };
  await finish(preparing, await services.writeBack.run(services.jobs, given, await accountId(services, 'keeper')));
}
