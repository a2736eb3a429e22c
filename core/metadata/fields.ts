// The field table: every field that stands in the blocks of a file, with its place in each. Reading, writing, search
// criteria and forms are driven by it; adding a field means adding an entry.
// Sources: IPTC Photo Metadata Standard 2023.1, IPTC IIM 4.2, EXIF 3.0 (tags of IFD0), MWG 2.0 section 5.

export interface XmpName {
  namespace: string;
  /** The prefix written when the packet declares none for the namespace. */
  prefix: string;
  name: string;
}

/** `langAlt` reads and writes its x-default item; `bag` and `seq` are lists of text. */
export type FieldType = 'text' | 'langAlt' | 'bag' | 'seq' | 'date' | 'number';

export interface Field {
  /** Stable name in our data and JSON output. */
  id: FieldId;
  /** The name a person reads: that of the IPTC standard. */
  label: string;
  type: FieldType;
  xmp: XmpName;
  /** IIM dataset of record 2 and its limit in bytes. */
  iim?: { dataset: number; maxBytes: number };
  /** EXIF tag of IFD0. */
  exif?: number;
}

export type FieldId =
  | 'title'
  | 'headline'
  | 'description'
  | 'descriptionWriter'
  | 'keywords'
  | 'creator'
  | 'creatorJobTitle'
  | 'creditLine'
  | 'source'
  | 'copyrightNotice'
  | 'instructions'
  | 'jobId'
  | 'dateCreated'
  | 'sublocation'
  | 'city'
  | 'provinceState'
  | 'country'
  | 'countryCode'
  | 'personInImage'
  | 'rating'
  | 'mark';

export type FieldValue = string | string[] | number;
/** The values of a file or photo; a field that is absent is missing. */
export type FieldValues = Partial<Record<FieldId, FieldValue>>;

export const NAMESPACES = {
  dc: 'http://purl.org/dc/elements/1.1/',
  photoshop: 'http://ns.adobe.com/photoshop/1.0/',
  xmp: 'http://ns.adobe.com/xap/1.0/',
  Iptc4xmpCore: 'http://iptc.org/std/Iptc4xmpCore/1.0/xmlns/',
  Iptc4xmpExt: 'http://iptc.org/std/Iptc4xmpExt/2008-02-29/',
  rdf: 'http://www.w3.org/1999/02/22-rdf-syntax-ns#',
  x: 'adobe:ns:meta/',
} as const;

function xmp(prefix: Exclude<keyof typeof NAMESPACES, 'rdf' | 'x'>, name: string): XmpName {
  return { namespace: NAMESPACES[prefix], prefix, name };
}

export const FIELDS: readonly Field[] = [
  { id: 'title', label: 'Title', type: 'langAlt', xmp: xmp('dc', 'title'), iim: { dataset: 5, maxBytes: 64 } },
  {
    id: 'headline',
    label: 'Headline',
    type: 'text',
    xmp: xmp('photoshop', 'Headline'),
    iim: { dataset: 105, maxBytes: 256 },
  },
  {
    id: 'description',
    label: 'Description',
    type: 'langAlt',
    xmp: xmp('dc', 'description'),
    iim: { dataset: 120, maxBytes: 2000 },
    exif: 270,
  },
  {
    id: 'descriptionWriter',
    label: 'Description writer',
    type: 'text',
    xmp: xmp('photoshop', 'CaptionWriter'),
    iim: { dataset: 122, maxBytes: 32 },
  },
  { id: 'keywords', label: 'Keywords', type: 'bag', xmp: xmp('dc', 'subject'), iim: { dataset: 25, maxBytes: 64 } },
  {
    id: 'creator',
    label: 'Creator',
    type: 'seq',
    xmp: xmp('dc', 'creator'),
    iim: { dataset: 80, maxBytes: 32 },
    exif: 315,
  },
  {
    id: 'creatorJobTitle',
    label: 'Creator’s job title',
    type: 'text',
    xmp: xmp('photoshop', 'AuthorsPosition'),
    iim: { dataset: 85, maxBytes: 32 },
  },
  {
    id: 'creditLine',
    label: 'Credit line',
    type: 'text',
    xmp: xmp('photoshop', 'Credit'),
    iim: { dataset: 110, maxBytes: 32 },
  },
  { id: 'source', label: 'Source', type: 'text', xmp: xmp('photoshop', 'Source'), iim: { dataset: 115, maxBytes: 32 } },
  {
    id: 'copyrightNotice',
    label: 'Copyright notice',
    type: 'langAlt',
    xmp: xmp('dc', 'rights'),
    iim: { dataset: 116, maxBytes: 128 },
    exif: 33432,
  },
  {
    id: 'instructions',
    label: 'Instructions',
    type: 'text',
    xmp: xmp('photoshop', 'Instructions'),
    iim: { dataset: 40, maxBytes: 256 },
  },
  {
    id: 'jobId',
    label: 'Job id',
    type: 'text',
    xmp: xmp('photoshop', 'TransmissionReference'),
    iim: { dataset: 103, maxBytes: 32 },
  },
  { id: 'dateCreated', label: 'Date created', type: 'date', xmp: xmp('photoshop', 'DateCreated') },
  {
    id: 'sublocation',
    label: 'Sublocation',
    type: 'text',
    xmp: xmp('Iptc4xmpCore', 'Location'),
    iim: { dataset: 92, maxBytes: 32 },
  },
  { id: 'city', label: 'City', type: 'text', xmp: xmp('photoshop', 'City'), iim: { dataset: 90, maxBytes: 32 } },
  {
    id: 'provinceState',
    label: 'Province or state',
    type: 'text',
    xmp: xmp('photoshop', 'State'),
    iim: { dataset: 95, maxBytes: 32 },
  },
  {
    id: 'country',
    label: 'Country',
    type: 'text',
    xmp: xmp('photoshop', 'Country'),
    iim: { dataset: 101, maxBytes: 64 },
  },
  {
    id: 'countryCode',
    label: 'Country code',
    type: 'text',
    xmp: xmp('Iptc4xmpCore', 'CountryCode'),
    iim: { dataset: 100, maxBytes: 3 },
  },
  { id: 'personInImage', label: 'Person shown', type: 'bag', xmp: xmp('Iptc4xmpExt', 'PersonInImage') },
  { id: 'rating', label: 'Rating', type: 'number', xmp: xmp('xmp', 'Rating') },
  { id: 'mark', label: 'Mark', type: 'text', xmp: xmp('xmp', 'Label') },
];

const byId = new Map(FIELDS.map((field) => [field.id, field]));

/** The table's entry of a field. */
export function fieldOf(id: FieldId): Field {
  const field = byId.get(id);
  if (!field) throw new Error(`No field named ${id}`);
  return field;
}

/** A field's value as a list of texts: one for single values, none when missing. */
export function textsOf(value: FieldValue | undefined): string[] {
  if (value === undefined) return [];
  return Array.isArray(value) ? value : [String(value)];
}

/** Whether two values say the same. */
export function sameValue(a: FieldValue | undefined, b: FieldValue | undefined): boolean {
  const [left, right] = [textsOf(a), textsOf(b)];
  return left.length === right.length && left.every((text, index) => text === right[index]);
}
