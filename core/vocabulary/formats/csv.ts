// Vocabularies as CSV (RFC 4180). Written with a column for each thing said, terms naming each other by URI; read so, or with
// a parent column that names labels, or as path columns: each row the labels from the top down to one term.

import { parse } from 'csv-parse/sync';
import { csvLines } from '../../text/csv';
import { tidyLabel, TERM_COLOURS, WRITTEN_OTHERS } from '../term';
import { DRAFT_PARTS, draftTerm, emptyDraft, type Draft, type DraftPart, type DraftTerm } from './draft';
import { otherText, parseOther, splitAt } from './indented';

interface Column {
  name: string;
  part?: DraftPart;
  write: (term: DraftTerm) => string;
  read?: (text: string) => Partial<DraftTerm>;
}

const yesNo = (value: boolean) => (value ? 'yes' : 'no');
const isYes = (text: string) => /^(yes|y|true|1)$/i.test(text.trim());
const list = (text: string) =>
  splitAt(text, ';')
    .map((part) => part.trim())
    .filter(Boolean);

const COLUMNS: readonly Column[] = [
  { name: 'uri', write: ({ uri }) => uri },
  { name: 'parent', write: ({ parent }) => parent ?? '' },
  { name: 'label', write: ({ label }) => label },
  {
    name: 'other labels',
    part: 'otherLabels',
    write: ({ otherLabels }) => otherLabels.map(otherText).join('; '),
    read: (text) => ({ otherLabels: splitAt(text, ';').flatMap((part) => parseOther(part) ?? []) }),
  },
  {
    name: 'heading',
    part: 'heading',
    write: ({ heading }) => yesNo(heading),
    read: (text) => ({ heading: isYes(text) }),
  },
  {
    name: 'status',
    part: 'status',
    write: ({ status }) => status,
    read: (text) => ({ status: text === 'proposed' ? 'proposed' : 'accepted' }),
  },
  {
    name: 'deprecated',
    part: 'deprecated',
    write: (term) => yesNo(term.deprecated),
    read: (text) => ({ deprecated: isYes(text) }),
  },
  {
    name: 'replaced by',
    part: 'replacedBy',
    write: (term) => term.replacedBy ?? '',
    read: (text) => ({ replacedBy: text.trim() || null }),
  },
  { name: 'scope note', part: 'scopeNote', write: (term) => term.scopeNote, read: (scopeNote) => ({ scopeNote }) },
  { name: 'definition', part: 'definition', write: (term) => term.definition, read: (definition) => ({ definition }) },
  { name: 'notation', part: 'notation', write: (term) => term.notation, read: (notation) => ({ notation }) },
  {
    name: 'colour',
    part: 'colour',
    write: ({ colour }) => colour,
    read: (text) => ({ colour: TERM_COLOURS.find((colour) => colour === text) ?? '' }),
  },
  {
    name: 'narrower by hand',
    part: 'byHand',
    write: ({ byHand }) => yesNo(byHand),
    read: (text) => ({ byHand: isYes(text) }),
  },
  {
    name: 'write itself',
    part: 'writeSelf',
    write: (term) => yesNo(term.writeSelf),
    read: (text) => ({ writeSelf: isYes(text) }),
  },
  {
    name: 'write broader',
    part: 'writeBroader',
    write: (term) => yesNo(term.writeBroader),
    read: (text) => ({ writeBroader: isYes(text) }),
  },
  {
    name: 'write other labels',
    part: 'writeOthers',
    write: (term) => term.writeOthers,
    read: (text) => ({ writeOthers: WRITTEN_OTHERS.find((known) => known === text) ?? 'none' }),
  },
  {
    name: 'write in language',
    part: 'writeLanguage',
    write: (term) => term.writeLanguage,
    read: (writeLanguage) => ({ writeLanguage }),
  },
  {
    name: 'also broader',
    part: 'broader',
    write: ({ broader }) => broader.join('; '),
    read: (text) => ({ broader: list(text) }),
  },
  {
    name: 'related',
    part: 'related',
    write: ({ related }) => related.join('; '),
    read: (text) => ({ related: list(text) }),
  },
];

