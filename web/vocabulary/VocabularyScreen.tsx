// The vocabularies: columns (or a tree), findings as counts that filter, proposals, the card of a term, import and export.

import { useEffect, useState } from 'react';
import { useSearchParams } from 'react-router';
import { FINDING_KINDS, type FindingKind } from '@stellin/core/vocabulary/lint';
import type { TermName } from '@stellin/contract/termName';
import type { TermRow } from '@stellin/contract/vocabulary';
import { countText, numberText } from '@stellin/contract/wording';
import { shownKey } from '../foundation/keys';
import { useKeys } from '../foundation/useKeys';
import { useMay } from '../foundation/session';
import { Button } from '../parts/Button';
import type { DropZone } from '../parts/dragging/dragging';
import { useTermPath, useVocabularies } from '../parts/terms/queries';
import { TermColumns } from '../parts/terms/TermColumns';
import { Split } from '../parts/Split';
import { TermPicker } from '../parts/terms/TermPicker';
import type { Action } from './ActionMenu';
import { ActionPanel } from './ActionPanel';
import { AddMany } from './AddMany';
import { ColumnFoot } from './ColumnFoot';
import { ExportDialog } from './ExportDialog';
import { Findings } from './Findings';
import { FINDING_LABELS } from './findingLabels';
import { ImpactPanel } from './ImpactPanel';
import { ImportDialog } from './ImportDialog';
import { Proposals } from './Proposals';
import { useCard } from './queries';
import { RenameInPlace } from './RenameInPlace';
import { TermCard } from './TermCard';
import { TermTreeView } from './TermTreeView';
import { VocabulariesDialog } from './VocabulariesDialog';

type Show = FindingKind | 'proposals' | null;
type Doing = { action: Action; target?: TermName | 'top' };
type Opened = 'many' | 'import' | 'export' | 'vocabularies' | null;
/** Terms dropped before another: they are put in an order by hand. */
type Placed = { termIds: number[]; parentId: number | null; before: number };

const CARD_WIDTH = { lowest: 300, usual: 400, highest: 640 };

