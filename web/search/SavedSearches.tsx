// Saved searches among the sources: in their folders, with what they find now.

import { ChevronDown, ChevronRight, Pin } from 'lucide-react';
import { useState } from 'react';
import { searchFile, searchRoutes, type SavedSearch, type SearchDefinition } from '@stellin/contract/search';
import { countText, numberText } from '@stellin/contract/wording';
import { call } from '../foundation/api';
import { showError, useChange } from '../foundation/changes';
import { useMayChange } from '../foundation/session';
import type { Result } from '../photos/queries';
import { Button } from '../parts/Button';
import { Dialog } from '../parts/Dialog';
import { Menu, MenuItem } from '../parts/Menu';
import { PinItem } from '../pinned/PinItem';
import { useFilePicker } from '../parts/useFilePicker';
import { useSearches } from './queries';
import { SearchDialog } from './SearchDialog';

interface Props extends Result {
  show: (change: Partial<Result>) => void;
  size: number;
  onSize: (height: number) => void;
}

export function SavedSearches({ query, sort, show, size, onSize }: Props) {
  const { data: searches = [] } = useSearches();
  const mayChange = useMayChange('saveSearch');
  const change = useChange();
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const [edited, setEdited] = useState<SavedSearch | null>(null);
  const [taking, setTaking] = useState<SearchDefinition[] | null>(null);
  const folders = [...new Set(searches.flatMap(({ folder }) => foldersAbove(folder)))].sort((a, b) => (a < b ? -1 : 1));
  const isHidden = (folder: string) => foldersAbove(folder).some((above) => above !== folder && folded.has(above));
  const flip = (folder: string) => {
    const after = new Set(folded);
    if (!after.delete(folder)) after.add(folder);
    setFolded(after);
  };
  const open = (search: SavedSearch) => {
    show({ query: search.asks, sort: search.sort });
    if (search.size !== null) onSize(search.size);
  };
  const rows = (folder: string, level: number) =>
    searches
      .filter((search) => search.folder === folder)
      .map((search) => (
        <Row key={search.id} search={search} level={level} chosen={search.asks === query} onOpen={() => open(search)}>
          {mayChange && (
            <Menu label={`Change the saved search ${search.name}`} className="pr-2">
              <MenuItem label="Name, folder, note …" onSelect={() => setEdited(search)} />
              <MenuItem
                label={search.pinned ? 'Take off Holdings' : 'Put on Holdings'}
                onSelect={() => change.mutate({ kind: 'changeSearch', searchId: search.id, pinned: !search.pinned })}
              />
              <PinItem kind="search" id={search.id} />
              <MenuItem
                label="Ask the present query"
                disabled={search.asks === query}
                onSelect={() =>
                  change.mutate({ kind: 'changeSearch', searchId: search.id, query, scope: '', sort, size })
                }
              />
              <MenuItem
                label="Duplicate"
                onSelect={() => change.mutate({ kind: 'saveSearch', ...copyOf(search, searches) })}
              />
              <MenuItem label="Remove" onSelect={() => change.mutate({ kind: 'removeSearch', searchId: search.id })} />
            </Menu>
          )}
        </Row>
      ));
  const read = async (chosen: File) => {
    try {
      const parsed = searchFile.safeParse(JSON.parse(await chosen.text()));
      if (parsed.success) setTaking(parsed.data.searches);
      else showError(new Error(`“${chosen.name}” is no file of saved searches.`));
    } catch {
      showError(new Error(`“${chosen.name}” can’t be read: it is not JSON.`));
    }
  };
  const [field, openFiles] = useFilePicker({
    label: 'File of saved searches',
    accept: 'application/json,.json',
    onFiles: ([chosen]) => chosen && void read(chosen),
  });
  return (
    <>
      <div className="flex items-baseline pt-2 pr-2 pb-1">
        <h2 className="figures flex flex-1 justify-between pl-3 text-[12px] font-semibold text-ink-2">
          Saved searches <span className="pr-1">{numberText(searches.length)}</span>
        </h2>
        <Menu label="Saved searches as a file">
          <MenuItem label="Export all …" disabled={searches.length === 0} onSelect={() => void exportAll()} />
          {mayChange && <MenuItem label="Import …" onSelect={() => openFiles()} />}
        </Menu>
        {field}
      </div>
      <ul>
        {folders.map((folder) =>
          isHidden(folder) ? null : (
            <li key={folder}>
              <button
                type="button"
                aria-expanded={!folded.has(folder)}
                className="flex w-full items-center gap-1 py-1 pr-3 text-left text-ink-2 hover:bg-ground"
                style={{ paddingLeft: 6 + 12 * (folder.split('/').length - 1) }}
                onClick={() => flip(folder)}
              >
                {folded.has(folder) ? <ChevronRight size={13} /> : <ChevronDown size={13} />}
                <span className="truncate">{folder.split('/').at(-1)}</span>
              </button>
              {!folded.has(folder) && <ul>{rows(folder, folder.split('/').length)}</ul>}
            </li>
          ),
        )}
        {rows('', 0)}
      </ul>
      {searches.length === 0 && <p className="px-3 text-ink-2">Save a query to keep it here.</p>}
      {edited && <SearchDialog query={query} sort={sort} size={size} search={edited} onClose={() => setEdited(null)} />}
      {taking && <TakeIn definitions={taking} known={searches} onClose={() => setTaking(null)} />}
    </>
  );
}

