// A file's metadata for people and for other programs: the reconciled fields, and everything each block says.

import { exifListing } from './blocks/exif';
import { iimListing } from './blocks/iim';
import { languageOf, type XmpProperty, type XmpValue } from './blocks/xmp/tree';
import type { FileKind } from './containers';
import { FIELDS, fieldOf, type FieldValue, type FieldValues } from './fields';
import { knownPrefix } from './namespaces';
import { readXmp, type OpenFile } from './open';
import { metadataOf } from './read';
import { DEFAULT_LANGUAGE } from './values';

export type XmpListing = Record<string, FieldValue>;

export interface MetadataListing {
  kind: FileKind | null;
  width: number | null;
  height: number | null;
  fields: FieldValues;
  blocks: {
    exif?: Record<string, unknown>;
    /** By `record:dataset`. */
    iim?: Record<string, (string | number)[]>;
    /** By paths of `prefix:Name`. */
    xmp?: XmpListing;
    sidecar?: XmpListing;
  };
  /** What could not be read, and where blocks disagree. */
  issues: string[];
}

/** The listing of an open file and its sidecar. */
export function listingOf(file: OpenFile, sidecar?: Uint8Array): MetadataListing {
  const { kind, width, height, fields, issues, disagreements } = metadataOf(file, sidecar);
  const beside = sidecar && readXmp(sidecar);
  const blocks: MetadataListing['blocks'] = {};
  if (file.exif) blocks.exif = file.exif.structures.reduceRight((all, tiff) => ({ ...all, ...exifListing(tiff) }), {});
  if (file.iim) blocks.iim = iimListing(file.iim.block);
  if (file.xmp) blocks.xmp = xmpListing(file.xmp.packet.properties);
  if (beside && 'packet' in beside) blocks.sidecar = xmpListing(beside.packet.properties);
  return {
    kind: kind ?? null,
    width: width ?? null,
    height: height ?? null,
    fields: Object.fromEntries(FIELDS.flatMap(({ id }) => (fields[id] === undefined ? [] : [[id, fields[id]]]))),
    blocks,
    issues: [...issues, ...disagreements.map((id) => `the blocks disagree on ${fieldOf(id).label}`)],
  };
}

/**
 * Every property by its path: `dc:subject` a list, `dc:title` a text or texts by language, members of structures behind a
 * slash, structures in lists by their number (`Iptc4xmpExt:LocationShown[1]/Iptc4xmpExt:City`), qualifiers behind a `?`.
 */
function xmpListing(properties: readonly XmpProperty[]): XmpListing {
  const listing: XmpListing = {};
  for (const property of properties) {
    const path = pathOf(property);
    if (!(path in listing)) addValue(listing, path, property.value);
  }
  return listing;
}

function addValue(listing: XmpListing, path: string, value: XmpValue): void {
  for (const qualifier of value.qualifiers) {
    if (qualifier.name !== 'lang' || qualifier.prefix !== 'xml')
      addValue(listing, `${path}/?${pathOf(qualifier)}`, qualifier.value);
  }
  if (value.kind === 'text') listing[path] = value.text;
  else if (value.kind === 'struct')
    for (const member of value.members) addValue(listing, `${path}/${pathOf(member)}`, member.value);
  else if (value.form === 'Alt' && value.items.some(languageOf)) listing[path] = languagesOf(value.items);
  else if (value.items.every(({ kind, qualifiers }) => kind === 'text' && qualifiers.length === 0))
    listing[path] = value.items.flatMap((item) => (item.kind === 'text' ? [item.text] : []));
  else value.items.forEach((item, i) => addValue(listing, `${path}[${i + 1}]`, item));
}

function languagesOf(items: readonly XmpValue[]): FieldValue {
  const texts = items.flatMap((item) =>
    item.kind === 'text' ? [[languageOf(item) ?? DEFAULT_LANGUAGE, item.text] as const] : [],
  );
  const [first] = texts;
  return texts.length === 1 && first?.[0] === DEFAULT_LANGUAGE ? first[1] : Object.fromEntries(texts);
}

function pathOf({ namespace, prefix, name }: XmpProperty): string {
  return `${knownPrefix(namespace) ?? (prefix || namespace)}:${name}`;
}
