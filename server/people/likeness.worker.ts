// The thread that holds what faces look like: reads it once, follows what changes, groups, suggests and finds. It can be
// thrown away at any time; the truth is in the database.

import { Client } from 'pg';
import { LikenessGroups, THRESHOLDS, type GroupedFace, type Strictness } from '@stellin/core/people/grouping';
import { VECTOR_LENGTH } from '@stellin/core/people/likeness';
import { highest, VectorTable } from '@stellin/core/people/nearest';
import { leastAlike, References, type Suggestion, type Unknown } from '@stellin/core/people/suggesting';

interface KnownFace extends GroupedFace, Unknown {
  place: number;
  state: string;
  personId: number | null;
  length: number;
  smile: number;
  eyesOpen: number;
  sharpness: number;
  frontal: boolean;
}

interface Row {
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
}

/** A face that looks to the side or up and down by less than this is frontal. */
const FRONTAL_DEGREES = 25;
const SHARP = 0.35;
const SMILING = 0.5;
const EYES_OPEN = 0.6;
const BATCH = 20_000;
/** Persons who were seen often are compared by so many of their faces, the best ones. */
const MOST_REFERENCES = 60;
/** Groups are compared with persons by so many of their faces. */
const MOST_ASKED = 12;
const FACES_SHOWN = 24;
/** So many faces are compared with all persons when somebody's page is shown. */
const MOST_LIKE = 600;

let client: Client | undefined;
let connecting: Promise<Client> | undefined;
let table = new VectorTable();
let faces = new Map<number, KnownFace>();
let byPlace: KnownFace[] = [];
const groups = new Map<Strictness, LikenessGroups>();
let references: References | undefined;
let version = '0';
let generation = '';
let following: Promise<void> = Promise.resolve();

async function connected(url: string): Promise<Client> {
  connecting ??= (async () => {
    const made = new Client({ connectionString: url, application_name: 'stellin faces' });
    made.on('error', () => {
      client = undefined;
      connecting = undefined;
    });
    await made.connect();
    return (client = made);
  })();
  return client ?? connecting;
}

/** Brings what is known up to what is committed now, one after the other. */
function follow(url: string): Promise<void> {
  following = following.catch(() => undefined).then(() => followOnce(url));
  return following;
}

async function followOnce(url: string): Promise<void> {
  const database = await connected(url);
  const now = await database.query<{ generation: string }>(
    `select last_value || ':' || is_called as generation from face_generation`,
  );
  if (now.rows[0]?.generation !== generation) {
    forget();
    generation = now.rows[0]?.generation ?? '';
  }
  for (;;) {
    const { rows } = await database.query<Row>(
      `select id, photo_id, state, person_id, refused, quality, smile, eyes_open, sharpness, yaw, pitch, vector, version from face
       where version > $1 and vector is not null order by version limit $2`,
      [version, BATCH],
    );
    if (rows.length === 0) return;
    // Groups are made in the order of ids, whatever changed first.
    for (const row of [...rows].sort((a, b) => a.id - b.id)) take(row);
    version = rows.at(-1)?.version ?? version;
  }
}

function forget(): void {
  table = new VectorTable();
  faces = new Map();
  byPlace = [];
  groups.clear();
  references = undefined;
  version = '0';
}

function take(row: Row): void {
  const known = faces.get(row.id);
  const place = known?.place ?? byPlace.length;
  const vector = new Int8Array(row.vector.buffer.slice(row.vector.byteOffset, row.vector.byteOffset + VECTOR_LENGTH));
  table.set(place, vector);
  const face: KnownFace = {
    id: row.id,
    place,
    photoId: row.photo_id,
    state: row.state,
    personId: row.state === 'named' ? row.person_id : null,
    refused: row.refused,
    quality: row.quality,
    vector,
    length: Math.sqrt(vector.reduce((sum, value) => sum + value * value, 0)),
    smile: row.smile,
    eyesOpen: row.eyes_open,
    sharpness: row.sharpness,
    frontal: Math.hypot(row.yaw, row.pitch) < FRONTAL_DEGREES,
  };
  faces.set(row.id, face);
  byPlace[place] = face;
  for (const group of groups.values()) {
    if (face.state === 'open') group.add(face);
    else group.remove(face.id);
  }
  references = undefined;
}

function groupsOf(strictness: Strictness): LikenessGroups {
  let made = groups.get(strictness);
  if (!made) {
    made = new LikenessGroups(THRESHOLDS[strictness]);
    for (const face of [...faces.values()].sort((a, b) => a.id - b.id)) if (face.state === 'open') made.add(face);
    groups.set(strictness, made);
  }
  return made;
}

function allReferences(): References {
  if (references) return references;
  const byPerson = new Map<number, KnownFace[]>();
  for (const face of faces.values())
    if (face.personId !== null) byPerson.set(face.personId, [...(byPerson.get(face.personId) ?? []), face]);
  references = new References();
  for (const [personId, own] of byPerson)
    for (const { photoId, vector } of own
      .sort((a, b) => b.quality - a.quality || a.id - b.id)
      .slice(0, MOST_REFERENCES))
      references.add({ personId, photoId, vector });
  return references;
}

