// What the files of the archive say of themselves, in the ways that archives find their files in.

import { createHash } from 'node:crypto';
import { asciiBytes, concatBytes, NO_BYTES, viewOf } from '@stellin/core/metadata/bytes';
import { parseIim, serializeIim, setIimFields, type Dataset } from '@stellin/core/metadata/blocks/iim';
import { serializeResources, setResource, RESOURCE, APP13_PREFIX } from '@stellin/core/metadata/blocks/resources';
import { setXmpField } from '@stellin/core/metadata/blocks/xmp/fields';
import { emptyXmp, serializeXmp } from '@stellin/core/metadata/blocks/xmp/packet';
import { EXIF_PREFIX, XMP_PREFIX } from '@stellin/core/metadata/containers/jpeg';
import { fieldOf, type FieldId, type FieldValues } from '@stellin/core/metadata/fields';
import { textsOf } from '@stellin/core/metadata/values';
import { exifBlock, type ExifContent } from './exifBlock';
import type { PaintedFace } from './paint';
import { PEOPLE, type Mess, type PlannedPhoto } from './plan';
import { randomOf } from './random';

interface Blocks {
  exif?: Uint8Array;
  xmp?: Uint8Array;
  /** The contents of APP13. */
  resources?: Uint8Array;
  sidecar?: Uint8Array;
}

/** The blocks of a photo as its way of being described has it. */
export function blocksOf(photo: PlannedPhoto, faces: readonly PaintedFace[]): Blocks {
  const content = exifContent(photo);
  const described = DESCRIPTIONS[photo.mess](photo, faces, content);
  return photo.camera || photo.mess === 'oldFields' ? { exif: exifBlock(content), ...described } : described;
}

/** A JPEG with the blocks put in after its first segment. */
export function withBlocks(jpeg: Uint8Array, { exif, xmp, resources }: Blocks): Uint8Array {
  const first = 4 + viewOf(jpeg).getUint16(4) - 2;
  const hasJfif = jpeg[3] === 0xe0;
  const at = hasJfif ? first + 2 : 2;
  return concatBytes([
    jpeg.subarray(0, at),
    ...(exif ? [segment(0xe1, asciiBytes(EXIF_PREFIX), exif)] : []),
    ...(xmp ? [segment(0xe1, asciiBytes(XMP_PREFIX), xmp)] : []),
    ...(resources ? [segment(0xed, asciiBytes(APP13_PREFIX), resources)] : []),
    jpeg.subarray(at),
  ]);
}

const DESCRIPTIONS: Record<Mess, (photo: PlannedPhoto, faces: readonly PaintedFace[], exif: ExifContent) => Blocks> = {
  nothing: (photo) => (photo.rating === undefined ? {} : { xmp: xmpOf({ rating: photo.rating }) }),
  iimLatin1: (photo) => ({ resources: resourcesOf(latin1Iim(fieldsOf(photo)), undefined) }),
  xmpOnly: (photo) => ({ xmp: xmpOf(fieldsOf(photo)) }),
  both: (photo) => both(fieldsOf(photo), fieldsOf(photo), 'equal'),
  disagree: (photo) =>
    both(
      {
        ...fieldsOf(photo),
        description: `${photo.caption} Checked against the festival list.`,
        city: 'Saltmarsh-on-Sea',
      },
      fieldsOf(photo),
      undefined,
    ),
  iimNewer: (photo) =>
    both(
      fieldsOf(photo),
      { ...fieldsOf(photo), description: `${photo.caption} (caption mended at the picture desk)` },
      'stale',
    ),
  oldFields: (photo, _faces, exif) => ({
    exif: exifBlock({ ...exif, description: photo.caption, artist: photo.creator || undefined }),
    resources: resourcesOf(latin1Iim({ headline: photo.caption.slice(0, 120), keywords: photo.keywords }), undefined),
  }),
  sidecar: (photo) => ({ sidecar: xmpOf(fieldsOf(photo)) }),
  regions: (photo, faces) => ({ xmp: regionsXmp(photo, faces) }),
};

function fieldsOf(photo: PlannedPhoto): FieldValues {
  const partial = photo.format !== 'jpeg' || !photo.camera ? { dateCreated: photo.takenAt } : {};
  return withoutEmpty({
    title: photo.title,
    description: photo.caption,
    keywords: photo.keywords,
    creator: photo.creator ? [photo.creator] : [],
    copyrightNotice: photo.creator ? `© ${photo.takenAt.slice(0, 4)} Saltmarsh Kite Museum` : '',
    city: photo.place,
    country: photo.place ? 'Norland' : '',
    personInImage: photo.mess === 'regions' ? photo.people.map((id) => PEOPLE[id] ?? id) : [],
    ...(photo.rating === undefined ? {} : { rating: photo.rating }),
    ...partial,
  });
}

function withoutEmpty(fields: FieldValues): FieldValues {
  return Object.fromEntries(
    Object.entries(fields).filter(([, value]) => value !== '' && !(Array.isArray(value) && value.length === 0)),
  );
}