interface RowProps {
  search: SavedSearch;
  level: number;
  chosen: boolean;
  onOpen: () => void;
  children: React.ReactNode;
}

function Row({ search, level, chosen, onOpen, children }: RowProps) {
  return (
    <li
      className={`flex items-center border-l-3 ${chosen ? 'border-spruce bg-spruce-pale font-semibold' : 'border-transparent hover:bg-ground'}`}
    >
      <button
        type="button"
        aria-pressed={chosen}
        title={[search.asks || 'all photos', search.note, ...search.problems].filter(Boolean).join('\n')}
        className="flex min-w-0 flex-1 items-center gap-1.5 py-1 pr-2 text-left"
        style={{ paddingLeft: 12 + 12 * level }}
        onClick={onOpen}
      >
        <span className={`truncate ${search.problems.length ? 'text-red' : ''}`}>{search.name}</span>
        {search.pinned && <Pin size={11} className="shrink-0 text-ink-3" aria-label="on Holdings" />}
        <span className="figures ml-auto pl-1 text-[12px] font-normal text-ink-2">{numberText(search.count)}</span>
      </button>
      {children}
    </li>
  );
}

/** What a file would bring: what is new, what would be replaced. */
function TakeIn({
  definitions,
  known,
  onClose,
}: {
  definitions: SearchDefinition[];
  known: readonly SavedSearch[];
  onClose: () => void;
}) {
  const change = useChange();
  const replacing = definitions.filter(({ name }) => known.some((search) => search.name === name));
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title="Take in saved searches">
      <p className="text-ink-2">
        {countText(definitions.length - replacing.length, 'new search', 'new searches')}
        {replacing.length > 0 && `, ${numberText(replacing.length)} of a name that is here already`}.
      </p>
      <ul className="mt-2 max-h-64 overflow-y-auto rounded border border-line">
        {definitions.map((definition) => (
          <li key={definition.name} className="flex items-baseline gap-2 border-b border-line px-2 py-1 last:border-0">
            <span className="font-semibold whitespace-nowrap">{definition.name}</span>
            <span className="truncate font-mono text-[12px] text-ink-2">{definition.query}</span>
            {replacing.includes(definition) && <span className="ml-auto text-[12px] text-amber">replaces</span>}
          </li>
        ))}
      </ul>
      <div className="mt-4 flex gap-2">
        <Button
          look="primary"
          disabled={change.isPending || definitions.length === 0}
          onClick={() => change.mutate({ kind: 'importSearches', searches: definitions }, { onSuccess: onClose })}
        >
          Take in {countText(definitions.length, 'search', 'searches')}
        </Button>
        <Button onClick={onClose}>Not now</Button>
      </div>
    </Dialog>
  );
}

function foldersAbove(folder: string): string[] {
  const names = folder.split('/').filter(Boolean);
  return names.map((_, i) => names.slice(0, i + 1).join('/'));
}

function copyOf(
  { id: _id, asks: _asks, count: _count, problems: _problems, ...definition }: SavedSearch,
  all: readonly SavedSearch[],
): SearchDefinition {
  const isTaken = (name: string) => all.some((search) => search.name.toLowerCase() === name.toLowerCase());
  let name = `${definition.name} (copy)`;
  for (let n = 2; isTaken(name); n++) name = `${definition.name} (copy ${n})`;
  return { ...definition, name };
}

async function exportAll(): Promise<void> {
  try {
    const file = await call(searchRoutes.exportSearches, {});
    const link = document.createElement('a');
    link.href = URL.createObjectURL(new Blob([JSON.stringify(file, null, 2)], { type: 'application/json' }));
    link.download = 'saved-searches.json';
    link.click();
    URL.revokeObjectURL(link.href);
  } catch (error) {
    showError(error);
  }
}
