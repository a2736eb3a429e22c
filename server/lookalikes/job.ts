// The job that measures how pictures look. What is measured is passed over, so one that was cut off goes on where it was.

import type { JobKind } from '../jobs/service';
import { LOOKS_JOB } from './jobNames';
import type { Lookalikes } from './service';

/** Few enough that progress is seen, and little is done twice after a job was cut off. */
const PHOTOS_PER_STEP = 50;

export function measuringJob(lookalikes: Lookalikes): JobKind {
  return {
    kind: LOOKS_JOB,
    async run(run) {
      await run.progress({ done: 0, total: await lookalikes.count() });
      let [after, measured] = [0, 0];
      for (;;) {
        const step = await lookalikes.measureSome(after, PHOTOS_PER_STEP);
        if (!step) return { measured };
        after = step.last;
        measured += step.measured;
        await run.progress({
          done: Math.min(run.total, run.done + step.tried),
          current: 'Measuring how pictures look',
        });
      }
    },
  };
}
