// The criteria table: every `name:value` of the query language. The parser, the suggestions, the evaluator, the SQL and
// docs/search.md are driven by it; adding a criterion means adding an entry here and its meaning in each of those tables.

import { FILE_KINDS } from '../metadata/containers';
import { FIELDS, type FieldId } from '../metadata/fields';

export type CriterionType = 'term' | 'text' | 'number' | 'date' | 'choice' | 'folder';

export interface Criterion {
  id: CriterionId;
  /** How a token names it. */
  label: string;
  type: CriterionType;
  help: string;
  example: string;
  /** For `choice`: what may stand behind the colon. */
  choices?: readonly string[];
}

/** Criteria with a meaning of their own, and the fields of the metadata table. */
export type CriterionId = OwnCriterionId | FieldId;

export type OwnCriterionId =
  | 'term'
  | 'only'
  | 'keyword'
  | 'name'
  | 'caption'
  | 'camera'
  | 'kind'
  | 'rating'
  | 'mark'
  | 'taken'
  | 'drive'
  | 'within'
  | 'folder'
  | 'accession'
  | 'has'
  | 'missing'
  | 'is';

/** What `has:` and `missing:` may ask for. */
export const PARTS = ['terms', 'caption', 'people', 'location', 'keywords', 'date', 'rating'] as const;
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
  'disagreeing',
  'waiting',
  'conflict',
  'failed',
  'written',
] as const;
export type State = (typeof STATES)[number];

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
  {
    id: 'keyword',
    label: 'keyword',
    type: 'text',
    help: 'a keyword that came with the file and is no term yet; * and ? stand for any letters',
    example: 'keyword:rok*',
  },
  {
    id: 'name',
    label: 'file name',
    type: 'text',
    help: 'the file name; * and ? stand for any letters',
    example: 'name:SKM_20*',
  },
  {
    id: 'caption',
    label: 'caption',
    type: 'text',
    help: 'the description; * and ? stand for any letters',
    example: 'caption:*harbour*',
  },
  { id: 'camera', label: 'camera', type: 'text', help: 'maker and model of the camera', example: 'camera:*Corvina*' },
  { id: 'kind', label: 'kind', type: 'choice', help: 'the kind of file', example: 'kind:tiff', choices: FILE_KINDS },
  { id: 'mark', label: 'mark', type: 'text', help: 'its mark; * and ? stand for any letters', example: 'mark:Print*' },
  { id: 'rating', label: 'rating', type: 'number', help: '0 to 5, or -1 for rejected', example: 'rating:>=3' },
  {
    id: 'taken',
    label: 'taken',
    type: 'date',
    help: 'when the picture was taken: a year, month, day or minute',
    example: 'taken:2019-06',
  },
  { id: 'drive', label: 'drive', type: 'text', help: 'the drive by its label', example: 'drive:"Vault 1"' },
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
  { id: 'accession', label: 'accession', type: 'number', help: 'the number of the taking-in', example: 'accession:4' },
  {
    id: 'has',
    label: 'has',
    type: 'choice',
    help: 'the part of the description is there',
    example: 'has:terms',
    choices: PARTS,
  },
  {
    id: 'missing',
    label: 'missing',
    type: 'choice',
    help: 'the part of the description is not there',
    example: 'missing:caption',
    choices: PARTS,
  },
  {
    id: 'is',
    label: 'is',
    type: 'choice',
    help: 'a state of the photo, its drive or its write-back',
    example: 'is:waiting',
    choices: STATES,
  },
];

/** Fields that a criterion of its own asks for in a better way. */
const COVERED = new Set<FieldId>(['description', 'keywords', 'rating', 'mark', 'dateCreated']);
const TEXT_TYPES = new Set(['text', 'langAlt', 'uri']);

/** The fields with texts that can be asked for by their ids. */
export const SEARCHED_FIELDS = FIELDS.filter(({ id, type }) => TEXT_TYPES.has(type) && !COVERED.has(id));

export const CRITERIA: readonly Criterion[] = [
  ...OWN_CRITERIA,
  ...SEARCHED_FIELDS.map(({ id, label }) => ({
    id,
    label: label.toLowerCase(),
    type: 'text' as const,
    help: `the field ${label}; * and ? stand for any letters`,
    example: `${id}:Saltmarsh*`,
  })),
];

const byId = new Map<string, Criterion>(CRITERIA.map((criterion) => [criterion.id.toLowerCase(), criterion]));

/** The criterion a name stands for. */
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
