// The field table: every field that stands in the blocks of a file, with its place in each. Reading, writing, forms,
// search criteria, the command line and docs/metadata.md are driven by it; adding a field means adding an entry.
// Sources: IPTC Photo Metadata Standard 2023.1 (Core and Extension), IPTC IIM 4.2, EXIF 3.0, PLUS 2.0, MWG 2.0 section 5.

import { xmpName, type XmpName } from './namespaces';

/**
 * - `text`, `uri`: a string. `date`: ISO 8601 of any precision, from a year to fractions of a second, with or without zone.
 * - `number`, `boolean`: a number; true or false.
 * - `langAlt`: a string (its default language), or an object of texts by language tag when there are several.
 * - `struct`: an object by the names of its members.
 * - `position`: {latitude, longitude, altitude?, direction?} in decimal degrees and metres.
 */
export type ValueType = 'text' | 'uri' | 'date' | 'number' | 'boolean' | 'langAlt' | 'struct' | 'position';

/** A member of a structure; its id is its name in XMP. */
export interface Member {
  id: string;
  label: string;
  type: ValueType;
  list?: 'bag' | 'seq';
  xmp: XmpName;
  members?: () => readonly Member[];
}

/** How a value is put into IIM: as it is, as one digit, as a reference to a subject (IIM 4.2, 2:12), or as date and time. */
export type IimForm = 'text' | 'subject' | 'date';

export interface Field extends Omit<Member, 'id'> {
  /** Stable name in our data and JSON output. */
  id: FieldId;
  /** IIM dataset of record 2 and its limit in bytes. */
  iim?: { dataset: number; maxBytes: number; form: IimForm };
  /** Where EXIF has it: a text tag of IFD0, the capture time, the GPS directory, or the orientation. */
  exif?: { tag: number } | 'captureTime' | 'gps' | 'orientation';
}

export type FieldValue = string | number | boolean | FieldValue[] | { [member: string]: FieldValue };
export type FieldId = (typeof ROWS)[number]['id'];
/** The values of a file or photo; a field that is absent is missing. */
export type FieldValues = Partial<Record<FieldId, FieldValue>>;

interface Places {
  list?: 'bag' | 'seq';
  iim?: [dataset: number, maxBytes: number, form?: IimForm];
  exif?: Field['exif'];
  members?: () => readonly Member[];
}

function row<Id extends string>(id: Id, label: string, type: ValueType, name: string, places: Places = {}) {
  const { iim, ...others } = places;
  return {
    id,
    label,
    type,
    xmp: xmpName(name),
    ...others,
    ...(iim ? { iim: { dataset: iim[0], maxBytes: iim[1], form: iim[2] ?? 'text' } } : {}),
  };
}

function member(
  name: string,
  label: string,
  type: ValueType = 'text',
  more: Pick<Member, 'list' | 'members'> = {},
): Member {
  return { id: name.slice(name.indexOf(':') + 1), label, type, xmp: xmpName(name), ...more };
}

const bag = { list: 'bag' } as const;
const seq = { list: 'seq' } as const;

const CONTACT = [
  member('Iptc4xmpCore:CiAdrExtadr', 'Address'),
  member('Iptc4xmpCore:CiAdrCity', 'City'),
  member('Iptc4xmpCore:CiAdrRegion', 'State or province'),
  member('Iptc4xmpCore:CiAdrPcode', 'Postal code'),
  member('Iptc4xmpCore:CiAdrCtry', 'Country'),
  member('Iptc4xmpCore:CiTelWork', 'Phone'),
  member('Iptc4xmpCore:CiEmailWork', 'E-mail'),
  member('Iptc4xmpCore:CiUrlWork', 'Web address'),
];

const LOCATION = [
  member('Iptc4xmpExt:LocationName', 'Location name', 'langAlt'),
  member('Iptc4xmpExt:LocationId', 'Location id', 'uri', bag),
  member('Iptc4xmpExt:Sublocation', 'Sublocation'),
  member('Iptc4xmpExt:City', 'City'),
  member('Iptc4xmpExt:ProvinceState', 'Province or state'),
  member('Iptc4xmpExt:CountryName', 'Country'),
  member('Iptc4xmpExt:CountryCode', 'Country code'),
  member('Iptc4xmpExt:WorldRegion', 'World region'),
  member('exif:GPSLatitude', 'Latitude'),
  member('exif:GPSLongitude', 'Longitude'),
  member('exif:GPSAltitude', 'Altitude'),
];

