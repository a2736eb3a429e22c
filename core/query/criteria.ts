// The criteria table: every `name:value` of the query language. The parser, the builder, the suggestions, the evaluator, the
// finder index, the SQL and docs/search.md are driven by it; adding a criterion means adding an entry here and its meaning in
// the tables of those.

import { FIXITY_STATES } from '../fixity/states';
import { FILE_KINDS, MEDIA } from '../metadata/containers';
import { FIELDS, type FieldId } from '../metadata/fields';
import type { Units } from './units';

/**
 * What stands behind the colon: a term or dossier by name or path, a text with wildcards, one of a few choices, a number with
 * its unit, a date (EDTF or relative), a folder as drive and path, a part of the description, a place on the globe, the name
 * of a saved search, the number of a photo that is looked like, numbers of photos.
 */
export type CriterionType =
  | 'term'
  | 'dossier'
  | 'text'
  | 'choice'
  | 'number'
  | 'date'
  | 'folder'
  | 'presence'
  | 'state'
  | 'area'
  | 'search'
  | 'likeness'
  | 'photos';

export interface Criterion {
  id: CriterionId;
  /** How a token names it. */
  label: string;
  type: CriterionType;
  help: string;
  example: string;
  /** For choices, states and parts: what may stand behind the colon. */
  choices?: readonly string[];
  /** Of numbers: what may stand behind the number. The first is its own unit. */
  units?: Units;
}

export type TextId = OwnTextId | FieldId;
type OwnTextId =
  | 'name'
  | 'caption'
  | 'keyword'
  | 'camera'
  | 'lens'
  | 'mark'
  | 'person'
  | 'confirmed'
  | 'suggested'
  | 'place'
  | 'plan'
  | 'done'
  | 'drive'
  | 'path'
  | 'codec'
  | 'container'
  | 'timecode'
  | 'text'
  | 'colour'
  | 'changedBy'
  | 'own';
export type ChoiceId = 'kind' | 'media' | 'flash' | 'shape' | 'weekday' | 'month' | 'fixity';
export type NumberId =
  | 'rating'
  | 'accession'
  | 'faces'
  | 'unnamed'
  | 'iso'
  | 'aperture'
  | 'exposure'
  | 'focal'
  | 'width'
  | 'height'
  | 'pixels'
  | 'aspect'
  | 'size'
  | 'bitDepth'
  | 'duration'
  | 'pages'
  | 'frameRate'
  | 'bitRate'
  | 'channels'
  | 'sampleRate'
  | 'altitude'
  | 'hour';
export type DateId = 'taken' | 'added' | 'changed';
export type CriterionId =
  | TextId
  | ChoiceId
  | NumberId
  | DateId
  | 'term'
  | 'only'
  | 'dossier'
  | 'within'
  | 'folder'
  | 'near'
  | 'has'
  | 'missing'
  | 'is'
  | 'search'
  | 'described'
  | 'like'
  | 'photos';

/** Parts of a description that `has:` and `missing:` ask for by names of their own. */
export const PARTS = ['terms', 'caption', 'people', 'location', 'keywords', 'date', 'day', 'rating'] as const;
export type Part = (typeof PARTS)[number];

/** What `is:` may ask for. */
export const STATES = [
  'away',
  'missing',
  'double',
  'bundled',
  'lead',
  'trashed',
  'removed',
  'damaged',
  'private',
  'sideways',
  'disagreeing',
  'waiting',
  'conflict',
  'failed',
  'written',
] as const;
export type State = (typeof STATES)[number];

export const WEEKDAYS = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'] as const;
export const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'] as const;

const MILLIMETRES: Units = { mm: 1, cm: 10 };
const SECONDS: Units = { s: 1, sec: 1, ms: 0.001, min: 60, h: 3600 };
const KILOBITS: Units = { kbps: 1, Mbps: 1000 };
const HERTZ: Units = { Hz: 1, kHz: 1000 };
const METRES: Units = { m: 1, km: 1000, ft: 0.3048 };

