// Pictures of a view link for viewers of other houses: a manifest after the IIIF Presentation API 3.0, and pictures by the parts and sizes that
// the IIIF Image API 3.0 asks for at level 1 (https://iiif.io/api).

export interface Size {
  width: number;
  height: number;
}

export interface Region extends Size {
  left: number;
  top: number;
}

/** What is to be made of a picture: a region of it, how large that becomes, and turned by how many degrees. */
export interface PictureRequest {
  region: Region;
  size: Size;
  rotation: 0 | 90 | 180 | 270;
  /** In shades of grey. */
  grey: boolean;
}

const IMAGE_CONTEXT = 'http://iiif.io/api/image/3/context.json';
const PRESENTATION_CONTEXT = 'http://iiif.io/api/presentation/3/context.json';
export const MANIFEST_TYPE = `application/ld+json;profile="${PRESENTATION_CONTEXT}"`;
export const INFO_TYPE = `application/ld+json;profile="${IMAGE_CONTEXT}"`;

const NUMBERS = /^(pct:)?(\d+(?:\.\d+)?),(\d+(?:\.\d+)?),(\d+(?:\.\d+)?),(\d+(?:\.\d+)?)$/;
const SIZE = /^(!)?(?:(\d+)?,(\d+)?|pct:(\d+(?:\.\d+)?))$/;
const ROTATIONS = [0, 90, 180, 270] as const;
const QUALITIES: Readonly<Record<string, boolean>> = { default: false, color: false, gray: true };

/** The part of a picture that a text names, in whole pixels and within it; undefined where it names none (section 4.1). */
export function regionOf(text: string, { width, height }: Size): Region | undefined {
  if (text === 'full') return { left: 0, top: 0, width, height };
  if (text === 'square') {
    const side = Math.min(width, height);
    return { left: Math.floor((width - side) / 2), top: Math.floor((height - side) / 2), width: side, height: side };
  }
  const found = NUMBERS.exec(text);
  if (!found) return undefined;
  const [, percent, ...given] = found;
  const numbers = given.map(Number);
  if (percent === undefined && numbers.some((each) => !Number.isInteger(each))) return undefined;
  const [left = 0, top = 0, across = 0, down = 0] = numbers.map((each, at) =>
    percent === undefined ? each : Math.round((each * (at % 2 === 0 ? width : height)) / 100),
  );
  if (left >= width || top >= height || across < 1 || down < 1) return undefined;
  return { left, top, width: Math.min(across, width - left), height: Math.min(down, height - top) };
}

/** How large a region becomes by a text, never larger than it is; undefined where that is not to be had (section 4.2). */
export function sizeOf(text: string, region: Size): Size | undefined {
  if (text === 'max') return { width: region.width, height: region.height };
  const found = SIZE.exec(text);
  if (!found) return undefined;
  const [, within, across, down, percent] = found;
  const { width, height } = region;
  const scaled = (by: number) => ({ width: Math.round(width * by), height: Math.round(height * by) });
  const size =
    percent !== undefined
      ? scaled(Number(percent) / 100)
      : across !== undefined && down !== undefined
        ? within
          ? scaled(Math.min(Number(across) / width, Number(down) / height))
          : { width: Number(across), height: Number(down) }
        : within
          ? undefined
          : across !== undefined
            ? scaled(Number(across) / width)
            : down !== undefined
              ? scaled(Number(down) / height)
              : undefined;
  if (!size || size.width < 1 || size.height < 1 || size.width > width || size.height > height) return undefined;
  return size;
}

/** What the four last parts of an address ask for; undefined for what is not understood or not to be had. */
export function pictureRequest(
  parts: { region: string; size: string; rotation: string; file: string },
  picture: Size,
): PictureRequest | undefined {
  const region = regionOf(parts.region, picture);
  const size = region && sizeOf(parts.size, region);
  const rotation = ROTATIONS.find((each) => String(each) === parts.rotation);
  const [quality = '', format] = parts.file.split('.');
  const grey = Object.hasOwn(QUALITIES, quality) ? QUALITIES[quality] : undefined;
  if (!region || !size || rotation === undefined || grey === undefined || format !== 'jpg') return undefined;
  return { region, size, rotation, grey };
}

/** What is told of a picture (info.json). `id`: its address, without an end. */
export function imageInfo(id: string, { width, height }: Size) {
  return {
    '@context': IMAGE_CONTEXT,
    ...{ id, type: 'ImageService3', protocol: 'http://iiif.io/api/image', profile: 'level1' },
    ...{ width, height },
    extraFeatures: ['regionByPct', 'sizeByConfinedWh', 'sizeByPct', 'sizeByWh', 'rotationBy90s'],
    extraQualities: ['color', 'gray'],
  };
}

export interface ManifestPicture extends Size {
  /** The address of its picture service, without an end. */
  service: string;
  caption: string;
  lines: readonly { label: string; text: string }[];
}

const said = (text: string) => ({ none: [text] });

/** A link as a manifest. `id`: its address; `page`: where people see it. */
export function manifestOf(
  { id, page, title, words }: { id: string; page: string; title: string; words: string },
  pictures: readonly ManifestPicture[],
) {
  return {
    '@context': PRESENTATION_CONTEXT,
    id,
    type: 'Manifest',
    label: said(title),
    ...(words === '' ? {} : { summary: said(words) }),
    homepage: [{ id: page, type: 'Text', label: said(title), format: 'text/html' }],
    items: pictures.map(({ service, caption, lines, width, height }, at) => {
      const canvas = `${id}/canvas/${at + 1}`;
      return {
        ...{ id: canvas, type: 'Canvas', height, width, label: said(caption || String(at + 1)) },
        ...(lines.length === 0
          ? {}
          : { metadata: lines.map(({ label, text }) => ({ label: said(label), value: said(text) })) }),
        items: [
          {
            ...{ id: `${canvas}/page`, type: 'AnnotationPage' },
            items: [
              {
                ...{ id: `${canvas}/annotation`, type: 'Annotation', motivation: 'painting' },
                body: {
                  ...{ id: `${service}/full/max/0/default.jpg`, type: 'Image', format: 'image/jpeg' },
                  service: [{ id: service, type: 'ImageService3', profile: 'level1' }],
                },
                target: canvas,
              },
            ],
          },
        ],
      };
    }),
  };
}
