// A photo as descriptions are given it.

import type { FieldValues } from '../metadata/fields';

/** A photo as descriptions see it. */
export interface DescribedPhoto {
  id: number;
  /** Of its file, with the extension. */
  name: string;
  /** The folder's path on the drive. */
  folder: string;
  drive: string;
  camera: string;
  /** As it is seen now (core/metadata/orientation); null for what can’t be turned. */
  orientation: number | null;
  /** Local time of capture as `YYYY-MM-DDTHH:MM:SS`; null when it is not known. */
  takenAt: string | null;
  /** What the camera's clock said, with fractions and zone; null when it said nothing. */
  clock: string | null;
  fields: FieldValues;
  /** Its place in the order of capture among the photos meant, from 1. */
  number: number;
  /** `YYYY-MM-DD` */
  today: string;
  /** Who describes. */
  user: string;
}