/** Criteria of numbers: the label, the help, the example, the units. */
const NUMBERS: Readonly<Record<NumberId, [label: string, help: string, example: string, units?: Units]>> = {
  rating: ['rating', '0 to 5, or -1 for rejected', 'rating:>=3'],
  accession: ['accession', 'the number of the taking-in', 'accession:4'],
  faces: ['faces', 'the number of faces in the picture', 'faces:2..5'],
  unnamed: ['unnamed faces', 'the number of faces that nobody has named yet', 'unnamed:>0'],
  iso: ['ISO', 'the sensitivity', 'iso:>=1600'],
  aperture: ['aperture', 'the f-number', 'aperture:2.8'],
  exposure: ['exposure', 'the exposure time', 'exposure:<1/250s', SECONDS],
  focal: ['focal length', 'the focal length', 'focal:24..70mm', MILLIMETRES],
  width: ['width', 'the width as seen, in pixels', 'width:>=4000', { px: 1 }],
  height: ['height', 'the height as seen, in pixels', 'height:<1000px', { px: 1 }],
  pixels: ['pixels', 'width by height, in megapixels', 'pixels:>12MP', { MP: 1 }],
  aspect: ['aspect', 'width divided by height', 'aspect:>=3/2'],
  size: ['file size', 'the size of the file, in megabytes', 'size:>20MB', { MB: 1, kB: 0.001, GB: 1000 }],
  bitDepth: ['bit depth', 'the bits of each channel', 'bitDepth:16'],
  duration: ['duration', 'how long a film or sound is, in seconds', 'duration:>2min', SECONDS],
  pages: ['pages', 'the pages of a document, or the pictures of an animation', 'pages:>1'],
  frameRate: ['frame rate', 'pictures of a film a second', 'frameRate:>=50', { fps: 1 }],
  bitRate: ['bit rate', 'how much a film or sound holds a second', 'bitRate:>20Mbps', KILOBITS],
  channels: ['channels', 'the channels of a sound', 'channels:2'],
  sampleRate: ['sample rate', 'samples of a sound a second', 'sampleRate:>=48kHz', HERTZ],
  altitude: ['altitude', 'metres above the sea', 'altitude:>100m', METRES],
  hour: ['hour', 'the hour of the day it was taken in, 0 to 23', 'hour:18..22', { h: 1 }],
};

const WILDCARDS = '* and ? stand for any letters';

const TEXTS: Readonly<Record<OwnTextId, [label: string, help: string, example: string]>> = {
  name: ['file name', `the file name; ${WILDCARDS}`, 'name:SKM_20*'],
  caption: ['caption', `the description; ${WILDCARDS}`, 'caption:*harbour*'],
  keyword: ['keyword', `a keyword that came with the file and is no term yet; ${WILDCARDS}`, 'keyword:rok*'],
  person: ['person', `any name of a person shown; ${WILDCARDS}`, 'person:"Ida Brandt"'],
  confirmed: [
    'confirmed person',
    `any name of a person whose face in it somebody has named; ${WILDCARDS}`,
    'confirmed:"Ida Brandt"',
  ],
  suggested: [
    'suggested person',
    `any name of a person whom a face in it may show, which nobody has said yet; ${WILDCARDS}`,
    'suggested:"Ida Brandt"',
  ],
  place: ['place', `sublocation, city, province, country or a location shown; ${WILDCARDS}`, 'place:Saltmarsh'],
  plan: [
    'site plan',
    `pinned on a site plan: by the plan’s name, or by plan and pin; ${WILDCARDS}`,
    'plan:"Hall/North wall"',
  ],
  done: [
    'done with',
    `said to be done with on a work list, by its name: terms, caption, people, place, date, rating, rights …; ${WILDCARDS}`,
    'done:people',
  ],
  camera: ['camera', `maker and model of the camera; ${WILDCARDS}`, 'camera:*Corvina*'],
  lens: ['lens', `the lens; ${WILDCARDS}`, 'lens:*35mm*'],
  mark: ['mark', `its mark; ${WILDCARDS}`, 'mark:Print*'],
  drive: ['drive', `the drive by its label; ${WILDCARDS}`, 'drive:"Vault 1"'],
  path: ['path', `drive and path of its folder; ${WILDCARDS}`, 'path:*/2019*'],
  codec: ['codec', `how a film or sound is coded; ${WILDCARDS}`, 'codec:avc*'],
  container: ['container', `what holds the streams of a film or sound; ${WILDCARDS}`, 'container:*QuickTime*'],
  text: ['text', `words on the pages of a document, or seen in a picture; ${WILDCARDS}`, 'text:*rokkaku*'],
  timecode: ['timecode', `the timecode of the first picture of a film; ${WILDCARDS}`, 'timecode:10:*'],
  colour: [
    'colour',
    'how its colours are stored: grey, rgb, cmyk, indexed or lab; of films sdr, pq or hlg, and their primaries',
    'colour:grey',
  ],
  own: [
    'own field',
    `a field of a project, as its name and what it says; ${WILDCARDS}; numbers and dates behind <, <=, >, >= or on both sides of ..`,
    'own:"Insurance value: >=500"',
  ],
  changedBy: ['changed by', 'the name of somebody who has described or changed it', 'changedBy:"The keeper"'],
};

