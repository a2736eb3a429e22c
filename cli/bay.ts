// `./stellin bay`: the demo's drive bay.

import { attach, detach, listBay, type BayDrive } from '@stellin/server/drives/bay';
import { touch } from '@stellin/server/drives/touching';
import { countText } from '@stellin/contract/wording';
import { readConfig } from '@stellin/server/config';

const ACTIONS: Record<string, (home: string, name: string, slot?: string) => Promise<BayDrive>> = { attach, detach };

export async function bay([action, name, slot]: string[]): Promise<number> {
  const { home } = readConfig('demo');
  if (!action) {
    const drives = await listBay(home);
    for (const { name: shelf, label, attachedAt } of drives)
      console.log(`${shelf.padEnd(18)} ${label.padEnd(18)} ${attachedAt ?? 'on the shelf'}`);
    if (drives.length === 0) console.log('There is no drive bay here yet; ./stellin demo makes one.');
    return 0;
  }
  if (action === 'touch' && name) {
    const files = await touch(home, name, Number(slot ?? 5) || 5);
    for (const file of files) console.log(file);
    console.log(`Another program has changed ${countText(files.length, 'file')} of ${name}`);
    return 0;
  }
  const act = ACTIONS[action];
  if (!act || !name) {
    console.error('Usage: ./stellin bay [attach|detach NAME [SLOT] | touch NAME [COUNT]]');
    return 2;
  }
  const drive = await act(home, name, slot);
  console.log(
    drive.attachedAt ? `${drive.label} is plugged in at ${drive.attachedAt}` : `${drive.label} is on the shelf`,
  );
  return 0;
}
