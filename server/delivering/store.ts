// The SQL of deliveries: presets, what photos say and where their files are, and what became of each.

import type { FieldId, FieldValues } from '@stellin/core/metadata/fields';
import type { Need, TablePhoto } from '@stellin/core/delivering/columns';
import type {
  CopySettings,
  Delivery,
  DeliveryFile,
  DeliverySettings,
  DeliveryTarget,
} from '@stellin/contract/delivering';
import { FIXITY_SQL } from '../catalogue/fixity';
import { PREVIEW_VERSION } from '../catalogue/photoRow';
import { sightSql } from '../catalogue/sightSql';
import type { Viewer } from '../catalogue/viewer';
import type { Database, Transaction } from '../database/database';
import { isoSql } from '../database/isoSql';
import { DELIVERY } from '../database/models/delivering';
import { modelOf } from '../database/models/table';

export interface PresetRow {
  id: number;
  name: string;
  note: string;
  settings: CopySettings;
  version: number;
  owner_id: number | null;
  created_by: number | null;
}

/** The presets that somebody may use: those for everybody, and their own. */
export function listPresets(database: Database, accountId: number | null, tx?: Transaction): Promise<PresetRow[]> {
  return database.rows<PresetRow>(
    'select * from preset where owner_id is null or owner_id = $1::int order by name, id',
    [accountId],
    tx,
  );
}

/** How a preset was before each of its changes, the latest first. */
export function presetVersions(
  database: Database,
  presetId: number,
): Promise<{ at: string; by: string; before: unknown }[]> {
  return database.rows(
    `select ${isoSql('e.at')} as at, coalesce(a.display_name, 'Stellin') as by, o.before
     from ledger_object o join ledger_entry e on e.id = o.entry_id left join account a on a.id = e.account_id
     where o.kind = 'preset' and o.object_id = $1 and o.before is not null and o.after is not null
     order by e.id desc limit 50`,
    [presetId],
  );
}

/** Which of a bundle goes along with the photo that was meant. */
const BUNDLE_PARTS: Record<CopySettings['bundles'], string> = {
  lead: 'p.id = found.id',
  all: '(p.id = found.id or p.folded_into = found.id)',
  raw: `((p.id = found.id or p.folded_into = found.id) and p.kind in ('raw', 'dng'))`,
  derived: `((p.id = found.id or p.folded_into = found.id) and p.kind not in ('raw', 'dng'))`,
};

/** A photo as its name in a delivery and the plan need it. */
export interface PlannedPhoto {
  id: number;
  name: string;
  folder: string;
  driveId: string;
  drive: string;
  kind: string;
  takenAt: string | null;
  camera: string;
  title: string;
  headline: string;
  event: string;
  city: string;
  /** As it is seen. */
  width: number | null;
  height: number | null;
  sizeBytes: number;
  private: boolean;
  away: boolean;
  missing: boolean;
  damaged: boolean;
  previewVersion: number;
}

/** The text of a field, in its default language. */
const textOf = (field: string) =>
  `coalesce(case jsonb_typeof(t.fields -> '${field}') when 'object' then t.fields -> '${field}' ->> 'x-default' when 'string' then t.fields ->> '${field}' end, '')`;

const PLANNED = `p.id, p.name, f.path as folder, d.id as "driveId", d.label as drive, p.kind,
  to_char(p.taken_at, 'YYYY-MM-DD"T"HH24:MI:SS') as "takenAt", coalesce(t.facts ->> 'model', '') as camera,
  ${textOf('title')} as title, ${textOf('headline')} as headline, ${textOf('event')} as event, ${textOf('city')} as city,
  case when p.orientation > 4 then p.height else p.width end as width, case when p.orientation > 4 then p.width else p.height end as height,
  p.size_bytes::float8 as "sizeBytes", p.private, not d.attached as away, p.missing_since is not null as missing, p.damaged,
  ${PREVIEW_VERSION} as "previewVersion"`;
const PLACES = `join photo_text t on t.photo_id = p.id join folder f on f.id = p.folder_id join drive d on d.id = p.drive_id`;

/** Photos by their ids, in the order of these, each followed by what goes along of its bundle. Those that do not exist for who asks are not there. */
export function plannedPhotos(
  database: Database,
  { sight }: Viewer,
  ids: readonly number[],
  bundles: CopySettings['bundles'],
): Promise<PlannedPhoto[]> {
  const seen = sightSql(sight, [ids]);
  return database.rows<PlannedPhoto>(
    `select ${PLANNED} from unnest($1::int[]) with ordinality found (id, place)
     join photo p on ${BUNDLE_PARTS[bundles]} ${PLACES}
     where p.shown and ${seen.sql} order by found.place, p.id <> found.id, p.name, p.id`,
    seen.bind,
  );
}