export function VocabularyScreen() {
  const [params, setParams] = useSearchParams();
  const termId = Number(params.get('term')) || null;
  const show = showOf(params.get('show'));
  const asTree = params.get('view') === 'tree';
  const [open, setOpen] = useState<number[]>([]);
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const [doing, setDoing] = useState<Doing | null>(null);
  const [placed, setPlaced] = useState<Placed | null>(null);
  const [renaming, setRenaming] = useState<number | null>(null);
  const [adding, setAdding] = useState<{ parent: number | null; after?: number } | null>(null);
  const [opened, setOpened] = useState<Opened>(null);
  const { data: overview } = useVocabularies();
  const { data: card, error } = useCard(termId);
  const mayEdit = useMay('keeper');
  const pathOf = useTermPath();

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
  const focus = (id: number | null) => {
    setDoing(null);
    setPlaced(null);
    setChosen(new Set(id === null ? [] : [id]));
    put({ term: id === null ? null : String(id) });
  };
  // Of a term that is gone the card says so; its columns stay as they are.
  const openColumns = (id: number) => void pathOf(id).then(setOpen, () => undefined);
  const reveal = (id: number) => {
    focus(id);
    openColumns(id);
  };
  // A term that the address names is opened in its columns.
  useEffect(() => {
    if (termId !== null && open.at(-1) !== termId) reveal(termId);
    // Only when one comes here: from then on the columns lead.
    // oxlint-disable-next-line react/exhaustive-deps
  }, []);
  const openPath = (path: number[]) => {
    setOpen(path);
    setAdding(null);
    focus(path.at(-1) ?? null);
  };
  const chosenIds = chosen.size > 0 ? [...chosen] : termId === null ? [] : [termId];
  const act = (action: Action, target?: Doing['target']) => {
    if (!mayEdit || termId === null || !card || card.id !== termId) return;
    setPlaced(null);
    if (action === 'rename') setRenaming(termId);
    else if (action === 'addBelow') {
      setOpen([...card.path.map(({ id }) => id), termId]);
      setAdding({ parent: termId });
    } else if (action === 'addBeside') setAdding({ parent: card.parentId, after: termId });
    else setDoing({ action, ...(target ? { target } : {}) });
  };
  useKeys({
    query: () => document.querySelector<HTMLInputElement>('[aria-label="Find a term"]')?.focus(),
    addBelow: () => act('addBelow'),
    addBeside: () => act('addBeside'),
    rename: () => act('rename'),
    move: () => act('move'),
    merge: () => act('merge'),
    trash: () => act('remove'),
  });
  const onChoose = (
    row: TermRow,
    { extend, toggle }: { extend: boolean; toggle: boolean },
    siblings: readonly TermRow[],
  ) => {
    setDoing(null);
    setPlaced(null);
    if (toggle) {
      const next = new Set(chosen);
      if (!next.delete(row.id)) next.add(row.id);
      setChosen(next);
    } else if (extend) {
      const ids = siblings.map(({ id }) => id);
      const [from, to] = [ids.indexOf(termId ?? row.id), ids.indexOf(row.id)].sort((a, b) => a - b);
      setChosen(new Set(ids.slice(Math.max(0, from ?? 0), (to ?? 0) + 1)));
    } else {
      setChosen(new Set([row.id]));
      put({ term: String(row.id) });
    }
  };
  const onDrop = (termIds: number[], row: TermRow, zone: DropZone) => {
    const ids = termIds.filter((id) => id !== row.id);
    const [first] = ids;
    if (first === undefined) return;
    setChosen(new Set(ids));
    put({ term: String(first) });
    if (zone === 'before') {
      setDoing(null);
      setPlaced({ termIds: ids, parentId: row.parentId, before: row.id });
    } else {
      setPlaced(null);
      setDoing({ action: 'move', target: { id: row.id, label: row.label, path: [] } });
    }
  };
  const done = (id: number | null) => {
    setDoing(null);
    setPlaced(null);
    if (id === null) {
      setOpen([]);
      focus(null);
    } else reveal(id);
  };
  const terms = overview?.vocabularies.reduce((sum, { terms: count }) => sum + count, 0) ?? 0;
  const levels = Math.max(0, ...(overview?.vocabularies.map(({ levels: count }) => count) ?? []));
  const columns = {
    open,
    onOpen: openPath,
    chosen,
    onChoose,
    width: 'w-53',
    ...(mayEdit
      ? {
          editing: (row: TermRow) =>
            renaming === row.id ? <RenameInPlace term={row} onDone={() => setRenaming(null)} /> : null,
          foot: (parent: number | null, column: readonly TermRow[]) => (
            <ColumnFoot
              parent={parent}
              column={column}
              after={adding?.after}
              adding={adding !== null && adding.parent === parent}
              onAdding={(on) => setAdding(on ? { parent } : null)}
            />
          ),
          opensEmpty: (parent: number) => adding?.parent === parent,
          dragged: (row: TermRow) => (chosen.has(row.id) ? [...chosen] : [row.id]),
          drop: onDrop,
        }
      : {}),
  };

  const termCard = (
    <aside aria-label="Term" className="overflow-y-auto bg-sheet p-4">
      {placed && (
        <ImpactPanel
          change={{
            kind: 'moveTerms',
            ...placed,
            ...(placed.parentId === null && card ? { vocabularyId: card.vocabulary.id } : {}),
          }}
          verb="Put there by hand"
          onDone={() => done(placed.termIds[0] ?? null)}
          onCancel={() => setPlaced(null)}
        />
      )}
      {doing && card && (
        <ActionPanel
          key={`${doing.action} ${chosenIds.join()}`}
          action={doing.action}
          card={card}
          termIds={chosenIds}
          target={doing.target}
          onClose={() => setDoing(null)}
          onDone={done}
        />
      )}
      {chosen.size > 1 && mayEdit && !doing && (
        <div className="mb-3 rounded-md border border-line bg-card p-3">
          <p className="mb-2 font-semibold">{countText(chosen.size, 'term')} chosen</p>
          <div className="flex gap-2">
            <Button onClick={() => act('move')}>Move …</Button>
            <Button onClick={() => act('merge')}>Merge …</Button>
          </div>
        </div>
      )}
      {termId !== null && error && <p className="text-ink-2">{error.message}</p>}
      {termId !== null && card ? (
        <TermCard key={card.id} card={card} mayEdit={mayEdit} onAction={(action) => act(action)} onShow={reveal} />
      ) : (
        <p className="text-ink-2">
          Choose a term to see its card. Terms can be dragged onto others, and several chosen with Ctrl or Shift.
        </p>
      )}
    </aside>
  );
  return (
    <div className="flex h-full">
      <Split name="termWidth" label="Width of the term’s card" at="right" size={CARD_WIDTH} sized={termCard}>
        <div className="flex min-w-0 flex-1 flex-col bg-card">
          <header className="flex items-center gap-2.5 border-b border-line px-4 py-2.5">
            <h1 className="font-title text-[17px] font-semibold whitespace-nowrap">
              {overview?.vocabularies.length === 1 ? overview.vocabularies[0]?.name : 'Vocabularies'}
            </h1>
            <span className="figures text-[12px] whitespace-nowrap text-ink-2">
              {countText(terms, 'term')} · {countText(levels, 'level')}
            </span>
            <TermPicker
              label="Find a term"
              placeholder={`Find a term, also by other names …  (${shownKey('query')})`}
              className="ml-auto w-full max-w-76"
              onPick={({ id }) => {
                put({ show: null });
                reveal(id);
              }}
            />
            <Button aria-pressed={asTree} onClick={() => put({ view: asTree ? null : 'tree' })}>
              {asTree ? 'Columns' : 'Tree'}
            </Button>
            {mayEdit && <Button onClick={() => setOpened('many')}>Add many</Button>}
            {mayEdit && <Button onClick={() => setOpened('import')}>Import</Button>}
            <Button onClick={() => setOpened('export')}>Export</Button>
            {mayEdit && (
              <Button
                look="quiet"
                aria-label="Vocabularies …"
                title="Vocabularies …"
                onClick={() => setOpened('vocabularies')}
              >
                ⋯
              </Button>
            )}
          </header>
          <Chips show={show} onShow={(next) => put({ show: next })} />
          {show === 'proposals' ? (
            <Proposals
              mayEdit={mayEdit}
              onShow={reveal}
              onMerge={(id) => void (reveal(id), setTimeout(() => setDoing({ action: 'merge' })))}
            />
          ) : show ? (
            <Findings kind={show} mayEdit={mayEdit} onShow={reveal} />
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

function showOf(text: string | null): Show {
  if (text === 'proposals') return text;
  return FINDING_KINDS.find((kind) => kind === text) ?? null;
}

function Chips({ show, onShow }: { show: Show; onShow: (show: Show) => void }) {
  const { data } = useVocabularies();
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
      {chip('proposals', data?.proposals ?? 0, data?.proposals === 1 ? 'proposal waiting' : 'proposals waiting', true)}
    </div>
  );
}
