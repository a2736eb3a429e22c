// Beside the vocabularies: the card of the term in focus, above it what a change would do, and what several terms offer.

import type { TermCard as Card } from '@stellin/contract/vocabulary';
import { countText } from '@stellin/contract/wording';
import { Button } from '../parts/Button';
import type { Action } from './ActionMenu';
import { ActionPanel } from './ActionPanel';
import { ImpactPanel } from './ImpactPanel';
import { TermCard } from './TermCard';
import type { Doing, Placed } from './useTermWork';
import { VocabularyOverview } from './VocabularyOverview';

interface Props {
  card: Card | undefined;
  /** Why there is no card of the term that was asked for. */
  problem: string | undefined;
  termId: number | null;
  chosenIds: number[];
  several: number;
  doing: Doing | null;
  placed: Placed | null;
  mayEdit: boolean;
  onAction: (action: Action) => void;
  onShow: (termId: number) => void;
  onDone: (termId: number | null) => void;
  onGiveUp: () => void;
}

export function TermSide(props: Props) {
  const { card, problem, termId, chosenIds, several, doing, placed, mayEdit, onAction, onShow, onDone, onGiveUp } =
    props;
  return (
    <aside aria-label="Term" className="overflow-y-auto bg-sheet p-4">
      {placed && (
        <ImpactPanel
          change={{
            kind: 'moveTerms',
            ...placed,
            ...(placed.parentId === null && card ? { vocabularyId: card.vocabulary.id } : {}),
          }}
          verb="Put there by hand"
          onDone={() => onDone(placed.termIds[0] ?? null)}
          onCancel={() => onGiveUp()}
        />
      )}
      {doing && card && (
        <ActionPanel
          key={`${doing.action} ${chosenIds.join()}`}
          action={doing.action}
          card={card}
          termIds={chosenIds}
          target={doing.target}
          onClose={() => onGiveUp()}
          onDone={onDone}
        />
      )}
      {several > 1 && mayEdit && !doing && (
        <div className="mb-3 rounded-md border border-line bg-card p-3">
          <p className="mb-2 font-semibold">{countText(several, 'term')} chosen</p>
          <div className="flex gap-2">
            <Button onClick={() => onAction('move')}>Move …</Button>
            <Button onClick={() => onAction('merge')}>Merge …</Button>
          </div>
        </div>
      )}
      {termId !== null && problem && <p className="text-ink-2">{problem}</p>}
      {termId !== null && card ? (
        <TermCard key={card.id} card={card} mayEdit={mayEdit} onAction={onAction} onShow={onShow} />
      ) : (
        <VocabularyOverview onShow={onShow} />
      )}
    </aside>
  );
}
