// What the vocabularies have that wants a look, as counts that filter: findings and proposals.

import { FINDING_KINDS, type FindingKind } from '@stellin/core/vocabulary/lint';
import { vocabularyRoutes } from '@stellin/contract/vocabulary';
import { numberText } from '@stellin/contract/wording';
import { useMayCall } from '../foundation/session';
import { useVocabularies } from '../parts/terms/queries';
import { FINDING_LABELS } from './findingLabels';

export type Show = FindingKind | 'proposals' | null;

/** What an address asks to be shown instead of the terms. */
export function showOf(text: string | null): Show {
  if (text === 'proposals') return text;
  return FINDING_KINDS.find((kind) => kind === text) ?? null;
}

export function FindingChips({ show, onShow }: { show: Show; onShow: (show: Show) => void }) {
  const { data } = useVocabularies();
  const maySettle = useMayCall(vocabularyRoutes.listProposals);
  const findings = FINDING_KINDS.filter((kind) => (data?.findings[kind] ?? 0) > 0 || kind === show);
  const chip = (id: Exclude<Show, null>, count: number, label: string, isUrgent: boolean) => (
    <button
      key={id}
      type="button"
      aria-pressed={show === id}
      className={`rounded-full border px-3 py-0.5 text-[12px] whitespace-nowrap ${show === id ? 'border-spruce bg-spruce-pale font-semibold' : 'border-line bg-card hover:border-ink-3'}`}
      onClick={() => onShow(show === id ? null : id)}
    >
      <b className={`figures ${isUrgent ? 'text-amber' : ''}`}>{numberText(count)}</b> {label}
    </button>
  );
  return (
    <div role="group" aria-label="Findings" className="flex flex-wrap gap-1.5 border-b border-line bg-sheet px-4 py-2">
      {findings.map((kind) =>
        chip(
          kind,
          data?.findings[kind] ?? 0,
          FINDING_LABELS[kind],
          kind !== 'unused' && kind !== 'single' && kind !== 'many',
        ),
      )}
      {maySettle &&
        chip('proposals', data?.proposals ?? 0, data?.proposals === 1 ? 'proposal waiting' : 'proposals waiting', true)}
    </div>
  );
}
