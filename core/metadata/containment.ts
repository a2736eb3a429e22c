// Whether everything that one file's metadata says stands in another file as well: what has to be known before the first one
// may be deleted.

import { bytesEqual } from './bytes';
import { EXIF_TAGS } from './blocks/exifTags';
import { iimListing } from './blocks/iim';
import { dataOf, TAG, type Ifd, type TiffStructure } from './blocks/tiff';
import type { XmpProperty, XmpValue } from './blocks/xmp/tree';
import { readXmp, type OpenFile } from './open';

export interface Described {
  file: OpenFile;
  /** The bytes of its sidecar. */
  sidecar?: Uint8Array;
}

/** Entries that say where something stands in the file, or hold a block that is compared by itself. */
const PLACES: ReadonlySet<number> = new Set([
  TAG.stripOffsets,
  TAG.tileOffsets,
  TAG.subIfds,
  TAG.jpegOffset,
  TAG.jpegLength,
  TAG.xmp,
  TAG.iim,
  TAG.resources,
  TAG.exifIfd,
  TAG.gpsIfd,
  TAG.interopIfd,
]);
/** Of IIM: the character set, the version of the record. They say how a block is written. */
const IIM_FORM: ReadonlySet<string> = new Set(['1:90', '1:00', '2:00']);
/** When the metadata was written last (ISO 16684-1, 8.4). */
const WRITTEN_AT = 'http://ns.adobe.com/xap/1.0/ MetadataDate';

/**
 * The properties of one file and its sidecar that another file and its sidecar lack or have otherwise, by names that a person
 * understands; empty when all of them stand there. A block that can't be read counts as lacking.
 */
export function missingProperties(source: Described, other: Described): string[] {
  return [
    ...missingXmp(source, other),
    ...missingIim(source.file, other.file),
    ...missingExif(source.file, other.file),
  ];
}

function missingXmp(source: Described, other: Described): string[] {
  const [said, there] = [xmpOf(source), xmpOf(other)];
  if (said.unreadable) return ['XMP, which can’t be read'];
  const known = new Set(there.properties.map(keyOf));
  return said.properties
    .filter((property) => `${property.namespace} ${property.name}` !== WRITTEN_AT && !known.has(keyOf(property)))
    .map(({ prefix, name }) => `${prefix}:${name}`);
}

/** The properties of a file's packet and of its sidecar. */
function xmpOf({ file, sidecar }: Described): { properties: XmpProperty[]; unreadable: boolean } {
  const beside = sidecar && readXmp(sidecar);
  return {
    properties: [
      ...(file.xmp?.packet.properties ?? []),
      ...(beside && 'packet' in beside ? beside.packet.properties : []),
    ],
    unreadable: file.xmpProblem !== undefined || (beside !== undefined && 'problem' in beside),
  };
}

/** A text that is the same for properties that say the same, whatever prefixes they are written with. */
function keyOf({ namespace, name, value }: XmpProperty): string {
  return JSON.stringify([namespace, name, plain(value)]);
}

function plain(value: XmpValue): unknown {
  const qualifiers = value.qualifiers.map(keyOf).sort();
  if (value.kind === 'text') return [value.text, qualifiers];
  if (value.kind === 'array') return [value.form, value.items.map(plain), qualifiers];
  return [value.members.map(keyOf).sort(), qualifiers];
}

function missingIim({ iim }: OpenFile, other: OpenFile): string[] {
  if (!iim) return [];
  const there = other.iim ? iimListing(other.iim.block) : {};
  return Object.entries(iimListing(iim.block))
    .filter(([set, values]) => !IIM_FORM.has(set) && JSON.stringify(there[set]) !== JSON.stringify(values))
    .map(([set]) => `IIM ${set}`);
}

function missingExif({ exif }: OpenFile, other: OpenFile): string[] {
  return (exif?.structures ?? []).flatMap((tiff, i) => {
    const there = other.exif?.structures[i];
    return directoriesOf(tiff).flatMap(([place, ifd]) => {
      const same = there && directoriesOf(there).find(([name]) => name === place)?.[1];
      return ifd.list
        .filter((entry) => !PLACES.has(entry.tag) && !isSameEntry(tiff, ifd, there, same, entry.tag))
        .map(({ tag }) => `EXIF ${EXIF_TAGS.main[tag] ?? EXIF_TAGS.exif[tag] ?? `0x${tag.toString(16)}`}`);
    });
  });
}

function directoriesOf(tiff: TiffStructure): [place: string, ifd: Ifd][] {
  const named: [string, Ifd | undefined][] = [
    ...tiff.pages.map((ifd, i): [string, Ifd] => [`page ${i}`, ifd]),
    ['exif', tiff.exif],
    ['gps', tiff.gps],
    ['interop', tiff.interop],
    ...tiff.subIfds.map((ifd, i): [string, Ifd] => [`sub ${i}`, ifd]),
  ];
  return named.filter((each): each is [string, Ifd] => each[1] !== undefined);
}

/** Values of the same bytes in the same byte order; other orders are not looked into, so they count as different. */
function isSameEntry(
  tiff: TiffStructure,
  ifd: Ifd,
  other: TiffStructure | undefined,
  otherIfd: Ifd | undefined,
  tag: number,
): boolean {
  const [entry, there] = [ifd.entries.get(tag), otherIfd?.entries.get(tag)];
  if (!other || !entry || !there || entry.type !== there.type || tiff.littleEndian !== other.littleEndian) return false;
  const [data, otherData] = [dataOf(tiff, entry), dataOf(other, there)];
  return data !== undefined && otherData !== undefined && bytesEqual(data, otherData);
}
