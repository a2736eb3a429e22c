// `bench links`: 50 people look through a view link of 2,000 photos at once, each page for some seconds, while cataloguers work: what both wait for, and what cataloguers
// wait for alone.

import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { setTimeout } from 'node:timers/promises';
import type { AddressInfo } from 'node:net';
import { buildApp } from '@stellin/server/app';
import { PROGRAM } from '@stellin/server/catalogue/viewer';
import type { Services } from '@stellin/server/services';
import { signedIn, type Ask } from './asking';
import { BENCH_ACCOUNT } from './catalogue';
import { until, withEmptyArchive } from './emptyArchive';
import { paintSoftNoise } from './picture';
import { quantiles, report, type Part, type Report } from './report';

const PHOTOS = 2000;
const RECIPIENTS = 50;
/** Pages that each looks at, and pictures on each. */
const PAGES = 6;
const PICTURES_A_PAGE = 12;
/** How long each looks at a page before they turn to the next. */
const LOOKING_MS = 3000;
const CATALOGUERS = 4;
const STEPS = 40;

export async function benchLinks(): Promise<Report> {
  const part = await withEmptyArchive(
    (driveOf) => makeFiles(driveOf('Bench')),
    (services) => looking(services),
  );
  return report(`links (${RECIPIENTS} recipients, ${PHOTOS} photos)`, part.rows, part.ratios);
}

async function makeFiles(drive: string): Promise<void> {
  await mkdir(drive, { recursive: true });
  const picture = await paintSoftNoise(800, 533);
  // What stands behind the end makes each picture one of its own.
  for (let i = 0; i < PHOTOS; i++)
    await writeFile(join(drive, `${i}.jpg`), Buffer.concat([picture, Buffer.from(String(i))]));
}

async function looking(services: Services): Promise<Part> {
  await services.accounts.ensure([BENCH_ACCOUNT]);
  const account = await services.accounts.find(BENCH_ACCOUNT.name);
  const person = await services.rights.personOf(account?.id ?? 0);
  await services.drives.refresh();
  for (const { key } of await services.drives.list(PROGRAM)) {
    const { id } = await services.intake.takeIn({ driveKey: key }, person.id);
    await until(services, async () => (await services.jobs.find(id)).finishedAt !== null);
  }
  const { address } = await services.viewLinks.make(
    {
      source: { kind: 'following', query: '', sort: 'name' },
      settings: { title: 'Bench', columns: ['field:creator'], terms: true },
    },
    person,
  );
  // The pictures of a link are made when it is made.
  const idle = async () => (await services.jobs.list()).every(({ finishedAt }) => finishedAt !== null);
  await until(services, idle);
  const app = await buildApp(services);
  await app.listen({ port: 0, host: '127.0.0.1' });
  const url = `http://127.0.0.1:${(app.server.address() as AddressInfo).port}`;
  try {
    const ask = await signedIn(url);
    const alone = await cataloguing(ask, 3);
    const pages: number[] = [];
    const pictures: number[] = [];
    const [beside] = await Promise.all([
      cataloguing(ask, 4),
      ...Array.from({ length: RECIPIENTS }, (_, i) => recipient(`${url}${address}`, i, pages, pictures)),
    ]);
    return {
      rows: [
        ...quantiles('page of a link', pages, 'ms'),
        ...quantiles('picture of a link', pictures, 'ms'),
        ...quantiles('cataloguer, alone', alone, 'ms'),
        ...quantiles('cataloguer, beside recipients', beside, 'ms'),
      ],
      ratios: [],
    };
  } finally {
    await app.close();
  }
}

/** Looks through pages of a sheet with their small pictures, and one picture large of each. */
async function recipient(address: string, place: number, pages: number[], pictures: number[]): Promise<void> {
  let cookie = '';
  const look = async (path: string, times: number[]): Promise<string> => {
    const began = performance.now();
    const answer = await fetch(path, { headers: { cookie } });
    const body = await answer.text();
    if (!answer.ok) throw new Error(`${path} answered with ${answer.status}`);
    cookie = answer.headers.get('set-cookie')?.split(';')[0] ?? cookie;
    times.push(performance.now() - began);
    return body;
  };
  // They don't come in the same moment.
  await setTimeout((place * LOOKING_MS) / RECIPIENTS);
  await look(address, pages);
  const [origin] = address.split('/v/');
  for (let page = 0; page < PAGES; page++) {
    const sheet = await look(`${address}?page=${1 + ((place + page) % 30)}`, pages);
    const found = [...sheet.matchAll(/src="([^"]+small\.jpg)"/g)].map(([, path]) => `${origin}${path}`);
    await Promise.all(found.slice(0, PICTURES_A_PAGE).map((path) => look(path, pictures)));
    const large = found[place % found.length]?.replace('small.jpg', 'large.jpg');
    if (large) await look(large, pictures);
    await setTimeout(LOOKING_MS);
  }
}

/** Finds, looks and rates, as some people at once. */
async function cataloguing(ask: Ask, rating: number): Promise<number[]> {
  const times: number[] = [];
  await Promise.all(
    Array.from({ length: CATALOGUERS }, async (_, person) => {
      for (let step = 0; step < STEPS; step++) {
        times.push(await ask(`/api/photos?query=${encodeURIComponent(`rating:${step % 5}`)}&limit=60`));
        const change = {
          kind: 'setRating',
          // Others each time, so that there is something to change.
          selection: { query: `name:${100 + person * STEPS + step}*` },
          rating,
        };
        times.push(await ask('/api/changes', { change }));
      }
    }),
  );
  return times;
}
