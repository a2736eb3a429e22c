// Faces and what they look like, as the thread that compares them reads them.

import type { Client } from 'pg';
import type { Guess } from '@stellin/core/people/guessing';

/** A face as PostgreSQL gives it; the vector is bytes of an Int8Array, times are seconds since 1970. */
export interface FaceRow {
  id: number;
  photo_id: number;
  state: string;
  person_id: number | null;
  refused: number[];
  quality: number;
  smile: number;
  eyes_open: number;
  sharpness: number;
  yaw: number;
  pitch: number;
  vector: Buffer;
  version: string;
  taken_from: number | null;
  taken_until: number | null;
}

/** Changes whenever faces were deleted: what one has read of them is void. */
export async function faceGeneration(database: Client): Promise<string> {
  const { rows } = await database.query<{ generation: string }>(
    `select last_value || ':' || is_called as generation from face_generation`,
  );
  return rows[0]?.generation ?? '';
}

/** The next faces with a vector that changed after a version, in the order in which they did. */
export async function facesSince(database: Client, version: string, limit: number): Promise<FaceRow[]> {
  const { rows } = await database.query<FaceRow>(
    `select f.id, f.photo_id, f.state, f.person_id, f.refused, f.quality, f.smile, f.eyes_open, f.sharpness, f.yaw, f.pitch, f.vector, f.version,
       extract(epoch from p.taken_at)::float8 as taken_from, extract(epoch from coalesce(p.taken_until, p.taken_at + interval '1 second'))::float8 as taken_until
     from face f join photo p on p.id = f.photo_id where f.version > $1 and f.vector is not null order by f.version limit $2`,
    [version, limit],
  );
  return rows;
}

/** Faces that changed after a version. */
export async function changedSince(database: Client, version: string): Promise<number[]> {
  const { rows } = await database.query<{ id: number }>('select id from face where version > $1', [version]);
  return rows.map(({ id }) => id);
}

/** Of persons of whom it is known when they were born or died, as it was typed. */
export async function lifeDates(database: Client): Promise<{ id: number; born: string; died: string }[]> {
  const { rows } = await database.query<{ id: number; born: string; died: string }>(
    `select id, born, died from person where born <> '' or died <> '' order by id`,
  );
  return rows;
}

/** Who faces most likely show, as it was kept. */
export async function listGuesses(database: Client): Promise<Guess[]> {
  const { rows } = await database.query<Guess>(
    'select face_id as "faceId", person_id as "personId", certainty from face_guess',
  );
  return rows;
}
