// Pictures of old maps: added, laid over the map as strongly as wanted, and pinned.

import { Plus } from 'lucide-react';
import { oldMapRoutes, type OldMapRow } from '@stellin/contract/oldMaps';
import { base64Of } from '../foundation/base64';
import { showError } from '../foundation/changes';
import { useMayCall } from '../foundation/session';
import { Button } from '../parts/Button';
import { Checkbox } from '../parts/Checkbox';
import { Menu, MenuItem } from '../parts/Menu';
import { Failed } from '../parts/Queried';
import { Slider } from '../parts/Slider';
import { useFilePicker } from '../parts/useFilePicker';
import { useAddOldMap, useOldMaps, useRemoveOldMap } from './queries';

/** How strongly a picture that is shown covers the map, in percent; the others are not shown. */
export type Strengths = ReadonlyMap<number, number>;

const USUAL_PERCENT = 70;

interface Props {
  strengths: Strengths;
  onStrengths: (strengths: Strengths) => void;
  onPin: (map: OldMapRow) => void;
}

export function OldMaps({ strengths, onStrengths, onPin }: Props) {
  const maps = useOldMaps();
  const mayAdd = useMayCall(oldMapRoutes.addOldMap);
  const add = useAddOldMap();
  const set = (id: number, percent: number | undefined) => {
    const next = new Map(strengths);
    if (percent === undefined) next.delete(id);
    else next.set(id, percent);
    onStrengths(next);
  };
  const take = async (picture: File) => {
    try {
      add.mutate({ name: picture.name.replace(/\.\w+$/, ''), picture: await base64Of(picture) });
    } catch (error) {
      showError(error);
    }
  };
  const [field, openFiles] = useFilePicker({
    label: 'Picture of an old map',
    accept: 'image/*',
    onFiles: ([picture]) => picture && void take(picture),
  });
  return (
    <section aria-labelledby="old-maps">
      <div className="mb-1 flex items-center">
        <h2 id="old-maps" className="text-[12px] font-semibold text-ink-2">
          Old maps
        </h2>
        {mayAdd && (
          <Button
            className="ml-auto"
            aria-label="Add a picture of an old map"
            disabled={add.isPending}
            onClick={openFiles}
          >
            <Plus size={14} /> Add …
          </Button>
        )}
        {field}
      </div>
      <Failed query={maps} />
      {maps.data?.length === 0 && (
        <p className="text-[12px] text-ink-2">Pictures of maps and plans, laid over the map by pins.</p>
      )}
      <ul>
        {maps.data?.map((map) => (
          <MapLine
            key={map.id}
            map={map}
            percent={strengths.get(map.id)}
            onPercent={(percent) => set(map.id, percent)}
            {...(mayAdd && { onPin: () => onPin(map) })}
          />
        ))}
      </ul>
    </section>
  );
}

interface LineProps {
  map: OldMapRow;
  /** How strongly it covers the map; undefined while it is not shown. */
  percent: number | undefined;
  onPercent: (percent: number | undefined) => void;
  /** Not for those who may only look. */
  onPin?: () => void;
}

function MapLine({ map: { id, name, pins }, percent, onPercent, onPin }: LineProps) {
  const remove = useRemoveOldMap();
  return (
    <li className="py-0.5">
      <div className="flex items-center gap-1">
        <Checkbox
          className="min-w-0 flex-1"
          checked={percent !== undefined}
          disabled={pins.length < 2}
          onChange={(on) => onPercent(on ? USUAL_PERCENT : undefined)}
        >
          <span className="truncate">{name}</span>
        </Checkbox>
        {pins.length < 2 && <span className="text-[11px] text-amber">not pinned</span>}
        {onPin && (
          <Menu label={`What to do with ${name}`}>
            <MenuItem label="Pin …" onSelect={onPin} />
            <MenuItem
              label="Remove"
              onSelect={() => {
                onPercent(undefined);
                remove.mutate(id);
              }}
            />
          </Menu>
        )}
      </div>
      {percent !== undefined && (
        <Slider
          label={`How strongly ${name} covers the map`}
          className="ml-6 w-44"
          value={percent}
          lowest={10}
          highest={100}
          step={5}
          onChange={onPercent}
        />
      )}
    </li>
  );
}