const CV_TERM = [
  member('Iptc4xmpExt:CvId', 'Vocabulary id', 'uri'),
  member('Iptc4xmpExt:CvTermId', 'Term id', 'uri'),
  member('Iptc4xmpExt:CvTermName', 'Term name', 'langAlt'),
  member('Iptc4xmpExt:CvTermRefinedAbout', 'Refined about', 'uri'),
];

const PERSON = [
  member('Iptc4xmpExt:PersonName', 'Name', 'langAlt'),
  member('Iptc4xmpExt:PersonId', 'Person id', 'uri', bag),
  member('Iptc4xmpExt:PersonDescription', 'Description', 'langAlt'),
  member('Iptc4xmpExt:PersonCharacteristic', 'Characteristic', 'struct', { ...bag, members: () => CV_TERM }),
];

const ARTWORK = [
  member('Iptc4xmpExt:AOTitle', 'Title', 'langAlt'),
  member('Iptc4xmpExt:AOCreator', 'Creator', 'text', seq),
  member('Iptc4xmpExt:AOCreatorId', 'Creator id', 'uri', seq),
  member('Iptc4xmpExt:AODateCreated', 'Date created', 'date'),
  member('Iptc4xmpExt:AOCircaDateCreated', 'Circa date created'),
  member('Iptc4xmpExt:AOContentDescription', 'Content description', 'langAlt'),
  member('Iptc4xmpExt:AOContributionDescription', 'Contribution description', 'langAlt'),
  member('Iptc4xmpExt:AOPhysicalDescription', 'Physical description', 'langAlt'),
  member('Iptc4xmpExt:AOStylePeriod', 'Style period', 'text', bag),
  member('Iptc4xmpExt:AOSource', 'Source'),
  member('Iptc4xmpExt:AOSourceInvNo', 'Source inventory number'),
  member('Iptc4xmpExt:AOSourceInvURL', 'Source inventory address', 'uri'),
  member('Iptc4xmpExt:AOCurrentCopyrightOwnerName', 'Copyright owner'),
  member('Iptc4xmpExt:AOCurrentCopyrightOwnerId', 'Copyright owner id', 'uri'),
  member('Iptc4xmpExt:AOCurrentLicensorName', 'Licensor'),
  member('Iptc4xmpExt:AOCurrentLicensorId', 'Licensor id', 'uri'),
  member('Iptc4xmpExt:AOCopyrightNotice', 'Copyright notice'),
];

const PRODUCT = [
  member('Iptc4xmpExt:ProductName', 'Name', 'langAlt'),
  member('Iptc4xmpExt:ProductDescription', 'Description', 'langAlt'),
  member('Iptc4xmpExt:ProductGTIN', 'GTIN'),
  member('Iptc4xmpExt:ProductId', 'Product id', 'uri'),
];

const REGISTRY_ENTRY = [
  member('Iptc4xmpExt:RegItemId', 'Item id'),
  member('Iptc4xmpExt:RegOrgId', 'Organisation id'),
  member('Iptc4xmpExt:RegEntryRole', 'Role', 'uri'),
];

const CONTRIBUTOR = [
  member('Iptc4xmpExt:Name', 'Name', 'langAlt'),
  member('Iptc4xmpExt:Identifier', 'Identifier', 'uri', bag),
  member('Iptc4xmpExt:Role', 'Role', 'uri', bag),
];

const NAMED_ENTITY = [
  member('Iptc4xmpExt:Name', 'Name', 'langAlt'),
  member('xmp:Identifier', 'Identifier', 'uri', bag),
];

const REGION_POINT = [member('Iptc4xmpExt:rbX', 'X', 'number'), member('Iptc4xmpExt:rbY', 'Y', 'number')];

const REGION_BOUNDARY = [
  member('Iptc4xmpExt:rbShape', 'Shape'),
  member('Iptc4xmpExt:rbUnit', 'Unit'),
  ...REGION_POINT,
  member('Iptc4xmpExt:rbW', 'Width', 'number'),
  member('Iptc4xmpExt:rbH', 'Height', 'number'),
  member('Iptc4xmpExt:rbRx', 'Radius', 'number'),
  member('Iptc4xmpExt:rbVertices', 'Vertices', 'struct', { ...seq, members: () => REGION_POINT }),
];

