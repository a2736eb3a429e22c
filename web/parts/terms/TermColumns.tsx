// The vocabularies in columns, each the narrower terms of what is open in the one before. Arrow keys move; what a row shows
// besides its label, and what is done with it, is up to the screen.

import { useEffect, useId, useRef, type KeyboardEvent, type MouseEvent, type ReactNode } from 'react';
import type { TermRow } from '@stellin/contract/vocabulary';
import { numberText } from '@stellin/contract/wording';
import { useDragging, type DropZone } from '../dragging/dragging';
import { useColumn, useVocabularies } from './queries';
import { Failed } from '../Queried';

export interface Columns {
  /** The terms open in each column, from the top. */
  open: readonly number[];
  onOpen: (path: number[]) => void;
  /** Rows that are chosen besides the one in focus. */
  chosen?: ReadonlySet<number>;
  onChoose?: (row: TermRow, event: { extend: boolean; toggle: boolean }, siblings: readonly TermRow[]) => void;
  /** Before the label: a check mark, a colour. */
  mark?: (row: TermRow) => ReactNode;
  /** Said of a row besides its label and count. */
  says?: (row: TermRow) => string;
  /** Instead of the label, while it is edited. */
  editing?: (row: TermRow) => ReactNode;
  /** At the foot of a column. */
  foot?: (parent: number | null, column: readonly TermRow[]) => ReactNode;
  /** Whether a term without narrower ones opens a column all the same: something is to be added there. */
  opensEmpty?: (parent: number) => boolean;
  /** Keys that mean something for a row; true when the key was taken. */
  onKey?: (event: KeyboardEvent, row: TermRow) => boolean;
  /** Rows can be dragged; which terms go along with one. */
  dragged?: (row: TermRow) => number[];
  /** Terms were dropped on a row, or before it. */
  drop?: (termIds: number[], row: TermRow, zone: DropZone) => void;
  /** A photo was dropped on a row. */
  takesPhoto?: (photoId: number, row: TermRow) => void;
  width?: string;
}

export function TermColumns(props: Columns) {
  const { open } = props;
  const parents = [null, ...open];
  const end = useRef<HTMLDivElement>(null);
  // Browsers may give a promise here, which is not what an effect returns.
  useEffect(() => {
    end.current?.scrollIntoView({ inline: 'end', block: 'nearest' });
  }, [open]);
  return (
    <div className="flex min-w-0 flex-1 overflow-x-auto" role="group" aria-label="Vocabulary">
      {parents.map((parent, level) => (
        <Column
          key={`${level} ${parent}`}
          {...props}
          parent={parent}
          level={level}
          beside={parents[level - 1] ?? null}
        />
      ))}
      <div ref={end} />
    </div>
  );
}

interface ColumnProps extends Columns {
  parent: number | null;
  level: number;
  /** What the column before this one is narrower than: there stands this one’s parent. */
  beside: number | null;
}

function Column({ parent, level, beside, ...props }: ColumnProps) {
  const { open, onOpen, foot, width = 'w-48' } = props;
  const column = useColumn(parent);
  const { data: terms = [], isSuccess, isPlaceholderData } = column;
  const { data: besideRows = [] } = useColumn(beside);
  const { data: overview } = useVocabularies();
  const title = besideRows.find(({ id }) => id === parent)?.label ?? '';
  const list = useRef<HTMLUListElement>(null);
  const openId = open[level];
  const isEmpty = isSuccess && !isPlaceholderData && terms.length === 0;
  if (parent !== null && isEmpty && !props.opensEmpty?.(parent)) return null;
  const names = new Map(overview?.vocabularies.map(({ id, name }) => [id, name]));
  const openRow = (row: TermRow) => onOpen([...open.slice(0, level), row.id]);

  const onKeyDown = (event: KeyboardEvent<HTMLUListElement>) => {
    if (event.defaultPrevented) return;
    const rows = [...(list.current?.querySelectorAll<HTMLElement>('[role="treeitem"]') ?? [])];
    const at = rows.indexOf(event.target as HTMLElement);
    const row = terms[at];
    if (!row) return;
    const move = (to: number) => {
      const next = terms[to];
      rows[to]?.focus();
      if (next) props.onChoose?.(next, { extend: event.shiftKey, toggle: false }, terms);
    };
    if (event.key === 'ArrowDown') move(at + 1);
    else if (event.key === 'ArrowUp') move(at - 1);
    else if (event.key === 'Home') move(0);
    else if (event.key === 'End') move(rows.length - 1);
    else if (event.key === 'ArrowRight') {
      openRow(row);
      whenThere(() => firstOf(list.current?.parentElement?.nextElementSibling));
    } else if (event.key === 'ArrowLeft') {
      const before = list.current?.parentElement?.previousElementSibling;
      onOpen(open.slice(0, Math.max(0, level - 1)));
      whenThere(() => before?.querySelector<HTMLElement>('[data-open]') ?? firstOf(before));
    } else if (!props.onKey?.(event, row)) {
      if (event.key !== 'Enter') return;
      openRow(row);
    }
    event.preventDefault();
    event.stopPropagation();
  };

  return (
    <div className={`flex shrink-0 flex-col border-r border-line ${width}`}>
      <ul
        ref={list}
        role="tree"
        aria-label={parent === null ? 'Top terms' : `Narrower than ${title}`}
        className="min-h-0 flex-1 overflow-y-auto py-1"
        onKeyDown={onKeyDown}
      >
        {terms.map((row, i) => (
          <Rows key={row.id}>
            {parent === null && names.size > 1 && row.vocabularyId !== terms[i - 1]?.vocabularyId && (
              <li role="presentation" className="px-3 pt-2 pb-0.5 text-[11px] font-semibold text-ink-2">
                {names.get(row.vocabularyId ?? 0)}
              </li>
            )}
            <Row
              {...props}
              row={row}
              isOpen={row.id === openId}
              reachable={row.id === openId || (i === 0 && !terms.some(({ id }) => id === openId))}
              onOpenRow={() => openRow(row)}
              siblings={terms}
            />
          </Rows>
        ))}
        {column.error && !column.data && (
          <li role="presentation">
            <Failed query={column} className="m-2" />
          </li>
        )}
        {isEmpty && <li className="px-3 py-1 text-ink-3">No narrower terms</li>}
      </ul>
      {foot?.(parent, terms)}
    </div>
  );
}

