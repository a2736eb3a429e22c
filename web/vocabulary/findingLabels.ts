// How kinds of findings are called behind their count.

import type { FindingKind } from '@stellin/core/vocabulary/lint';

export const FINDING_LABELS: Record<FindingKind, string> = {
  twice: 'the same label twice',
  near: 'look doubled',
  alternative: 'other label is a term, too',
  branches: 'one label in two branches',
  unused: 'never used',
  single: 'with a single narrower term',
  many: 'with very many narrower terms',
  circle: 'in circles',
  long: 'too long for IIM',
  headingGiven: 'headings given to photos',
  deprecatedGiven: 'deprecated, still given',
};
