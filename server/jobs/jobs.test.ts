import pino from 'pino';
import { openWorld, type World } from '../testing/world';
import { jobService, type JobKind } from './service';

let world: World;
beforeEach(async () => void (world = await openWorld({ working: false })));
afterEach(() => world.close());

test('a job whose steps take longer than a sign of life is due is not taken up a second time', async () => {
  let begun = 0;
  const slow: JobKind<'slow'> = {
    kind: 'slow',
    async run() {
      begun += 1;
      await world.services.database.rows('select pg_sleep(4)');
      return { begun };
    },
  };
  const jobs = jobService(world.services.database, pino({ level: 'silent' }), { staleSeconds: 2 });
  try {
    await jobs.work([slow]);
    const { id } = await jobs.start('slow', 'A slow one', {}, world.keeperId);
    await world.until(id, ['done']);
    expect([(await jobs.find(id)).result, begun]).toEqual([{ begun: 1 }, 1]);
  } finally {
    await jobs.close();
  }
});
