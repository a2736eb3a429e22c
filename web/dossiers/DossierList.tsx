// Dossiers among the sources: a tree with colours and counts. Photos are dropped on them; each drag has a key or menu twin.

import { BriefcaseBusiness, ChevronDown, ChevronRight, LayoutGrid, Pin } from 'lucide-react';
import { use, useState } from 'react';
import { Link } from 'react-router';
import type { Dossier } from '@stellin/contract/dossiers';
import type { Selection } from '@stellin/contract/photos';
import type { Project } from '@stellin/contract/projects';
import { countText, numberText } from '@stellin/contract/wording';
import { useChange } from '../foundation/changes';
import { shownKey } from '../foundation/keys';
import { PersonContext, useMayChange } from '../foundation/session';
import { selectionOf, selectionOfGrasped } from '../photos/chosen';
import type { Result } from '../photos/queries';
import { useSelection } from '../photos/selection';
import { Menu, MenuItem } from '../parts/Menu';
import { PinItem } from '../pinned/PinItem';
import { Tooltip } from '../parts/Tooltip';
import { useDragging, type DropZone } from '../parts/dragging/dragging';
import { ColourDot } from './ColourDot';
import { CompareDialog } from './CompareDialog';
import { DossierDialog, type DossierTask } from './DossierDialog';
import { useDossiers, usePin, useProjects } from './queries';

interface Props extends Result {
  show: (change: Partial<Result>) => void;
}

export function DossierList({ query, show }: Props) {
  const { data: dossiers = [] } = useDossiers();
  const { data: projects = [] } = useProjects();
  const everywhere = use(PersonContext)?.everywhere.includes('describe') ?? false;
  const mayChange = useMayChange('makeDossier');
  const { chosen, total } = useSelection();
  const [folded, setFolded] = useState<ReadonlySet<number>>(new Set());
  const [task, setTask] = useState<DossierTask | null>(null);
  const [compared, setCompared] = useState<Dossier | null>(null);
  const selection = selectionOf(chosen, query);
  const flip = (id: number) => {
    const after = new Set(folded);
    if (!after.delete(id)) after.add(id);
    setFolded(after);
  };
  const make = (parent: Dossier | null) =>
    setTask(
      selection
        ? { kind: 'make', parent, selection, from: 'It begins with the chosen photos.' }
        : { kind: 'make', parent, selection: null, from: '' },
    );
  const children = (parentId: number | null) => dossiers.filter((dossier) => dossier.parentId === parentId);
  const rows = (parentId: number | null, level: number): React.ReactNode =>
    children(parentId).map((dossier) => {
      const below = children(dossier.id);
      const isFolded = folded.has(dossier.id);
      return (
        <li key={dossier.id}>
          <Row
            dossier={dossier}
            project={projects.find(({ dossierId }) => dossierId === dossier.id)}
            level={level}
            chosen={dossier.query === query}
            folded={below.length > 0 ? isFolded : undefined}
            onFold={() => flip(dossier.id)}
            onOpen={() => show({ query: dossier.query, sort: 'hand' })}
            query={query}
          >
            {mayChange && (
              <DossierMenu
                dossier={dossier}
                siblings={children(dossier.parentId)}
                all={dossiers}
                selection={selection}
                focus={chosen.plus.size === 1 ? [...chosen.plus][0] : undefined}
                onMake={() => make(dossier)}
                onChange={() => setTask({ kind: 'change', dossier })}
                onCopy={() => setTask({ kind: 'copy', dossier })}
                onCompare={() => setCompared(dossier)}
              />
            )}
          </Row>
          {below.length > 0 && !isFolded && <ul>{rows(dossier.id, level + 1)}</ul>}
        </li>
      );
    });
  return (
    <>
      <div className="flex items-baseline pt-2 pr-2 pb-1">
        <h2 className="figures flex flex-1 justify-between pl-3 text-[12px] font-semibold text-ink-2">
          Dossiers <span className="pr-1">{numberText(dossiers.length)}</span>
        </h2>
        <Tooltip text="As a wall of pictures">
          <Link to="/dossiers" aria-label="Dossiers as a wall of pictures" className="mr-1 text-ink-3 hover:text-ink">
            <LayoutGrid size={13} />
          </Link>
        </Tooltip>
        {everywhere && (
          <Menu label="New dossier">
            <MenuItem label={selection ? 'New, of the chosen photos …' : 'New …'} onSelect={() => make(null)} />
            <MenuItem
              label={`New, of all that is found now (${numberText(total ?? 0)}) …`}
              disabled={!total}
              onSelect={() =>
                setTask({
                  kind: 'make',
                  parent: null,
                  selection: { query, minus: [], plus: [] },
                  from: `It keeps the ${countText(total ?? 0, 'photo')} that the query finds now.`,
                })
              }
            />
          </Menu>
        )}
      </div>
      <ul>{rows(null, 0)}</ul>
      {dossiers.length === 0 && (
        <p className="px-3 text-ink-2">
          {mayChange ? 'Choose photos and gather them in a dossier.' : 'Nothing is gathered yet.'}
        </p>
      )}
      {task && <DossierDialog task={task} onClose={() => setTask(null)} />}
      {compared && <CompareDialog first={compared} show={show} onClose={() => setCompared(null)} />}
    </>
  );
}

