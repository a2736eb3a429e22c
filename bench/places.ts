// `bench places`: looking places up by point and by name, the map, the calendar and doubts over HTTP, reading and following tracks; each
// against a bare loop where there is one.

import { performance } from 'node:perf_hooks';
import { countText } from '@stellin/contract/wording';
import { randomOf, type Random } from '@stellin/demo/archive/random';
import type { Point } from '@stellin/core/timeplace/areas';
import { follow } from '@stellin/core/timeplace/following';
import type { Town } from '@stellin/core/timeplace/gazetteer';
import { metresBetween } from '@stellin/core/timeplace/nearest';
import { TrackBuilder, type Track } from '@stellin/core/timeplace/track';
import { readTrack } from '@stellin/core/timeplace/trackFiles';
import { readGazetteerFile } from '@stellin/server/places/gazetteerFile';
import { listen } from '@stellin/server/server';
import { signedIn, type Ask } from './asking';
import { withCatalogue } from './catalogue';
import { atLeast, atMost, quantiles, report, type Part, type Report } from './report';

const LOOKED_UP = 1_000_000;
const TRUE_POINTS = 2000;
/** Points with a known truth lie so near their town, in degrees. */
const NEAR_TOWN = 0.01;
const TYPED = 400;
const VIEWS = 100;
const TRACK_POINTS = 2_000_000;
const FOLLOWERS = 100_000;
const READ_POINTS = 200_000;

export async function benchPlaces(photos: number): Promise<Report> {
  const parts = [gazetteer(), tracks(), await onMap(photos)];
  return report(
    `places (map: ${countText(photos, 'photo')})`,
    parts.flatMap(({ rows }) => rows),
    parts.flatMap(({ ratios }) => ratios),
  );
}

function gazetteer(): Part {
  const random = randomOf('bench places');
  const began = performance.now();
  const found = readGazetteerFile();
  const opened = (performance.now() - began) / 1000;
  const memory = process.memoryUsage().rss / 1e6;
  const { towns } = found;

  const inhabited = towns.filter(({ population, isPart }) => population > 1000 && !isPart);
  const near = (town: Town): Point => ({
    latitude: Math.max(-90, Math.min(90, town.latitude + random.between(-NEAR_TOWN, NEAR_TOWN))),
    longitude: Math.max(-180, Math.min(180, town.longitude + random.between(-NEAR_TOWN, NEAR_TOWN))),
  });
  const points = Array.from({ length: LOOKED_UP }, () => near(random.pick(inhabited)));
  const perSecond = rate(points.length, () => points.forEach((point) => found.whereabouts(point)));
  const bare = rate(20, () => points.slice(0, 20).forEach((point) => nearestOf(inhabited, point)));

  let countries = 0;
  for (let i = 0; i < TRUE_POINTS; i++) {
    const town = random.pick(inhabited);
    if (found.whereabouts(near(town)).countryCode === town.country) countries++;
  }
  let exact = 0;
  for (let i = 0; i < TRUE_POINTS / 10; i++) {
    const point = near(random.pick(inhabited));
    const { town, metres, countryCode } = found.whereabouts(point);
    // None of those with people of that country may be nearer than the one that is said.
    const least = nearestOf(
      inhabited.filter(({ country }) => country === countryCode),
      point,
    );
    if (town !== '' && metres <= Math.round(least) + 1) exact++;
  }

  const times = Array.from({ length: TYPED }, () => {
    const typed = typedName(random, random.pick(inhabited).name);
    const start = performance.now();
    found.find(typed, 12, [{ latitude: 52, longitude: 5 }]);
    return performance.now() - start;
  });
  const names = quantiles('a place by what is typed', times, 'ms');
  return {
    rows: [
      { id: 'the gazetteer is read', value: opened, unit: 's' },
      { id: 'memory of the process with it', value: memory, unit: 'MB' },
      { id: 'points looked up', value: perSecond, unit: 'points/s' },
      { id: 'the same by comparing all towns', value: bare, unit: 'points/s' },
      ...names,
    ],
    ratios: [
      atLeast('points looked up, points/s', perSecond, 50_000),
      atLeast('country right, of 100', (countries / TRUE_POINTS) * 100, 99.5),
      atLeast('nearest town exact, of 100', (exact / (TRUE_POINTS / 10)) * 100, 100),
      atMost('a place by what is typed p95, ms', names.at(-1)?.value ?? Infinity, 30),
    ],
  };
}

/** What somebody types of a name: its beginning, now and then with a slip. */
function typedName(random: Random, name: string): string {
  const typed = name.slice(0, random.int(1, Math.min(9, name.length)));
  if (typed.length < 4 || !random.chance(0.25)) return typed;
  const at = random.int(1, typed.length - 2);
  return typed.slice(0, at) + typed.slice(at + 1, at + 2) + typed.slice(at, at + 1) + typed.slice(at + 2);
}

/** The way to the nearest of some points, by comparing all. */
function nearestOf(points: readonly Point[], from: Point): number {
  let least = Infinity;
  for (const point of points) least = Math.min(least, metresBetween(point, from));
  return least;
}

