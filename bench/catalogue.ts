// A made catalogue for benchmarks of finding and of the vocabulary: made once for a number of photos, and kept in the data
// folder. Its sizes are those of a large archive: 7.5 terms a photo, 20,000 terms in six levels, 20,000 folders, 12 drives.

import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import type { NewAccount } from '@stellin/server/accounts/newAccount';
import { ROOT } from '@stellin/server/root';
import { LOOPBACK, places, type Config } from '@stellin/server/config';
import { startCluster } from '@stellin/server/database/cluster';
import { openDatabase, type Database } from '@stellin/server/database/database';
import { openLog } from '@stellin/server/server';
import { openServices, type Services } from '@stellin/server/services';
import { randomOf, type Random } from '@stellin/demo/archive/random';

export const TERMS = 20_000;
const LEVELS = 6;
const TERMS_A_PHOTO = 7.5;
const FOLDERS = 20_000;
const DRIVES = 12;
const PEOPLE = 800;
const ACCESSIONS = 200;
const DOSSIERS = 60;
/** Raised when what is made changes. */
const EDITION = 4;
export type BenchAccount = NewAccount;
export const BENCH_ACCOUNT = {
  name: 'bench',
  displayName: 'Bench',
  role: 'keeper',
  password: 'bench-password',
} as const satisfies BenchAccount;

/** Opens the catalogue with a number of photos, making it first if it is not there. `work` gets the services over it. */
export async function withCatalogue<Result>(
  photos: number,
  work: (services: Services, config: Config) => Promise<Result>,
): Promise<Result> {
  const home = join(ROOT, '.stellin', `bench-${photos}`);
  mkdirSync(home, { recursive: true, mode: 0o755 });
  const cluster = await startCluster(home);
  try {
    await cluster.ensureDatabase('bench');
    const config: Config = {
      kind: 'archive',
      home,
      port: 0,
      databaseUrl: undefined,
      mountRoots: [places.mounts(home)],
      mountTable: false,
      largeBytes: 1e9,
      leastFreeBytes: 0,
      network: LOOPBACK,
      faces: false,
      logLevel: 'silent',
    };
    const services = await openServices(config, cluster.url('bench'), openLog('silent'));
    try {
      await services.accounts.ensure([BENCH_ACCOUNT]);
      await fill(services, photos);
      return await work(services, config);
    } finally {
      await services.close();
    }
  } finally {
    await cluster.stop();
  }
}

async function fill({ database }: Services, photos: number): Promise<void> {
  const made = await database.row<{ value: number }>(`select value from setting where name = 'bench'`);
  if (Number(made?.value) === photos * 100 + EDITION) return;
  const say = (text: string) => process.stderr.write(`· ${text}\n`);
  say(`Making a catalogue of ${photos.toLocaleString('en')} photos (once; it is kept)`);
  const steps: [string, () => Promise<void>][] = [
    ['emptying', () => empty(database)],
    ['terms', () => fillTerms(database)],
    ['folders', () => fillFolders(database)],
    ['photos', () => fillPhotos(database, photos)],
    ['dossiers', () => fillDossiers(database, photos)],
    ['texts', () => fillTexts(database)],
    ['assignments', () => fillGiven(database, photos)],
    ['counts', () => count(database)],
  ];
  for (const [name, step] of steps) {
    const began = performance.now();
    await step();
    say(`  ${name}: ${((performance.now() - began) / 1000).toFixed(0)} s`);
  }
  await database.rows(
    `insert into setting (name, value) values ('bench', $1) on conflict (name) do update set value = excluded.value`,
    [JSON.stringify(photos * 100 + EDITION)],
  );
}

async function empty(database: Database): Promise<void> {
  await database.rows(
    'truncate photo, term, folder, drive, accession, dossier, saved_search, ledger_entry, term_pad, vocabulary_import, catalogue_change cascade',
  );
}

const SYLLABLES = [
  'ka',
  'ro',
  'mi',
  'ten',
  'sal',
  've',
  'dor',
  'lin',
  'pu',
  'gra',
  'shi',
  'tor',
  'bel',
  'na',
  'quo',
  'fen',
  'lu',
  'zim',
];

function word(random: Random): string {
  const letters = Array.from({ length: random.pick([2, 2, 3, 3, 4]) }, () => random.pick(SYLLABLES)).join('');
  return letters.charAt(0).toUpperCase() + letters.slice(1);
}

/** The terms as a tree: each level has about five times the terms of the one above. */
function madeTerms(): { id: number; parentId: number | null; label: string }[] {
  const random = randomOf('bench terms');
  const shares = Array.from({ length: LEVELS }, (_, level) => 4 ** level);
  const total = shares.reduce((sum, share) => sum + share, 0);
  const terms: { id: number; parentId: number | null; label: string }[] = [];
  let above: number[] = [];
  for (const [level, share] of shares.entries()) {
    const size = level === LEVELS - 1 ? TERMS - terms.length : Math.max(12, Math.round((TERMS * share) / total));
    const here: number[] = [];
    for (let i = 0; i < size; i++) {
      const id = terms.length + 1;
      const parentId = level === 0 ? null : (above[i % above.length] ?? null);
      terms.push({ id, parentId, label: `${word(random)} ${word(random).toLowerCase()} ${id}` });
      here.push(id);
    }
    above = here;
  }
  return terms;
}

