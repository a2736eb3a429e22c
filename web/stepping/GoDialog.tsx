// Going somewhere by keys: to what is kept on top, to a folder by a part of its name, or to the folder, day, month or event beside.

import { useState, type KeyboardEvent } from 'react';
import { useLocation, useNavigate } from 'react-router';
import { toast } from 'sonner';
import { STEPS, type Direction, type StepKind } from '@stellin/core/stepping/stepping';
import { steppingRoutes } from '@stellin/contract/stepping';
import { call } from '../foundation/api';
import { showError } from '../foundation/changes';
import { useKeys } from '../foundation/useKeys';
import { Dialog } from '../parts/Dialog';
import { Kbd } from '../parts/Kbd';
import { useResult, resultLink } from '../photos/result';
import type { Result } from '../photos/queries';
import { useSelection } from '../photos/selection';
import { FolderFinder } from './FolderFinder';
import { usePlacesOnTop } from './places';
import { shownStep, STEP_KEYS } from './stepKeys';

/** Opens by its key on every place. */
export function Go() {
  const [open, setOpen] = useState(false);
  useKeys({ go: () => setOpen(true) }, 'frame');
  return open ? <GoDialog onClose={() => setOpen(false)} /> : null;
}

function GoDialog({ onClose }: { onClose: () => void }) {
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const { query } = useResult();
  const { chosen } = useSelection();
  const places = usePlacesOnTop();
  const [finds, setFinds] = useState(false);
  const [first] = chosen.plus;
  const photo = chosen.focusId ?? first;
  /** What is shown now, where that is the Desk. */
  const here = pathname === '/desk' ? query : '';
  const canStep = photo !== undefined || pathname === '/desk';

  const show = (result: Partial<Result>) => {
    onClose();
    void navigate(resultLink(result));
  };
  const step = async (kind: StepKind, direction: Direction) => {
    const { to } = await call(steppingRoutes.step, {
      query: { kind, direction, query: here, ...(photo === undefined ? {} : { photo: photo }) },
    });
    if (to) show({ query: to.query });
    else toast(`There is no ${direction === 'next' ? 'next' : 'former'} ${STEPS[kind].label}.`);
  };
  const go = (kind: StepKind, direction: Direction) => void step(kind, direction).catch(showError);
  const onKeyDown = (event: KeyboardEvent) => {
    if (finds || event.ctrlKey || event.metaKey || event.altKey) return;
    const key = event.key.toLowerCase();
    const place = places[Number(key) - 1];
    const kind = (Object.keys(STEP_KEYS) as StepKind[]).find((each) => STEP_KEYS[each] === key);
    if (key === 'f') setFinds(true);
    else if (place) show(place.shows);
    else if (kind && canStep) go(kind, event.shiftKey ? 'before' : 'next');
    else return;
    event.preventDefault();
  };
  return (
    <Dialog open onOpenChange={onClose} title={finds ? 'Go to a folder' : 'Go to'}>
      <div onKeyDown={onKeyDown}>
        {finds ? (
          <FolderFinder onFound={(found) => show({ query: found })} />
        ) : (
          <ul className="space-y-0.5">
            {places.slice(0, 9).map(({ kind, id, label, within, shows }, i) => (
              <Row
                key={`${kind} ${id}`}
                keys={[String(i + 1)]}
                label={label}
                said={within}
                onPick={() => show(shows)}
              />
            ))}
            {places.length === 0 && (
              <li className="px-2 pb-1 text-ink-2">
                Keep folders, dossiers and saved searches on top by their menus: they get the keys 1 to 9.
              </li>
            )}
            <Row keys={['F']} label="A folder by its name …" onPick={() => setFinds(true)} />
            {canStep &&
              (Object.keys(STEPS) as StepKind[]).map((kind) => (
                <li key={kind} className="flex items-center gap-1">
                  <Choice
                    label={`Next ${STEPS[kind].label}`}
                    keys={shownStep(kind, 'next')}
                    onPick={() => go(kind, 'next')}
                  />
                  <Choice
                    label="The one before"
                    spoken={`Former ${STEPS[kind].label}`}
                    keys={shownStep(kind, 'before')}
                    onPick={() => go(kind, 'before')}
                  />
                </li>
              ))}
          </ul>
        )}
      </div>
    </Dialog>
  );
}

interface RowProps {
  keys: readonly string[];
  label: string;
  said?: string;
  onPick: () => void;
}

function Row({ keys, label, said, onPick }: RowProps) {
  return (
    <li>
      <Choice label={label} keys={keys} onPick={onPick} {...(said ? { said } : {})} />
    </li>
  );
}

function Choice({ keys, label, spoken, said, onPick }: RowProps & { spoken?: string }) {
  return (
    <button
      type="button"
      {...(spoken ? { 'aria-label': spoken } : {})}
      className="flex w-full min-w-0 items-center gap-2 rounded px-2 py-1 text-left hover:bg-ground focus-visible:bg-spruce-pale"
      onClick={onPick}
    >
      <span className="truncate">{label}</span>
      {said && <span className="truncate text-[12px] text-ink-2">{said}</span>}
      <span className="ml-auto flex gap-1">
        {keys.map((key) => (
          <Kbd key={key}>{key}</Kbd>
        ))}
      </span>
    </button>
  );
}