/** What the catalogue says of a photo whose copy is made, and where its file is. */
export interface DeliveredPhoto {
  position: number;
  id: number;
  path: string;
  original: string;
  state: DeliveryFile['state'];
  driveId: string;
  driveLabel: string;
  mountPoint: string | null;
  attached: boolean;
  folder: string;
  name: string;
  kind: string;
  orientation: number;
  mtimeMs: number;
  private: boolean;
  missing: boolean;
  rating: number;
  mark: string;
  fields: FieldValues;
  freeKeywords: string[];
  termKeywords: string[];
  termIds: number[];
}

/** Fields that are never written into files are not written into copies either. */
const LET_OUT = `t.fields - array(select jsonb_array_elements_text(coalesce((select value -> 'withheld' from setting where name = 'writePolicies'), '[]')))`;

const DELIVERED = `q.position, p.id, q.path, q.original, q.state, d.id as "driveId", d.label as "driveLabel", d.mount_point as "mountPoint", d.attached, f.path as folder, p.name, p.kind,
  p.orientation, p.mtime_ms as "mtimeMs", p.private, p.missing_since is not null or not p.shown as missing, p.rating, p.mark, ${LET_OUT} as fields,
  array(select keyword from photo_keyword k where k.photo_id = p.id order by k.position) as "freeKeywords",
  array(select n.keyword from wanted_keyword n where n.photo_id = p.id order by 1) as "termKeywords",
  array(select g.term_id from photo_term g where g.photo_id = p.id order by 1) as "termIds"`;

/** The next photos of a delivery: those that are still to be written, or all. What is no photo any more, or does not exist for who asks, is not there. */
export function nextPhotos(
  database: Database,
  { sight }: Pick<Viewer, 'sight'>,
  { deliveryId, after, limit, all }: { deliveryId: string; after: number; limit: number; all: boolean },
): Promise<DeliveredPhoto[]> {
  const seen = sightSql(sight, [deliveryId, after, limit, all]);
  return database.rows<DeliveredPhoto>(
    `select ${DELIVERED} from delivery_file q join photo p on p.id = q.photo_id ${PLACES}
     where q.delivery_id = $1 and ($4 or q.state = 'open') and q.position > $2 and ${seen.sql} order by q.position limit $3`,
    seen.bind,
  );
}

/** Says of files whose photo is no more that they can’t be written. */
export async function failVanished(database: Database, deliveryId: string): Promise<void> {
  await database.rows(
    `update delivery_file set state = 'failed', problem = 'the photo is no longer in the catalogue'
     where delivery_id = $1 and state = 'open' and photo_id is null`,
    [deliveryId],
  );
}

export interface TableRow extends TablePhoto {
  position: number;
  /** 0: there is no preview yet. */
  previewVersion: number;
}
/** The file with the preview of a photo; null where there is none. */
export type PreviewOf = (photo: Pick<TableRow, 'id' | 'previewVersion'>) => Promise<string | null>;
export type TablePage = readonly TableRow[];

const ROWS_PER_READ = 2000;
const PAGES_AHEAD = 2;

/** What is read of photos for a table: parts, and fields but for those that are withheld from files. */
export interface Wanted {
  parts: ReadonlySet<Need>;
  fields: readonly FieldId[];
}

/** What each part is read as, and as what it stands where nobody needs it. */
const PARTS: Record<
  Need,
  { columns: Readonly<Record<string, readonly [needed: string, otherwise: string]>>; joins: string }
> = {
  facts: { columns: { facts: ['t.facts', `'{}'::jsonb`] }, joins: '' },
  terms: {
    columns: {
      // As JSON, which is read faster than an array is.
      termIds: [
        'array_to_json(array(select g.term_id from photo_term g where g.photo_id = p.id order by 1))',
        `'[]'::json`,
      ],
    },
    joins: '',
  },
  keywords: {
    columns: {
      freeKeywords: [
        'array_to_json(array(select keyword from photo_keyword k where k.photo_id = p.id order by k.position))',
        `'[]'::json`,
      ],
    },
    joins: '',
  },
  fixity: {
    columns: { sha256: [`encode(x.sha256, 'hex')`, 'null::text'], fixity: [FIXITY_SQL, `''`] },
    joins: 'left join photo_fixity x on x.photo_id = p.id',
  },
  writeState: {
    columns: { writeState: ['w.state', 'null::text'] },
    joins: 'left join write_back w on w.photo_id = p.id',
  },
};