function Rows({ children }: { children: ReactNode }) {
  return <>{children}</>;
}

/** Focuses what comes with the next column, once it has been read. */
function whenThere(find: () => HTMLElement | null | undefined, tries = 40): void {
  requestAnimationFrame(() => {
    const found = find();
    if (found) found.focus();
    else if (tries > 0) whenThere(find, tries - 1);
  });
}

function firstOf(column: Element | null | undefined): HTMLElement | null | undefined {
  return column?.querySelector<HTMLElement>('[role="treeitem"]');
}

interface RowProps extends Columns {
  row: TermRow;
  isOpen: boolean;
  reachable: boolean;
  onOpenRow: () => void;
  siblings: readonly TermRow[];
}

export const COLOUR_DOTS: Record<string, string> = {
  green: '#2f8a4e',
  amber: '#b97a00',
  red: '#b3321f',
  blue: '#2f568c',
  violet: '#6d4aa3',
  teal: '#1e7d86',
  brown: '#7c5433',
  grey: '#6b7572',
};

function Row({ row, isOpen, reachable, onOpenRow, siblings, ...props }: RowProps) {
  const { chosen, onChoose, mark, says, editing, dragged, drop, takesPhoto } = props;
  const isChosen = chosen?.has(row.id) ?? false;
  const edited = editing?.(row);
  const said = [
    numberText(row.photosWithin),
    row.heading && 'heading',
    row.proposed && 'proposed',
    row.deprecated && 'deprecated',
    row.elsewhere && 'its place is elsewhere',
    says?.(row),
  ].filter(Boolean);
  // A term can stand in several columns, below each of its broader terms.
  const ids = (!edited && dragged?.(row)) || [];
  const { ref: dragRef, props: dragProps } = useDragging(useId(), {
    grasped: ids.length > 0 ? { what: 'terms', ids, text: row.label } : undefined,
    takes: {
      terms: drop && (({ ids }, zone) => drop(ids, row, zone)),
      photo: takesPhoto && (({ id }) => takesPhoto(id, row)),
    },
  });
  const onClick = (event: MouseEvent) => {
    onChoose?.(row, { extend: event.shiftKey, toggle: event.ctrlKey || event.metaKey }, siblings);
    if (!event.shiftKey && !event.ctrlKey && !event.metaKey) onOpenRow();
  };
  return (
    <li
      role="treeitem"
      data-term={row.id}
      {...(isOpen ? { 'data-open': true } : {})}
      aria-expanded={row.narrower > 0 ? isOpen : undefined}
      aria-selected={chosen ? isChosen : isOpen}
      aria-label={`${row.label}, ${said.join(', ')}`}
      tabIndex={reachable ? 0 : -1}
      ref={dragRef}
      {...dragProps}
      className={`flex h-[25px] cursor-pointer items-center gap-1.5 border-l-3 px-2.5 outline-offset-[-2px] [contain-intrinsic-size:auto_25px] [content-visibility:auto] data-[over=before]:border-t-2 data-[over=before]:border-t-spruce data-[over=on]:bg-spruce-pale ${isChosen ? 'border-l-spruce bg-spruce-pale' : isOpen ? 'border-l-transparent bg-ground' : 'border-l-transparent hover:bg-sheet'}`}
      onClick={onClick}
    >
      {mark?.(row)}
      {row.colour && (
        <span aria-hidden className="size-2 shrink-0 rounded-full" style={{ background: COLOUR_DOTS[row.colour] }} />
      )}
      {edited ?? (
        <span
          className={`truncate ${row.heading ? 'text-ink-2 italic' : ''} ${row.deprecated ? 'text-ink-2 line-through' : ''} ${isChosen ? 'font-semibold' : ''}`}
          title={row.also ? `${row.label}; also ${row.also}` : row.label}
        >
          {row.elsewhere && <span className="text-ink-3">↪ </span>}
          {row.label}
          {row.proposed && <span className="ml-1.5 font-semibold text-amber">?</span>}
          {row.also && <span className="ml-1.5 text-[11px] text-ink-2 italic">{row.also}</span>}
        </span>
      )}
      {!edited && (
        <span className="figures ml-auto pl-1 text-[11px] whitespace-nowrap text-ink-2">
          {row.photosWithin > 0 && numberText(row.photosWithin)}
          <span className="inline-block w-3 text-right">{row.narrower > 0 ? '›' : ''}</span>
        </span>
      )}
    </li>
  );
}