interface RowProps {
  dossier: Dossier;
  /** The one whose dossier it is. */
  project: Project | undefined;
  level: number;
  chosen: boolean;
  folded: boolean | undefined;
  query: string;
  onFold: () => void;
  onOpen: () => void;
  children: React.ReactNode;
}

function Row({ dossier, project, level, chosen, folded, query, onFold, onOpen, children }: RowProps) {
  const change = useChange();
  const { chosen: photos } = useSelection();
  const mayChange = useMayChange('makeDossier');
  const gather = (photoId: number) =>
    change.mutate({
      kind: 'putInDossier',
      dossierId: dossier.id,
      selection: selectionOfGrasped(photos, query, photoId),
    });
  const place = (id: number, zone: DropZone) => {
    const wanted =
      zone === 'before' ? { parentId: dossier.parentId, before: dossier.id } : { parentId: dossier.id, before: null };
    if (id !== dossier.id) change.mutate({ kind: 'placeDossier', dossierId: id, ...wanted });
  };
  const { ref, props, over } = useDragging(`dossier ${dossier.id}`, {
    grasped: mayChange ? { what: 'dossier', id: dossier.id, text: dossier.name } : undefined,
    takes: mayChange ? { photo: ({ id }) => gather(id), dossier: ({ id }, zone) => place(id, zone) } : {},
  });
  return (
    <div
      ref={ref}
      data-place={props['data-place']}
      data-over={props['data-over']}
      className={`flex items-center border-l-3 ${chosen ? 'border-spruce bg-spruce-pale font-semibold' : 'border-transparent hover:bg-ground'} ${over === 'on' ? 'outline-2 outline-offset-[-2px] outline-spruce' : over === 'before' ? 'border-t-2 border-t-spruce' : ''}`}
      style={{ paddingLeft: 2 + level * 14 }}
    >
      <button
        type="button"
        aria-label={folded ? `Unfold ${dossier.name}` : `Fold ${dossier.name}`}
        className={`p-1 text-ink-3 ${folded === undefined ? 'invisible' : ''}`}
        onClick={onFold}
      >
        {folded ? <ChevronRight size={13} /> : <ChevronDown size={13} />}
      </button>
      <button
        type="button"
        onPointerDown={props.onPointerDown}
        onKeyDown={props.onKeyDown}
        aria-pressed={chosen}
        title={dossier.note || dossier.path.replaceAll('/', ' › ')}
        className="flex min-w-0 flex-1 items-center gap-2 py-1 pr-2 text-left"
        onClick={onOpen}
      >
        <ColourDot colour={dossier.colour} />
        {project && (
          <BriefcaseBusiness
            size={12}
            className="shrink-0 text-ink-2"
            aria-label={project.closed ? 'closed project' : 'project'}
          />
        )}
        <span className="truncate">{dossier.name}</span>
        {dossier.pinned && (
          <Tooltip text="The chosen photos go in, or out" keyName={shownKey('gather')}>
            <Pin size={11} className="shrink-0 text-spruce" aria-label="pinned" />
          </Tooltip>
        )}
        <span className="figures ml-auto pl-1 text-[12px] font-normal text-ink-2">{numberText(dossier.photos)}</span>
      </button>
      {children}
    </div>
  );
}

