// What is meant to become of keywords, before it is carried out.

import type { IncomingKeyword, KeywordDecision } from '@stellin/contract/keywords';
import type { Who } from '@stellin/contract/people';
import { countText, numberText } from '@stellin/contract/wording';

export type Draft =
  | { kind: 'term'; termId: number; label: string }
  | { kind: 'new'; label: string; parentId: number | null }
  | { kind: 'person'; who: Who; name: string }
  | { kind: 'keep' }
  | { kind: 'drop' };

export function toDecision(keyword: string, draft: Draft): KeywordDecision {
  switch (draft.kind) {
    case 'term':
      return { keyword, decision: 'term', termId: draft.termId };
    case 'new':
      return { keyword, decision: 'new', label: draft.label, parentId: draft.parentId };
    case 'person':
      return { keyword, decision: 'person', who: draft.who };
    default:
      return { keyword, decision: draft.kind };
  }
}

/** What the drafts come to: `3 become terms (up to 41 photos), 1 is dropped`. A photo with several keywords counts for each. */
export function describeDrafts(
  keywords: readonly Pick<IncomingKeyword, 'keyword' | 'photos'>[],
  drafts: ReadonlyMap<string, Draft>,
  source: 'keywords' | 'folders',
): string {
  const texts: Record<'terms' | 'person' | 'keep' | 'drop', [one: string, many: string]> = {
    terms: ['becomes a term', 'become terms'],
    person: ['names somebody', 'name somebody'],
    keep: ['stays a free keyword', 'stay free keywords'],
    drop: source === 'keywords' ? ['is dropped', 'are dropped'] : ['is left out', 'are left out'],
  };
  const parts = (['terms', 'person', 'keep', 'drop'] as const).flatMap((kind) => {
    const some = keywords.filter(({ keyword }) => {
      const draft = drafts.get(keyword)?.kind;
      return draft === kind || (kind === 'terms' && (draft === 'term' || draft === 'new'));
    });
    const photos = some.reduce((sum, one) => sum + one.photos, 0);
    const touches = kind === 'terms' || kind === 'person' || (kind === 'drop' && source === 'keywords');
    const text = `${numberText(some.length)} ${texts[kind][some.length === 1 ? 0 : 1]}`;
    return some.length === 0 ? [] : [touches ? `${text} (up to ${countText(photos, 'photo')})` : text];
  });
  return `${parts.join(', ')}.`;
}
