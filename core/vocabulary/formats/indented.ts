// Terms as indented text, one a line, a tab (or two spaces) for each level:
//
//   [Objects]                          a heading, in square brackets
//     Kites
//       Rokkaku = six-sided kite; !Rokkakudako @ja; kite à six côtés @fr; ~rokaku
//
// After `=` other labels, with `;` between: alternative ones, `!` before the preferred label of another language, `~` before
// hidden ones, `@` and a language tag behind any. A backslash takes the meaning from the character after it. An empty line
// or one that starts with `#` is passed over.

import { languageTag, MAX_DEPTH, tidyLabel, type LabelKind, type OtherLabel } from '../term';
import { draftTerm, emptyDraft, type Draft, type DraftTerm } from './draft';

export interface OutlineTerm {
  label: string;
  heading: boolean;
  otherLabels: OtherLabel[];
  narrower: OutlineTerm[];
}

export interface OutlineError {
  /** Counted from 1. */
  line: number;
  message: string;
}

const KIND_SIGNS: readonly (readonly [sign: string, kind: LabelKind])[] = [
  ['!', 'preferred'],
  ['~', 'hidden'],
];

/** Reads indented text. Lines with errors are left out and named. */
export function parseOutline(text: string): { terms: OutlineTerm[]; errors: OutlineError[] } {
  const terms: OutlineTerm[] = [];
  const errors: OutlineError[] = [];
  const open: OutlineTerm[] = [];
  text.split(/\r?\n/).forEach((line, index) => {
    if (/^\s*(#|$)/.test(line)) return;
    const indent = (/^[\t ]*/.exec(line)?.[0] ?? '').replace(/ {2}/g, '\t').replace(/ /g, '').length;
    const term = parseLine(line.trim());
    const fail = (message: string) => errors.push({ line: index + 1, message });
    if (!term) return fail('there is no label, or it is longer than 200 characters');
    if (indent > open.length) return fail('is indented deeper than one level below the line before');
    if (indent >= MAX_DEPTH) return fail(`is deeper than ${MAX_DEPTH} levels`);
    open.length = indent;
    (open.at(-1)?.narrower ?? terms).push(term);
    open.push(term);
  });
  return { terms, errors };
}

function parseLine(line: string): OutlineTerm | undefined {
  const [own = '', ...rest] = splitAt(line, '=', 1);
  const heading = own.startsWith('[') && endsPlain(own.trimEnd(), ']');
  const label = tidyLabel(unescape(heading ? own.trimEnd().slice(1, -1) : own));
  if (!label) return undefined;
  const otherLabels = splitAt(rest.join('='), ';').flatMap((text) => parseOther(text) ?? []);
  return { label, heading, otherLabels, narrower: [] };
}

/** One of the other labels; undefined when there is no label. */
export function parseOther(text: string): OtherLabel | undefined {
  const trimmed = text.trim();
  const [sign, kind] = KIND_SIGNS.find(([known]) => trimmed.startsWith(known)) ?? ['', 'alternative' as const];
  const bare = trimmed.slice(sign.length);
  const [, before = '', tag = ''] = /^(.*\S)\s+@(\S+)$/s.exec(bare) ?? [];
  const language = languageTag(tag);
  const label = tidyLabel(unescape(language ? before : bare));
  return label ? { kind, language, label } : undefined;
}

/** The text of one of the other labels, as `parseOther` reads it. */
export function otherText({ kind, language, label }: OtherLabel): string {
  const sign = KIND_SIGNS.find(([, known]) => known === kind)?.[0] ?? '';
  return `${sign}${escape(label)}${language ? ` @${language}` : ''}`;
}

/** Splits at a character where it stands alone (with `=`: between spaces) and no backslash is before it, at most so many times. */
export function splitAt(text: string, mark: string, times = Infinity): string[] {
  const parts: string[] = [];
  let start = 0;
  for (let i = 0; i < text.length && parts.length < times; i++) {
    if (text[i] === '\\') i++;
    else if (text[i] === mark && (mark !== '=' || /\s=(\s|$)/.test(text.slice(Math.max(0, i - 1), i + 2)))) {
      parts.push(text.slice(start, i));
      start = i + 1;
    }
  }
  return [...parts, text.slice(start)];
}

function endsPlain(text: string, mark: string): boolean {
  if (!text.endsWith(mark)) return false;
  const before = /\\*$/.exec(text.slice(0, -1))?.[0] ?? '';
  return before.length % 2 === 0;
}

function escape(label: string): string {
  return label.replace(/[\\=;[\]#~!@]/g, '\\$&');
}

function unescape(text: string): string {
  return text.replace(/\\(.)/gs, '$1');
}

/** Indented text as a draft. */
export function readIndented(text: string): Draft {
  const { terms, errors } = parseOutline(text);
  const draft = emptyDraft(['otherLabels', 'heading']);
  draft.problems.push(...errors.map(({ line, message }) => ({ at: `line ${line}`, message })));
  const visit = (list: readonly OutlineTerm[], parent: string | null) => {
    for (const { label, heading, otherLabels, narrower } of list) {
      const key = String(draft.terms.length);
      draft.terms.push(draftTerm({ key, label, heading, otherLabels, parent }));
      visit(narrower, key);
    }
  };
  visit(terms, null);
  return draft;
}

/** A draft as indented text. Says labels, languages and headings; the order is that of the draft. */
export function writeIndented({ name, terms }: Draft): string {
  const depths = new Map<string, number>();
  const lines = terms.map((term: DraftTerm) => {
    const depth = term.parent === null ? 0 : (depths.get(term.parent) ?? 0) + 1;
    depths.set(term.key, depth);
    const own = term.heading ? `[${escape(term.label)}]` : escape(term.label);
    const others = term.otherLabels.length ? ` = ${term.otherLabels.map(otherText).join('; ')}` : '';
    return `${'\t'.repeat(depth)}${own}${others}\n`;
  });
  return `${name ? `# ${name.replace(/\s+/g, ' ')}\n` : ''}${lines.join('')}`;
}
