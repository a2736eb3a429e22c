// `./stellin bay`: the demo's drive bay.

import { attach, detach, listBay } from '@stellin/server/drives/bay';
import { touch } from '@stellin/server/drives/touching';
import { countText } from '@stellin/contract/wording';
import { readConfig } from '@stellin/server/config';

export async function listDrives(): Promise<number> {
  const drives = await listBay(readConfig('demo').home);
  for (const { name, label, attachedAt } of drives)
    console.log(`${name.padEnd(18)} ${label.padEnd(18)} ${attachedAt ?? 'on the shelf'}`);
  if (drives.length === 0) console.log('There is no drive bay here yet; ./stellin demo makes one.');
  return 0;
}

const PLUGGING = { attach, detach };

/** Plugs a drive in, or puts it on the shelf. */
export async function plug(action: keyof typeof PLUGGING, name: string, slot?: string): Promise<number> {
  const { label, attachedAt } = await PLUGGING[action](readConfig('demo').home, name, slot);
  console.log(attachedAt ? `${label} is plugged in at ${attachedAt}` : `${label} is on the shelf`);
  return 0;
}

/** Changes some files of a drive as another program would. */
export async function touchFiles(name: string, count: number): Promise<number> {
  const files = await touch(readConfig('demo').home, name, count);
  for (const file of files) console.log(file);
  console.log(`Another program has changed ${countText(files.length, 'file')} of ${name}`);
  return 0;
}
