// The vocabularies: columns (or a tree), findings as counts that filter, proposals, the card of a term, import and export.

import { useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import type { TermRow } from '@stellin/contract/vocabulary';
import { useMayChange } from '../foundation/session';
import { useKeys } from '../foundation/useKeys';
import { Split } from '../parts/Split';
import { TermColumns } from '../parts/terms/TermColumns';
import { AddMany } from './AddMany';
import { ColumnFoot } from './ColumnFoot';
import { ExportDialog } from './ExportDialog';
import { FindingChips, showOf } from './FindingChips';
import { Findings } from './Findings';
import { ImportDialog } from './ImportDialog';
import { Proposals } from './Proposals';
import { useCard } from './queries';
import { RenameInPlace } from './RenameInPlace';
import { TermSide } from './TermSide';
import { TermTreeView } from './TermTreeView';
import { useTermWork } from './useTermWork';
import { VocabulariesDialog } from './VocabulariesDialog';
import { VocabularyHead, type Opened } from './VocabularyHead';

const CARD_WIDTH = { lowest: 300, usual: 400, highest: 640 };

export function VocabularyScreen() {
  const { termId, show, asTree, put } = useAddress();
  const { data: card, error } = useCard(termId);
  const mayEdit = useMayChange('addTerms');
  const [opened, setOpened] = useState<Opened | null>(null);
  const finder = useRef<HTMLInputElement>(null);
  const work = useTermWork({ termId, card, mayEdit, onTerm: (id) => put({ term: id === null ? null : String(id) }) });
  useKeys({
    query: () => finder.current?.focus(),
    addBelow: () => work.act('addBelow'),
    addBeside: () => work.act('addBeside'),
    rename: () => work.act('rename'),
    move: () => work.act('move'),
    merge: () => work.act('merge'),
    trash: () => work.act('remove'),
  });
  const columns = {
    open: work.open,
    onOpen: work.openPath,
    chosen: work.chosen,
    onChoose: work.onChoose,
    width: 'w-53',
    ...(mayEdit
      ? {
          editing: (row: TermRow) =>
            work.renaming === row.id ? <RenameInPlace term={row} onDone={() => work.setRenaming(null)} /> : null,
          foot: (parent: number | null, column: readonly TermRow[]) => (
            <ColumnFoot
              parent={parent}
              column={column}
              after={work.adding?.after}
              adding={work.adding !== null && work.adding.parent === parent}
              onAdding={(on) => work.setAdding(on ? { parent } : null)}
            />
          ),
          opensEmpty: (parent: number) => work.adding?.parent === parent,
          dragged: (row: TermRow) => (work.chosen.has(row.id) ? [...work.chosen] : [row.id]),
          drop: work.onDrop,
        }
      : {}),
  };

  const side = (
    <TermSide
      card={card}
      problem={error?.message}
      termId={termId}
      chosenIds={work.chosenIds}
      several={work.chosen.size}
      doing={work.doing}
      placed={work.placed}
      mayEdit={mayEdit}
      onAction={(action) => work.act(action)}
      onShow={work.reveal}
      onDone={work.done}
      onGiveUp={work.giveUp}
    />
  );
  return (
    <div className="flex h-full">
      <Split name="termWidth" label="Width of the term’s card" at="right" size={CARD_WIDTH} sized={side}>
        <div className="flex min-w-0 flex-1 flex-col bg-card">
          <VocabularyHead
            finder={finder}
            asTree={asTree}
            mayEdit={mayEdit}
            onTree={(tree) => put({ view: tree ? 'tree' : null })}
            onOpen={setOpened}
            onFound={(id) => {
              put({ show: null });
              work.reveal(id);
            }}
          />
          <FindingChips show={show} onShow={(next) => put({ show: next })} />
          {show === 'proposals' ? (
            <Proposals
              mayEdit={mayEdit}
              onShow={work.reveal}
              onMerge={(id) => void (work.reveal(id), setTimeout(work.mergeShown))}
            />
          ) : show ? (
            <Findings kind={show} mayEdit={mayEdit} onShow={work.reveal} />
          ) : asTree ? (
            <TermTreeView {...columns} />
          ) : (
            <TermColumns {...columns} />
          )}
        </div>
      </Split>
      {opened === 'many' && (
        <AddMany
          below={card && termId === card.id ? { id: card.id, label: card.label } : null}
          onClose={() => setOpened(null)}
        />
      )}
      {opened === 'import' && <ImportDialog onClose={() => setOpened(null)} />}
      {opened === 'export' && <ExportDialog onClose={() => setOpened(null)} />}
      {opened === 'vocabularies' && <VocabulariesDialog onClose={() => setOpened(null)} />}
    </div>
  );
}

/** What the address says: the term in focus, what is shown instead of the terms, and how they are laid out. */
function useAddress() {
  const [params, setParams] = useSearchParams();
  const put = (changes: Record<string, string | null>) =>
    setParams(
      (before) => {
        const next = new URLSearchParams(before);
        for (const [name, value] of Object.entries(changes)) {
          if (value === null) next.delete(name);
          else next.set(name, value);
        }
        return next;
      },
      { replace: true },
    );
  return {
    termId: Number(params.get('term')) || null,
    show: showOf(params.get('show')),
    asTree: params.get('view') === 'tree',
    put,
  };
}