async function fillTerms(database: Database): Promise<void> {
  await database.rows(
    `insert into term (id, parent_id, vocabulary_id, label, other_labels, labels_folded, words, uri)
     select id, "parentId", case when "parentId" is null then (select min(id) from vocabulary) end, label,
       jsonb_build_array(jsonb_build_object('kind', 'alternative', 'language', 'de', 'label', 'De ' || label)),
       array[lower(label), 'de ' || lower(label)], to_tsvector('simple', label), 'urn:bench:term:' || id
     from jsonb_to_recordset($1::jsonb) as r (id int, "parentId" int, label text)`,
    [JSON.stringify(madeTerms())],
  );
  await database.rows(`select setval(pg_get_serial_sequence('term', 'id'), ${TERMS + 1})`);
  await database.rows(
    `insert into term_above with recursive walk (term_id, above_id) as (
       select id, id from term union select w.term_id, t.parent_id from walk w join term t on t.id = w.above_id where t.parent_id is not null)
     select * from walk`,
  );
  await database.rows(
    'insert into term_keyword select a.term_id, t.label from term_above a join term t on t.id = a.above_id',
  );
  await database.rows('update vocabulary_version set version = version + 1');
}

/** SQL for the id of a drive by its number: a UUID of version 4. */
function driveId(number: string): string {
  return `overlay(overlay(md5('drive' || ${number}) placing '4' from 13) placing '8' from 17)::uuid`;
}

async function fillFolders(database: Database): Promise<void> {
  await database.rows(
    `insert into drive (id, label, label_folded, attached) select ${driveId('i')}, 'Bench ' || i, 'bench ' || i, i % 4 <> 0 from generate_series(1, ${DRIVES}) i`,
  );
  await database.rows(
    `insert into folder (id, drive_id, name, path)
     select i, ${driveId(`(1 + i % ${DRIVES})`)}, 'Event ' || i, (1960 + i % 65) || '/Event ' || i from generate_series(1, ${FOLDERS}) i`,
  );
  await database.rows(`select setval(pg_get_serial_sequence('folder', 'id'), ${FOLDERS + 1})`);
}

async function fillPhotos(database: Database, photos: number): Promise<void> {
  await database.rows(
    `insert into accession (id, drive_id, folder, started_at) select i, ${driveId(`(1 + i % ${DRIVES})`)}, '', timestamptz '2015-01-01' + make_interval(days => i * 20)
     from generate_series(1, ${ACCESSIONS}) i`,
  );
  await database.rows(`select setval(pg_get_serial_sequence('accession', 'id'), ${ACCESSIONS + 1})`);
  await database.rows(
    `insert into photo (id, drive_id, folder_id, accession_id, name, kind, size_bytes, mtime_ms, width, height, taken_at, taken_until, rating, mark, mark_folded, has_caption, has_people, has_location, preview_state, preview_version)
     select i, f.drive_id, f.id, 1 + i % ${ACCESSIONS}, 'SKM_' || i || '.jpg', (array['jpeg', 'jpeg', 'jpeg', 'tiff', 'dng'])[1 + i % 5], 4e6 + i * 7919 % 30000000, 1e12 + i,
       case when i % 4 = 0 then 4000 else 6000 end, case when i % 4 = 0 then 6000 else 4000 end, t.taken, case when i % 50 = 0 then t.taken + interval '1 year' end,
       case when i % 10 < 6 then 0 else i % 6 end, case when i % 9 = 0 then 'Print' else '' end, case when i % 9 = 0 then 'print' else '' end,
       i % 3 <> 0, i % 4 = 0, i % 2 = 0, 1, 1
     from generate_series(1::bigint, ${photos}) i join folder f on f.id = 1 + (i * 31 % ${FOLDERS})
     cross join lateral (select timestamp '1960-01-01' + make_interval(days => (i * 7919 % 23700)::int, secs => i % 86400) as taken) t`,
  );
  await database.rows(`select setval(pg_get_serial_sequence('photo', 'id'), ${photos + 1})`);
  await database.rows(
    `insert into write_back (photo_id, state) select i, case when i % 100 = 0 then 'conflict' else 'waiting' end from generate_series(1, ${photos}) i where i % 20 = 0`,
  );
}

async function fillDossiers(database: Database, photos: number): Promise<void> {
  await database.rows(
    `insert into dossier (id, parent_id, name, name_folded) select i, nullif(i / 10, 0), 'Dossier ' || i, 'dossier ' || i from generate_series(1, ${DOSSIERS}) i`,
  );
  await database.rows(
    `insert into dossier_photo (dossier_id, photo_id, position)
     select d, 1 + (i * 104729::bigint + d * 7) % ${photos}, i from generate_series(1, ${DOSSIERS}) d, generate_series(1, 500) i on conflict do nothing`,
  );
}

