// Suggesting who a face is: how like the named faces of each person it is, and how sure that makes one. Certainty is
// calibrated: of suggestions that are said to be right 90 times in 100, so many are (docs/people.md tells how that was measured).

import { CALIBRATION } from './fitted';
import { likeness } from './likeness';

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
}

export interface Suggestion {
  personId: number;
  /** 0 to 1: so often suggestions like this one are right. */
  certainty: number;
}

/** Of a person who was seen often the faces most alike count. */
const MOST_ALIKE = 3;

/** Evidence for the likeliest person: how alike, and by how much more than the next one. */
export interface Evidence {
  alike: number;
  ahead: number;
  faces: number;
}

/** The calibration: a logistic function of the evidence (J. Platt, 1999), fitted on other persons than it was measured on. */
export interface Calibration {
  alike: number;
  ahead: number;
  faces: number;
  start: number;
}

export function certaintyOf({ alike, ahead, faces }: Evidence, by: Calibration = CALIBRATION): number {
  const score = by.start + by.alike * alike + by.ahead * ahead + by.faces * Math.log(faces);
  return 1 / (1 + Math.exp(-score));
}

/** Named faces by person, ready to compare with. */
export class References {
  private readonly byPerson = new Map<number, Reference[]>();

  constructor(references: Iterable<Reference> = []) {
    for (const reference of references) this.add(reference);
  }

  add(reference: Reference): void {
    const own = this.byPerson.get(reference.personId);
    if (own) own.push(reference);
    else this.byPerson.set(reference.personId, [reference]);
  }

  get persons(): number {
    return this.byPerson.size;
  }

  /** How alike some faces are to each person: the mean over the faces, of each the mean of the most alike named ones. */
  alikeTo(faces: readonly Unknown[]): { personId: number; alike: number }[] {
    const photos = new Set(faces.map(({ photoId }) => photoId));
    const refused = new Set(faces.flatMap(({ refused: persons }) => persons));
    const rated: { personId: number; alike: number }[] = [];
    for (const [personId, references] of this.byPerson) {
      // Who is named in the same photo is somebody else in it.
      if (refused.has(personId) || references.some(({ photoId }) => photos.has(photoId))) continue;
      const sum = faces.reduce((total, face) => total + mostAlike(face.vector, references), 0);
      rated.push({ personId, alike: sum / faces.length });
    }
    return rated.sort((a, b) => b.alike - a.alike || a.personId - b.personId);
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
    return certainty < LEAST_CERTAINTY ? undefined : { personId: evidence.personId, certainty };
  }
}

/** Below this a question would waste more time than it saves. */
const LEAST_CERTAINTY = 0.3;

function mostAlike(vector: Int8Array, references: readonly Reference[]): number {
  const best: number[] = [];
  for (const reference of references) {
    const value = likeness(vector, reference.vector);
    if (best.length < MOST_ALIKE) best.push(value);
    else if (value > Math.min(...best)) best[best.indexOf(Math.min(...best))] = value;
  }
  return best.reduce((sum, value) => sum + value, 0) / (best.length || 1);
}
