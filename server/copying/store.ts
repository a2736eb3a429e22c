// What becomes of each file that is copied in (copy_step), and where pictures are known from.

import type { Database } from '../database/database';

export interface CopyStep {
  id: string;
  folder: string;
  name: string;
  sidecar: string | null;
  sizeBytes: number;
  mtimeMs: number;
  state: 'found' | 'known' | 'going' | 'copied' | 'failed';
  toFolder: string | null;
  toName: string | null;
  secondName: string | null;
  hash: string | null;
  sidecarHash: string | null;
  pictureHash: Buffer | null;
}

// Ids are texts in rows, and numbers where they are put in order: `order by id` would be that of the texts.
const COLUMNS = `s.id::text, folder, name, sidecar, size_bytes::float8 as "sizeBytes", mtime_ms as "mtimeMs", state, to_folder as "toFolder", to_name as "toName",
  second_name as "secondName", hash, sidecar_hash as "sidecarHash", picture_hash as "pictureHash"`;

/** Notes files of the source; those noted before stay as they are. */
export async function noteFound(
  database: Database,
  jobId: string,
  files: readonly Pick<CopyStep, 'folder' | 'name' | 'sidecar' | 'sizeBytes' | 'mtimeMs'>[],
): Promise<void> {
  await database.rows(
    `insert into copy_step (job_id, folder, name, sidecar, size_bytes, mtime_ms)
     select $1, r.folder, r.name, r.sidecar, r."sizeBytes", r."mtimeMs"
     from jsonb_to_recordset($2::jsonb) as r (folder text, name text, sidecar text, "sizeBytes" bigint, "mtimeMs" float8)
     on conflict (job_id, folder, name) do nothing`,
    [jobId, JSON.stringify(files)],
  );
}

/** Steps in some states, in their order, the next few. */
export async function stepsOf(
  database: Database,
  jobId: string,
  states: readonly CopyStep['state'][],
  after: string,
  limit: number,
): Promise<CopyStep[]> {
  return database.rows<CopyStep>(
    `select ${COLUMNS} from copy_step s where job_id = $1 and state = any($2) and s.id > $3::bigint order by s.id limit $4`,
    [jobId, states, after, limit],
  );
}

export async function countSteps(database: Database, jobId: string): Promise<Record<CopyStep['state'], number>> {
  const rows = await database.rows<{ state: CopyStep['state']; files: number }>(
    'select state, count(*)::int as files from copy_step where job_id = $1 group by state',
    [jobId],
  );
  const counts = { found: 0, known: 0, going: 0, copied: 0, failed: 0 };
  for (const { state, files } of rows) counts[state] = files;
  return counts;
}

/** Writes down how far steps are. */
export async function saveSteps(database: Database, steps: readonly CopyStep[]): Promise<void> {
  if (steps.length === 0) return;
  await database.rows(
    `update copy_step s set state = r.state, to_folder = r.to_folder, to_name = r.to_name, second_name = r.second_name, hash = r.hash,
       sidecar_hash = r.sidecar_hash, picture_hash = decode(r.picture, 'hex')
     from jsonb_to_recordset($1::jsonb) as r (id bigint, state text, to_folder text, to_name text, second_name text, hash text, sidecar_hash text, picture text)
     where s.id = r.id`,
    [
      JSON.stringify(
        steps.map((step) => ({
          id: step.id,
          state: step.state,
          to_folder: step.toFolder,
          to_name: step.toName,
          second_name: step.secondName,
          hash: step.hash,
          sidecar_hash: step.sidecarHash,
          picture: step.pictureHash && Buffer.from(step.pictureHash).toString('hex'),
        })),
      ),
    ],
  );
}

/** Which of some pictures (hashes in hexadecimal) the catalogue knows, with their file where it was, elsewhere than on a drive. */
export async function knownPictures(
  database: Database,
  hashes: readonly string[],
  exceptDriveId: string | null,
): Promise<Set<string>> {
  const rows = await database.rows<{ hash: string }>(
    `select distinct encode(picture_hash, 'hex') as hash from photo
     where picture_hash in (select decode(h, 'hex') from unnest($1::text[]) h) and shown and missing_since is null
       and drive_id is distinct from $2::uuid`,
    [hashes, exceptDriveId],
  );
  return new Set(rows.map(({ hash }) => hash));
}

/** Where the catalogue has a picture on attached drives. */
export async function filesOfPicture(
  database: Database,
  hash: Buffer,
): Promise<{ mountPoint: string; path: string }[]> {
  return database.rows(
    `select d.mount_point as "mountPoint", ltrim(f.path || '/' || p.name, '/') as path
     from photo p join folder f on f.id = p.folder_id join drive d on d.id = p.drive_id
     where p.picture_hash = $1 and p.shown and p.missing_since is null and d.attached limit 20`,
    [hash],
  );
}

/** The folders that a job has copied files to. */
export async function targetFolders(database: Database, jobId: string): Promise<string[]> {
  const rows = await database.rows<{ folder: string }>(
    `select distinct to_folder as folder from copy_step where job_id = $1 and state = 'copied' order by 1`,
    [jobId],
  );
  return rows.map(({ folder }) => folder);
}
