// Which keywords a term becomes in files, by its rules and those of its broader terms.

import { soundLabels, type Term } from './term';
import type { TermTree } from './tree';

/** The keywords that are written for a photo that has the term, its own first; none twice. */
export function keywordsOf(tree: TermTree, id: number): string[] {
  const term = tree.get(id);
  if (!term) return [];
  const above = term.writeBroader ? [...tree.above(id)].flatMap((broader) => tree.get(broader) ?? []) : [];
  return [...new Set([term, ...above].flatMap(ownKeywords))];
}

/** What is written of a term itself: nothing of headings, of proposals that nobody has accepted, and where its rule says so. */
function ownKeywords(term: Term): string[] {
  if (term.heading || term.status === 'proposed' || !term.writeSelf) return [];
  const { label, otherLabels, writeLanguage, writeOthers } = term;
  const sound = soundLabels(label, otherLabels);
  const preferred =
    sound.find(({ kind, language }) => kind === 'preferred' && language === writeLanguage)?.label ?? label;
  const others = sound.filter(
    ({ kind, language }) =>
      kind !== 'hidden' && (writeOthers === 'all' || (writeOthers === 'language' && language === writeLanguage)),
  );
  return [preferred, ...(writeOthers === 'all' ? [label] : []), ...others.map((other) => other.label)];
}