interface MenuProps {
  dossier: Dossier;
  siblings: readonly Dossier[];
  all: readonly Dossier[];
  selection: Selection | null;
  /** The one photo that is chosen. */
  focus: number | undefined;
  onMake: () => void;
  onChange: () => void;
  onCopy: () => void;
  onCompare: () => void;
}

function DossierMenu({ dossier, siblings, all, selection, focus, onMake, onChange, onCopy, onCompare }: MenuProps) {
  const change = useChange();
  const pin = usePin();
  const place = siblings.findIndex(({ id }) => id === dossier.id);
  const parent = all.find(({ id }) => id === dossier.parentId);
  const above = siblings[place - 1];
  const move = (parentId: number | null, before: number | null) =>
    change.mutate({ kind: 'placeDossier', dossierId: dossier.id, parentId, before });
  return (
    <Menu label={`Change the dossier ${dossier.name}`} className="pr-2">
      <MenuItem
        label="Put the chosen photos in"
        disabled={selection === null}
        onSelect={() => selection && change.mutate({ kind: 'putInDossier', dossierId: dossier.id, selection })}
      />
      <MenuItem
        label="Take the chosen photos out"
        disabled={selection === null}
        onSelect={() => selection && change.mutate({ kind: 'takeFromDossier', dossierId: dossier.id, selection })}
      />
      <MenuItem
        label={dossier.pinned ? 'Unpin' : `Pin: ${shownKey('gather')} puts photos here`}
        onSelect={() => pin.mutate(dossier.pinned ? null : dossier.id)}
      />
      <PinItem kind="dossier" id={dossier.id} />
      <MenuItem label="New dossier in it …" onSelect={onMake} />
      <MenuItem label="Name, colour, note …" onSelect={onChange} />
      <MenuItem
        label="The chosen photo is its cover"
        disabled={focus === undefined}
        onSelect={() => change.mutate({ kind: 'changeDossier', dossierId: dossier.id, coverPhoto: focus ?? null })}
      />
      <MenuItem label="Copy …" onSelect={onCopy} />
      <MenuItem label="Compare with another …" disabled={all.length < 2} onSelect={onCompare} />
      <MenuItem label="Move up" disabled={!above} onSelect={() => above && move(dossier.parentId, above.id)} />
      <MenuItem
        label="Move down"
        disabled={place === siblings.length - 1}
        onSelect={() => move(dossier.parentId, siblings[place + 2]?.id ?? null)}
      />
      <MenuItem label="Into the one above" disabled={!above} onSelect={() => above && move(above.id, null)} />
      <MenuItem
        label="Out, one level up"
        disabled={!parent}
        onSelect={() => parent && move(parent.parentId, nextAfter(all, parent))}
      />
      <MenuItem label="Remove" onSelect={() => change.mutate({ kind: 'removeDossier', dossierId: dossier.id })} />
    </Menu>
  );
}

function nextAfter(all: readonly Dossier[], dossier: Dossier): number | null {
  const siblings = all.filter(({ parentId }) => parentId === dossier.parentId);
  return siblings[siblings.findIndex(({ id }) => id === dossier.id) + 1]?.id ?? null;
}