const IMAGE_REGION = [
  member('Iptc4xmpExt:RegionBoundary', 'Boundary', 'struct', { members: () => REGION_BOUNDARY }),
  member('Iptc4xmpExt:rId', 'Region id'),
  member('Iptc4xmpExt:Name', 'Name', 'langAlt'),
  member('Iptc4xmpExt:rCtype', 'Content type', 'struct', { ...bag, members: () => NAMED_ENTITY }),
  member('Iptc4xmpExt:rRole', 'Role', 'struct', { ...bag, members: () => NAMED_ENTITY }),
];

const LICENSOR = [
  member('plus:LicensorName', 'Name'),
  member('plus:LicensorID', 'Licensor id'),
  member('plus:LicensorStreetAddress', 'Street'),
  member('plus:LicensorExtendedAddress', 'Extended address'),
  member('plus:LicensorCity', 'City'),
  member('plus:LicensorRegion', 'State or province'),
  member('plus:LicensorPostalCode', 'Postal code'),
  member('plus:LicensorCountry', 'Country'),
  member('plus:LicensorTelephone1', 'Phone'),
  member('plus:LicensorTelephoneType1', 'Phone type', 'uri'),
  member('plus:LicensorTelephone2', 'Second phone'),
  member('plus:LicensorTelephoneType2', 'Second phone type', 'uri'),
  member('plus:LicensorEmail', 'E-mail'),
  member('plus:LicensorURL', 'Web address', 'uri'),
];

/** Name and id of somebody, as PLUS has it for owners, creators and suppliers. */
function plusParty(kind: 'CopyrightOwner' | 'ImageCreator' | 'ImageSupplier'): Member[] {
  return [member(`plus:${kind}Name`, 'Name'), member(`plus:${kind}ID`, 'Id')];
}

/** A field that a project has made for itself: its name, and its values as texts. */
const OWN_FIELD = [member('stellin:Name', 'Name'), member('stellin:Value', 'Value', 'text', seq)];

/** MWG 2.0, section 5.8: a keyword with its narrower ones, any levels deep. */
const KEYWORD: readonly Member[] = [
  member('mwg-kw:Keyword', 'Keyword'),
  member('mwg-kw:Applied', 'Applied', 'boolean'),
  member('mwg-kw:Children', 'Children', 'struct', { ...bag, members: () => KEYWORD }),
];

const AREA = [
  member('stArea:x', 'Centre x', 'number'),
  member('stArea:y', 'Centre y', 'number'),
  member('stArea:w', 'Width', 'number'),
  member('stArea:h', 'Height', 'number'),
  member('stArea:d', 'Diameter', 'number'),
  member('stArea:unit', 'Unit'),
];

/** XMP specification part 2, 1.2.6: moments and stretches of films and sounds, in tracks that each count in units of their own. */
const MARKER = [
  member('xmpDM:startTime', 'Start'),
  member('xmpDM:duration', 'Duration'),
  member('xmpDM:name', 'Name'),
  member('xmpDM:comment', 'Comment'),
  member('xmpDM:type', 'Type'),
  member('xmpDM:speaker', 'Speaker'),
  member('xmpDM:probability', 'Probability'),
  member('xmpDM:location', 'Location', 'uri'),
  member('xmpDM:target', 'Target'),
  member('xmpDM:cuePointType', 'Type of the cue point'),
  member('xmpDM:cuePointParams', 'Parameters', 'struct', {
    ...seq,
    members: () => [member('xmpDM:key', 'Key'), member('xmpDM:value', 'Value')],
  }),
];

const TRACK = [
  member('xmpDM:trackName', 'Track'),
  member('xmpDM:trackType', 'Type of the track'),
  member('xmpDM:frameRate', 'Frame rate'),
  member('xmpDM:markers', 'Markers', 'struct', { ...seq, members: () => MARKER }),
];

const DIMENSIONS = [
  member('stDim:w', 'Width', 'number'),
  member('stDim:h', 'Height', 'number'),
  member('stDim:unit', 'Unit'),
];

/** MWG 2.0, section 5.9; coordinates are those of the stored pixels. */
const REGIONS = [
  member('mwg-rs:AppliedToDimensions', 'Applied to dimensions', 'struct', { members: () => DIMENSIONS }),
  member('mwg-rs:RegionList', 'Regions', 'struct', {
    ...bag,
    members: () => [
      member('mwg-rs:Name', 'Name'),
      member('mwg-rs:Type', 'Type'),
      member('mwg-rs:Description', 'Description'),
      member('mwg-rs:Area', 'Area', 'struct', { members: () => AREA }),
    ],
  }),
];

