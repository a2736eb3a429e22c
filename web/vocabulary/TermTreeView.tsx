// The vocabularies as a tree that folds; each level is read when it is unfolded.

import { useId, useState, type KeyboardEvent } from 'react';
import type { TermRow } from '@stellin/contract/vocabulary';
import { numberText } from '@stellin/contract/wording';
import { useDragging } from '../parts/dragging/dragging';
import { useColumn } from '../parts/terms/queries';
import type { Columns } from '../parts/terms/TermColumns';
import { Failed } from '../parts/Queried';

export function TermTreeView(props: Columns) {
  const [unfolded, setUnfolded] = useState<ReadonlySet<number>>(() => new Set(props.open));
  const flip = (id: number) => {
    const next = new Set(unfolded);
    if (!next.delete(id)) next.add(id);
    setUnfolded(next);
  };
  return (
    <ul role="tree" aria-label="Vocabulary" className="min-h-0 flex-1 overflow-y-auto py-2">
      <Level
        {...props}
        parent={null}
        path={[]}
        unfolded={new Set([...unfolded, ...props.open.slice(0, -1)])}
        onFlip={flip}
      />
    </ul>
  );
}

interface LevelProps extends Columns {
  parent: number | null;
  path: readonly number[];
  unfolded: ReadonlySet<number>;
  onFlip: (id: number) => void;
}

function Level(props: LevelProps) {
  const { parent, path, foot } = props;
  const column = useColumn(parent);
  const { data: terms = [], isPlaceholderData } = column;
  if (isPlaceholderData) return null;
  return (
    <>
      {column.error && !column.data && (
        <li role="presentation">
          <Failed query={column} className="m-2" />
        </li>
      )}
      {terms.map((row, i) => (
        <Node key={row.id} {...props} row={row} siblings={terms} isFirst={parent === null && i === 0} />
      ))}
      {foot && parent !== null && props.open.at(-1) === parent && (
        <li role="presentation" style={{ paddingLeft: 12 + path.length * 20 }} className="max-w-96">
          {foot(parent, terms)}
        </li>
      )}
    </>
  );
}

function Node(props: LevelProps & { row: TermRow; siblings: readonly TermRow[]; isFirst: boolean }) {
  const { row, siblings, path, open, onOpen, chosen, onChoose, editing, dragged, drop, unfolded, onFlip, isFirst } =
    props;
  const isUnfolded = unfolded.has(row.id) && row.narrower > 0 && !row.elsewhere;
  const isChosen = chosen?.has(row.id) ?? false;
  const onKeyDown = (event: KeyboardEvent<HTMLLIElement>) => {
    if (event.target !== event.currentTarget || event.defaultPrevented) return;
    const rows = [
      ...(event.currentTarget.closest('[role="tree"]')?.querySelectorAll<HTMLElement>('[role="treeitem"]') ?? []),
    ];
    const at = rows.indexOf(event.currentTarget);
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (step !== undefined) {
      rows[at + step]?.focus();
      rows[at + step]?.click();
    } else if (event.key === 'ArrowRight' && !isUnfolded) onFlip(row.id);
    else if (event.key === 'ArrowLeft' && isUnfolded) onFlip(row.id);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const { ref: dragRef, props: dragProps } = useDragging(useId(), {
    grasped: dragged && !editing?.(row) ? { what: 'terms', ids: dragged(row), text: row.label } : undefined,
    takes: { terms: drop && (({ ids }, zone) => drop(ids, row, zone)) },
  });
  return (
    <>
      <li
        role="treeitem"
        aria-level={path.length + 1}
        aria-expanded={row.narrower > 0 ? isUnfolded : undefined}
        aria-selected={isChosen}
        aria-label={`${row.label}, ${numberText(row.photosWithin)}`}
        tabIndex={isChosen || (isFirst && open.length === 0) ? 0 : -1}
        ref={dragRef}
        {...dragProps}
        onKeyDown={(event) => {
          dragProps.onKeyDown?.(event);
          onKeyDown(event);
        }}
        onClick={(event) => {
          onChoose?.(row, { extend: event.shiftKey, toggle: event.ctrlKey || event.metaKey }, siblings);
          if (!event.shiftKey && !event.ctrlKey && !event.metaKey) onOpen([...path, row.id]);
        }}
        style={{ paddingLeft: 12 + path.length * 20 }}
        className={`flex h-[25px] cursor-pointer items-center gap-1.5 pr-4 outline-offset-[-2px] data-[over=before]:border-t-2 data-[over=before]:border-t-spruce data-[over=on]:bg-spruce-pale ${isChosen ? 'bg-spruce-pale font-semibold' : 'hover:bg-sheet'}`}
      >
        <button
          type="button"
          tabIndex={-1}
          aria-hidden={row.narrower === 0}
          aria-label={isUnfolded ? `Fold ${row.label}` : `Unfold ${row.label}`}
          className={`w-4 text-ink-2 ${row.narrower === 0 || row.elsewhere ? 'invisible' : ''}`}
          onClick={(event) => {
            event.stopPropagation();
            onFlip(row.id);
          }}
        >
          {isUnfolded ? '▾' : '▸'}
        </button>
        {editing?.(row) ?? (
          <span
            className={`${row.heading ? 'text-ink-2 italic' : ''} ${row.deprecated ? 'text-ink-2 line-through' : ''}`}
          >
            {row.elsewhere && <span className="text-ink-3">↪ </span>}
            {row.label}
            {row.proposed && <span className="ml-1.5 font-semibold text-amber">?</span>}
            {row.also && <span className="ml-2 text-[11px] font-normal text-ink-2 italic">{row.also}</span>}
          </span>
        )}
        <span className="figures ml-2 text-[11px] font-normal text-ink-2">
          {row.photosWithin > 0 && numberText(row.photosWithin)}
        </span>
      </li>
      {isUnfolded && <Level {...props} parent={row.id} path={[...path, row.id]} />}
    </>
  );
}
