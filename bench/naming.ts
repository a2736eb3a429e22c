// How much work it is to name everybody in the demo archive: keys a face, with names of files settled first, then groups, then what
// is sure on the pages of persons, then the rest one by one; against typing a name for each face.

import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { matchBoxes } from '@stellin/core/people/boxes';
import { LikenessGroups, THRESHOLDS } from '@stellin/core/people/grouping';
import { vectorOf, type Fit } from '@stellin/core/people/likeness';
import { regionBoxes } from '@stellin/core/people/regions';
import { certaintyOf, References } from '@stellin/core/people/suggesting';
import type { Calibration } from '@stellin/core/people/fit';
import { readMetadata } from '@stellin/core/metadata/read';
import { textsOf } from '@stellin/core/metadata/values';
import { makeArchive, type Manifest } from '@stellin/demo/archive/make';
import { PEOPLE } from '@stellin/demo/archive/plan';
import { places } from '@stellin/server/config';
import { shelfName } from '@stellin/server/drives/bay';
import { withSource } from '@stellin/server/files/source';
import type { Looker } from '@stellin/server/people/looking';
import { atMost, type Part } from './report';

/** A face of the archive that was found. */
interface ArchiveFace {
  /** Who it shows in truth; undefined where it is no face. */
  person: string | undefined;
  photoId: number;
  quality: number;
  vector: Int8Array;
  /** Whether a region of the file names it. */
  named: boolean;
}

interface Archive {
  faces: ArchiveFace[];
  /** Faces that are in the pictures, found or not. */
  painted: number;
  /** Persons whom files name. */
  known: Set<string>;
}

/** Keys: a known name is found by four letters and Enter, a new one is typed. */
const FOUND_KEYS = 5;
const TYPED_KEYS = 13;
/** Groups of fewer faces wait until the persons are known. */
const LARGE_GROUP_FACES = 3;
const SURE = 0.95;
const MIN_ASKED = 0.3;
const MAX_ASKED = 12;

export async function namingEffort(looker: Looker, fit: Fit, calibration: Calibration): Promise<Part> {
  const home = await mkdtemp(join(tmpdir(), 'stellin-bench-'));
  try {
    const manifest = await makeArchive(home, 1, { progress: () => undefined, isStopped: () => false });
    return effortOf(await lookAtArchive(home, manifest, looker, fit), calibration);
  } finally {
    await rm(home, { recursive: true, force: true });
  }
}

async function lookAtArchive(home: string, { photos }: Manifest, looker: Looker, fit: Fit): Promise<Archive> {
  const known = new Set<string>();
  const idOf = new Map(Object.entries(PEOPLE).map(([id, name]) => [name, id]));
  const faces = await Promise.all(
    photos.map(async (photo, photoId) => {
      const path = join(places.shelf(home), shelfName(photo.drive), photo.path);
      const { kind, fields, facts, width, height } = withSource(path, readMetadata);
      if (!kind) return [];
      const looked = await looker.look({ path, kind });
      if (!looked.ok) return [];
      const boxes = looked.faces.map(({ box }) => box);
      const truth = new Map(
        matchBoxes(
          boxes,
          photo.faces.map(({ x, y, w, h }) => ({ left: x, top: y, width: w, height: h })),
        ),
      );
      const orientation = facts.orientation ?? 1;
      const [seenWidth, seenHeight] = orientation > 4 ? [height, width] : [width, height];
      const regions = regionBoxes(fields.regions, {
        orientation,
        width: seenWidth ?? null,
        height: seenHeight ?? null,
      });
      const named = new Map(matchBoxes(boxes, regions));
      for (const name of [...textsOf(fields.personInImage), ...regions.map((region) => region.name)]) {
        const id = idOf.get(name);
        if (id) known.add(id);
      }
      return looked.faces.map(({ description, quality }, i): ArchiveFace => ({
        person: photo.faces[truth.get(i) ?? -1]?.person,
        photoId,
        quality,
        vector: vectorOf(description, fit),
        named: named.has(i),
      }));
    }),
  );
  return { faces: faces.flat(), painted: photos.reduce((sum, photo) => sum + photo.faces.length, 0), known };
}