const ROWS = [
  row('title', 'Title', 'langAlt', 'dc:title', { iim: [5, 64] }),
  row('headline', 'Headline', 'text', 'photoshop:Headline', { iim: [105, 256] }),
  row('description', 'Description', 'langAlt', 'dc:description', { iim: [120, 2000], exif: { tag: 270 } }),
  row('descriptionWriter', 'Description writer', 'text', 'photoshop:CaptionWriter', { iim: [122, 32] }),
  row('keywords', 'Keywords', 'text', 'dc:subject', { ...bag, iim: [25, 64] }),
  row('keywordHierarchy', 'Keyword hierarchy', 'struct', 'mwg-kw:Keywords', {
    members: () => [member('mwg-kw:Hierarchy', 'Hierarchy', 'struct', { ...bag, members: () => KEYWORD })],
  }),
  row('creator', 'Creator', 'text', 'dc:creator', { ...seq, iim: [80, 32], exif: { tag: 315 } }),
  row('creatorJobTitle', 'Creator’s job title', 'text', 'photoshop:AuthorsPosition', { iim: [85, 32] }),
  row('creatorContactInfo', 'Creator’s contact info', 'struct', 'Iptc4xmpCore:CreatorContactInfo', {
    members: () => CONTACT,
  }),
  row('creditLine', 'Credit line', 'text', 'photoshop:Credit', { iim: [110, 32] }),
  row('source', 'Source', 'text', 'photoshop:Source', { iim: [115, 32] }),
  row('copyrightNotice', 'Copyright notice', 'langAlt', 'dc:rights', { iim: [116, 128], exif: { tag: 33432 } }),
  row('instructions', 'Instructions', 'text', 'photoshop:Instructions', { iim: [40, 256] }),
  row('jobId', 'Job id', 'text', 'photoshop:TransmissionReference', { iim: [103, 32] }),
  row('dateCreated', 'Date created', 'date', 'photoshop:DateCreated', { iim: [55, 8, 'date'], exif: 'captureTime' }),
  row('sublocation', 'Sublocation', 'text', 'Iptc4xmpCore:Location', { iim: [92, 32] }),
  row('city', 'City', 'text', 'photoshop:City', { iim: [90, 32] }),
  row('provinceState', 'Province or state', 'text', 'photoshop:State', { iim: [95, 32] }),
  row('country', 'Country', 'text', 'photoshop:Country', { iim: [101, 64] }),
  row('countryCode', 'Country code', 'text', 'Iptc4xmpCore:CountryCode', { iim: [100, 3] }),
  row('subjectCode', 'Subject code', 'text', 'Iptc4xmpCore:SubjectCode', { ...bag, iim: [12, 236, 'subject'] }),
  row('scene', 'Scene code', 'text', 'Iptc4xmpCore:Scene', bag),
  row('intellectualGenre', 'Intellectual genre', 'text', 'Iptc4xmpCore:IntellectualGenre'),
  row('urgency', 'Urgency', 'number', 'photoshop:Urgency', { iim: [10, 1] }),
  row('altText', 'Alt text', 'langAlt', 'Iptc4xmpCore:AltTextAccessibility'),
  row('extendedDescription', 'Extended description', 'langAlt', 'Iptc4xmpCore:ExtDescrAccessibility'),
  row('position', 'GPS position', 'position', 'exif:GPSLatitude', { exif: 'gps' }),
  row('orientation', 'Orientation', 'number', 'tiff:Orientation', { exif: 'orientation' }),
  row('rating', 'Rating', 'number', 'xmp:Rating'),
  row('mark', 'Mark', 'text', 'xmp:Label'),
  row('usageTerms', 'Rights usage terms', 'langAlt', 'xmpRights:UsageTerms'),
  row('webStatement', 'Web statement of rights', 'text', 'xmpRights:WebStatement'),
  row('rightsMarked', 'Rights marked', 'boolean', 'xmpRights:Marked'),
  row('rightsOwner', 'Rights owner', 'text', 'xmpRights:Owner', bag),
  row('personInImage', 'Person shown', 'text', 'Iptc4xmpExt:PersonInImage', bag),
  row('personInImageDetails', 'Person shown with details', 'struct', 'Iptc4xmpExt:PersonInImageWDetails', {
    ...bag,
    members: () => PERSON,
  }),
  row('locationCreated', 'Location created', 'struct', 'Iptc4xmpExt:LocationCreated', {
    ...bag,
    members: () => LOCATION,
  }),
  row('locationShown', 'Location shown', 'struct', 'Iptc4xmpExt:LocationShown', { ...bag, members: () => LOCATION }),
  row('event', 'Event', 'langAlt', 'Iptc4xmpExt:Event'),
  row('eventId', 'Event id', 'uri', 'Iptc4xmpExt:EventId', bag),
  row('organisationInImageName', 'Organisation shown', 'text', 'Iptc4xmpExt:OrganisationInImageName', bag),
  row('organisationInImageCode', 'Organisation shown, code', 'text', 'Iptc4xmpExt:OrganisationInImageCode', bag),
  row('productInImage', 'Product shown', 'struct', 'Iptc4xmpExt:ProductInImage', { ...bag, members: () => PRODUCT }),
  row('artworkOrObject', 'Artwork or object shown', 'struct', 'Iptc4xmpExt:ArtworkOrObject', {
    ...bag,
    members: () => ARTWORK,
  }),
  row('aboutCvTerm', 'Term about the picture', 'struct', 'Iptc4xmpExt:AboutCvTerm', { ...bag, members: () => CV_TERM }),
  row('digitalImageGuid', 'Digital image GUID', 'text', 'Iptc4xmpExt:DigImageGUID'),
  row('digitalSourceType', 'Digital source type', 'uri', 'Iptc4xmpExt:DigitalSourceType'),
  row('maxAvailWidth', 'Largest available width', 'number', 'Iptc4xmpExt:MaxAvailWidth'),
  row('maxAvailHeight', 'Largest available height', 'number', 'Iptc4xmpExt:MaxAvailHeight'),
  row('registryId', 'Registry entry', 'struct', 'Iptc4xmpExt:RegistryId', { ...bag, members: () => REGISTRY_ENTRY }),
  row('contributor', 'Contributor', 'struct', 'Iptc4xmpExt:Contributor', { ...bag, members: () => CONTRIBUTOR }),
  row('imageRegion', 'Image region', 'struct', 'Iptc4xmpExt:ImageRegion', { ...bag, members: () => IMAGE_REGION }),
  row('stretches', 'Stretches', 'struct', 'xmpDM:Tracks', { ...bag, members: () => TRACK }),
  row('regions', 'Face regions', 'struct', 'mwg-rs:Regions', { members: () => REGIONS }),
  row('copyrightOwner', 'Copyright owner', 'struct', 'plus:CopyrightOwner', {
    ...seq,
    members: () => plusParty('CopyrightOwner'),
  }),
  row('imageCreator', 'Image creator', 'struct', 'plus:ImageCreator', {
    ...seq,
    members: () => plusParty('ImageCreator'),
  }),
  row('imageSupplier', 'Image supplier', 'struct', 'plus:ImageSupplier', {
    ...seq,
    members: () => plusParty('ImageSupplier'),
  }),
  row('licensor', 'Licensor', 'struct', 'plus:Licensor', { ...seq, members: () => LICENSOR }),
  row('modelReleaseStatus', 'Model release status', 'uri', 'plus:ModelReleaseStatus'),
  row('modelReleaseId', 'Model release id', 'text', 'plus:ModelReleaseID', bag),
  row('propertyReleaseStatus', 'Property release status', 'uri', 'plus:PropertyReleaseStatus'),
  row('propertyReleaseId', 'Property release id', 'text', 'plus:PropertyReleaseID', bag),
  row('minorModelAgeDisclosure', 'Minor model age disclosure', 'uri', 'plus:MinorModelAgeDisclosure'),
  row('dataMining', 'Data mining', 'uri', 'plus:DataMining'),
  // EDTF, for which the date of XMP has no room: `1932~`, `193X`, `1951-22`.
  row('dateUncertain', 'Date, uncertain', 'text', 'stellin:DateCreatedEdtf'),
  row('custom', 'Fields of the project', 'struct', 'stellin:Fields', { ...bag, members: () => OWN_FIELD }),
] as const;

export const FIELDS: readonly Field[] = ROWS;

const byId = new Map(FIELDS.map((field) => [field.id, field]));

/** The table's entry of a field. */
export function fieldOf(id: FieldId): Field {
  const field = byId.get(id);
  if (!field) throw new Error(`No field named ${id}`);
  return field;
}
