// The sources column: drives with their folders, saved searches, dossiers. Choosing one replaces the place in the query and keeps the rest.

import { ChevronDown, ChevronRight, StickyNote } from 'lucide-react';
import { useMemo, useState, type ReactNode } from 'react';
import { parseQuery, queryText } from '@stellin/core/search/language';
import { allOf, conjuncts, criterion, type Query } from '@stellin/core/query/query';
import type { Drive, Folder } from '@stellin/contract/drives';
import type { Selection } from '@stellin/contract/photos';
import { numberText } from '@stellin/contract/wording';
import { useMayChange } from '../foundation/session';
import { DossierList } from '../dossiers/DossierList';
import { ColourDot } from '../dossiers/ColourDot';
import { FilingDialog } from '../filing/FilingDialog';
import { FolderMoveDialog } from '../filing/FolderMoveDialog';
import type { Place as FilePlace } from '../filing/FolderPicker';
import { FolderMenu } from '../filing/FolderMenu';
import { SetAside } from '../filing/SetAside';
import { useDragging } from '../parts/dragging/dragging';
import { SavedSearches } from '../search/SavedSearches';
import { selectionOf, selectionOfGrasped } from '../photos/chosen';
import { useSelection } from '../photos/selection';
import { useDrives, useFolders } from '../drives/queries';
import type { Result } from '../photos/queries';
import { Checkbox } from '../parts/Checkbox';
import { PocketRow } from '../pocket/PocketRow';
import { OnTop } from '../stepping/OnTop';

interface Props extends Result {
  show: (change: Partial<Result>) => void;
  /** Of the sheet, kept with saved searches. */
  size: number;
  onSize: (height: number) => void;
}

export function Sources({ query, sort, show, size, onSize }: Props) {
  const { data: drives } = useDrives();
  const { data: folders = [] } = useFolders();
  const [within, setWithin] = useState(true);
  const place = placeOf(query);
  const known = drives?.drives.filter(({ state }) => state !== 'new') ?? [];
  const { chosen } = useSelection();
  const [dropped, setDropped] = useState<{ id: number; onto: Folder } | null>(null);
  const [moving, setMoving] = useState<{ action: 'move' | 'copy'; selection: Selection; place: FilePlace } | null>(
    null,
  );
  const droppedFolder = dropped && folders.find(({ id }) => id === dropped.id);
  const move = (photoId: number, { driveId, path }: Folder) =>
    setMoving({
      action: 'move',
      selection: selectionOfGrasped(chosen, query, photoId),
      place: { driveId, folder: path },
    });
  const choose = (path: string, deep = within) => {
    const rest = conjuncts(parseQuery(query).query).filter((part) => !isPlace(part));
    const same = place?.path === path && place.deep === deep;
    show({ query: queryText(allOf(same ? rest : [criterion(deep ? 'within' : 'folder', path), ...rest])) });
  };
  const changeWithin = (deep: boolean) => {
    setWithin(deep);
    if (place) choose(place.path, deep);
  };
  return (
    <aside aria-label="Sources" className="overflow-y-auto bg-sheet py-2">
      <OnTop query={query} show={show} />
      <Heading title="Drives" count={known.length} />
      <Checkbox checked={within} onChange={changeWithin} className="px-3 pb-1.5 text-[12px] text-ink-2">
        with sub-folders
      </Checkbox>
      <ul>
        {known.map((drive) => (
          <DriveRows
            key={drive.key}
            drive={drive}
            folders={folders.filter(({ driveId }) => driveId === drive.id)}
            place={place}
            deep={within}
            choose={choose}
            onPhoto={move}
            onFolder={(id, onto) => id !== onto.id && setDropped({ id, onto })}
          />
        ))}
      </ul>
      {known.length === 0 && <p className="px-3 pb-2 text-ink-2">Nothing is taken in yet. Begin in Intake.</p>}
      <SavedSearches query={query} sort={sort} show={show} size={size} onSize={onSize} />
      <DossierList query={query} sort={sort} show={show} />
      <PocketRow query={query} show={show} selection={selectionOf(chosen, query)} />
      <SetAside query={query} show={show} />
      {dropped && droppedFolder && (
        <FolderMoveDialog
          folder={droppedFolder}
          onto={{ driveId: dropped.onto.driveId, folder: dropped.onto.path }}
          onClose={() => setDropped(null)}
        />
      )}
      {moving && (
        <FilingDialog {...moving} onClose={() => setMoving(null)} onDone={() => setMoving(null)}>
          <button
            type="button"
            className="text-slate hover:underline"
            onClick={() => setMoving({ ...moving, action: moving.action === 'move' ? 'copy' : 'move' })}
          >
            {moving.action === 'move' ? 'Copy them instead' : 'Move them instead'}
          </button>
        </FilingDialog>
      )}
    </aside>
  );
}

function Heading({ title, count }: { title: string; count: number }) {
  return (
    <h2 className="figures flex justify-between px-3 pt-2 pb-1 text-[12px] font-semibold text-ink-2">
      {title}
      <span>{numberText(count)}</span>
    </h2>
  );
}

interface Place {
  path: string;
  deep: boolean;
}

function isPlace(part: Query): boolean {
  return part.kind === 'criterion' && (part.criterion === 'within' || part.criterion === 'folder');
}

