// Street maps: files of tiles that are laid over the outlines, uploaded or laid into the data folder.

import { Plus } from 'lucide-react';
import { useState } from 'react';
import { streetMapRoutes, type StreetMapRow } from '@stellin/contract/streetMaps';
import { useMayCall } from '../foundation/session';
import { Button } from '../parts/Button';
import { Checkbox } from '../parts/Checkbox';
import { Dialog } from '../parts/Dialog';
import { Menu, MenuItem } from '../parts/Menu';
import { Failed } from '../parts/Queried';
import { useFilePicker } from '../parts/useFilePicker';
import { sizeText } from '@stellin/contract/sizeText';
import { useAddStreetMap, useRemoveStreetMap, useStreetMaps } from './queries';

interface Props {
  /** Those that are not to be seen; all others are. */
  hidden: ReadonlySet<string>;
  onHidden: (names: ReadonlySet<string>) => void;
}

export function StreetMaps({ hidden, onHidden }: Props) {
  const maps = useStreetMaps();
  const mayAdd = useMayCall(streetMapRoutes.removeStreetMap);
  const add = useAddStreetMap();
  const [removing, setRemoving] = useState<StreetMapRow | null>(null);
  const toggle = (name: string, isShown: boolean) => {
    const next = new Set(hidden);
    if (isShown) next.delete(name);
    else next.add(name);
    onHidden(next);
  };
  const [field, openFiles] = useFilePicker({
    label: 'File of a street map',
    accept: '.pmtiles',
    onFiles: ([file]) => file && add.mutate(file),
  });
  return (
    <section aria-labelledby="street-maps">
      <div className="mb-1 flex items-center">
        <h2 id="street-maps" className="text-[12px] font-semibold text-ink-2">
          Street maps
        </h2>
        {mayAdd && (
          <Button className="ml-auto" aria-label="Add a street map" disabled={add.isPending} onClick={openFiles}>
            <Plus size={14} /> Add …
          </Button>
        )}
        {field}
      </div>
      <Failed query={maps} />
      {add.isPending && (
        <p role="status" className="text-[12px] text-ink-2">
          {add.variables?.name} is on its way …
        </p>
      )}
      {maps.data?.length === 0 && (
        <p className="text-[12px] text-ink-2">
          .pmtiles files, uploaded or laid into the folder <i>maps</i> of the data folder.
        </p>
      )}
      <ul>
        {maps.data?.map((map) => (
          <li key={map.name} className="flex items-start gap-1 py-0.5">
            <Checkbox
              className="min-w-0 flex-1"
              checked={map.shown !== null && !hidden.has(map.name)}
              disabled={map.shown === null}
              onChange={(on) => toggle(map.name, on)}
            >
              <span className="block truncate" title={map.name}>
                {nameText(map.name)}
              </span>
              <span className={`block text-[11px] ${map.problem === null ? 'text-ink-2' : 'text-amber'}`}>
                {map.problem === null ? sizeText(map.bytes) : `Can’t be shown: ${map.problem}`}
              </span>
            </Checkbox>
            {mayAdd && (
              <Menu label={`What to do with ${map.name}`}>
                <MenuItem label="Delete …" onSelect={() => setRemoving(map)} />
              </Menu>
            )}
          </li>
        ))}
      </ul>
      {removing && <Removing map={removing} onClose={() => setRemoving(null)} />}
    </section>
  );
}

function Removing({ map, onClose }: { map: StreetMapRow; onClose: () => void }) {
  const remove = useRemoveStreetMap();
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title={`Delete ${map.name}?`}>
      <p>The file ({sizeText(map.bytes)}) is deleted from the data folder; this can’t be undone.</p>
      <div className="mt-4 flex gap-2">
        <Button
          look="primary"
          disabled={remove.isPending}
          onClick={() => remove.mutate(map.name, { onSuccess: onClose })}
        >
          Delete it
        </Button>
        <Button onClick={onClose}>Keep it</Button>
      </div>
    </Dialog>
  );
}

function nameText(file: string): string {
  return file.replace(/\.pmtiles$/i, '');
}
