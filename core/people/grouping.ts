// Likeness groups: faces that nobody has named, gathered by how alike they are. A face joins the group to whose faces it is
// most alike on average (average linkage; R. Sokal and C. Michener, 1958), and groups that turn out to be alike become one.
// Faces come one after the other and are not gone through again, so new ones join what is there. The same faces in the
// same order give the same groups.

import { lengthOf, VECTOR_LENGTH } from './likeness';
import { VectorTable } from './nearest';

export const STRICTNESS = ['exact', 'close', 'wide'] as const;
export type Strictness = (typeof STRICTNESS)[number];

/** How alike the faces of a group are on average at least, measured on persons of whom nothing was learnt (docs/people.md). */
export const THRESHOLDS: Readonly<Record<Strictness, number>> = { exact: 0.52, close: 0.45, wide: 0.38 };

/** Faces that show less than this are not put together with others: they would be alike for the wrong reason. */
const MIN_QUALITY = 0.2;

export interface GroupedFace {
  id: number;
  /** No group holds two faces of one photo: they are two persons. */
  photoId: number;
  vector: Int8Array;
  quality: number;
}

interface Group {
  faces: Map<number, GroupedFace>;
  photos: Set<number>;
  /** The sum of the faces' vectors, each of length one. */
  sum: Float32Array;
}

export class LikenessGroups {
  private readonly groups: (Group | undefined)[] = [];
  private readonly free: number[] = [];
  private readonly placeOf = new Map<number, number>();
  /** Middles of the groups by place, to find those worth a closer look. */
  private readonly middles = new VectorTable();

  constructor(private readonly threshold: number) {}

  has(id: number): boolean {
    return this.placeOf.has(id);
  }

  add(face: GroupedFace): void {
    if (this.placeOf.has(face.id)) this.remove(face.id);
    const sum = unitOf(face.vector);
    const own: Group = { faces: new Map([[face.id, face]]), photos: new Set([face.photoId]), sum };
    let place = this.put(own);
    if (face.quality < MIN_QUALITY) return;
    for (let other = this.nearest(place); other !== undefined; other = this.nearest(place))
      place = this.merge(place, other);
  }

  /** Takes a face out, because somebody has said who it is or that it is nobody. */
  remove(id: number): void {
    const place = this.placeOf.get(id);
    const group = place === undefined ? undefined : this.groups[place];
    const face = group?.faces.get(id);
    if (place === undefined || !group || !face) return;
    this.placeOf.delete(id);
    group.faces.delete(id);
    group.photos.delete(face.photoId);
    if (group.faces.size === 0) return this.clear(place);
    addTo(group.sum, unitOf(face.vector), -1);
    this.middles.set(place, middleOf(group.sum));
  }

  /** The groups, the largest first; of equal ones that with the oldest face. The faces of each that show it best come first. */
  list(): { faces: GroupedFace[]; likeness: number[] }[] {
    const all = this.groups.flatMap((group) => (group ? [group] : []));
    const oldest = (group: Group) => Math.min(...group.faces.keys());
    return all
      .map((group) => ({ group, first: oldest(group) }))
      .sort((a, b) => b.group.faces.size - a.group.faces.size || a.first - b.first)
      .map(({ group }) => {
        const length = Math.sqrt(square(group.sum)) || 1;
        const rated = [...group.faces.values()].map((face) => ({
          face,
          likeness: along(group.sum, face.vector) / length,
        }));
        rated.sort((a, b) => b.likeness - a.likeness || a.face.id - b.face.id);
        return { faces: rated.map(({ face }) => face), likeness: rated.map(({ likeness }) => likeness) };
      });
  }

  private put(group: Group): number {
    const place = this.free.pop() ?? this.groups.length;
    this.groups[place] = group;
    for (const id of group.faces.keys()) this.placeOf.set(id, place);
    this.middles.set(place, middleOf(group.sum));
    return place;
  }

  private clear(place: number): void {
    this.groups[place] = undefined;
    this.free.push(place);
    this.middles.set(place, new Int8Array(VECTOR_LENGTH));
  }

  private merge(a: number, b: number): number {
    const [kept, gone] = [this.groups[a], this.groups[b]];
    if (!kept || !gone) return a;
    for (const [id, face] of gone.faces) {
      kept.faces.set(id, face);
      kept.photos.add(face.photoId);
      this.placeOf.set(id, a);
    }
    addTo(kept.sum, gone.sum, 1);
    this.clear(b);
    this.middles.set(a, middleOf(kept.sum));
    return a;
  }

  /** The group that is most like one, if it is like enough and they may be one. */
  private nearest(place: number): number | undefined {
    const group = this.groups[place];
    if (!group) return undefined;
    const scores = this.middles.scores(this.middles.at(place).slice());
    const own = this.lengthAt(place);
    let best: number | undefined;
    let most = this.threshold;
    for (let other = 0; other < this.groups.length; other++) {
      const candidate = this.groups[other];
      if (!candidate || other === place) continue;
      // Middles are rounded: what is near enough by them is worked out exactly.
      const rough = ((scores[other] ?? 0) / MIDDLE ** 2) * own * this.lengthAt(other);
      if (rough < most - 0.02 || isPoor(candidate)) continue;
      const likeness = product(group.sum, candidate.sum) / (group.faces.size * candidate.faces.size);
      if (likeness < most || shareAny(group.photos, candidate.photos)) continue;
      most = likeness;
      best = other;
    }
    return best;
  }

  /** How long the mean of a group's vectors is: the more alike they are, the nearer to one. */
  private lengthAt(place: number): number {
    const group = this.groups[place];
    return group ? Math.sqrt(square(group.sum)) / group.faces.size : 0;
  }
}

function isPoor({ faces }: Group): boolean {
  if (faces.size > 1) return false;
  const [face] = faces.values();
  return face !== undefined && face.quality < MIN_QUALITY;
}

/** The length of middles as 8-bit numbers. */
const MIDDLE = 320;

function middleOf(sum: Float32Array): Int8Array {
  const length = Math.sqrt(square(sum)) || 1;
  return Int8Array.from(sum, (value) => Math.max(-127, Math.min(127, Math.round((value / length) * MIDDLE))));
}

function unitOf(vector: Int8Array): Float32Array {
  const length = lengthOf(vector) || 1;
  return Float32Array.from(vector, (value) => value / length);
}

function addTo(sum: Float32Array, other: Float32Array, times: number): void {
  for (let i = 0; i < sum.length; i++) sum[i] = (sum[i] ?? 0) + times * (other[i] ?? 0);
}

function square(values: Float32Array): number {
  return product(values, values);
}

function product(a: Float32Array, b: Float32Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += (a[i] ?? 0) * (b[i] ?? 0);
  return sum;
}

function along(sum: Float32Array, vector: Int8Array): number {
  let product = 0;
  for (let i = 0; i < sum.length; i++) product += (sum[i] ?? 0) * (vector[i] ?? 0);
  return product / (lengthOf(vector) || 1);
}

function shareAny(a: ReadonlySet<number>, b: ReadonlySet<number>): boolean {
  const [few, many] = a.size < b.size ? [a, b] : [b, a];
  for (const one of few) if (many.has(one)) return true;
  return false;
}
