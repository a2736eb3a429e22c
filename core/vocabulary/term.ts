// The terms of a vocabulary (after SKOS, W3C Recommendation 2009, and ISO 25964): a tree of concepts with labels.

import { suitingLanguage } from '../metadata/languages';

export const LABEL_KINDS = ['preferred', 'alternative', 'hidden'] as const;
export type LabelKind = (typeof LABEL_KINDS)[number];

/**
 * A label besides the preferred one in the vocabulary's own language. `language` is a BCP 47 tag, '' for the vocabulary's
 * own; `preferred` ones have another language, at most one each (SKOS S14).
 */
export interface OtherLabel {
  kind: LabelKind;
  language: string;
  label: string;
}

/** Which other labels are written along with a term: none, the alternative ones in the language written, or all but hidden ones. */
export const WRITTEN_OTHERS = ['none', 'language', 'all'] as const;
export type WrittenOthers = (typeof WRITTEN_OTHERS)[number];

export const TERM_COLOURS = ['green', 'amber', 'red', 'blue', 'violet', 'teal', 'brown', 'grey'] as const;

export interface Term {
  id: number;
  /** The broader term; null at the top. */
  parentId: number | null;
  /** Of a top term: the vocabulary it begins. Null below. */
  vocabularyId: number | null;
  /** The preferred label in the vocabulary's own language. */
  label: string;
  otherLabels: OtherLabel[];
  /** A heading only groups others and can't be given to a photo. */
  heading: boolean;
  status: 'accepted' | 'proposed';
  proposedBy: number | null;
  deprecated: boolean;
  /** What to give instead of a deprecated term. */
  replacedBy: number | null;
  scopeNote: string;
  definition: string;
  notation: string;
  /** Stable, also across exports. */
  uri: string;
  /** One of TERM_COLOURS, or ''. */
  colour: string;
  /** A photo that shows what is meant. */
  examplePhoto: number | null;
  /** Whether its narrower terms stand in an order made by hand: that of their positions. */
  byHand: boolean;
  position: number;
  /** Rules for writing into files: the term itself, its broader terms, its other labels, and in which language ('' its own). */
  writeSelf: boolean;
  writeBroader: boolean;
  writeOthers: WrittenOthers;
  writeLanguage: string;
}

/** A term with nothing said of it but what is given. */
export function newTerm(given: Pick<Term, 'id' | 'label'> & Partial<Term>): Term {
  return {
    parentId: null,
    vocabularyId: null,
    otherLabels: [],
    heading: false,
    status: 'accepted',
    proposedBy: null,
    deprecated: false,
    replacedBy: null,
    scopeNote: '',
    definition: '',
    notation: '',
    uri: '',
    colour: '',
    examplePhoto: null,
    byHand: false,
    position: 0,
    writeSelf: true,
    writeBroader: true,
    writeOthers: 'none',
    writeLanguage: '',
    ...given,
  };
}

/**
 * What holds between two terms besides the tree (SKOS 8): `broader`, where `fromId` is the narrower one, and `related`, which
 * goes both ways and is kept with the smaller id first. `apart` says that two that look alike are not the same; it never leaves
 * the catalogue.
 */
export interface Relation {
  kind: 'broader' | 'related' | 'apart';
  fromId: number;
  toId: number;
}

export interface Vocabulary {
  id: number;
  name: string;
  /** BCP 47: what labels without a language are in. */
  language: string;
  uri: string;
  note: string;
  byHand: boolean;
}

export const MAX_LABEL_LENGTH = 200;
export const MAX_DEPTH = 30;

/** A label as it is kept: white space folded. Undefined when nothing is left or it is too long. */
export function tidyLabel(label: string): string | undefined {
  const tidy = label.normalize('NFC').replace(/\s+/g, ' ').trim();
  return tidy === '' || tidy.length > MAX_LABEL_LENGTH ? undefined : tidy;
}

/**
 * What stands beside a term's name: its label in a reader's language (BCP 47) where it has one, the preferred before others; else
 * the first it is also called. Empty when neither is there.
 */
export function besideName(others: readonly OtherLabel[], language: string | null): string {
  const shown = others.filter(({ kind }) => kind !== 'hidden');
  const tags = shown.map((label) => label.language).filter((tag) => tag !== '');
  const tag = suitingLanguage(language ?? '', tags);
  const inIt = shown.filter((label) => tag !== undefined && label.language === tag);
  const found =
    inIt.find(({ kind }) => kind === 'preferred') ?? inIt[0] ?? shown.find(({ kind }) => kind === 'alternative');
  return found?.label ?? '';
}

/** All labels of a term, the preferred one first. */
export function labelsOf(term: Pick<Term, 'label' | 'otherLabels'>): string[] {
  return [term.label, ...term.otherLabels.map(({ label }) => label)];
}

/** Other labels tidied: none twice, none like the preferred one, one preferred label a language (SKOS S13, S14). */
export function soundLabels(label: string, others: readonly OtherLabel[]): OtherLabel[] {
  const seen = new Set([`${label}@`]);
  const preferred = new Set<string>();
  return others.flatMap((other) => {
    const tidy = tidyLabel(other.label);
    const key = `${tidy}@${other.language}`;
    if (!tidy || seen.has(key)) return [];
    seen.add(key);
    const isFree = other.kind !== 'preferred' || (other.language !== '' && !preferred.has(other.language));
    if (other.kind === 'preferred') preferred.add(other.language);
    return [{ ...other, label: tidy, kind: isFree ? other.kind : ('alternative' as const) }];
  });
}

/** A language tag in the case it is usually written in (BCP 47, 2.1.1); '' for what is none. */
export function languageTag(text: string): string {
  const tag = text.trim();
  if (!/^[A-Za-z]{2,8}(-[A-Za-z0-9]{1,8})*$/.test(tag)) return '';
  return tag
    .split('-')
    .map((part, i) =>
      i === 0 || part.length === 1 || part.length > 4
        ? part.toLowerCase()
        : part.length === 2
          ? part.toUpperCase()
          : part.length === 4
            ? part.charAt(0).toUpperCase() + part.slice(1).toLowerCase()
            : part.toLowerCase(),
    )
    .join('-');
}
