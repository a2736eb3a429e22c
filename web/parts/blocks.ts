/** The blocks of a file that carry metadata, as they are named. */
export const BLOCKS = [
  ['exif', 'EXIF'],
  ['iim', 'IIM'],
  ['xmp', 'XMP'],
  ['sidecar', 'Sidecar'],
  ['tags', 'Tags'],
] as const;
