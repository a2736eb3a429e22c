// Own places as a file: written as SKOS, and taken in from one after it was told how many are new.

import { useState } from 'react';
import { placeRoutes, type ReadPlaceRow } from '@stellin/contract/places';
import { countText } from '@stellin/contract/wording';
import { call } from '../foundation/api';
import { showError, useChange } from '../foundation/changes';
import { useMayChange } from '../foundation/session';
import { Button } from '../parts/Button';
import { Dialog } from '../parts/Dialog';
import { Menu, MenuItem } from '../parts/Menu';
import { useFilePicker } from '../parts/useFilePicker';

interface Read {
  name: string;
  places: ReadPlaceRow[];
  fresh: number;
}

export function OwnPlacesFile() {
  const mayImport = useMayChange('importOwnPlaces');
  const [read, setRead] = useState<Read | null>(null);
  const look = async (chosen: File) => {
    try {
      setRead({
        name: chosen.name,
        ...(await call(placeRoutes.readOwnPlaces, { body: { text: await chosen.text() } })),
      });
    } catch (error) {
      showError(error);
    }
  };
  const [field, openFiles] = useFilePicker({
    label: 'File of own places',
    accept: '.ttl,.turtle,.txt',
    onFiles: ([chosen]) => chosen && void look(chosen),
  });
  return (
    <>
      <Menu label="Own places as a file">
        <MenuItem label="Write as SKOS" onSelect={() => location.assign(placeRoutes.exportOwnPlaces.path)} />
        {mayImport && <MenuItem label="Take in SKOS …" onSelect={() => openFiles()} />}
      </Menu>
      {field}
      {read && <Told read={read} onClose={() => setRead(null)} />}
    </>
  );
}

function Told({ read: { name, places, fresh }, onClose }: { read: Read; onClose: () => void }) {
  const change = useChange();
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title={`Places in ${name}`}>
      <p>
        {countText(places.length, 'place')}, {fresh} of them new. Those that are there already get what they lack: other
        names, a middle, an outline.
      </p>
      <ul className="my-2 max-h-48 overflow-y-auto border border-line px-2 py-1">
        {places.slice(0, MAX_SHOWN).map((place, i) => (
          <li key={`${i} ${place.name}`} className="truncate">
            {place.name}
            {place.parent !== null && <span className="text-ink-2"> in {places[place.parent]?.name}</span>}
          </li>
        ))}
      </ul>
      {places.length > MAX_SHOWN && <p className="text-ink-2">The first {MAX_SHOWN} are shown.</p>}
      <div className="mt-2 flex gap-2">
        <Button
          look="primary"
          disabled={change.isPending}
          onClick={() => change.mutate({ kind: 'importOwnPlaces', places }, { onSuccess: onClose })}
        >
          Take them in
        </Button>
        <Button onClick={onClose}>Not now</Button>
      </div>
    </Dialog>
  );
}

const MAX_SHOWN = 100;
