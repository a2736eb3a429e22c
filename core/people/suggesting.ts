// Suggesting who a face is: how like the named faces of each person it is, and how sure that makes one. Certainty is
// calibrated: of suggestions that are said to be right 90 times in 100, so many are (docs/people.md tells how that was measured).

import type { Calibration } from './fit';
import { CALIBRATION } from './fitted';
import { lengthOf } from './likeness';
import { livedIn, type Life } from './lives';
import { VectorTable } from './nearest';

/** A face that somebody has named. */
export interface Reference {
  personId: number;
  photoId: number;
  vector: Int8Array;
}

/** A face, or the faces of a group, that nobody has named. */
export interface Unknown {
  vector: Int8Array;
  photoId: number;
  /** Persons it is not. */
  refused: readonly number[];
  /** When the photo was taken, in seconds as of lives; nothing where that is not known. */
  taken?: { from: number; until: number } | undefined;
}

export interface Suggestion {
  personId: number;
  /** 0 to 1: so often suggestions like this one are right. */
  certainty: number;
}

/** Of a person who was seen often the faces most alike count. */
const MAX_ALIKE = 3;

/** Evidence for the likeliest person: how alike, and by how much more than the next one. */
export interface Evidence {
  alike: number;
  ahead: number;
  faces: number;
}

export function certaintyOf({ alike, ahead, faces }: Evidence, by: Calibration = CALIBRATION): number {
  const score = by.start + by.alike * alike + by.ahead * ahead + by.faces * Math.log(faces);
  return 1 / (1 + Math.exp(-score));
}

interface Named {
  /** Places of the faces in the table. */
  places: number[];
  photos: Set<number>;
}

/** Named faces by person, ready to compare with. */
export class References {
  private readonly byPerson = new Map<number, Named>();
  private readonly table = new VectorTable();
  private readonly lengths: number[] = [];

  constructor(
    references: Iterable<Reference> = [],
    /** Of persons of whom it is known. */
    private readonly lives: ReadonlyMap<number, Life> = new Map(),
  ) {
    for (const reference of references) this.add(reference);
  }

  add({ personId, photoId, vector }: Reference): void {
    const own = this.byPerson.get(personId) ?? { places: [], photos: new Set() };
    this.byPerson.set(personId, own);
    own.places.push(this.lengths.length);
    own.photos.add(photoId);
    this.table.set(this.lengths.length, vector);
    this.lengths.push(lengthOf(vector) || 1);
  }

  /** How alike some faces are to each person: the mean over the faces, of each the mean of the most alike named ones. */
  alikeTo(faces: readonly Unknown[]): { personId: number; alike: number }[] {
    const refused = new Set(faces.flatMap(({ refused: persons }) => persons));
    // Who is named in the same photo is somebody else in it, and nobody is in a photo of a time in which they did not live.
    const possible = [...this.byPerson].filter(
      ([personId, { photos }]) =>
        !refused.has(personId) &&
        !faces.some(({ photoId, taken }) => photos.has(photoId) || !this.lived(personId, taken)),
    );
    const sums = possible.map(() => 0);
    for (const { vector } of faces) {
      const scores = this.table.scores(vector);
      const length = lengthOf(vector) || 1;
      const likenessAt = (place: number) => (scores[place] ?? 0) / length / (this.lengths[place] ?? 1);
      possible.forEach(([, { places }], i) => (sums[i] = (sums[i] ?? 0) + mostAlike(places.map(likenessAt))));
    }
    return possible
      .map(([personId], i) => ({ personId, alike: (sums[i] ?? 0) / faces.length }))
      .sort((a, b) => b.alike - a.alike || a.personId - b.personId);
  }

  private lived(personId: number, taken: Unknown['taken']): boolean {
    const life = this.lives.get(personId);
    return !life || !taken || livedIn(life, taken);
  }

  evidenceFor(faces: readonly Unknown[]): (Evidence & { personId: number }) | undefined {
    const [first, second] = this.alikeTo(faces);
    if (!first) return undefined;
    const ahead = first.alike - Math.max(0, second?.alike ?? 0);
    return { personId: first.personId, alike: first.alike, ahead, faces: faces.length };
  }

  /** Who some faces of one person most likely show; undefined where it is nobody known, as far as one can tell. */
  suggest(faces: readonly Unknown[]): Suggestion | undefined {
    const evidence = this.evidenceFor(faces);
    if (!evidence) return undefined;
    const certainty = certaintyOf(evidence);
    return certainty < MIN_CERTAINTY ? undefined : { personId: evidence.personId, certainty };
  }
}

/** Below this a question would waste more time than it saves. */
const MIN_CERTAINTY = 0.3;

function mostAlike(likenesses: readonly number[]): number {
  const best: number[] = [];
  for (const value of likenesses) {
    if (best.length < MAX_ALIKE) best.push(value);
    else if (value > Math.min(...best)) best[best.indexOf(Math.min(...best))] = value;
  }
  return best.reduce((sum, value) => sum + value, 0) / (best.length || 1);
}

/** A face that is less alike than this to every named face of a person is not suggested for them, whoever else there is. */
export function leastAlike({ start, alike, ahead }: Calibration = CALIBRATION): number {
  const wanted = Math.log(MIN_CERTAINTY / (1 - MIN_CERTAINTY)) - start;
  // At most it is as far ahead as it is alike.
  return wanted / (alike + ahead);
}