function placeOf(query: string): Place | undefined {
  const part = conjuncts(parseQuery(query).query).find(isPlace);
  return part?.kind === 'criterion' ? { path: part.value, deep: part.criterion === 'within' } : undefined;
}

interface RowsProps {
  drive: Drive;
  folders: Folder[];
  place: Place | undefined;
  deep: boolean;
  choose: (path: string) => void;
  /** A photo was dropped on a folder. */
  onPhoto: (photoId: number, folder: Folder) => void;
  /** A folder was dropped on another one. */
  onFolder: (folderId: number, onto: Folder) => void;
}

function DriveRows({ drive, folders, place, deep, choose, onPhoto, onFolder }: RowsProps) {
  const [open, setOpen] = useState(() => new Set<number>());
  const mayChange = useMayChange('makeFolder');
  const root = folders.find(({ path }) => path === '');
  const children = useMemo(() => Map.groupBy(folders, ({ parentId }) => parentId), [folders]);
  const isOpen = (folder: Folder) =>
    open.has(folder.id) ||
    (place !== undefined &&
      `${drive.label}/${folder.path}`.replace(/\/$/, '') !== place.path &&
      place.path.startsWith(`${drive.label}${folder.path ? `/${folder.path}` : ''}/`));
  const flip = (id: number) =>
    setOpen((before) => {
      const after = new Set(before);
      if (!after.delete(id)) after.add(id);
      return after;
    });
  const takesPhotos = mayChange && drive.state === 'attached' && !drive.readOnly;
  const rows = (folder: Folder, level: number) => {
    const path = folder.path === '' ? drive.label : `${drive.label}/${folder.path}`;
    const below = children.get(folder.id) ?? [];
    const chosen = place?.path === path;
    const unfolded = below.length > 0 && isOpen(folder);
    return (
      <li key={folder.id}>
        <FolderPlace
          folder={folder}
          chosen={chosen}
          level={level}
          onPhoto={takesPhotos ? (photoId) => onPhoto(photoId, folder) : undefined}
          onFolder={takesPhotos ? (id) => onFolder(id, folder) : undefined}
          moves={takesPhotos && folder.path !== ''}
        >
          <button
            type="button"
            aria-label={unfolded ? `Fold ${folder.name || drive.label}` : `Unfold ${folder.name || drive.label}`}
            className={`p-1 text-ink-3 ${below.length ? '' : 'invisible'}`}
            onClick={() => flip(folder.id)}
          >
            {unfolded ? <ChevronDown size={13} /> : <ChevronRight size={13} />}
          </button>
          <button
            type="button"
            aria-pressed={chosen}
            title={folder.note || undefined}
            className="flex min-w-0 flex-1 items-center gap-2 py-1 pr-3 text-left"
            onClick={() => choose(path)}
          >
            {level === 0 && (
              <span
                aria-hidden="true"
                className={`size-2.5 shrink-0 rounded-xs ${drive.state === 'attached' ? 'bg-spruce' : 'border border-dashed border-ink-3'}`}
              />
            )}
            {folder.colour && <ColourDot colour={folder.colour} />}
            <span className="truncate">{folder.name || drive.label}</span>
            {folder.note && <StickyNote size={11} aria-label="It has a note" className="shrink-0 text-ink-3" />}
            <span className="figures ml-auto pl-1 text-[12px] font-normal whitespace-nowrap text-ink-2">
              {level === 0 && drive.state === 'away' && 'away · '}
              {numberText(deep ? folder.photosWithin : folder.photos)}
            </span>
          </button>
          {chosen && (
            <FolderMenu
              folder={folder}
              shown={path}
              mountPoint={drive.mountPoint}
              mayChange={takesPhotos}
              onRenamed={choose}
            />
          )}
        </FolderPlace>
        {unfolded && <ul>{below.map((child) => rows(child, level + 1))}</ul>}
      </li>
    );
  };
  return root ? rows(root, 0) : null;
}

interface FolderPlaceProps {
  folder: Folder;
  chosen: boolean;
  level: number;
  /** A photo was dropped on it. */
  onPhoto: ((photoId: number) => void) | undefined;
  onFolder: ((folderId: number) => void) | undefined;
  /** It can be grasped itself. */
  moves: boolean;
  children: ReactNode;
}

/** A row of the tree of folders; photos are dropped on it to be moved there. */
function FolderPlace({ folder, chosen, level, onPhoto, onFolder, moves, children }: FolderPlaceProps) {
  const { ref, props, over } = useDragging(`folder ${folder.id}`, {
    grasped: moves ? { what: 'folder', id: folder.id, text: folder.name } : undefined,
    takes: { photo: onPhoto && (({ id }) => onPhoto(id)), folder: onFolder && (({ id }) => onFolder(id)) },
  });
  return (
    <div
      ref={ref}
      {...props}
      className={`flex items-center border-l-3 ${chosen ? 'border-spruce bg-spruce-pale font-semibold' : 'border-transparent hover:bg-ground'} ${over ? 'outline-2 outline-offset-[-2px] outline-spruce' : ''}`}
      style={{ paddingLeft: 2 + level * 14 }}
    >
      {children}
    </div>
  );
}
