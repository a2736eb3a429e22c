// The job that makes the pictures of a view link before somebody looks. Those that are there take no time, so one that was cut off begins anew.

import { z } from 'zod';
import { StellinError } from '../errors';
import type { JobKind } from '../jobs/service';
import type { SharedPictures } from './pictures';
import type { OpenLinks } from './showing';

export const LINK_PICTURES_JOB = 'linkPictures';
const parameters = z.object({ linkId: z.number().int() });

interface Parts {
  links: Pick<OpenLinks, 'numbered' | 'idsOf'>;
  pictures: SharedPictures;
}

export function linkPicturesJob({ links, pictures }: Parts): JobKind {
  return {
    kind: LINK_PICTURES_JOB,
    async run(run) {
      const link = await links.numbered(parameters.parse(run.parameters).linkId);
      const ids = link ? await links.idsOf(link) : [];
      await run.progress({ done: 0, total: ids.length });
      let made = 0;
      for (const [at, id] of ids.entries()) {
        if (!link) break;
        try {
          await pictures.pictureOf(id, 'small', link.settings);
          if (await pictures.pictureOf(id, 'large', link.settings)) made += 1;
        } catch (error) {
          // Of a picture that can't be had the page says so when somebody looks.
          if (!(error instanceof StellinError)) throw error;
        }
        await run.progress({ done: at + 1, current: 'Making pictures' });
      }
      return { made };
    },
  };
}
