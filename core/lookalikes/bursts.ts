// Bursts: pictures that a camera took one right after the other of one thing.

import { alike } from './look';

export interface BurstPhoto {
  id: number;
  camera: string;
  /** Milliseconds since some moment; null where the second is not known. */
  takenAt: number | null;
  look: Int8Array | null;
  /** The higher the sharper; null where it was not measured. */
  sharpness: number | null;
}

/** From one picture of a burst to the next, at most. */
const APART_MS = 3000;
/** How alike one picture of a burst looks to the one before. */
const ALIKE = 0.9;

/** The bursts among some photos, in the order of capture, the sharpest of each first. Photos that stand alone are in none. */
export function burstsOf(photos: readonly BurstPhoto[]): number[][] {
  const timed = photos.filter((photo) => photo.takenAt !== null && photo.look !== null);
  timed.sort((a, b) => a.camera.localeCompare(b.camera) || (a.takenAt ?? 0) - (b.takenAt ?? 0) || a.id - b.id);
  const bursts: BurstPhoto[][] = [];
  for (const photo of timed) {
    const burst = bursts.at(-1);
    const before = burst?.at(-1);
    if (burst && before && belongs(photo, before)) burst.push(photo);
    else bursts.push([photo]);
  }
  return bursts
    .filter(({ length }) => length > 1)
    .sort(([a], [b]) => (a?.takenAt ?? 0) - (b?.takenAt ?? 0))
    .map((burst) =>
      [...burst].sort((a, b) => (b.sharpness ?? 0) - (a.sharpness ?? 0) || a.id - b.id).map(({ id }) => id),
    );
}

function belongs(photo: BurstPhoto, before: BurstPhoto): boolean {
  if (photo.camera !== before.camera || photo.takenAt === null || before.takenAt === null) return false;
  if (photo.takenAt - before.takenAt > APART_MS || !photo.look || !before.look) return false;
  return alike(photo.look, before.look) >= ALIKE;
}