function entriesOf(fields: FieldValues): [FieldId, FieldValues[FieldId]][] {
  return Object.entries(fields) as [FieldId, FieldValues[FieldId]][];
}

function xmpOf(fields: FieldValues): Uint8Array {
  const packet = emptyXmp();
  for (const [id, value] of entriesOf(fields)) setXmpField(packet, id, value);
  return serializeXmp(packet, 200);
}

function both(xmp: FieldValues, iim: FieldValues, digest: 'equal' | 'stale' | undefined): Blocks {
  const block = serializeIim(setIimFields(parseIim(NO_BYTES), entriesOf(iim)).block);
  return {
    xmp: xmpOf(xmp),
    resources: resourcesOf(block, digest && (digest === 'equal' ? md5(block) : md5(Uint8Array.of(1)))),
  };
}

/** IIM as programs wrote it before Unicode: no 1:90, one byte a character. */
function latin1Iim(fields: FieldValues): Uint8Array {
  const datasets: Dataset[] = [{ record: 2, dataset: 0, data: Uint8Array.of(0, 2) }];
  for (const [id, value] of entriesOf(fields)) {
    const { iim } = fieldOf(id);
    if (iim)
      for (const text of textsOf(value))
        datasets.push({
          record: 2,
          dataset: iim.dataset,
          data: asciiBytes(text.replaceAll('’', "'")).subarray(0, iim.maxBytes),
        });
  }
  return serializeIim({ datasets, rest: NO_BYTES });
}

function resourcesOf(iim: Uint8Array, digest: Uint8Array | undefined): Uint8Array {
  const resources = setResource([], RESOURCE.iim, iim);
  return serializeResources(digest ? setResource(resources, RESOURCE.iimDigest, digest) : resources);
}

/** MWG face regions as another program wrote them, with prefixes of its own choice; coordinates are those of the stored pixels. */
function regionsXmp(photo: PlannedPhoto, faces: readonly PaintedFace[]): Uint8Array {
  const base = new TextDecoder().decode(xmpOf(fieldsOf(photo)));
  const items = faces.map((face) => {
    const [x, y] = storedPoint(photo.orientation, face.x + face.w / 2, face.y + face.h / 2);
    const turned = photo.orientation > 4;
    const [w, h] = turned ? [face.h, face.w] : [face.w, face.h];
    return `<rdf:li><rdf:Description reg:Name="${PEOPLE[face.person]}" reg:Type="Face"><reg:Area sa:x="${x.toFixed(5)}" sa:y="${y.toFixed(5)}" sa:w="${w.toFixed(5)}" sa:h="${h.toFixed(5)}" sa:unit="normalized"/></rdf:Description></rdf:li>`;
  });
  const [w, h] = photo.orientation > 4 ? [photo.height, photo.width] : [photo.width, photo.height];
  const regions = `<rdf:Description xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#" rdf:about="" xmlns:reg="http://www.metadataworkinggroup.com/schemas/regions/" xmlns:sa="http://ns.adobe.com/xmp/sType/Area#" xmlns:dim="http://ns.adobe.com/xap/1.0/sType/Dimensions#"><reg:Regions rdf:parseType="Resource"><reg:AppliedToDimensions dim:w="${w}" dim:h="${h}" dim:unit="pixel"/><reg:RegionList><rdf:Bag>${items.join('')}</rdf:Bag></reg:RegionList></reg:Regions></rdf:Description>`;
  return new TextEncoder().encode(base.replace('</rdf:RDF>', `${regions}</rdf:RDF>`));
}

/** Where a point of the upright picture lies among the stored pixels (EXIF 3.0, tag 274). */
function storedPoint(orientation: number, x: number, y: number): [number, number] {
  if (orientation === 3) return [1 - x, 1 - y];
  if (orientation === 6) return [y, 1 - x];
  if (orientation === 8) return [1 - y, x];
  return [x, y];
}

function exifContent(photo: PlannedPhoto): ExifContent {
  const random = randomOf(`exif ${photo.scene}`);
  const { camera } = photo;
  if (!camera) return { orientation: photo.orientation };
  const clock = new Date(`${photo.takenAt}Z`);
  clock.setUTCSeconds(clock.getUTCSeconds() + camera.clockOff);
  return {
    make: camera.make,
    model: camera.model,
    lens: camera.lens,
    takenAt: clock.toISOString().slice(0, 19),
    orientation: photo.orientation,
    exposure: {
      seconds: [1, random.pick([30, 60, 125, 250, 500, 1000, 2000])],
      fNumber: [random.pick([20, 28, 40, 56, 80, 110]), 10],
      iso: random.pick([100, 100, 200, 400, 800, 1600]),
      focalLength: random.pick([24, 35, 50, 70, 135, 200]),
    },
    position: photo.position,
  };
}

function segment(marker: number, prefix: Uint8Array, payload: Uint8Array): Uint8Array {
  const head = Uint8Array.of(0xff, marker, 0, 0);
  viewOf(head).setUint16(2, prefix.length + payload.length + 2);
  return concatBytes([head, prefix, payload]);
}

function md5(bytes: Uint8Array): Uint8Array {
  return createHash('md5').update(bytes).digest();
}
