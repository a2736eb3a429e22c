// The job that makes the pictures of a view link before somebody looks. Those that are there take no time, so one that was cut off begins anew.

import pLimit from 'p-limit';
import { z } from 'zod';
import type { LinkSettings } from '@stellin/contract/sharing';
import { previewVersions } from '../catalogue/previewVersions';
import type { Database } from '../database/database';
import { StellinError } from '../errors';
import type { JobKind } from '../jobs/service';
import type { SharedPictures } from './pictures';
import type { OpenLinks } from './showing';

export const LINK_PICTURES_JOB = 'linkPictures';
/** Few enough that progress is seen. */
const PHOTOS_PER_STEP = 20;
const SIDE_BY_SIDE = 2;
const parameters = z.object({ linkId: z.number().int() });

interface Parts {
  database: Database;
  links: Pick<OpenLinks, 'numbered' | 'idsOf'>;
  pictures: SharedPictures;
}

export function linkPicturesJob({ database, links, pictures }: Parts): JobKind {
  return {
    kind: LINK_PICTURES_JOB,
    async run(run) {
      const link = await links.numbered(parameters.parse(run.parameters).linkId);
      const ids = link ? await links.idsOf(link) : [];
      await run.progress({ done: 0, total: ids.length });
      let made = 0;
      const makeFor = async (photo: { photoId: number; version: number }, settings: LinkSettings): Promise<void> => {
        try {
          await pictures.pictureOf(photo, 'small', settings);
          if (await pictures.pictureOf(photo, 'large', settings)) made += 1;
        } catch (error) {
          // Of a picture that can't be had the page says so when somebody looks.
          if (!(error instanceof StellinError)) throw error;
        }
      };
      const inTurn = pLimit(SIDE_BY_SIDE);
      for (let at = 0; link && at < ids.length; at += PHOTOS_PER_STEP) {
        const step = ids.slice(at, at + PHOTOS_PER_STEP);
        const versions = await previewVersions(database, step);
        await Promise.all(
          [...versions].map(([photoId, version]) => inTurn(() => makeFor({ photoId, version }, link.settings))),
        );
        await run.progress({ done: at + step.length, current: 'Making pictures' });
      }
      return { made };
    },
  };
}