async function fillTexts(database: Database): Promise<void> {
  const random = randomOf('bench words');
  const words = Array.from({ length: 3000 }, () => word(random).toLowerCase());
  const people = Array.from({ length: PEOPLE }, (_, i) => `${word(random)} ${word(random)} ${i}`);
  const towns = Array.from({ length: 400 }, (_, i) => `${word(random)} ${i}`);
  await database.rows(
    `insert into photo_text (photo_id, caption, caption_folded, name_folded, camera_folded, words, facts, fields, fields_folded)
     select p.id, c.caption, c.caption, lower(p.name), 'corvina ' || p.id % 40,
       to_tsvector('simple', 'skm ' || p.id || ' jpg ' || c.caption || ' ' || coalesce(c.person, '') || ' ' || coalesce(c.city, '')),
       jsonb_build_object('make', 'Corvina', 'model', (p.id % 40)::text, 'iso', 100 * (1 + p.id % 32), 'focalLength', (array[24, 35, 50, 85, 200])[1 + p.id % 5],
         'exposureTime', 1.0 / (30 * (1 + p.id % 40)), 'lens', 'Saltglass ' || p.id % 60, 'flashFired', p.id % 7 = 0, 'takenAt', to_char(p.taken_at, 'YYYY-MM-DD"T"HH24:MI:SS')),
       jsonb_strip_nulls(jsonb_build_object('description', nullif(c.caption, ''), 'creator', jsonb_build_array('Creator ' || p.id % 90), 'copyrightNotice', '© Saltmarsh Kite Museum',
         'city', c.city, 'country', c.country,
         'position', case when p.has_location then jsonb_build_object('latitude', 50 + p.id * 7 % 800 / 100.0, 'longitude', 5 + p.id * 13 % 900 / 100.0) end, 'personInImage', case when c.person is not null then jsonb_build_array(c.person) end)),
       jsonb_strip_nulls(jsonb_build_object('creator', jsonb_build_array('creator ' || p.id % 90), 'copyrightNotice', jsonb_build_array('© saltmarsh kite museum'),
         'city', case when c.city is not null then jsonb_build_array(lower(c.city)) end, 'country', case when c.country is not null then jsonb_build_array(lower(c.country)) end,
         'place', case when c.city is not null then jsonb_build_array(lower(c.city), lower(c.country)) end, 'lens', jsonb_build_array('saltglass ' || p.id % 60),
         'personInImage', case when c.person is not null then jsonb_build_array(lower(c.person)) end, 'person', case when c.person is not null then jsonb_build_array(lower(c.person)) end))
     from photo p cross join lateral (
       select ($1::text[])[1 + p.id * 17 % 3000] || ' ' || ($1::text[])[1 + p.id * 29 % 3000] || ' ' || ($1::text[])[1 + p.id * 41 % 1000] || ' '
           || ($1::text[])[1 + p.id * 53 % 300] || ' ' || ($1::text[])[1 + p.id * 61 % 50] as caption,
         case when p.has_people then ($2::text[])[1 + p.id * 13 % ${PEOPLE}] end as person,
         case when p.has_location then ($3::text[])[1 + p.id * 19 % 400] end as city, case when p.has_location then 'Country ' || p.id % 12 end as country) c`,
    [words, people, towns],
  );
  await database.rows(
    `insert into photo_keyword (photo_id, keyword, folded, position) select p.id, k.keyword, k.keyword, 0 from photo p
     cross join lateral (select ($1::text[])[1 + p.id * 11 % 3000] as keyword) k where p.id % 10 = 0`,
    [words],
  );
}

/** A few terms are on very many photos, most on few. */
async function fillGiven(database: Database, photos: number): Promise<void> {
  await database.transaction(async (tx) => {
    // All of it is sound, and counted afterwards: neither checks nor counts one by one.
    await database.rows('set local session_replication_role = replica', [], tx);
    await database.rows('select setseed(0.7)', [], tx);
    await database.rows(
      `insert into photo_term (term_id, photo_id)
       select distinct ${TERMS} - floor(${TERMS} * power(random(), 2.5))::int, 1 + floor(random() * ${photos})::int
       from generate_series(1, ${Math.round(photos * TERMS_A_PHOTO)}) order by 1, 2`,
      [],
      tx,
    );
  });
}

async function count(database: Database): Promise<void> {
  await database.rows('insert into term_use (term_id) select id from term');
  await database.rows(
    `update term_use u set photos = g.photos from (select term_id, count(*)::int as photos from photo_term group by term_id) g where g.term_id = u.term_id`,
  );
  await database.rows(
    `update term_use u set photos_within = w.photos from (
       select a.above_id, count(distinct g.photo_id)::int as photos from term_above a join photo_term g on g.term_id = a.term_id group by a.above_id) w
     where w.above_id = u.term_id`,
  );
  // What is asked for by benchmarks is what a catalogue in use has: nothing waits to be cleaned or counted.
  const cleaner = openDatabase(database.url);
  await cleaner.rows('vacuum analyze');
  await cleaner.close();
}
