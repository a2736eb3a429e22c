// Which pictures have been looked at for faces, and what was found in them.

import { VECTORS_BY } from '@stellin/core/people/likeness';
import { kindsWhere, type FileKind } from '@stellin/core/metadata/containers/index';
import type { Database, Transaction } from '../database/database';
import type { FoundFace } from './faces.worker';

const STILLS = kindsWhere(({ media }) => media === 'still')
  .map((kind) => `'${kind}'`)
  .join(', ');

export interface ScanTask {
  id: number;
  kind: FileKind;
  orientation: number;
  path: string;
  mountPoint: string;
  driveId: string;
  driveLabel: string;
  hash: string | null;
}

/** Pictures that can be looked at and have not been, as they are now: on attached drives, where nobody has switched it off. */
const WAITING = `from photo p join folder f on f.id = p.folder_id join drive d on d.id = p.drive_id left join face_scan s on s.photo_id = p.id
  where d.attached and p.preview_state = 1 and p.missing_since is null and p.shown and p.kind in (${STILLS})
    and (s.photo_id is null or s.model <> '${VECTORS_BY}' or s.picture_hash is distinct from p.picture_hash)
    and not exists (select 1 from face_exception e where e.drive_id = p.drive_id and (e.folder = '' or f.path = e.folder or f.path like replace(replace(replace(e.folder, '\\', '\\\\'), '%', '\\%'), '_', '\\_') || '/%'))`;

const TASK = `select p.id, p.kind, p.orientation, ltrim(f.path || '/' || p.name, '/') as path, d.mount_point as "mountPoint", d.id as "driveId", d.label as "driveLabel", encode(p.picture_hash, 'hex') as hash`;

/** The next ones, by id. */
export function nextTasks(database: Database, after: number, limit: number): Promise<ScanTask[]> {
  return database.rows<ScanTask>(`${TASK} ${WAITING} and p.id > $1 order by p.id limit $2`, [after, limit]);
}

export async function findTask(database: Database, photoId: number): Promise<ScanTask | undefined> {
  return database.row<ScanTask>(`${TASK} ${WAITING} and p.id = $1`, [photoId]);
}

/** The picture of a photo whose drive is attached, whether looked at or not. */
export async function findPicture(database: Database, photoId: number): Promise<ScanTask | undefined> {
  return database.row<ScanTask>(
    `${TASK} from photo p join folder f on f.id = p.folder_id join drive d on d.id = p.drive_id
     where p.id = $1 and d.attached and p.missing_since is null`,
    [photoId],
  );
}

export async function countWaiting(database: Database): Promise<number> {
  const row = await database.row<{ count: number }>(`select count(*)::int as count ${WAITING}`);
  return row?.count ?? 0;
}

/** How looking at a photo went: why it could not be looked at, '' where it could; undefined when nobody has tried. */
export async function problemOf(database: Database, photoId: number): Promise<string | undefined> {
  const row = await database.row<{ problem: string }>('select problem from face_scan where photo_id = $1', [photoId]);
  return row?.problem;
}

export async function countFaces(database: Database): Promise<{ looked: number; faces: number; vectors: number }> {
  const row = await database.row<{ looked: number; faces: number; vectors: number }>(
    `select (select count(*)::int from face_scan) as looked, (select count(*)::int from face where state <> 'removed') as faces,
       (select count(*)::int from face where vector is not null) as vectors`,
  );
  return row ?? { looked: 0, faces: 0, vectors: 0 };
}

export interface Scanned {
  photoId: number;
  hash: string | null;
  problem: string;
  faces: FoundFace[];
  /** Degrees clockwise that would put the picture upright, where its faces say so; else 0. */
  sideways: number;
}

/**
 * Keeps what was found. Of a picture that is looked at again, faces that somebody has spoken of stay; the others are those
 * found now. Returns the ids of the new faces, in the order given.
 */
