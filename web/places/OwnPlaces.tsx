// The archive's own places as a tree: shown on the map, looked for on the Desk, added and changed.

import { ChevronDown, ChevronRight, Plus } from 'lucide-react';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { PLACE_KIND_LABELS } from '@stellin/core/timeplace/ownPlaces';
import type { OwnPlaceRow } from '@stellin/contract/places';
import { useChange } from '../foundation/changes';
import { useMayChange } from '../foundation/session';
import { Button } from '../parts/Button';
import { deskLink } from '../parts/deskLink';
import { Menu, MenuItem } from '../parts/Menu';
import type { OwnPlaceTask } from './OwnPlaceDialog';
import { OwnPlacesFile } from './OwnPlacesFile';

interface Props {
  places: readonly OwnPlaceRow[];
  shownId: number | null;
  onShow: (place: OwnPlaceRow) => void;
  onTask: (task: OwnPlaceTask) => void;
  /** Its outline is to be drawn on the map. */
  onDraw: (place: OwnPlaceRow) => void;
}

export function OwnPlaces({ places, shownId, onShow, onTask, onDraw }: Props) {
  const mayChange = useMayChange('saveOwnPlace');
  const top = places.filter(({ parentId }) => parentId === null);
  return (
    <section aria-labelledby="own-places">
      <div className="mb-1 flex items-center">
        <h2 id="own-places" className="text-[12px] font-semibold text-ink-2">
          Own places
        </h2>
        <span className="ml-auto flex items-center gap-1">
          {mayChange && (
            <Button onClick={() => onTask({ kind: 'add', parent: null })}>
              <Plus size={14} /> New …
            </Button>
          )}
          <OwnPlacesFile />
        </span>
      </div>
      {top.length === 0 && (
        <p className="text-[12px] text-ink-2">Piers, barns, villages that are gone: what no list of towns knows.</p>
      )}
      <ul>
        {top.map((place) => (
          <Branch key={place.id} {...{ place, places, shownId, onShow, onTask, onDraw, mayChange }} depth={0} />
        ))}
      </ul>
    </section>
  );
}

function Branch({
  place,
  places,
  shownId,
  onShow,
  onTask,
  onDraw,
  mayChange,
  depth,
}: Props & { place: OwnPlaceRow; mayChange: boolean; depth: number }) {
  const [open, setOpen] = useState(depth < 2);
  const within = places.filter(({ parentId }) => parentId === place.id);
  return (
    <li>
      <div
        className={`flex items-center gap-1 rounded pr-1 ${shownId === place.id ? 'bg-spruce-pale' : 'hover:bg-ground'}`}
        style={{ paddingLeft: depth * 14 }}
      >
        {within.length > 0 ? (
          <button
            type="button"
            aria-expanded={open}
            aria-label={`What lies in ${place.name}`}
            className="text-ink-3 hover:text-ink"
            onClick={() => setOpen(!open)}
          >
            {open ? <ChevronDown size={14} /> : <ChevronRight size={14} />}
          </button>
        ) : (
          <span className="w-3.5 shrink-0" />
        )}
        <button
          type="button"
          aria-pressed={shownId === place.id}
          title={PLACE_KIND_LABELS[place.kind]}
          className="min-w-0 flex-1 truncate py-0.5 text-left"
          onClick={() => onShow(place)}
        >
          {place.name}
          {place.otherNames[0] && <i className="ml-1.5 text-[11px] text-ink-2">{place.otherNames[0].name}</i>}
        </button>
        {!place.point && <span className="text-[11px] text-amber">nowhere yet</span>}
        <PlaceMenu {...{ place, mayChange, onTask, onDraw }} holdsOthers={within.length > 0} />
      </div>
      {open && within.length > 0 && (
        <ul>
          {within.map((each) => (
            <Branch
              key={each.id}
              {...{ places, shownId, onShow, onTask, onDraw, mayChange }}
              place={each}
              depth={depth + 1}
            />
          ))}
        </ul>
      )}
    </li>
  );
}

interface MenuProps extends Pick<Props, 'onTask' | 'onDraw'> {
  place: OwnPlaceRow;
  mayChange: boolean;
  holdsOthers: boolean;
}

function PlaceMenu({ place, mayChange, holdsOthers, onTask, onDraw }: MenuProps) {
  const navigate = useNavigate();
  const change = useChange();
  return (
    <Menu label={`What to do with ${place.name}`}>
      <MenuItem label="Show its photos on the Desk" onSelect={() => void navigate(deskLink(place.query))} />
      {place.termId !== null && (
        <MenuItem
          label={`Show its term: ${place.termLabel}`}
          onSelect={() => void navigate(`/vocabulary?term=${place.termId}`)}
        />
      )}
      {mayChange && (
        <>
          <MenuItem label="Change …" onSelect={() => onTask({ kind: 'change', place })} />
          {place.kind !== 'spot' && (
            <MenuItem label="Add a place in it …" onSelect={() => onTask({ kind: 'add', parent: place })} />
          )}
          <MenuItem label="Draw its outline" onSelect={() => onDraw(place)} />
          <MenuItem label="Merge into another …" onSelect={() => onTask({ kind: 'merge', place })} />
          <MenuItem
            label={holdsOthers ? 'Remove with what lies in it' : 'Remove'}
            onSelect={() => change.mutate({ kind: 'removeOwnPlace', placeId: place.id })}
          />
        </>
      )}
    </Menu>
  );
}
