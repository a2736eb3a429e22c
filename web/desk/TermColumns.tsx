// The vocabulary in columns, each the narrower terms of what is open in the one before. Ticking gives a term to the chosen
// photos or takes it off. Terms are added at the foot of a column, one or, pasted as indented text, many.

import { useEffect, useRef, useState, type ClipboardEvent, type KeyboardEvent } from 'react';
import { parseOutline, type OutlineTerm } from '@stellin/core/vocabulary/indented';
import type { TermTree } from '@stellin/core/vocabulary/tree';
import type { NewTermInput } from '@stellin/contract/ledger';
import type { TermWithCounts } from '@stellin/contract/vocabulary';
import { numberText } from '@stellin/contract/wording';
import { showError, useChange } from '../app/changes';
import type { GivenState } from './TermsTab';

interface Props {
  tree: TermTree<TermWithCounts>;
  /** The terms open in each column, from the top. */
  open: number[];
  onOpen: (path: number[]) => void;
  /** Undefined while no photo is chosen. */
  stateOf: ((termId: number) => GivenState) | undefined;
  /** Undefined for those who may not change anything. */
  onSet: ((termId: number, given: boolean) => void) | undefined;
}

export function TermColumns({ tree, open, onOpen, stateOf, onSet }: Props) {
  const parents = [null, ...open.filter((id) => tree.get(id))];
  const end = useRef<HTMLDivElement>(null);
  useEffect(() => void end.current?.scrollIntoView({ inline: 'end', block: 'nearest' }), [open]);
  return (
    <div className="flex min-w-0 flex-1 overflow-x-auto" role="group" aria-label="Vocabulary">
      {parents.map((parent, level) => (
        <Column
          key={`${level} ${parent}`}
          tree={tree}
          parent={parent}
          openId={open[level]}
          stateOf={stateOf}
          onSet={onSet}
          onOpen={(id) => onOpen([...open.slice(0, level), ...(id === null ? [] : [id])])}
          onLeave={() => onOpen(open.slice(0, Math.max(0, level - 1)))}
        />
      ))}
      <div ref={end} />
    </div>
  );
}

interface ColumnProps extends Omit<Props, 'open' | 'onOpen'> {
  parent: number | null;
  openId: number | undefined;
  onOpen: (id: number | null) => void;
  onLeave: () => void;
}

function Column({ tree, parent, openId, stateOf, onSet, onOpen, onLeave }: ColumnProps) {
  const terms = tree.narrower(parent);
  const list = useRef<HTMLUListElement>(null);
  const title = parent === null ? 'Top terms' : `Narrower than ${tree.get(parent)?.label}`;

  const onKeyDown = (event: KeyboardEvent<HTMLUListElement>) => {
    const rows = [...(list.current?.querySelectorAll<HTMLElement>('[role="treeitem"]') ?? [])];
    const at = rows.indexOf(document.activeElement as HTMLElement);
    const term = terms[at];
    if (!term) return;
    if (event.key === 'ArrowDown') rows[at + 1]?.focus();
    else if (event.key === 'ArrowUp') rows[at - 1]?.focus();
    else if (event.key === 'ArrowRight' || event.key === 'Enter') {
      onOpen(term.id);
      requestAnimationFrame(() => focusFirst(list.current?.parentElement?.nextElementSibling));
    } else if (event.key === 'ArrowLeft') {
      const before = list.current?.parentElement?.previousElementSibling;
      onLeave();
      requestAnimationFrame(() =>
        (
          before?.querySelector<HTMLElement>('[aria-expanded="true"]') ??
          before?.querySelector<HTMLElement>('[role="treeitem"]')
        )?.focus(),
      );
    } else if (event.key === ' ' && stateOf && onSet && !term.heading) onSet(term.id, stateOf(term.id) !== 'all');
    else return;
    event.preventDefault();
    event.stopPropagation();
  };

  return (
    <div className="flex w-48 shrink-0 flex-col border-r border-line">
      <ul
        ref={list}
        role="tree"
        aria-label={title}
        className="min-h-0 flex-1 overflow-y-auto py-1"
        onKeyDown={onKeyDown}
      >
        {terms.map((term, i) => (
          <TermRow
            key={term.id}
            term={term}
            hasNarrower={tree.narrower(term.id).length > 0}
            isOpen={term.id === openId}
            isFirst={i === 0}
            state={stateOf?.(term.id)}
            onOpen={() => onOpen(term.id)}
            onSet={onSet}
          />
        ))}
        {terms.length === 0 && <li className="px-3 py-1 text-ink-3">No narrower terms</li>}
      </ul>
      {onSet && (
        <TermFoot
          tree={tree}
          parent={parent}
          open={openId === undefined ? undefined : tree.get(openId)}
          onRemoved={() => onOpen(null)}
        />
      )}
    </div>
  );
}

function focusFirst(column: Element | null | undefined): void {
  column?.querySelector<HTMLElement>('[role="treeitem"]')?.focus();
}

interface RowProps {
  term: TermWithCounts;
  hasNarrower: boolean;
  isOpen: boolean;
  isFirst: boolean;
  state: GivenState | undefined;
  onOpen: () => void;
  onSet: ((termId: number, given: boolean) => void) | undefined;
}

const STATE_LABELS = {
  all: 'on all chosen photos',
  some: 'on some of the chosen photos',
  none: 'on none of the chosen photos',
};