const CHOICES: Readonly<Record<ChoiceId, [label: string, help: string, example: string, choices: readonly string[]]>> =
  {
    kind: ['kind', 'the kind of file', 'kind:tiff', FILE_KINDS],
    media: ['media', 'stills, films, sounds or documents', 'media:film', MEDIA],
    flash: ['flash', 'whether the flash fired', 'flash:yes', ['yes', 'no']],
    shape: ['shape', 'its shape as seen', 'shape:portrait', ['landscape', 'portrait', 'square']],
    weekday: ['weekday', 'the day of the week it was taken on', 'weekday:sun', WEEKDAYS],
    month: ['month', 'the month of the year it was taken in', 'month:jun', MONTHS],
    fixity: [
      'fixity',
      'what its file holds: unchanged, changed by us (ours) or by others, damaged, missing, unread',
      'fixity:damaged',
      FIXITY_STATES,
    ],
  };

const DATES: Readonly<Record<DateId, [label: string, help: string, example: string]>> = {
  taken: [
    'taken',
    'when the picture was taken: from a decade to a second, or a day counted from today',
    'taken:2019-06',
  ],
  added: ['taken in', 'when it came into the catalogue', 'added:"last 7 days"'],
  changed: ['changed', 'when its description was last changed in the catalogue', 'changed:today'],
};

/** Fields that a criterion of its own asks for in a better way, and which. */
const COVERED: Partial<Record<FieldId, CriterionId>> = {
  description: 'caption',
  keywords: 'keyword',
  rating: 'rating',
  mark: 'mark',
  dateCreated: 'taken',
  position: 'near',
  orientation: 'shape',
};

/** The fields that are asked for by their ids. */
export const SEARCHED_FIELDS = FIELDS.filter(({ id }) => COVERED[id] === undefined);

/** What `has:` and `missing:` may ask for. */
const PRESENCES: readonly string[] = [
  ...PARTS,
  'position',
  'dossier',
  ...Object.keys(TEXTS).filter((id) => !['name', 'drive', 'path', 'caption'].includes(id)),
  ...Object.keys(NUMBERS).filter((id) => !['rating', 'faces', 'unnamed', 'size'].includes(id)),
  'flash',
  'shape',
  'taken',
  'changed',
  ...SEARCHED_FIELDS.map(({ id }) => id),
];

