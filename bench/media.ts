// `bench media`: facts of many films against ffprobe alone, strips, pictures of each kind of file, and in the browser how long it takes from
// a key to the next sharp picture, and from a place in a film to its frame.

import { execFileSync } from 'node:child_process';
import { copyFile, mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type Page } from '@playwright/test';
import pLimit from 'p-limit';
import sharp from 'sharp';
import { kindByName } from '@stellin/core/metadata/containers/index';
import { CHROMIUM } from '@stellin/e2e/chromium';
import { fileReader } from '@stellin/server/catalogue/reader';
import { makeStrip } from '@stellin/server/files/mediaParts';
import { makePreview } from '@stellin/server/files/preview';
import { runTool } from '@stellin/server/files/tools';
import { listen } from '@stellin/server/server';
import type { Services } from '@stellin/server/services';
import { timed } from './bare';
import { BENCH_ACCOUNT } from './catalogue';
import { until, withEmptyArchive } from './emptyArchive';
import { paintSoftNoise } from './picture';
import { atLeast, atMost, medianOf, quantiles, report, type Part, type Report } from './report';

const FILMS = 5000;
/** ffprobe alone is asked of some of them. */
const ALONE = 400;
const PER_REQUEST = 50;
const ROUNDS = 5;
const STILLS = 60;
const SEEKS = 60;
/** Of the rate of ffprobe alone, on as many processors. */
const SHARE = 0.8;
/** Milliseconds from a key to the next sharp picture. */
const SHARP_AIM = 50;
const BOTH = ['-f', 'lavfi', '-i', 'testsrc=size=854x480:rate=25:duration=20', '-f', 'lavfi', '-i', 'sine=duration=20'];