/** A draft as CSV with a header. Texts that a spreadsheet would take for formulas are led by an apostrophe. */
export function writeCsv({ terms }: Draft): string {
  return csvLines([COLUMNS.map(({ name }) => name), ...terms.map((term) => COLUMNS.map(({ write }) => write(term)))]);
}

function unsafe(text: string): string {
  return /^'+[=+\-@\t\r]/.test(text) ? text.slice(1) : text;
}

/** CSV as a draft. Throws an Error with a sentence when the text is no CSV. */
export function readCsv(text: string): Draft {
  const rows = parse(text, {
    bom: true,
    relaxColumnCount: true,
    skipEmptyLines: true,
    delimiter: delimiterOf(text),
  }) as string[][];
  const header = (rows[0] ?? []).map((name) => name.trim().toLowerCase());
  return header.includes('label') ? readColumns(header, rows.slice(1)) : readPaths(header, rows);
}

function delimiterOf(text: string): string {
  const line = text.slice(0, text.search(/[\r\n]|$/));
  return [';', '\t'].find((mark) => !line.includes(',') && line.includes(mark)) ?? ',';
}

const PARENT_NAMES = new Set(['parent', 'broader', 'broader term', 'bt']);

function readColumns(header: readonly string[], rows: readonly string[][]): Draft {
  const columns = header.map((name) => COLUMNS.find((column) => column.name === name));
  const draft = emptyDraft(DRAFT_PARTS.filter((part) => columns.some((column) => column?.part === part)));
  const at = (name: string) => header.indexOf(name);
  const [uriAt, labelAt, parentAt] = [at('uri'), at('label'), header.findIndex((name) => PARENT_NAMES.has(name))];
  const keyByName = new Map<string, string>();
  const parents: string[] = [];
  rows.forEach((row, i) => {
    const label = tidyLabel(unsafe(row[labelAt] ?? ''));
    if (!label)
      return draft.problems.push({
        at: `row ${i + 2}`,
        message: 'there is no label, or it is longer than 200 characters',
      });
    const uri = (row[uriAt] ?? '').trim();
    const key = uri || `row ${i + 2}`;
    const said = columns.map((column, j) => column?.read?.(unsafe(row[j] ?? '')) ?? {});
    draft.terms.push(Object.assign(draftTerm({ key, label, uri }), ...said) as DraftTerm);
    parents.push((row[parentAt] ?? '').trim());
    for (const name of [uri, label]) if (name !== '' && !keyByName.has(name)) keyByName.set(name, key);
  });
  const named = (name: string) => keyByName.get(name) ?? name;
  draft.terms.forEach((term, i) => {
    term.parent = parents[i] ? named(parents[i] ?? '') : null;
    term.broader = term.broader.map(named);
    term.related = term.related.map(named);
    term.replacedBy = term.replacedBy === null ? null : named(term.replacedBy);
  });
  return draft;
}

const LEVEL_NAME = /^(level|l|ebene|niveau)?\s*\d+$/;

function readPaths(header: readonly string[], rows: readonly string[][]): Draft {
  const draft = emptyDraft([]);
  const hasHeader = header.every((name) => name === '' || LEVEL_NAME.test(name));
  const known = new Set<string>();
  let before: string[] = [];
  for (const row of hasHeader ? rows.slice(1) : rows) {
    const cells = row.map((cell) => tidyLabel(unsafe(cell)) ?? '');
    const last = cells.findLastIndex((cell) => cell !== '');
    // Empty cells before the first filled one repeat the row above, as outlines in spreadsheets do.
    const first = cells.findIndex((cell) => cell !== '');
    const path = cells.slice(0, last + 1).map((cell, i) => (i < first ? (before[i] ?? '') : cell));
    before = path;
    let parent: string | null = null;
    for (const label of path) {
      if (label === '') continue;
      const key: string = `${parent ?? ''}\u0000${label}`;
      if (!known.has(key)) {
        known.add(key);
        draft.terms.push(draftTerm({ key, label, parent }));
      }
      parent = key;
    }
  }
  return draft;
}