function effortOf({ faces, painted, known }: Archive, calibration: Calibration): Part {
  const persons = Object.keys(PEOPLE);
  const references = new References();
  const named = new Set(known);
  const left = new Set<number>();
  const counts = { settling: known.size, groups: 0, sure: 0, single: 0, none: 0 };
  let [typed, wrong] = [0, 0];

  const take = (id: number, { person, photoId, vector }: ArchiveFace) => {
    left.delete(id);
    if (person !== undefined) references.add({ personId: persons.indexOf(person), photoId, vector });
  };
  const evidenceOf = (ids: readonly number[]) =>
    references.evidenceFor(
      ids.slice(0, MAX_ASKED).flatMap((id) => {
        const face = faces[id];
        return face ? [{ vector: face.vector, photoId: face.photoId, refused: [] }] : [];
      }),
    );
  /** Says who a row of faces is; what does not belong is taken out first. Returns the keys. */
  const settle = (ids: readonly number[]): number => {
    const people = ids.map((id) => faces[id]?.person);
    const count = (person: string | undefined) => people.filter((each) => each === person).length;
    const [most] = [...new Set(people)].sort((a, b) => count(b) - count(a));
    const evidence = evidenceOf(ids);
    const asked = evidence && certaintyOf(evidence, calibration) >= MIN_ASKED ? persons[evidence.personId] : undefined;
    const strangers = ids.filter((_, i) => people[i] !== most);
    wrong += strangers.length;
    for (const id of ids) {
      const face = faces[id];
      if (face && !strangers.includes(id)) take(id, face);
    }
    // The way to one that does not belong, from the first or (End) the last, and X.
    const takenOut = strangers.reduce(
      (sum, id) => sum + Math.min(ids.indexOf(id), ids.length - ids.indexOf(id)) + 1,
      0,
    );
    if (most === undefined) return takenOut + 1;
    if (asked === most) return takenOut + 1;
    const isKnown = named.has(most);
    named.add(most);
    if (!isKnown) typed += TYPED_KEYS;
    return takenOut + 1 + (isKnown ? FOUND_KEYS : TYPED_KEYS);
  };

  for (const [id, face] of faces.entries())
    if (face.named) take(id, face);
    else left.add(id);
  const groups = new LikenessGroups(THRESHOLDS.close);
  for (const id of left) {
    const face = faces[id];
    if (face) groups.add({ id, photoId: face.photoId, quality: face.quality, vector: face.vector });
  }
  for (const { faces: own } of groups.list())
    if (own.length >= LARGE_GROUP_FACES) counts.groups += settle(own.map(({ id }) => id));
  for (const person of named) {
    const sure = [...left].filter((id) => {
      const evidence = evidenceOf([id]);
      return evidence && persons[evidence.personId] === person && certaintyOf(evidence, calibration) >= SURE;
    });
    if (sure.length === 0) continue;
    // All that is sure is named at once.
    counts.sure += 2;
    for (const id of sure) {
      const face = faces[id];
      if (face?.person === person) take(id, face);
      else wrong += 1;
    }
  }
  for (const id of [...left]) counts[faces[id]?.person === undefined ? 'none' : 'single'] += settle([id]);
  return reportOf({ faces, painted, known }, counts, { typed, wrong });
}

type Counts = Record<'settling' | 'groups' | 'sure' | 'single' | 'none', number>;

/** The table of what naming took, in keys. */
function reportOf(
  { faces, painted }: Archive,
  counts: Counts,
  { typed, wrong }: { typed: number; wrong: number },
): Part {
  const keys = Object.values(counts).reduce((sum, each) => sum + each, 0);
  const perFace = keys / faces.length;
  return {
    rows: [
      { id: 'demo archive: faces painted', value: painted, unit: 'faces' },
      { id: 'demo archive: faces found', value: faces.length, unit: 'faces' },
      {
        id: 'demo archive: of these no faces',
        value: faces.filter(({ person }) => person === undefined).length,
        unit: 'faces',
      },
      {
        id: 'demo archive: named by regions of files',
        value: faces.filter((face) => face.named).length,
        unit: 'faces',
      },
      { id: 'naming: keys a face', value: perFace, unit: 'keys' },
      { id: 'naming: of these for names of files', value: counts.settling / faces.length, unit: 'keys' },
      { id: 'naming: of these for groups', value: counts.groups / faces.length, unit: 'keys' },
      { id: 'naming: of these for what is sure', value: counts.sure / faces.length, unit: 'keys' },
      { id: 'naming: of these for single faces', value: counts.single / faces.length, unit: 'keys' },
      { id: 'naming: of these for what is no face', value: counts.none / faces.length, unit: 'keys' },
      { id: 'naming: of these for typing new names', value: typed / faces.length, unit: 'keys' },
      { id: 'naming: keys a face, one by one', value: FOUND_KEYS + 1, unit: 'keys' },
      { id: 'naming: faces in a wrong row', value: wrong, unit: 'faces' },
    ],
    ratios: [atMost('keys a face to name everybody in the demo archive', perFace, 0.15)],
  };
}
