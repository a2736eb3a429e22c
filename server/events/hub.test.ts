import { createServer, connect as connectTo, type AddressInfo, type Server, type Socket } from 'node:net';
import pino from 'pino';
import type { LiveEvent } from '@stellin/contract/events';
import { openWorld, type World } from '../testing/world';
import { openEventHub, type EventHub } from './hub';

/** A line to PostgreSQL that can be cut and laid again, and counts who takes it. */
class Line {
  private server: Server | undefined;
  private readonly open = new Set<Socket>();
  taken = 0;
  port = 0;

  constructor(private readonly to: URL) {}

  async lay(): Promise<void> {
    this.server = createServer((near) => {
      this.taken++;
      const far = connectTo(Number(this.to.port), this.to.hostname);
      for (const [socket, other] of [
        [near, far],
        [far, near],
      ] as const) {
        this.open.add(socket);
        socket.on('error', () => other.destroy()).on('close', () => this.open.delete(socket));
        socket.pipe(other);
      }
    });
    const { server } = this;
    await new Promise<void>((resolve) => server.listen(this.port, '127.0.0.1', resolve));
    this.port = (server.address() as AddressInfo).port;
  }

  async cut(): Promise<void> {
    const closed = new Promise((resolve) => this.server?.close(resolve));
    for (const socket of this.open) socket.destroy();
    await closed;
  }

  get url(): string {
    const url = new URL(this.to);
    url.port = String(this.port);
    return url.href;
  }
}

let world: World;
let line: Line;
let hub: EventHub;
let told: LiveEvent[];
let wake: () => void;

beforeEach(async () => {
  world = await openWorld();
  line = new Line(new URL(world.databaseUrl));
  await line.lay();
  hub = await openEventHub(line.url, pino({ level: 'silent' }));
  told = [];
  wake = () => undefined;
  hub.subscribe((event) => {
    told.push(event);
    wake();
  });
});
afterEach(async () => {
  await hub.close();
  await line.cut();
  await world.close();
});

/** Resolves once the hub has told something that meets a test. */
async function toldOf(test: (event: LiveEvent) => boolean): Promise<void> {
  while (!told.some(test)) await new Promise<void>((resolve) => (wake = resolve));
}

test('whoever subscribes is told of commits, and no longer once they have left', async () => {
  const leave = hub.subscribe(() => {
    throw new Error('had left');
  });
  leave();
  await world.services.database.notify(['marks']);
  await toldOf(({ topics }) => topics.includes('marks'));
});

test('while the database is away it is asked for once at a time; when it is back, all is to be read anew', async () => {
  await line.cut();
  // Somebody listens in its place and turns everybody away.
  let refused = 0;
  const deaf = createServer((socket) => {
    refused++;
    socket.destroy();
  });
  await new Promise<void>((resolve) => deaf.listen(line.port, '127.0.0.1', resolve));
  const began = performance.now();
  while (refused < 5) await new Promise((resolve) => deaf.once('connection', resolve));
  // Each try comes a second after the last, however many there were.
  expect(Math.round((performance.now() - began) / 1000)).toBeGreaterThanOrEqual(4);
  await new Promise((resolve) => deaf.close(resolve));
  line.taken = 0;
  await line.lay();
  await toldOf(({ topics }) => topics.length > 5);
  expect(line.taken).toBe(1);
  await world.services.database.notify(['dossiers']);
  await toldOf(({ topics }) => topics.length === 1 && topics[0] === 'dossiers');
});

test('what is no message of ours is passed over', async () => {
  for (const message of ['{"topics": ["kites"]}', 'no JSON {', ''])
    await world.services.database.rows(`select pg_notify('stellin_changes', $1)`, [message]);
  await world.services.database.notify(['drives']);
  await toldOf(({ topics }) => topics.includes('drives'));
  expect(told).toHaveLength(1);
});
