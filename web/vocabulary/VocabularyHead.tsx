// The line above the vocabularies: how large they are, finding a term, and what is done with all of them.

import type { Ref } from 'react';
import { countText } from '@stellin/contract/wording';
import { shownKey } from '../foundation/keys';
import { Button } from '../parts/Button';
import { useVocabularies } from '../parts/terms/queries';
import { TermPicker } from '../parts/terms/TermPicker';

/** A dialog about all vocabularies. */
export type Opened = 'many' | 'import' | 'export' | 'vocabularies';

interface Props {
  finder: Ref<HTMLInputElement>;
  asTree: boolean;
  mayEdit: boolean;
  onTree: (asTree: boolean) => void;
  onOpen: (dialog: Opened) => void;
  onFound: (termId: number) => void;
}

export function VocabularyHead({ finder, asTree, mayEdit, onTree, onOpen, onFound }: Props) {
  const { data: overview } = useVocabularies();
  const terms = overview?.vocabularies.reduce((sum, { terms: count }) => sum + count, 0) ?? 0;
  const levels = Math.max(0, ...(overview?.vocabularies.map(({ levels: count }) => count) ?? []));
  return (
    <header className="flex items-center gap-2.5 border-b border-line px-4 py-2.5">
      <h1 className="font-title text-[17px] font-semibold whitespace-nowrap">
        {overview?.vocabularies.length === 1 ? overview.vocabularies[0]?.name : 'Vocabularies'}
      </h1>
      <span className="figures text-[12px] whitespace-nowrap text-ink-2">
        {countText(terms, 'term')} · {countText(levels, 'level')}
      </span>
      <TermPicker
        inputRef={finder}
        label="Find a term"
        placeholder={`Find a term, also by other names …  (${shownKey('query')})`}
        className="ml-auto w-full max-w-76"
        onPick={({ id }) => onFound(id)}
      />
      <Button aria-pressed={asTree} onClick={() => onTree(!asTree)}>
        {asTree ? 'Columns' : 'Tree'}
      </Button>
      {mayEdit && <Button onClick={() => onOpen('many')}>Add many</Button>}
      {mayEdit && <Button onClick={() => onOpen('import')}>Import</Button>}
      <Button onClick={() => onOpen('export')}>Export</Button>
      {mayEdit && (
        <Button look="quiet" aria-label="Vocabularies …" title="Vocabularies …" onClick={() => onOpen('vocabularies')}>
          ⋯
        </Button>
      )}
    </header>
  );
}
