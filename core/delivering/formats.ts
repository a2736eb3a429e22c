// What copies of pictures are made as, each with what the rest of the program asks about it.

interface FormatFacts {
  label: string;
  /** Of the file’s name, with its dot; empty: that of the original. */
  extension: string;
  mediaType: string;
  /** It has a quality, so that a file can be made to fit a size. */
  lossy: boolean;
  /** The most bits a channel it can hold. */
  bits: 8 | 16;
  /** Whether it can be transparent. */
  alpha: boolean;
  /** Descriptions can be written into it; else they can only stand in a sidecar. */
  embeds: boolean;
  /** About how many bytes a pixel takes, of a photo at a quality (1 to 100) and 8 bits a channel. */
  bytesPerPixel: (quality: number) => number;
}

/** As lossy formats grow with their quality: little at first, steeply at the end. */
const growing = (at80: number) => (quality: number) => at80 * Math.exp((quality - 80) / 22);

export const COPY_FORMATS = {
  jpeg: {
    label: 'JPEG',
    extension: '.jpg',
    mediaType: 'image/jpeg',
    lossy: true,
    bits: 8,
    alpha: false,
    embeds: true,
    bytesPerPixel: growing(0.28),
  },
  tiff: {
    label: 'TIFF',
    extension: '.tif',
    mediaType: 'image/tiff',
    lossy: false,
    bits: 16,
    alpha: true,
    embeds: true,
    bytesPerPixel: () => 2.2,
  },
  png: {
    label: 'PNG',
    extension: '.png',
    mediaType: 'image/png',
    lossy: false,
    bits: 16,
    alpha: true,
    embeds: true,
    bytesPerPixel: () => 1.9,
  },
  webp: {
    label: 'WebP',
    extension: '.webp',
    mediaType: 'image/webp',
    lossy: true,
    bits: 8,
    alpha: true,
    embeds: true,
    bytesPerPixel: growing(0.17),
  },
  avif: {
    label: 'AVIF',
    extension: '.avif',
    mediaType: 'image/avif',
    lossy: true,
    bits: 8,
    alpha: true,
    embeds: false,
    bytesPerPixel: growing(0.13),
  },
  original: {
    label: 'The original, as it is',
    extension: '',
    mediaType: 'application/octet-stream',
    lossy: false,
    bits: 16,
    alpha: true,
    embeds: false,
    bytesPerPixel: () => 0,
  },
} as const satisfies Record<string, FormatFacts>;

export type CopyFormat = keyof typeof COPY_FORMATS;
export const COPY_FORMAT_IDS = Object.keys(COPY_FORMATS) as [CopyFormat, ...CopyFormat[]];

/** What is known of a format. */
export function formatFacts(format: CopyFormat): FormatFacts {
  return COPY_FORMATS[format];
}