function tableSql({ parts, fields }: Wanted): { columns: string; joins: string } {
  const all = Object.entries(PARTS) as [Need, (typeof PARTS)[Need]][];
  const columns = all.flatMap(([need, { columns: of }]) =>
    Object.entries(of).map(([name, [needed, otherwise]]) => `${parts.has(need) ? needed : otherwise} as "${name}"`),
  );
  // Ids of fields are names of ours, nothing that somebody typed.
  const said = fields.map((id) => `'${id}', t.fields -> '${id}'`).join(', ');
  return {
    columns: `p.id, p.name, f.path as folder, d.label as drive, p.kind, p.size_bytes::float8 as "sizeBytes",
      case when p.orientation > 4 then p.height else p.width end as width, case when p.orientation > 4 then p.width else p.height end as height,
      to_char(p.taken_at, 'YYYY-MM-DD"T"HH24:MI:SS') as "takenAt", p.rating, p.mark, p.preview_version as "previewVersion", jsonb_strip_nulls(jsonb_build_object(${said})) as fields, ${columns.join(', ')}`,
    joins: `${PLACES} ${all.flatMap(([need, { joins }]) => (parts.has(need) ? [joins] : [])).join(' ')}`,
  };
}

/** Photos by their ids as a table has them, in the order of these. */
export function tableRows(
  database: Database,
  { sight }: Pick<Viewer, 'sight'>,
  ids: readonly number[],
  wanted: Wanted,
): Promise<TableRow[]> {
  const seen = sightSql(sight, [ids]);
  const { columns, joins } = tableSql(wanted);
  return database.rows<TableRow>(
    `select found.place::int as position, ${columns} from unnest($1::int[]) with ordinality found (id, place)
     join photo p on p.id = found.id ${joins} where p.shown and not p.private and ${seen.sql} order by found.place`,
    seen.bind,
  );
}

/** Of some photos those that may leave, in their order. */
export async function leavingIds(
  database: Database,
  { sight }: Pick<Viewer, 'sight'>,
  ids: readonly number[],
): Promise<number[]> {
  const seen = sightSql(sight, [ids]);
  const rows = await database.rows<{ id: number }>(
    `select p.id from unnest($1::int[]) with ordinality found (id, place) join photo p on p.id = found.id
     where p.shown and not p.private and ${seen.sql} order by found.place`,
    seen.bind,
  );
  return rows.map(({ id }) => id);
}

/** The photos of a delivery as a table has them, some at a time. Private ones, and those that do not exist for who asks, are not there. */
export async function* tablePages(
  database: Database,
  { sight }: Pick<Viewer, 'sight'>,
  deliveryId: string,
  wanted: Wanted,
): AsyncGenerator<TablePage> {
  const { columns, joins } = tableSql(wanted);
  const page = (after: number): Promise<TableRow[]> => {
    const seen = sightSql(sight, [deliveryId, after, after + ROWS_PER_READ]);
    return database.rows<TableRow>(
      `select q.position, ${columns} from delivery_file q join photo p on p.id = q.photo_id ${joins}
       where q.delivery_id = $1 and q.position > $2 and q.position <= $3 and not p.private and ${seen.sql} order by q.position`,
      seen.bind,
    );
  };
  const last = await database.row<{ last: number | null }>(
    'select max(position) as last from delivery_file where delivery_id = $1',
    [deliveryId],
  );
  const end = last?.last ?? -1;
  // The next pages are read side by side while this one is written.
  const ahead: Promise<TableRow[]>[] = [];
  let asked = -1;
  const ask = () => {
    if (asked >= end) return;
    const reading = page(asked);
    reading.catch(() => undefined);
    ahead.push(reading);
    asked += ROWS_PER_READ;
  };
  for (let i = 0; i < PAGES_AHEAD; i++) ask();
  for (let reading = ahead.shift(); reading; reading = ahead.shift()) {
    ask();
    yield await reading;
  }
}

