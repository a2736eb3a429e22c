// The pass: the whole screen for one photo after the other, one key keeps, one drops, and at the end what becomes of them.

import { useState, type ReactNode } from 'react';
import type { Photo } from '@stellin/contract/photos';
import { countText, numberText } from '@stellin/contract/wording';
import { pictureUrl } from '../foundation/api';
import { useChange } from '../foundation/changes';
import { shownKey } from '../foundation/keys';
import { useKeyCover, useKeys } from '../foundation/useKeys';
import { chooseRange, NOTHING } from '../photos/chosen';
import { useSelection } from '../photos/selection';
import { today } from '../parts/dateTimeText';
import { Button } from '../parts/Button';
import { Kbd } from '../parts/Kbd';
import { BEGINNING, decide, idsWith, takeBack, type Verdict } from './pass';
import { Stage } from './Stage';
import { FIT, type Zoom } from './zoom';
import { Checkbox } from '../parts/Checkbox';
import { TextField } from '../parts/Field';

interface Props {
  photos: readonly Photo[];
  mayChange: boolean;
  onClose: () => void;
}

export function Pass({ photos, mayChange, onClose }: Props) {
  const [pass, setPass] = useState(BEGINNING);
  const [zoom, setZoom] = useState<Zoom>(FIT);
  const at = pass.verdicts.length;
  const photo = photos[at];
  const next = photos[at + 1];
  const say = (verdict: Verdict) => () => {
    if (!photo) return;
    setPass((before) => decide(before, verdict));
    setZoom(FIT);
  };
  useKeyCover();
  useKeys(
    {
      keep: say('keep'),
      dropOut: say('drop'),
      stepBack: () => setPass(takeBack),
      zoom: () => setZoom((before) => (before.scale === null ? { ...before, scale: 1 } : FIT)),
      chooseNone: onClose,
    },
    'cover',
  );
  const kept = pass.verdicts.filter((verdict) => verdict === 'keep').length;
  return (
    <section aria-label="Pass" className="fixed inset-0 z-30 flex flex-col bg-ground">
      {photo ? (
        <>
          <Stage photo={photo} zoom={zoom} onZoom={setZoom} />
          {next && !next.away && <link rel="prefetch" href={pictureUrl(next.id, next.previewVersion, 'large')} />}
          <footer className="flex h-13 shrink-0 items-center gap-4 border-t border-line bg-card px-4">
            <span className="truncate font-mono text-[12px] font-semibold">{photo.name}</span>
            <span className="figures whitespace-nowrap text-ink-2">
              {numberText(at + 1)} of {numberText(photos.length)} · {numberText(kept)} kept, {numberText(at - kept)}{' '}
              dropped
            </span>
            <span className="ml-auto flex items-center gap-2">
              <Button look="primary" onClick={say('keep')}>
                Keep <Kbd>{shownKey('keep')}</Kbd>
              </Button>
              <Button onClick={say('drop')}>
                Drop <Kbd>{shownKey('dropOut')}</Kbd>
              </Button>
              <Button look="quiet" disabled={at === 0} onClick={() => setPass(takeBack)}>
                One back <Kbd>{shownKey('stepBack')}</Kbd>
              </Button>
              <Button look="quiet" onClick={onClose}>
                End <Kbd>Esc</Kbd>
              </Button>
            </span>
          </footer>
        </>
      ) : (
        <Ending
          kept={idsWith(
            pass,
            photos.map(({ id }) => id),
            'keep',
          )}
          dropped={idsWith(
            pass,
            photos.map(({ id }) => id),
            'drop',
          )}
          mayChange={mayChange}
          onBack={() => setPass(takeBack)}
          onClose={onClose}
        />
      )}
    </section>
  );
}

interface EndingProps {
  kept: number[];
  dropped: number[];
  mayChange: boolean;
  onBack: () => void;
  onClose: () => void;
}

function Ending({ kept, dropped, mayChange, onBack, onClose }: EndingProps) {
  const change = useChange();
  const { setChosen } = useSelection();
  const [asDossier, setAsDossier] = useState(kept.length > 0);
  const [rejecting, setRejecting] = useState(dropped.length > 0);
  const [name, setName] = useState(`Kept ${today()}`);
  const chooseKept = () => {
    setChosen(kept.length > 0 ? chooseRange(NOTHING, kept, 0) : NOTHING);
    onClose();
  };
  const gathers = asDossier && kept.length > 0;
  const rejects = rejecting && dropped.length > 0;
  const carryOut = async () => {
    try {
      if (gathers) {
        await change.mutateAsync({ kind: 'makeDossier', name, selection: { query: null, plus: kept } });
        // Tried again after a failure, it is not made twice.
        setAsDossier(false);
      }
      if (rejects)
        await change.mutateAsync({ kind: 'setRating', selection: { query: null, plus: dropped }, rating: -1 });
      chooseKept();
    } catch {
      // It has been said what went wrong; what was decided is still here.
    }
  };
  return (
    <div className="m-auto w-[min(640px,90vw)] rounded-lg border border-line bg-card p-6">
      <h2 className="font-title text-[19px] font-semibold">
        {countText(kept.length, 'photo')} kept, {numberText(dropped.length)} dropped
      </h2>
      <p className="mt-1 text-ink-2">Nothing has changed yet.</p>
      {mayChange && kept.length > 0 && (
        <Wish checked={asDossier} onCheck={setAsDossier}>
          <span className="whitespace-nowrap">Keep {countText(kept.length, 'photo')} as dossier</span>
          <TextField
            label="Name of the dossier"
            hideLabel
            className="min-w-0 flex-1"
            boxClass="h-8 disabled:opacity-50"
            maxLength={200}
            disabled={!asDossier}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </Wish>
      )}
      {mayChange && dropped.length > 0 && (
        <Wish checked={rejecting} onCheck={setRejecting}>
          Reject {dropped.length === 1 ? 'the dropped photo' : `the ${countText(dropped.length, 'dropped photo')}`}
        </Wish>
      )}
      <div className="mt-4 flex flex-wrap gap-2">
        {mayChange && (
          <Button
            look="primary"
            autoFocus
            disabled={change.isPending || (!gathers && !rejects) || (gathers && name.trim() === '')}
            onClick={() => void carryOut()}
          >
            {gathers && rejects ? 'Keep and reject' : gathers ? 'Keep as dossier' : 'Reject'}
          </Button>
        )}
        <Button onClick={chooseKept}>Choose the kept ones on the sheet</Button>
        <Button onClick={onBack}>One back</Button>
        <Button look="quiet" onClick={onClose}>
          Leave all as it is
        </Button>
      </div>
    </div>
  );
}

interface WishProps {
  checked: boolean;
  onCheck: (checked: boolean) => void;
  children: ReactNode;
}

function Wish({ checked, onCheck, children }: WishProps) {
  return (
    <Checkbox checked={checked} onChange={onCheck} className="mt-3">
      {children}
    </Checkbox>
  );
}