export interface Group {
  /** The first few, with how like the middle of the group each is. */
  faces: { id: number; likeness: number }[];
  faceIds: number[];
  photos: number;
  guess: Suggestion | null;
}

/** Faces nobody has named, by likeness. */
export async function listGroups(given: {
  url: string;
  strictness: Strictness;
  offset: number;
  limit: number;
}): Promise<{ groups: Group[]; total: number; faces: number }> {
  await follow(given.url);
  const all = groupsOf(given.strictness).list();
  const known = allReferences();
  return {
    total: all.length,
    faces: all.reduce((sum, group) => sum + group.faces.length, 0),
    groups: all.slice(given.offset, given.offset + given.limit).map((group) => ({
      faces: group.faces.slice(0, FACES_SHOWN).map(({ id }, i) => ({ id, likeness: group.likeness[i] ?? 0 })),
      faceIds: group.faces.map(({ id }) => id),
      photos: new Set(group.faces.map(({ photoId }) => photoId)).size,
      guess: known.suggest(group.faces.slice(0, MOST_ASKED).map(unknownOf)) ?? null,
    })),
  };
}

function unknownOf(face: GroupedFace): Unknown {
  return { vector: face.vector, photoId: face.photoId, refused: faces.get(face.id)?.refused ?? [] };
}

/** Who faces that nobody has named most likely show, each by itself. */
export async function suggestFor(given: { url: string; faceIds: readonly number[] }): Promise<Map<number, Suggestion>> {
  await follow(given.url);
  const known = allReferences();
  const found = new Map<number, Suggestion>();
  for (const id of given.faceIds) {
    const face = faces.get(id);
    const guess = face?.state === 'open' ? known.suggest([face]) : undefined;
    if (guess) found.set(id, guess);
  }
  return found;
}

/** Faces that most likely show somebody, the surest first. */
export async function suggestedFor(given: {
  url: string;
  personId: number;
  limit: number;
}): Promise<{ id: number; certainty: number }[]> {
  await follow(given.url);
  const known = allReferences();
  const found: { id: number; certainty: number }[] = [];
  for (const face of mostLike(given.personId)) {
    const guess = known.suggest([face]);
    if (guess?.personId === given.personId) found.push({ id: face.id, certainty: guess.certainty });
  }
  return found.sort((a, b) => b.certainty - a.certainty || a.id - b.id).slice(0, given.limit);
}

/** The faces nobody has named that are most like any named one of a person: of the others none would be suggested. */
function mostLike(personId: number): KnownFace[] {
  const best = new Float32Array(byPlace.length);
  const own = [...faces.values()].filter((face) => face.personId === personId);
  for (const { vector, length } of own.sort((a, b) => b.quality - a.quality || a.id - b.id).slice(0, MOST_REFERENCES)) {
    const scores = table.scores(vector);
    for (let place = 0; place < best.length; place++)
      best[place] = Math.max(best[place] ?? 0, (scores[place] ?? 0) / length / (byPlace[place]?.length ?? 1));
  }
  const least = leastAlike();
  const likenessAt = (place: number) => best[place] ?? 0;
  const fits = (place: number) => byPlace[place]?.state === 'open' && likenessAt(place) >= least;
  return highest(byPlace.length, likenessAt, MOST_LIKE, fits).flatMap((place) => byPlace[place] ?? []);
}

export interface Wanted {
  smiling: boolean;
  eyesOpen: boolean;
  sharp: boolean;
  frontal: boolean;
  named: 'all' | 'named' | 'open';
}

/** Faces like one, the likeliest first. */
export async function findLike(given: {
  url: string;
  face: number | Int8Array;
  least: number;
  wanted: Wanted;
  limit: number;
}): Promise<{ id: number; likeness: number }[]> {
  await follow(given.url);
  const own = typeof given.face === 'number' ? faces.get(given.face)?.vector : given.face;
  if (!own) return [];
  const length = Math.sqrt(own.reduce((sum, value) => sum + value * value, 0)) || 1;
  const scores = table.scores(own);
  const { wanted, least } = given;
  const likenessAt = (place: number) => (scores[place] ?? 0) / length / (byPlace[place]?.length ?? 1);
  const fits = (place: number) => {
    const face = byPlace[place];
    if (!face || likenessAt(place) < least || face.state === 'none' || face.state === 'removed') return false;
    if (wanted.named !== 'all' && (face.state === 'named') !== (wanted.named === 'named')) return false;
    return (
      !(wanted.smiling && face.smile < SMILING) &&
      !(wanted.eyesOpen && face.eyesOpen < EYES_OPEN) &&
      !(wanted.sharp && face.sharpness < SHARP) &&
      !(wanted.frontal && !face.frontal)
    );
  };
  return highest(byPlace.length, likenessAt, given.limit, fits).map((place) => ({
    id: byPlace[place]?.id ?? 0,
    likeness: likenessAt(place),
  }));
}
