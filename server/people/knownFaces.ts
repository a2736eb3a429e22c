// All faces with what they look like, in memory of the thread that compares them: read once, following what changes.

import { Client } from 'pg';
import type { GroupedFace } from '@stellin/core/people/grouping';
import { VECTOR_LENGTH } from '@stellin/core/people/likeness';
import { lifeOf, type Life } from '@stellin/core/people/lives';
import { VectorTable } from '@stellin/core/people/nearest';
import type { Unknown } from '@stellin/core/people/suggesting';
import { faceGeneration, facesSince, lifeDates, type FaceRow } from './faceStore';

export interface KnownFace extends GroupedFace, Unknown {
  place: number;
  state: string;
  personId: number | null;
  length: number;
  smile: number;
  eyesOpen: number;
  sharpness: number;
  frontal: boolean;
}

/** A face that looks to the side or up and down by less than this is frontal. */
const FRONTAL_DEGREES = 25;
const FACES_PER_READ = 20_000;

interface FacesListener {
  /** A face is new or has changed; with what it was. */
  noticed: (face: KnownFace, before: KnownFace | undefined) => void;
  /** Faces were deleted: all are read anew. */
  forgotten: () => void;
  /** Of somebody it has become known, or is no longer, when they lived. */
  livesChanged: () => void;
}

export class KnownFaces {
  table = new VectorTable();
  byId = new Map<number, KnownFace>();
  byPlace: KnownFace[] = [];
  byPhoto = new Map<number, KnownFace[]>();
  lives: ReadonlyMap<number, Life> = new Map();
  version = '0';
  generation = '';

  private livesSaid = '[]';
  private client: Client | undefined;
  private following: Promise<void> = Promise.resolve();

  constructor(private readonly listener: FacesListener) {}

  /** Brings what is known up to what is committed now, one after the other. */
  follow(url: string): Promise<void> {
    this.following = this.following.catch(() => undefined).then(() => this.followOnce(url));
    return this.following;
  }

  async connected(url: string): Promise<Client> {
    if (this.client) return this.client;
    const made = new Client({ connectionString: url, application_name: 'stellin faces' });
    made.on('error', () => (this.client = undefined));
    await made.connect();
    return (this.client = made);
  }

  private async followOnce(url: string): Promise<void> {
    const database = await this.connected(url);
    const generation = await faceGeneration(database);
    if (generation !== this.generation) {
      this.forget();
      this.generation = generation;
    }
    await this.readLives(database);
    for (;;) {
      const rows = await facesSince(database, this.version, FACES_PER_READ);
      if (rows.length === 0) return;
      // Groups are made in the order of ids, whatever changed first.
      for (const row of [...rows].sort((a, b) => a.id - b.id)) this.take(row);
      this.version = rows.at(-1)?.version ?? this.version;
    }
  }

  private async readLives(database: Client): Promise<void> {
    const rows = await lifeDates(database);
    const said = JSON.stringify(rows);
    if (said === this.livesSaid) return;
    this.livesSaid = said;
    this.lives = new Map(
      rows.flatMap(({ id, born, died }) => {
        const life = lifeOf(born, died);
        return life ? [[id, life] as const] : [];
      }),
    );
    this.listener.livesChanged();
  }

  private forget(): void {
    this.table = new VectorTable();
    this.byId = new Map();
    this.byPlace = [];
    this.byPhoto = new Map();
    this.version = '0';
    this.listener.forgotten();
  }

  private take(row: FaceRow): void {
    const before = this.byId.get(row.id);
    const place = before?.place ?? this.byPlace.length;
    const vector = new Int8Array(row.vector.buffer.slice(row.vector.byteOffset, row.vector.byteOffset + VECTOR_LENGTH));
    this.table.set(place, vector);
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
      taken:
        row.taken_from === null || row.taken_until === null
          ? undefined
          : { from: row.taken_from, until: row.taken_until },
    };
    this.byId.set(row.id, face);
    this.byPlace[place] = face;
    const others = (this.byPhoto.get(row.photo_id) ?? []).filter(({ id }) => id !== row.id);
    this.byPhoto.set(row.photo_id, [...others, face]);
    this.listener.noticed(face, before);
  }
}