export async function saveScanned(
  database: Database,
  scanned: readonly Scanned[],
  tx: Transaction,
): Promise<{ id: number; picture: Uint8Array }[]> {
  const ids = scanned.map(({ photoId }) => photoId);
  await database.rows(
    `delete from face where photo_id = any($1) and source = 'found' and state = 'open' and refused = '{}'`,
    [ids],
    tx,
  );
  const faces = scanned.flatMap(({ photoId, faces: found }) => found.map((face) => ({ photoId, face })));
  const rows = faces.map(({ photoId, face }, place) => ({ place, photo_id: photoId, ...columnsOf(face) }));
  // A face is found again where one is known: the known one stays, with what it looks like now.
  const saved = await database.rows<{ id: number; place: number }>(
    `with r as materialized (select * from jsonb_to_recordset($1::jsonb) as r (place int, photo_id int, box_left real, box_top real, box_width real, box_height real,
         vector text, quality real, sharpness real, smile real, eyes_open real, yaw real, pitch real, roll real, pixels int)),
     known as (select distinct on (r.place) r.place, f.id from r join face f on f.photo_id = r.photo_id
       and abs(f.box_left + f.box_width / 2 - r.box_left - r.box_width / 2) < r.box_width / 2
       and abs(f.box_top + f.box_height / 2 - r.box_top - r.box_height / 2) < r.box_height / 2 order by r.place, f.id),
     again as (update face f set vector = decode(r.vector, 'base64'), quality = r.quality, sharpness = r.sharpness, smile = r.smile, eyes_open = r.eyes_open,
         yaw = r.yaw, pitch = r.pitch, roll = r.roll, pixels = r.pixels
       from known join r on r.place = known.place where f.id = known.id returning f.id, r.place),
     fresh as (insert into face (photo_id, source, box_left, box_top, box_width, box_height, vector, quality, sharpness, smile, eyes_open, yaw, pitch, roll, pixels)
       select r.photo_id, 'found', r.box_left, r.box_top, r.box_width, r.box_height, decode(r.vector, 'base64'), r.quality, r.sharpness, r.smile, r.eyes_open, r.yaw, r.pitch, r.roll, r.pixels
       from r where r.place not in (select place from known) order by r.place returning id)
     select id, place from again
     union all
     select id, place from (select id, row_number() over (order by id) as n from fresh) i
       join (select place, row_number() over (order by place) as n from r where place not in (select place from known)) o using (n)`,
    [JSON.stringify(rows)],
    tx,
  );
  await database.rows(
    `insert into face_scan (photo_id, model, picture_hash, faces, problem)
     select r."photoId", '${VECTORS_BY}', decode(r.hash, 'hex'), r.faces, r.problem from jsonb_to_recordset($1::jsonb) as r ("photoId" int, hash text, faces int, problem text)
     on conflict (photo_id) do update set model = excluded.model, picture_hash = excluded.picture_hash, faces = excluded.faces, problem = excluded.problem, at = now()`,
    [
      JSON.stringify(
        scanned.map(({ photoId, hash, problem, faces: { length } }) => ({ photoId, hash, problem, faces: length })),
      ),
    ],
    tx,
  );
  await database.rows(
    `update photo p set sideways = r.sideways from jsonb_to_recordset($1::jsonb) as r (id int, sideways smallint) where p.id = r.id and p.sideways <> r.sideways`,
    [JSON.stringify(scanned.map(({ photoId: id, sideways }) => ({ id, sideways })))],
    tx,
  );
  return saved.flatMap(({ id, place }) => {
    const picture = faces[place]?.face.picture;
    return picture ? [{ id, picture }] : [];
  });
}

/** Keeps what the face in a drawn box is like. */
export async function saveDrawn(database: Database, faceId: number, face: FoundFace): Promise<void> {
  await database.rows(
    `update face f set vector = decode(r.vector, 'base64'), quality = r.quality, sharpness = r.sharpness, smile = r.smile, eyes_open = r.eyes_open,
       yaw = r.yaw, pitch = r.pitch, roll = r.roll, pixels = r.pixels
     from jsonb_to_record($2::jsonb) as r (vector text, quality real, sharpness real, smile real, eyes_open real, yaw real, pitch real, roll real, pixels int)
     where f.id = $1`,
    [faceId, JSON.stringify(columnsOf(face))],
  );
}

function columnsOf({ box, vector, quality, sharpness, smile, eyesOpen, yaw, pitch, roll, pixels }: FoundFace) {
  return {
    box_left: box.left,
    box_top: box.top,
    box_width: box.width,
    box_height: box.height,
    vector: Buffer.from(vector.buffer, vector.byteOffset, vector.byteLength).toString('base64'),
    quality,
    sharpness,
    smile,
    eyes_open: eyesOpen,
    yaw,
    pitch,
    roll,
    pixels,
  };
}
