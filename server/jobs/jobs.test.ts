import { Client } from 'pg';
import pino from 'pino';
import { openWorld, type World } from '../testing/world';
import { roomOn, type Room } from './room';
import { jobService, type JobKind, type Jobs } from './service';

let world: World;
let services: Jobs[] = [];
beforeEach(async () => void (world = await openWorld({ working: false })));
afterEach(async () => {
  await Promise.all(services.map((jobs) => jobs.close()));
  services = [];
  await world.close();
});

/** Works on jobs as a process of its own would. */
async function worker(kinds: readonly JobKind<string>[]): Promise<Jobs> {
  const jobs = jobService(world.services.database, pino({ level: 'silent' }));
  services.push(jobs);
  await jobs.work(kinds);
  return jobs;
}

/** Ends the connections through which processes own jobs, as a network or a sleeping machine would. */
async function cutOwners(): Promise<void> {
  const client = new Client({ connectionString: world.databaseUrl });
  await client.connect();
  await client.query(
    `select pg_terminate_backend(pid) from pg_stat_activity where application_name = 'stellin jobs' and datname = current_database()`,
  );
  await client.end();
}

/** A gate that steps of a job wait at. */
function gate() {
  let open: () => void = () => undefined;
  const opened = new Promise<void>((resolve) => (open = resolve));
  return { opened, open };
}

test('a job whose steps take long is not taken up a second time while its process lives', async () => {
  const { opened, open } = gate();
  let begun = 0;
  const slow: JobKind<'slow'> = {
    kind: 'slow',
    async run() {
      begun += 1;
      await opened;
      return { begun };
    },
  };
  const first = await worker([slow]);
  const { id } = await first.start('slow', 'A slow one', {}, world.keeperId);
  await world.until(id, ['running']);
  // Another process looks for orphans when it starts, and again while it works.
  const other = await worker([slow, { kind: 'probe', run: () => Promise.resolve({}) }]);
  for (const name of ['one', 'two']) {
    const probe = await other.start('probe', 'Another', { name }, world.keeperId);
    await world.until(probe.id, ['done']);
  }
  open();
  await world.until(id, ['done']);
  expect([(await first.find(id)).result, begun]).toEqual([{ begun: 1 }, 1]);
});

/** From now on something happens to jobs in the moment in which they are taken up. */
async function onTakingUp(what: string): Promise<void> {
  const { sequelize } = world.services.database;
  await sequelize.query(
    `create function meddle() returns trigger language plpgsql as $$ begin ${what} return new; end $$`,
  );
  await sequelize.query(`create trigger meddle before update on job_run for each row execute function meddle()`);
}

const quick: JobKind<'quick'> = { kind: 'quick', run: () => Promise.resolve({}) };

test.each([
  ['pause', 'paused'],
  ['cancel', 'cancelled'],
] as const)('a job that somebody wants to %s in the moment in which it is taken up is %s', async (wish, state) => {
  const jobs = await worker([quick]);
  await onTakingUp(`if old.state = 'queued' and new.state = 'running' then new.wish = '${wish}'; end if;`);
  const { id } = await jobs.start('quick', 'A quick one', {}, world.keeperId);
  expect((await world.until(id, [state])).state).toBe(state);
});

test('a job whose ending could not be written down is taken up anew', async () => {
  const jobs = await worker([quick]);
  await world.services.database.sequelize.query('create sequence endings');
  await onTakingUp(
    `if new.state = 'done' and nextval('endings') = 1 then raise exception 'the disk of the database is full'; end if;`,
  );
  const { id } = await jobs.start('quick', 'A quick one', {}, world.keeperId);
  await world.until(id, ['done']);
});

test('when the connection of its owner is lost, another process takes a job up, and the first goes no further', async () => {
  const gates = [gate(), gate()];
  const went: string[] = [];
  let runs = 0;
  const stepping: JobKind<'stepping'> = {
    kind: 'stepping',
    async run(run) {
      const mine = runs++;
      went.push(`${mine} begins`);
      await gates[mine]?.opened;
      await run.progress({ current: 'on' });
      went.push(`${mine} goes on`);
      return {};
    },
  };
  const first = await worker([stepping]);
  const { id } = await first.start('stepping', 'By steps', {}, world.keeperId);
  await world.eventually(() => Promise.resolve(runs === 1));
  await cutOwners();
  // Whoever it is that takes it up, it is begun anew.
  await worker([stepping]);
  await world.eventually(() => Promise.resolve(runs === 2));
  gates[0]?.open();
  gates[1]?.open();
  await world.until(id, ['done']);
  expect(went).toEqual(['0 begins', '1 begins', '1 goes on']);
});

test('work that takes room waits while the disk is full, other work goes on, and it begins when there is room', async () => {
  let state: Room['state'] = 'none';
  const looked: string[] = [];
  const jobs = jobService(world.services.database, pino({ level: 'silent' }), {
    room: () => Promise.resolve({ freeBytes: 10, state }),
  });
  services.push(jobs);
  const { opened, open } = gate();
  const begun = gate();
  await jobs.work([
    {
      kind: 'filling',
      takesRoom: true,
      async run(run) {
        looked.push('begun');
        begun.open();
        await opened;
        // Time goes by between two reports.
        while (looked.length === 1) {
          await run.progress({ current: 'filling' });
          await new Promise((resolve) => setTimeout(resolve, 50));
        }
        return { made: 1 };
      },
    },
    { kind: 'small', run: () => Promise.resolve({}) },
  ]);
  const filling = await jobs.start('filling', 'A filling one', {}, world.keeperId);
  const small = await jobs.start('small', 'A small one', {}, world.keeperId);
  await world.until(small.id, ['done']);
  expect(await jobs.find(filling.id)).toMatchObject({
    state: 'queued',
    current: 'waits for room on the disk of the catalogue',
  });
  state = 'little';
  await begun.opened;
  // It fills up in the middle: the job stops, and goes on later.
  state = 'none';
  open();
  await world.until(filling.id, ['queued']);
  expect(looked).toEqual(['begun']);
  state = 'enough';
  await world.until(filling.id, ['done']);
  expect(looked).toEqual(['begun', 'begun']);
});

test('how much room there is is told before it is all used', async () => {
  const { freeBytes, state } = await roomOn(world.config.home, 0)();
  expect(freeBytes).toBeGreaterThan(0);
  expect(state).toBe('enough');
  expect((await roomOn(world.config.home, freeBytes / 2)()).state).toBe('little');
  expect((await roomOn(world.config.home, freeBytes * 2)()).state).toBe('none');
});
