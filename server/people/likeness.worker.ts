// The thread that holds what faces look like: reads it once, follows what changes, groups, suggests and finds. It can be
// thrown away at any time; the truth is in the database.

import { CALIBRATION } from '@stellin/core/people/fitted';
import { LikenessGroups, THRESHOLDS, type GroupedFace, type Strictness } from '@stellin/core/people/grouping';
import { Guesses, type ChangedGuess } from '@stellin/core/people/guessing';
import { VECTORS_BY } from '@stellin/core/people/likeness';
import { highest } from '@stellin/core/people/nearest';
import { leastAlike, References, type Suggestion, type Unknown } from '@stellin/core/people/suggesting';
import { changedSince, listGuesses } from './faceStore';
import { KnownFaces, type KnownFace } from './knownFaces';

const SHARP = 0.35;
const SMILING = 0.5;
const EYES_OPEN = 0.6;
/** A person with more faces than this is compared by the best of them. */
const MAX_REFERENCES = 60;
/** A group with more faces than this is compared by the best of them. */
const MAX_ASKED = 12;
const FACES_SHOWN = 24;
/** So many faces are compared with all persons when somebody's page is shown. */
const MAX_LIKE = 600;
/** Others who ask wait no longer than this for guesses. */
const GUESSING_MS = 250;

const faces = new KnownFaces({ noticed, forgotten, livesChanged });
const groups = new Map<Strictness, LikenessGroups>();
let references: References | undefined;
let guesses: Guesses | undefined;
/** Whether kept guesses are being read: what changes meanwhile is noted as well. */
let reading = false;
/** Faces that have changed, of which is not known yet whose guesses that touches; named, as far as is known, now or before. */
const changedFaces = new Map<number, { wasNamed: boolean }>();

function noticed(face: KnownFace, before: KnownFace | undefined): void {
  for (const group of groups.values()) {
    if (face.state === 'open') group.add(face);
    else group.remove(face.id);
  }
  references = undefined;
  if (!guesses && !reading) return;
  const wasNamed = changedFaces.get(face.id)?.wasNamed === true || (before !== undefined && before.personId !== null);
  changedFaces.set(face.id, { wasNamed });
}

function livesChanged(): void {
  references = undefined;
  guesses?.doubt(faces.byId.keys());
}

function forgotten(): void {
  groups.clear();
  references = undefined;
  guesses = undefined;
  changedFaces.clear();
}

function groupsOf(strictness: Strictness): LikenessGroups {
  let made = groups.get(strictness);
  if (!made) {
    made = new LikenessGroups(THRESHOLDS[strictness]);
    for (const face of [...faces.byId.values()].sort((a, b) => a.id - b.id)) if (face.state === 'open') made.add(face);
    groups.set(strictness, made);
  }
  return made;
}

function allReferences(): References {
  if (references) return references;
  const byPerson = new Map<number, KnownFace[]>();
  for (const face of faces.byId.values())
    if (face.personId !== null) byPerson.set(face.personId, [...(byPerson.get(face.personId) ?? []), face]);
  references = new References([], faces.lives);
  for (const [personId, own] of byPerson)
    for (const { photoId, vector } of own.sort((a, b) => b.quality - a.quality || a.id - b.id).slice(0, MAX_REFERENCES))
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
  await faces.follow(given.url);
  const all = groupsOf(given.strictness).list();
  const known = allReferences();
  return {
    total: all.length,
    faces: all.reduce((sum, group) => sum + group.faces.length, 0),
    groups: all.slice(given.offset, given.offset + given.limit).map((group) => ({
      faces: group.faces.slice(0, FACES_SHOWN).map(({ id }, i) => ({ id, likeness: group.likeness[i] ?? 0 })),
      faceIds: group.faces.map(({ id }) => id),
      photos: new Set(group.faces.map(({ photoId }) => photoId)).size,
      guess: known.suggest(group.faces.slice(0, MAX_ASKED).map(unknownOf)) ?? null,
    })),
  };
}

function unknownOf(face: GroupedFace): Unknown {
  const known = faces.byId.get(face.id);
  return { vector: face.vector, photoId: face.photoId, refused: known?.refused ?? [], taken: known?.taken };
}