/** Notes the photos of a delivery that has no files of its own: they leave with it. Returns how many; private ones are left out. */
export async function insertAsTheyAre(
  database: Database,
  { sight }: Pick<Viewer, 'sight'>,
  deliveryId: string,
  ids: readonly number[],
  tx: Transaction,
): Promise<number> {
  const seen = sightSql(sight, [deliveryId, ids]);
  const row = await database.row<{ count: number }>(
    `with made as (
       insert into delivery_file (delivery_id, position, photo_id, original, path, state)
       select $1::uuid, row_number() over (order by found.place) - 1, p.id, concat_ws('/', d.label, nullif(f.path, ''), p.name), p.name, 'written'
       from unnest($2::int[]) with ordinality found (id, place) join photo p on p.id = found.id
       join folder f on f.id = p.folder_id join drive d on d.id = p.drive_id
       where p.shown and not p.private and ${seen.sql} returning 1)
     select count(*)::int as count from made`,
    seen.bind,
    tx,
  );
  return row?.count ?? 0;
}

/** What private persons are called, and the terms that stand for them. */
export async function privatePersons(database: Database): Promise<{ names: string[]; termIds: number[] }> {
  const row = await database.row<{ names: string[]; termIds: number[] }>(
    `select array(select unnest(array_append(other_names, name)) from person where private) as names,
       array(select term_id from person where private and term_id is not null) as "termIds"`,
  );
  return row ?? { names: [], termIds: [] };
}

export interface DeliveryRow {
  id: string;
  title: string;
  settings: DeliverySettings;
  target: DeliveryTarget;
  recipient: string;
  reason: string;
  preset: string;
  presetVersion: number | null;
  accountId: number | null;
  jobId: string | null;
  at: Date;
}

export async function insertDelivery(database: Database, row: DeliveryRow, tx: Transaction): Promise<void> {
  await modelOf(database, DELIVERY).create(row, { transaction: tx });
}

export interface NamedCopy {
  position: number;
  photoId: number;
  original: string;
  path: string;
}

export async function insertFiles(
  database: Database,
  deliveryId: string,
  files: readonly NamedCopy[],
  tx: Transaction,
): Promise<void> {
  await database.rows(
    `insert into delivery_file (delivery_id, position, photo_id, original, path)
     select $1::uuid, f.position, f."photoId", f.original, f.path
     from jsonb_to_recordset($2::jsonb) f (position int, "photoId" int, original text, path text)`,
    [deliveryId, JSON.stringify(files)],
    tx,
  );
}

export async function entitle(database: Database, deliveryId: string, title: string, tx: Transaction): Promise<void> {
  await modelOf(database, DELIVERY).update({ title }, { where: { id: deliveryId }, transaction: tx });
}

/** Ids of fields that are never written into files, and so do not leave either. */
export async function withheldFields(database: Database): Promise<string[]> {
  const row = await database.row<{ withheld: string[] }>(
    `select coalesce((select value -> 'withheld' from setting where name = 'writePolicies'), '[]') as withheld`,
  );
  return row?.withheld ?? [];
}

export async function noteJob(database: Database, deliveryId: string, jobId: string): Promise<void> {
  await modelOf(database, DELIVERY).update({ jobId }, { where: { id: deliveryId } });
}

export async function findDelivery(database: Database, id: string): Promise<DeliveryRow | undefined> {
  const row = await modelOf(database, DELIVERY).findByPk(id);
  return row ? (row.get() as DeliveryRow) : undefined;
}

/** What became of a file. */
export interface FileOutcome {
  position: number;
  path: string;
  state: DeliveryFile['state'];
  bytes: number | null;
  sha256: string | null;
  problem: string | null;
}

export async function recordOutcomes(
  database: Database,
  deliveryId: string,
  outcomes: readonly FileOutcome[],
): Promise<void> {
  await database.rows(
    `update delivery_file q set path = o.path, state = o.state, bytes = o.bytes, sha256 = decode(o.sha256, 'hex'), problem = o.problem
     from jsonb_to_recordset($2::jsonb) o (position int, path text, state text, bytes bigint, sha256 text, problem text)
     where q.delivery_id = $1 and q.position = o.position`,
    [deliveryId, JSON.stringify(outcomes)],
  );
}

/** Failed files are to be tried once more. Returns how many. */
export async function reopenFailed(database: Database, deliveryId: string): Promise<number> {
  const rows = await database.rows(
    `update delivery_file set state = 'open', problem = null
     where delivery_id = $1 and state = 'failed' and photo_id is not null returning position`,
    [deliveryId],
  );
  return rows.length;
}

export async function allPaths(database: Database, deliveryId: string): Promise<string[]> {
  const rows = await database.rows<{ path: string }>('select path from delivery_file where delivery_id = $1', [
    deliveryId,
  ]);
  return rows.map(({ path }) => path);
}

const HASHES_PER_READ = 5000;