export async function benchMedia(): Promise<Report> {
  const folder = await mkdtemp(join(tmpdir(), 'stellin-bench-media-'));
  try {
    const parts = [await facts(folder), await pictures(folder), await looking(join(folder, 'film.mp4'))];
    return report(
      'media',
      parts.flatMap(({ rows }) => rows),
      parts.flatMap(({ ratios }) => ratios),
    );
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

const ffmpeg = (...given: string[]) => execFileSync('ffmpeg', ['-v', 'error', '-nostdin', '-y', ...given]);

async function facts(folder: string): Promise<Part> {
  const film = join(folder, 'film.mp4');
  ffmpeg(
    ...BOTH,
    '-c:v',
    'libx264',
    '-preset',
    'ultrafast',
    '-g',
    '25',
    '-c:a',
    'aac',
    '-movflags',
    '+faststart',
    film,
  );
  const short = join(folder, 'short.mp4');
  ffmpeg('-i', film, '-t', '2', '-c', 'copy', '-movflags', '+faststart', short);
  const many = join(folder, 'many');
  await mkdir(many);
  const paths = Array.from({ length: FILMS }, (_, i) => join(many, `${i}.mp4`));
  const copying = pLimit(8);
  await Promise.all(paths.map((path) => copying(() => copyFile(short, path))));
  const reader = fileReader();
  const two = pLimit(2);
  try {
    // The threads are there.
    await reader.read(paths.slice(0, 2).map((path) => ({ path, sidecarPath: undefined })));
    const ours = await timed(async () => {
      const requests: Promise<unknown>[] = [];
      for (let i = 0; i < paths.length; i += PER_REQUEST)
        requests.push(reader.read(paths.slice(i, i + PER_REQUEST).map((path) => ({ path, sidecarPath: undefined }))));
      await Promise.all(requests);
    });
    const alone = await timed(() =>
      Promise.all(
        paths.slice(0, ALONE).map((path) =>
          two(() =>
            runTool('ffprobe', ['-v', 'error', '-print_format', 'json', '-show_format', '-show_streams', path], {
              seconds: 20,
            }),
          ),
        ),
      ),
    );
    const [rate, bare] = [(FILMS / ours) * 1000, (ALONE / alone) * 1000];
    return {
      rows: [
        { id: 'limit: ffprobe alone, two at once', value: bare, unit: 'files/s' },
        { id: `facts of ${FILMS} films`, value: rate, unit: 'files/s' },
      ],
      ratios: [atLeast('facts against ffprobe alone', rate / bare, SHARE)],
    };
  } finally {
    await reader.close();
    await rm(many, { recursive: true });
  }
}

/** How a file of each kind is made of a picture and a film. */
const MADE: Readonly<Record<string, (picture: string, film: string, target: string) => unknown>> = {
  'a.jpg': (picture, _, target) => copyFile(picture, target),
  'a.heic': (picture, _, target) => execFileSync('heif-enc', [picture, '-o', target]),
  'a.jxl': (picture, _, target) =>
    execFileSync('cjxl', ['--lossless_jpeg=0', '-e', '3', picture, target], { stdio: 'ignore' }),
  'a.jp2': async (picture, _, target) => {
    await sharp(picture).png().toFile(`${target}.png`);
    execFileSync('opj_compress', ['-i', `${target}.png`, '-o', target], { stdio: 'ignore' });
  },
  'a.mp4': (_, film, target) => copyFile(film, target),
  'a.wav': (_, film, target) => ffmpeg('-i', film, target),
};

async function pictures(folder: string): Promise<Part> {
  const [picture, film] = [join(folder, 'picture.jpg'), join(folder, 'film.mp4')];
  await writeFile(picture, await paintSoftNoise(3000, 2000));
  const rows: Part['rows'] = [];
  for (const [name, make] of Object.entries(MADE)) {
    const path = join(folder, name);
    await make(picture, film, path);
    const times: number[] = [];
    for (let round = 0; round < ROUNDS; round++)
      times.push(await timed(() => makePreview(path, kindByName(name), join(folder, 'preview.webp'))));
    rows.push({ id: `preview of ${name.slice(2)}`, value: medianOf(times), unit: 'ms' });
  }
  const strips: number[] = [];
  for (let round = 0; round < ROUNDS; round++)
    strips.push(await timed(() => makeStrip(film, 20, join(folder, 'strip.webp'))));
  return { rows: [...rows, { id: 'strip of a film of 20 s', value: medianOf(strips), unit: 'ms' }], ratios: [] };
}

/** In the browser: from a key to the next sharp picture, and from a place in a film to its frame. */
function looking(film: string): Promise<Part> {
  return withEmptyArchive(
    async (driveOf) => {
      const drive = driveOf('Bench');
      await mkdir(drive, { recursive: true });
      const picture = await paintSoftNoise(2400, 1600);
      for (let i = 0; i < STILLS; i++)
        await writeFile(join(drive, `${i}.jpg`), Buffer.concat([picture, Buffer.from(String(i))]));
      await copyFile(film, join(drive, 'film.mp4'));
    },
    async (services) => {
      await services.accounts.ensure([BENCH_ACCOUNT]);
      await takeAllIn(services);
      const server = await listen({ ...services, close: () => Promise.resolve() }, services.config);
      const browser = await chromium.launch(CHROMIUM);
      try {
        const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
        const { name, password } = BENCH_ACCOUNT;
        await page.request.post(`${server.url}/api/session`, { data: { name, password } });
        const keys = await keyToPicture(page, server.url);
        const seeks = await seekToFrame(page, server.url);
        const rows = [
          ...quantiles('key to sharp picture', keys, 'ms'),
          ...quantiles('place to frame of a film', seeks, 'ms'),
        ];
        const p95 = rows.find(({ id }) => id === 'key to sharp picture p95')?.value ?? Infinity;
        return { rows, ratios: [atMost('key to sharp picture, ms (p95)', p95, SHARP_AIM)] };
      } finally {
        await browser.close();
        await server.close();
      }
    },
  );
}

async function takeAllIn(services: Services): Promise<void> {
  const { id: accountId = 0 } = (await services.accounts.find(BENCH_ACCOUNT.name)) ?? {};
  await services.drives.refresh();
  const [drive] = await services.drives.list(await services.rights.personOf(accountId));
  const { id } = await services.intake.takeIn({ driveKey: drive?.key ?? '' }, accountId);
  await until(services, async () => (await services.jobs.find(id)).finishedAt !== null);
}

/** Notes after each key when the picture that it led to was on the screen: drawn, and a frame begun after. Run in the page. */
const WATCH_KEYS = `
  window.times = [];
  addEventListener('keydown', () => {
    const began = performance.now();
    const shown = () => {
      const picture = document.querySelector('[data-picture]');
      return picture && { picture, address: picture.src ?? picture.dataset.picture };
    };
    const before = shown()?.address;
    const look = () => {
      const now = shown();
      if (!now || now.address === before || now.picture.complete === false) return requestAnimationFrame(look);
      void Promise.resolve(now.picture.decode?.()).then(() =>
        requestAnimationFrame(() => window.times.push(performance.now() - began)));
    };
    look();
  }, true);
`;

/** Resolves in the page once something is so; the application lets nothing else evaluate text there. */
const whenSo = (condition: string) =>
  `new Promise((resolve) => { const look = () => (${condition}) ? resolve() : requestAnimationFrame(look); look(); })`;

async function keyToPicture(page: Page, url: string): Promise<number[]> {
  await page.goto(`${url}/desk?q=${encodeURIComponent('media:still')}&sort=name`);
  await page.locator('[data-position="0"]').click();
  await page.keyboard.press('Enter');
  await page.locator('[data-picture]').waitFor();
  const through = async (key: string) => {
    for (let i = 1; i < STILLS; i++) {
      await page.keyboard.press(key);
      await page.evaluate(whenSo(`document.querySelector('[data-picture]')?.complete !== false`));
      await page.waitForLoadState('networkidle');
    }
  };
  // Once through, so that all are made: it is local previews that are measured.
  await through('ArrowRight');
  await page.evaluate(WATCH_KEYS);
  await through('ArrowLeft');
  return page.evaluate<number[]>('window.times');
}

/** Goes to places all over a film; notes when the frame of each was on the screen. Run in the page. */
const SEEK = `(async () => {
  const video = document.querySelector('video');
  const times = [];
  for (let i = 0; i < ${SEEKS}; i++) {
    const began = performance.now();
    const shown = new Promise((resolve) => video.requestVideoFrameCallback(resolve));
    video.currentTime = ((i * 7.3) % video.duration);
    await shown;
    times.push(performance.now() - began);
  }
  return times;
})()`;

async function seekToFrame(page: Page, url: string): Promise<number[]> {
  await page.goto(`${url}/desk?q=${encodeURIComponent('media:film')}`);
  await page.locator('[data-position="0"]').click();
  await page.keyboard.press('Enter');
  await page.evaluate(whenSo(`document.querySelector('video')?.readyState >= 2`));
  return page.evaluate<number[]>(SEEK);
}