function tracks(): Part {
  const random = randomOf('bench tracks');
  const start = Date.UTC(2030, 0, 1);
  const track = madeTrack(TRACK_POINTS, start);
  const moments = Array.from({ length: FOLLOWERS }, () => start + random.int(0, TRACK_POINTS * 1000));
  const following = { zoneMinutes: 0, aheadSeconds: 0, maxGapSeconds: 60, way: 'between' } as const;
  const began = performance.now();
  const found = moments.filter((moment) => follow(track, moment, following).found).length;
  const seconds = (performance.now() - began) / 1000;
  const text = gpxOf(READ_POINTS, start);
  const read = rate(READ_POINTS, () => readTrack(text));
  const lines = rate(READ_POINTS, () => text.split('\n').map((line) => /lat="([^"]+)" lon="([^"]+)"/.exec(line)));
  return {
    rows: [
      {
        id: `${countText(found, 'photo')} on a track of ${countText(TRACK_POINTS, 'point')}`,
        value: seconds,
        unit: 's',
      },
      { id: 'points of GPX read', value: read, unit: 'points/s' },
      { id: 'its lines taken apart, bare', value: lines, unit: 'points/s' },
    ],
    ratios: [atMost('100,000 photos on 2,000,000 points, s', seconds, 3)],
  };
}

/** A way with a point a second. */
function madeTrack(points: number, start: number): Track {
  const builder = new TrackBuilder();
  for (let i = 0; i < points; i++)
    builder.add({
      time: start + i * 1000,
      latitude: 55 + Math.sin(i / 1e5),
      longitude: 3 + Math.cos(i / 1e5),
      altitude: undefined,
    });
  return builder.track();
}

function gpxOf(points: number, start: number): string {
  const lines = Array.from(
    { length: points },
    (_, i) =>
      `<trkpt lat="${(55 + i / 1e6).toFixed(6)}" lon="3.5"><ele>4</ele><time>${new Date(start + i * 1000).toISOString()}</time></trkpt>`,
  );
  return `<gpx><trk><trkseg>\n${lines.join('\n')}\n</trkseg></trk></gpx>`;
}

const CALENDAR_PARTS = ['', '2012', '2012-06'];
const CALENDAR_QUERIES = ['', 'rating:>=3', 'has:position'];
const ROUNDS = 10;

const asked = (query: string, part: string) => new URLSearchParams({ query, part }).toString();
const calendarPath = (query: string, part: string) => `/api/calendar?${asked(query, part)}`;
const eventsPath = (query: string, part: string) => `/api/calendar/events?${asked(query, part)}`;

/** How long each of some parts takes of each of some results, again and again. */
async function timesOf(
  ask: Ask,
  parts: readonly string[],
  pathOf: (query: string, part: string) => string,
): Promise<number[]> {
  const times: number[] = [];
  for (let round = 0; round < ROUNDS; round++)
    for (const query of CALENDAR_QUERIES) for (const part of parts) times.push(await ask(pathOf(query, part)));
  return times;
}

/** Views of the map at random, of results of all kinds, over HTTP. */
function onMap(photos: number): Promise<Part> {
  return withCatalogue(photos, async (services, config) => {
    const server = await listen({ ...services, close: () => Promise.resolve() }, config);
    try {
      const ask = await signedIn(server.url);
      const random = randomOf('bench map');
      const view = () => {
        const level = random.int(3, 12);
        const degrees = (360 / 2 ** level) * 16;
        const [south, west] = [random.between(50, 57), random.between(5, 13)];
        return {
          ...{ south, west, level },
          north: Math.min(85, south + degrees / 2),
          east: Math.min(180, west + degrees),
        };
      };
      const queries = ['', '', 'rating:>=3', 'has:position', 'missing:place', 'taken:2010..2015'];
      const one = () => ask('/api/map/photos', { selection: { query: random.pick(queries) }, view: view() });
      for (const query of queries) await ask('/api/map/photos', { selection: { query }, view: view() });
      const times: number[] = [];
      for (let i = 0; i < VIEWS; i++) times.push(await one());
      const rows = [
        ...quantiles('photos of a view of the map', times, 'ms'),
        ...quantiles('a part of the calendar', await timesOf(ask, CALENDAR_PARTS, calendarPath), 'ms'),
        ...quantiles('events of a part of it', await timesOf(ask, CALENDAR_PARTS, eventsPath), 'ms'),
        { id: 'all doubts about places', value: (await ask('/api/places/doubts')) / 1000, unit: 's' },
      ];
      return {
        rows,
        ratios: [
          atMost('photos of a view of the map p95, ms', quantiles('p95', times, 'ms').at(-1)?.value ?? Infinity, 50),
        ],
      };
    } finally {
      await server.close();
    }
  });
}

function rate(count: number, work: () => unknown): number {
  const start = performance.now();
  work();
  return count / ((performance.now() - start) / 1000);
}
