// The vocabularies side by side: adding, naming, their language and order, removing empty ones.

import { useState } from 'react';
import type { Vocabulary } from '@stellin/contract/vocabulary';
import { countText } from '@stellin/contract/wording';
import { useChange } from '../foundation/changes';
import { Button } from '../parts/Button';
import { Dialog } from '../parts/Dialog';
import { useVocabularies } from '../parts/terms/queries';
import { Checkbox } from '../parts/Checkbox';

export function VocabulariesDialog({ onClose }: { onClose: () => void }) {
  const { data } = useVocabularies();
  return (
    <Dialog open onOpenChange={onClose} title="Vocabularies" wide>
      <ul className="space-y-2">
        {data?.vocabularies.map((vocabulary) => (
          <Row key={`${vocabulary.id} ${JSON.stringify(vocabulary)}`} vocabulary={vocabulary} />
        ))}
        <Row vocabulary={null} />
      </ul>
    </Dialog>
  );
}

function Row({ vocabulary }: { vocabulary: Vocabulary | null }) {
  const empty = { name: '', language: 'en', note: '', byHand: false };
  const { name, language, note, byHand } = vocabulary ?? empty;
  const [facts, setFacts] = useState({ name, language, note, byHand });
  const change = useChange();
  const set = (part: Partial<typeof facts>) => setFacts({ ...facts, ...part });
  const isChanged = JSON.stringify(facts) !== JSON.stringify({ name, language, note, byHand });
  const field = 'h-8 rounded border border-line bg-card px-2';
  const of = vocabulary ? `of ${vocabulary.name}` : 'of a new vocabulary';
  return (
    <li className="rounded-md border border-line bg-card p-2.5">
      <form
        className="flex flex-wrap items-center gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          change.mutate(
            { kind: 'defineVocabulary', vocabularyId: vocabulary?.id ?? null, ...facts },
            { onSuccess: () => vocabulary === null && setFacts(empty) },
          );
        }}
      >
        <input
          aria-label={`Name ${of}`}
          placeholder="New vocabulary"
          maxLength={200}
          className={`${field} w-52 font-semibold`}
          value={facts.name}
          onChange={(event) => set({ name: event.target.value })}
        />
        <input
          aria-label={`Language ${of}`}
          maxLength={35}
          className={`${field} w-16`}
          value={facts.language}
          onChange={(event) => set({ language: event.target.value.trim() })}
        />
        <input
          aria-label={`Note ${of}`}
          placeholder="what it is for"
          maxLength={5000}
          className={`${field} min-w-40 flex-1`}
          value={facts.note}
          onChange={(event) => set({ note: event.target.value })}
        />
        <Checkbox checked={facts.byHand} onChange={() => set({ byHand: !facts.byHand })} className="text-[12px]">
          top terms in an order made by hand
        </Checkbox>
        <Button type="submit" look={vocabulary ? 'plain' : 'primary'} disabled={!isChanged || facts.name.trim() === ''}>
          {vocabulary ? 'Save' : 'Add'}
        </Button>
        {vocabulary && vocabulary.terms === 0 && (
          <Button look="quiet" onClick={() => change.mutate({ kind: 'removeVocabulary', vocabularyId: vocabulary.id })}>
            Remove
          </Button>
        )}
      </form>
      {vocabulary && (
        <p className="mt-1 truncate text-[11px] text-ink-2">
          {countText(vocabulary.terms, 'term')} · {countText(vocabulary.levels, 'level')} ·{' '}
          <span className="font-mono">{vocabulary.uri}</span>
        </p>
      )}
    </li>
  );
}