/** Who faces that nobody has named most likely show, each by itself. */
export async function suggestFor(given: { url: string; faceIds: readonly number[] }): Promise<Map<number, Suggestion>> {
  await faces.follow(given.url);
  const known = allReferences();
  const found = new Map<number, Suggestion>();
  for (const id of given.faceIds) {
    const face = faces.byId.get(id);
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
  await faces.follow(given.url);
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
  const best = new Float32Array(faces.byPlace.length);
  const own = [...faces.byId.values()].filter((face) => face.personId === personId);
  for (const { vector, length } of own.sort((a, b) => b.quality - a.quality || a.id - b.id).slice(0, MAX_REFERENCES)) {
    const scores = faces.table.scores(vector);
    for (let place = 0; place < best.length; place++)
      best[place] = Math.max(best[place] ?? 0, (scores[place] ?? 0) / length / (faces.byPlace[place]?.length ?? 1));
  }
  const least = leastAlike();
  const likenessAt = (place: number) => best[place] ?? 0;
  const fits = (place: number) => faces.byPlace[place]?.state === 'open' && likenessAt(place) >= least;
  return highest(faces.byPlace.length, likenessAt, MAX_LIKE, fits).flatMap((place) => faces.byPlace[place] ?? []);
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
  await faces.follow(given.url);
  const own = typeof given.face === 'number' ? faces.byId.get(given.face)?.vector : given.face;
  if (!own) return [];
  const length = Math.sqrt(own.reduce((sum, value) => sum + value * value, 0)) || 1;
  const scores = faces.table.scores(own);
  const { wanted, least } = given;
  const likenessAt = (place: number) => (scores[place] ?? 0) / length / (faces.byPlace[place]?.length ?? 1);
  const fits = (place: number) => {
    const face = faces.byPlace[place];
    if (!face || likenessAt(place) < least || face.state === 'none' || face.state === 'removed') return false;
    if (wanted.named !== 'all' && (face.state === 'named') !== (wanted.named === 'named')) return false;
    return (
      !(wanted.smiling && face.smile < SMILING) &&
      !(wanted.eyesOpen && face.eyesOpen < EYES_OPEN) &&
      !(wanted.sharp && face.sharpness < SHARP) &&
      !(wanted.frontal && !face.frontal)
    );
  };
  return highest(faces.byPlace.length, likenessAt, given.limit, fits).map((place) => ({
    id: faces.byPlace[place]?.id ?? 0,
    likeness: likenessAt(place),
  }));
}

/** By which models, fit and calibration guesses are made: others make them anew. */
const GUESSED_BY = `${VECTORS_BY} ${JSON.stringify(CALIBRATION)}`;

/** Up to which change of faces guesses were kept, and by what they were made. */
export interface GuessedUntil {
  version: string;
  generation: string;
  by: string;
}

/** Brings guesses up to date, for a while; gives those that have changed, and up to where all are right when nothing is left to do. */
export async function refreshGuesses(given: {
  url: string;
  kept: GuessedUntil | null;
}): Promise<{ changed: ChangedGuess[]; until: GuessedUntil | null }> {
  await faces.follow(given.url);
  if (!guesses) {
    reading = true;
    try {
      guesses = await keptGuesses(given.url, given.kept);
    } finally {
      reading = false;
    }
  }
  const started = performance.now();
  const goOn = () => performance.now() - started < GUESSING_MS;
  for (const [id, { wasNamed }] of changedFaces) {
    if (!goOn()) break;
    changedFaces.delete(id);
    const face = faces.byId.get(id);
    if (face) guesses.doubt(touchedBy(face, wasNamed));
  }
  const known = allReferences();
  const changed = guesses.settle((id) => {
    const face = faces.byId.get(id);
    return face?.state === 'open' ? known.suggest([face]) : undefined;
  }, goOn);
  const ended = changedFaces.size === 0 && guesses.doubtful === 0;
  return { changed, until: ended ? { version: faces.version, generation: faces.generation, by: GUESSED_BY } : null };
}

/** Guesses are read anew when they are asked for next: not all that were given have been kept. */
export function forgetGuesses(_: { url: string }): Promise<void> {
  guesses = undefined;
  changedFaces.clear();
  return Promise.resolve();
}

/** Guesses as they are kept; what has changed since is in doubt, and all of them if they were made otherwise. */
async function keptGuesses(url: string, kept: GuessedUntil | null): Promise<Guesses> {
  const database = await faces.connected(url);
  const made = new Guesses(await listGuesses(database));
  if (kept && kept.by === GUESSED_BY && kept.generation === faces.generation) {
    for (const id of await changedSince(database, kept.version)) changedFaces.set(id, { wasNamed: true });
  } else {
    made.doubt(faces.byId.keys());
    made.doubt(made.guessed());
  }
  return made;
}

/** The faces whose guess may be another one since a face has changed: those of its photo and, if it is or was named, those like it. */
function touchedBy(face: KnownFace, wasNamed: boolean): number[] {
  const ids = (faces.byPhoto.get(face.photoId) ?? []).map(({ id }) => id);
  if (face.personId === null && !wasNamed) return ids;
  // It may have been, or become, the runner-up from whom others are told.
  const least = (leastAlike() / 2) * face.length;
  const scores = faces.table.scores(face.vector);
  faces.byPlace.forEach(({ id, state, length }, place) => {
    if (state === 'open' && (scores[place] ?? 0) >= least * length) ids.push(id);
  });
  return ids;
}
