// Links that follow tell those to whom they were sent by mail when enough new pictures are there: at most once a day, and only where who made
// the link asked for it.

import { linkSettings } from '@stellin/contract/sharing';
import { countText } from '@stellin/contract/wording';
import type { Person } from '../catalogue/viewer';
import type { Database } from '../database/database';
import type { OpenLink } from './showing';
import * as store from './store';

interface Parts {
  database: Database;
  /** Lets links find what there is now. */
  follow: () => Promise<void>;
  idsOf: (link: OpenLink) => Promise<number[]>;
  personOf: (accountId: number) => Promise<Person>;
  /** How many a link was sent to. */
  toldOf: (linkId: number) => Promise<number>;
  tell: (linkId: number, accountId: number, said: { title: string; subject: string; text: string }) => Promise<void>;
}

const REST_MS = 24 * 3600 * 1000;

/** Gives what looks through all links that tell, once. */
export function linkTeller({ database, follow, idsOf, personOf, toldOf, tell }: Parts) {
  return async (now: Date): Promise<void> => {
    await follow();
    for (const row of await store.linksThatTell(database, new Date(now.getTime() - REST_MS))) {
      const settings = linkSettings.parse(row.settings);
      const ids = await idsOf({ row, settings, maker: await personOf(row.accountId) });
      const known = new Set(row.toldIds);
      const fresh = ids.filter((id) => !known.has(id)).length;
      const reaches = (await toldOf(row.id)) > 0;
      // Nobody has the address yet: whoever gets it sees all that is there then.
      if (reaches && fresh < (settings.tellAfter ?? Infinity)) continue;
      if (!(await store.noteTold(database, row, ids, reaches)) || !reaches) continue;
      await tell(row.id, row.accountId, {
        title: settings.title,
        subject: `${settings.title}: ${countText(fresh, 'new picture')}`,
        text: `Dear {name},\n\n“{title}” has ${countText(fresh, 'new picture')}. You find them at the address that you were sent before.\n\n{sender}\n`,
      });
    }
  };
}