/** Paths and SHA-256 of what was written, some at a time. */
export async function* writtenHashes(
  database: Database,
  deliveryId: string,
): AsyncGenerator<{ path: string; sha256: string; bytes: number }[]> {
  for (let after = -1; ;) {
    const rows = await database.rows<{ position: number; path: string; sha256: string; bytes: number }>(
      `select position, path, encode(sha256, 'hex') as sha256, bytes::float8 as bytes from delivery_file
       where delivery_id = $1 and state = 'written' and sha256 is not null and position > $2 order by position limit $3`,
      [deliveryId, after, HASHES_PER_READ],
    );
    if (rows.length === 0) return;
    yield rows;
    after = rows.at(-1)?.position ?? after;
  }
}

export interface FileCounts {
  photos: number;
  written: number;
  skipped: number;
  failed: number;
  bytes: number;
}

const COUNTS = `count(*)::int as photos, count(*) filter (where state = 'written')::int as written,
  count(*) filter (where state = 'skipped')::int as skipped, count(*) filter (where state = 'failed')::int as failed,
  coalesce(sum(bytes) filter (where state = 'written'), 0)::float8 as bytes`;

export async function countFiles(database: Database, deliveryId: string): Promise<FileCounts> {
  const row = await database.row<FileCounts>(`select ${COUNTS} from delivery_file where delivery_id = $1`, [
    deliveryId,
  ]);
  return row ?? { photos: 0, written: 0, skipped: 0, failed: 0, bytes: 0 };
}

/** A delivery as it is listed, with its target as data. */
export type ListedDelivery = Omit<Delivery, 'job' | 'target' | 'download'> & {
  target: DeliveryTarget;
  targetLabel: string | null;
  jobId: string | null;
};

const LISTED = `v.id, v.title, coalesce(v.settings ->> 'kind', 'copies') as kind, ${isoSql('v.at')} as at, coalesce(a.display_name, 'Stellin') as by, v.recipient, v.reason, v.preset,
  v.preset_version as "presetVersion", v.target, coalesce(d.label, s.settings ->> 'name') as "targetLabel", v.job_id as "jobId", c.*`;
const LISTED_FROM = `from delivery v left join account a on a.id = v.account_id left join drive d on d.id::text = v.target ->> 'driveId'
  left join delivery_server s on s.id::text = v.target ->> 'serverId'
  cross join lateral (select ${COUNTS} from delivery_file q where q.delivery_id = v.id) c`;

/** Deliveries, the latest first; of an account, or all. */
export async function listDeliveries(
  database: Database,
  accountId: number | null,
  page: { offset: number; limit: number },
): Promise<{ deliveries: ListedDelivery[]; total: number }> {
  const [deliveries, total] = await Promise.all([
    database.rows<ListedDelivery>(
      `select ${LISTED} ${LISTED_FROM} where $1::int is null or v.account_id = $1 order by v.at desc, v.id limit $2 offset $3`,
      [accountId, page.limit, page.offset],
    ),
    database.row<{ total: number }>(
      'select count(*)::int as total from delivery where $1::int is null or account_id = $1',
      [accountId],
    ),
  ]);
  return { deliveries, total: total?.total ?? 0 };
}

export function listedDelivery(database: Database, id: string): Promise<ListedDelivery | undefined> {
  return database.row<ListedDelivery>(`select ${LISTED} ${LISTED_FROM} where v.id = $1`, [id]);
}

/** The files of a delivery; of photos that do not exist for who asks only what it was called. */
export async function listFiles(
  database: Database,
  { sight }: Viewer,
  deliveryId: string,
  page: { state?: string | undefined; offset: number; limit: number },
): Promise<{ files: DeliveryFile[]; total: number }> {
  const where = 'q.delivery_id = $1 and ($2::text is null or q.state = $2)';
  const seen = sightSql(sight, [deliveryId, page.state ?? null, page.limit, page.offset]);
  const [files, total] = await Promise.all([
    database.rows<DeliveryFile>(
      `select q.position, p.id as "photoId", q.original, q.path, q.bytes::float8 as bytes, q.state, q.problem,
         coalesce(p.preview_version, 0) as "previewVersion"
       from delivery_file q left join photo p on p.id = q.photo_id and ${seen.sql}
       where ${where} order by q.position limit $3 offset $4`,
      seen.bind,
    ),
    database.row<{ total: number }>(`select count(*)::int as total from delivery_file q where ${where}`, [
      deliveryId,
      page.state ?? null,
    ]),
  ]);
  return { files, total: total?.total ?? 0 };
}