function TermRow({ term, hasNarrower, isOpen, isFirst, state, onOpen, onSet }: RowProps) {
  const box = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (box.current) box.current.indeterminate = state === 'some';
  }, [state]);
  const others = term.otherLabels.filter(({ kind }) => kind === 'alternative').map(({ label }) => label);
  return (
    <li
      role="treeitem"
      aria-expanded={hasNarrower ? isOpen : undefined}
      aria-selected={isOpen}
      aria-label={`${term.label}, ${numberText(term.photosWithin)}${state ? `, ${STATE_LABELS[state]}` : ''}`}
      tabIndex={isOpen || isFirst ? 0 : -1}
      className={`flex h-[25px] cursor-pointer items-center gap-2 px-3 outline-offset-[-2px] ${isOpen ? 'bg-ground' : 'hover:bg-sheet'}`}
      onClick={onOpen}
    >
      {state && !term.heading && onSet && (
        <input
          ref={box}
          type="checkbox"
          tabIndex={-1}
          aria-label={term.label}
          className="shrink-0 accent-spruce"
          checked={state === 'all'}
          onClick={(event) => event.stopPropagation()}
          onChange={() => onSet(term.id, state !== 'all')}
        />
      )}
      <span
        className={`truncate ${term.heading ? 'text-ink-2 italic' : ''}`}
        title={others.length ? `${term.label}; also ${others.join(', ')}` : term.label}
      >
        {term.label}
      </span>
      <span className="figures ml-auto pl-1 text-[11px] whitespace-nowrap text-ink-3">
        {term.photosWithin > 0 && numberText(term.photosWithin)}
        <span className="inline-block w-3 text-right">{hasNarrower ? '›' : ''}</span>
      </span>
    </li>
  );
}

interface FootProps {
  tree: TermTree<TermWithCounts>;
  parent: number | null;
  open: TermWithCounts | undefined;
  onRemoved: () => void;
}

/** Adding below this column's term; renaming and removing what is open in it. */
function TermFoot({ tree, parent, open, onRemoved }: FootProps) {
  const [mode, setMode] = useState<'idle' | 'add' | 'rename'>('idle');
  const [text, setText] = useState('');
  const change = useChange();
  const start = (next: 'add' | 'rename') => {
    setText(next === 'rename' ? (open?.label ?? '') : '');
    setMode(next);
  };
  const add = (terms: NewTermInput[]) =>
    change.mutate({ kind: 'addTerms', parentId: parent, terms }, { onSuccess: () => setText('') });
  const submit = () => {
    if (text.trim() === '') return;
    if (mode === 'add') return add([newTerm(parseOutline(text.trim()).terms[0])].filter((term) => term !== undefined));
    if (open) change.mutate({ kind: 'renameTerm', termId: open.id, label: text }, { onSuccess: () => setMode('idle') });
  };
  const onPaste = (event: ClipboardEvent) => {
    const pasted = event.clipboardData.getData('text');
    if (mode !== 'add' || !pasted.trim().includes('\n')) return;
    event.preventDefault();
    const { terms, errors } = parseOutline(pasted);
    if (errors[0]) return showError(`Line ${errors[0].line} ${errors[0].message}`);
    add(terms.map(newTerm).filter((term) => term !== undefined));
  };
  if (mode === 'idle') {
    return (
      <div className="flex h-7 shrink-0 items-center gap-3 border-t border-line px-3 text-[12px]">
        <FootAction
          onClick={() => start('add')}
          label={parent === null ? 'Add a top term' : `Add a term below ${tree.get(parent)?.label}`}
        >
          + Add
        </FootAction>
        {open && (
          <FootAction onClick={() => start('rename')} label={`Rename ${open.label}`}>
            Rename
          </FootAction>
        )}
        {open && open.photosWithin === 0 && tree.narrower(open.id).length === 0 && (
          <FootAction
            onClick={() => change.mutate({ kind: 'removeTerm', termId: open.id }, { onSuccess: onRemoved })}
            label={`Remove ${open.label}`}
          >
            Remove
          </FootAction>
        )}
      </div>
    );
  }
  return (
    <form
      className="shrink-0 border-t border-line p-1"
      onSubmit={(event) => {
        event.preventDefault();
        submit();
      }}
    >
      <input
        autoFocus
        aria-label={mode === 'add' ? 'New term' : 'New label'}
        placeholder={mode === 'add' ? 'New term, Enter; or paste many' : ''}
        maxLength={1000}
        className="h-6 w-full rounded border border-spruce bg-card px-1.5 text-[12px] placeholder:text-ink-3"
        value={text}
        onChange={(event) => setText(event.target.value)}
        onPaste={onPaste}
        onKeyDown={(event) => event.key === 'Escape' && setMode('idle')}
        onBlur={() => text.trim() === '' && setMode('idle')}
      />
    </form>
  );
}

function FootAction({ label, onClick, children }: { label: string; onClick: () => void; children: React.ReactNode }) {
  return (
    <button type="button" aria-label={label} title={label} className="text-slate hover:underline" onClick={onClick}>
      {children}
    </button>
  );
}

function newTerm(term: OutlineTerm | undefined): NewTermInput | undefined {
  if (!term) return undefined;
  return {
    label: term.label,
    heading: term.heading,
    otherLabels: term.otherLabels,
    narrower: term.narrower.map(newTerm).filter((below) => below !== undefined),
  };
}