export const OWN_CRITERIA: readonly Criterion[] = [
  {
    id: 'term',
    label: 'term',
    type: 'term',
    help: 'has the term or one of its narrower terms, found by any of its labels or by its path',
    example: 'term:"Single-line kites"',
  },
  {
    id: 'only',
    label: 'only term',
    type: 'term',
    help: 'has just this term, narrower ones left aside',
    example: 'only:Kites',
  },
  ...entries(TEXTS).map(([id, [label, help, example]]) => ({ id, label, type: 'text' as const, help, example })),
  ...entries(CHOICES).map(([id, [label, help, example, choices]]) => ({
    id,
    label,
    type: 'choice' as const,
    help,
    example,
    choices,
  })),
  ...entries(DATES).map(([id, [label, help, example]]) => ({ id, label, type: 'date' as const, help, example })),
  ...entries(NUMBERS).map(([id, [label, help, example, units]]) => ({
    id,
    label,
    type: 'number' as const,
    help,
    example,
    ...(units ? { units } : {}),
  })),
  {
    id: 'within',
    label: 'within',
    type: 'folder',
    help: 'a folder and all below it, as drive and path',
    example: 'within:"Vault 1/2019"',
  },
  {
    id: 'folder',
    label: 'folder',
    type: 'folder',
    help: 'a folder without those below it, as drive and path',
    example: 'folder:"Vault 1/2019"',
  },
  {
    id: 'near',
    label: 'near',
    type: 'area',
    help: 'its position: latitude, longitude and radius; or south, west, north, east of a box; or corners of a polygon',
    example: 'near:54.3,8.6,20km',
  },
  {
    id: 'dossier',
    label: 'dossier',
    type: 'dossier',
    help: 'is in the dossier or in one below it, by its name or path',
    example: 'dossier:"Open day"',
  },
  {
    id: 'described',
    label: 'described',
    type: 'search',
    help: 'counts as described by a rule of the team, or by all of them: it has what the rule asks for, or the rule is not about it',
    example: 'described:all',
  },
  {
    id: 'search',
    label: 'saved search',
    type: 'search',
    help: 'what a saved search finds',
    example: 'search:"To caption"',
  },
  {
    id: 'like',
    label: 'looks like',
    type: 'likeness',
    help: 'looks like the photo with this number, which the menu *Look closer* fills in; strict or loose behind it asks for more or less',
    example: 'like:"1234 loose"',
  },
  {
    id: 'photos',
    label: 'photos',
    type: 'photos',
    help: 'is one of the photos with these numbers',
    example: 'photos:"12 15 88"',
  },
  {
    id: 'has',
    label: 'has',
    type: 'presence',
    help: 'the part of the description, or the field, is there',
    example: 'has:terms',
    choices: PRESENCES,
  },
  {
    id: 'missing',
    label: 'missing',
    type: 'presence',
    help: 'the part of the description, or the field, is not there',
    example: 'missing:caption',
    choices: PRESENCES,
  },
  {
    id: 'is',
    label: 'is',
    type: 'state',
    help: 'a state of the photo, its drive or its write-back',
    example: 'is:waiting',
    choices: STATES,
  },
];

export const CRITERIA: readonly Criterion[] = [
  ...OWN_CRITERIA,
  ...SEARCHED_FIELDS.map(({ id, label }) => ({
    id,
    label: label.toLowerCase(),
    type: 'text' as const,
    help: `the field ${label}; ${WILDCARDS}`,
    example: `${id}:Saltmarsh*`,
  })),
];

const byId = new Map<string, Criterion>(CRITERIA.map((criterion) => [criterion.id.toLowerCase(), criterion]));
for (const [field, id] of entries(COVERED)) {
  const criterion = byId.get(String(id).toLowerCase());
  if (criterion && !byId.has(field.toLowerCase())) byId.set(field.toLowerCase(), criterion);
}

// A project is found by its dossier.
const inDossier = byId.get('dossier');
if (inDossier) byId.set('project', inDossier);

/** The criterion a name stands for: its own, or the field that it covers. */
export function criterionOf(name: string): Criterion | undefined {
  return byId.get(name.toLowerCase());
}

/** The criteria as docs/search.md shows them. */
export function criteriaTable(): string {
  return [
    '| criterion | a photo meets it when it … | example |',
    '| --- | --- | --- |',
    ...CRITERIA.map(({ id, help, example }) => `| \`${id}\` | ${help} | \`${example}\` |`),
  ].join('\n');
}

function entries<Id extends string, Value>(table: Readonly<Partial<Record<Id, Value>>>): [Id, Value][] {
  return Object.entries(table) as [Id, Value][];
}
