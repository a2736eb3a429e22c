// Terms as indented text, one a line, a tab (or two spaces) for each level:
//
//   [Objects]                          a heading, in square brackets
//     Kites
//       Rokkaku = six-sided kite; rokkaku-dako @ja; ~rokaku
//
// After `=` other labels, with `;` between: alternative ones, `@` and a language tag behind the label, `~` before it for
// hidden ones. An empty line or one that starts with `#` is passed over.

import { tidyLabel, type OtherLabel } from './term';

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

const MAX_DEPTH = 20;

/** Reads indented text. Lines with errors are left out and named. */
export function parseOutline(text: string): { terms: OutlineTerm[]; errors: OutlineError[] } {
  const terms: OutlineTerm[] = [];
  const errors: OutlineError[] = [];
  const open: OutlineTerm[] = [];
  text.split(/\r?\n/).forEach((line, index) => {
    if (/^\s*(#|$)/.test(line)) return;
    const indent = (/^[\t ]*/.exec(line)?.[0] ?? '').replace(/ {2}/g, '\t').replace(/ /g, '').length;
    const term = parseLine(line);
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
  const [own = '', others = ''] = line.split(/\s=\s(.*)/s);
  const bracketed = /^\s*\[(.*)\]\s*$/.exec(own);
  const label = tidyLabel(bracketed?.[1] ?? own);
  if (!label) return undefined;
  return { label, heading: bracketed !== null, otherLabels: others.split(';').flatMap(parseOther), narrower: [] };
}

function parseOther(text: string): OtherLabel[] {
  const match = /^\s*(~?)(.*?)(?:\s@([A-Za-z]{2,8}(?:-[A-Za-z0-9]{1,8})*))?\s*$/.exec(text);
  const label = tidyLabel(match?.[2] ?? '');
  if (!label) return [];
  return [{ kind: match?.[1] ? 'hidden' : 'alternative', language: match?.[3] ?? '', label }];
}
