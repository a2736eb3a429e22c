// The thread that holds how all pictures look: reads it once, follows what changes, finds the likest. It can be thrown away at any
// time; the truth is in the database. Photos that are gone may still be there: whoever asks looks at those that exist.

import { Client } from 'pg';
import { LOOK_LENGTH } from '@stellin/core/lookalikes/look';
import { highest, VectorTable } from '@stellin/core/people/nearest';
import { looksSince } from './lookStore';

const LOOKS_PER_READ = 20_000;
/** Of transactions that end in another order than they began in, those begun before are read again. */
const READ_AGAIN = 2000n;

const table = new VectorTable(LOOK_LENGTH);
const places = new Map<number, number>();
const idByPlace: number[] = [];
const lengths: number[] = [];
let version = 0n;
let client: Client | undefined;
let following: Promise<void> = Promise.resolve();

export interface Likest {
  url: string;
  /** A look, and how alike others are to it at least. */
  looks: readonly { look: Int8Array; least: number }[];
  most: number;
}

/** The photos that look most alike to any of some looks, the likest first. */
export async function likest({ url, looks, most }: Likest): Promise<number[]> {
  following = following.catch(() => undefined).then(() => follow(url));
  await following;
  const best = new Float32Array(table.size);
  for (const { look, least } of looks) {
    const length = lengthOf(look);
    if (length === 0) continue;
    const scores = table.scores(look);
    for (let place = 0; place < table.size; place++) {
      const likeness = (scores[place] ?? 0) / (length * (lengths[place] || Infinity));
      if (likeness >= least && likeness > (best[place] ?? 0)) best[place] = likeness;
    }
  }
  const found = highest(
    table.size,
    (place) => best[place] ?? 0,
    most,
    (place) => (best[place] ?? 0) > 0,
  );
  return found.map((place) => idByPlace[place] ?? 0);
}

async function follow(url: string): Promise<void> {
  const database = await connected(url);
  let from = version > READ_AGAIN ? version - READ_AGAIN : 0n;
  for (;;) {
    const rows = await looksSince(database, String(from), LOOKS_PER_READ);
    for (const { photoId, look, version: raised } of rows) {
      take(photoId, new Int8Array(look.buffer.slice(look.byteOffset, look.byteOffset + LOOK_LENGTH)));
      from = BigInt(raised);
    }
    if (from > version) version = from;
    if (rows.length < LOOKS_PER_READ) return;
  }
}

function take(photoId: number, look: Int8Array): void {
  const place = places.get(photoId) ?? idByPlace.length;
  places.set(photoId, place);
  idByPlace[place] = photoId;
  lengths[place] = lengthOf(look);
  table.set(place, look);
}

function lengthOf(look: Int8Array): number {
  return Math.hypot(...look);
}

async function connected(url: string): Promise<Client> {
  if (client) return client;
  const made = new Client({ connectionString: url, application_name: 'stellin looks' });
  made.on('error', () => (client = undefined));
  await made.connect();
  return (client = made);
}
