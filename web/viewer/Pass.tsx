// The pass: the whole screen for one photo after the other, single keys say what becomes of each, and nothing is done before the end.

import { useQuery } from '@tanstack/react-query';
import { useEffect, useEffectEvent, useRef, useState, type ReactNode } from 'react';
import {
  beginPass,
  currentStep,
  decide,
  idsWith,
  openBurst,
  takeBack,
  VERDICTS,
  withBursts,
  type Pass as Passing,
  type Verdict,
} from '@stellin/core/viewer/pass';
import { lookalikeRoutes } from '@stellin/contract/lookalikes';
import type { Photo } from '@stellin/contract/photos';
import { countText, numberText } from '@stellin/contract/wording';
import { call, previewUrl } from '../foundation/api';
import { useChange } from '../foundation/changes';
import { shownKey } from '../foundation/keys';
import { useKeyCover, useKeys } from '../foundation/useKeys';
import { chooseRange, NOTHING } from '../photos/chosen';
import { useSelection } from '../photos/selection';
import { today } from '../parts/dateTimeText';
import { Button } from '../parts/Button';
import { Kbd } from '../parts/Kbd';
import { Stage } from './Stage';
import { useDecodedAhead } from './useDecodedAhead';
import { FIT, type Size, type Zoom } from './zoom';
import { Checkbox } from '../parts/Checkbox';
import { TextField } from '../parts/Field';

interface Props {
  photos: readonly Photo[];
  mayChange: boolean;
  onClose: () => void;
}

export function Pass({ photos, mayChange, onClose }: Props) {
  const ids = photos.map(({ id }) => id);
  const [pass, setPass] = useState<Passing>(() => beginPass(ids));
  const [zoom, setZoom] = useState<Zoom>(FIT);
  const frame = useRef<Size | null>(null);
  const byId = new Map(photos.map((one) => [one.id, one]));
  const { steps, verdicts } = pass;
  const at = verdicts.length;
  const step = currentStep(pass) ?? [];
  const [shown, ...others] = step.map((id) => byId.get(id));
  const photo = shown;
  const waiting = useBursts(ids, (bursts) => setPass((before) => withBursts(before, bursts)));
  useDecodedAhead(
    steps.slice(at, at + DECODED_AHEAD).map(([id]) => (id === undefined ? undefined : byId.get(id))),
    frame,
  );
  const say = (verdict: Verdict) => () => {
    if (!photo) return;
    setPass((before) => decide(before, verdict));
    setZoom(FIT);
  };
  useKeyCover();
  useKeys(
    {
      keep: say('keep'),
      second: say('second'),
      dropOut: say('drop'),
      openBurst: () => setPass((before) => openBurst(before, ids)),
      stepBack: () => setPass(takeBack),
      zoom: () => setZoom((before) => (before.scale === null ? { ...before, scale: 1 } : FIT)),
      chooseNone: onClose,
    },
    'cover',
  );
  return (
    <section aria-label="Pass" className="fixed inset-0 z-30 flex flex-col bg-ground">
      {photo ? (
        <>
          <Stage photo={photo} zoom={zoom} onZoom={setZoom} onFit={(_, size) => (frame.current = size)} />
          {others.length > 0 && (
            <Burst photos={[photo, ...others]} onOpen={() => setPass((before) => openBurst(before, ids))} />
          )}
          <footer className="flex h-13 shrink-0 items-center gap-4 border-t border-line bg-card px-4">
            <span className="truncate font-mono text-[12px] font-semibold">{photo.name}</span>
            <span className="figures whitespace-nowrap text-ink-2">
              {numberText(at + 1)} of {numberText(steps.length)} · {countsText(pass)}
              {waiting > 0 && ` · ${countText(waiting, 'picture')} not measured yet, so bursts may be missing`}
            </span>
            <span className="ml-auto flex items-center gap-2">
              <Button look="primary" onClick={say('keep')}>
                Keep <Kbd>{shownKey('keep')}</Kbd>
              </Button>
              <Button onClick={say('second')}>
                Second choice <Kbd>{shownKey('second')}</Kbd>
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
        <Ending pass={pass} mayChange={mayChange} onBack={() => setPass(takeBack)} onClose={onClose} />
      )}
    </section>
  );
}

const DECODED_AHEAD = 3;

const VERDICT_WORDS: Record<Verdict, string> = { keep: 'kept', second: 'second choice', drop: 'dropped' };

/** How many photos have each verdict: those that are kept and dropped always, second choices where there are any. */
function countsText(pass: Passing): string {
  return VERDICTS.map((verdict) => [verdict, idsWith(pass, verdict).length] as const)
    .filter(([verdict, count]) => verdict !== 'second' || count > 0)
    .map(([verdict, count]) => `${numberText(count)} ${VERDICT_WORDS[verdict]}`)
    .join(', ');
}

/** Tells the bursts among photos once they are known. Returns how many photos could be of more bursts, once they are measured. */
function useBursts(ids: readonly number[], onFound: (bursts: readonly number[][]) => void): number {
  const { data } = useQuery({
    queryKey: ['photos', 'bursts', ids],
    queryFn: () => call(lookalikeRoutes.findBursts, { body: { photoIds: [...ids] } }),
    staleTime: Infinity,
  });
  const found = useEffectEvent(onFound);
  useEffect(() => {
    if (data && data.bursts.length > 0) found(data.bursts);
  }, [data]);
  return data?.waiting ?? 0;
}

/** The photos of a burst, the one that is shown first. */
function Burst({ photos, onOpen }: { photos: readonly (Photo | undefined)[]; onOpen: () => void }) {
  return (
    <div className="flex h-16 shrink-0 items-center gap-2 border-t border-line bg-sheet px-4">
      <span className="whitespace-nowrap">
        Burst of {numberText(photos.length)}: <b>the sharpest</b> is shown, the others are dropped with it.
      </span>
      <span className="flex min-w-0 flex-1 gap-1 overflow-hidden">
        {photos.map(
          (photo, i) =>
            photo && (
              <img
                key={photo.id}
                src={previewUrl(photo.id, photo.previewVersion)}
                alt={photo.name}
                className={`h-12 ${i === 0 ? 'outline-2 outline-spruce' : 'opacity-60'}`}
              />
            ),
        )}
      </span>
      <Button onClick={onOpen}>
        One by one <Kbd>{shownKey('openBurst')}</Kbd>
      </Button>
    </div>
  );
}

interface EndingProps {
  pass: Passing;
  mayChange: boolean;
  onBack: () => void;
  onClose: () => void;
}

/** What becomes of the photos at the end: what is wished, and how it is done. */
function useOutcome(pass: Passing) {
  const [kept, second, dropped] = VERDICTS.map((verdict) => idsWith(pass, verdict)) as [number[], number[], number[]];
  const change = useChange();
  const [asDossier, setAsDossier] = useState(kept.length > 0);
  const [name, setName] = useState(`Kept ${today()}`);
  const [asSecond, setAsSecond] = useState(second.length > 0);
  const [secondName, setSecondName] = useState(`Second choice ${today()}`);
  const [rejecting, setRejecting] = useState(dropped.length > 0);
  const gathers = asDossier && kept.length > 0;
  const holds = asSecond && second.length > 0;
  const rejects = rejecting && dropped.length > 0;
  const make = (called: string, ids: number[]) =>
    change.mutateAsync({ kind: 'makeDossier', name: called, selection: { query: null, plus: ids } });
  const carryOut = async (onDone: () => void) => {
    try {
      if (gathers) await make(name, kept);
      // Tried again after a failure, it is not made twice.
      setAsDossier(false);
      if (holds) await make(secondName, second);
      setAsSecond(false);
      if (rejects)
        await change.mutateAsync({ kind: 'setRating', selection: { query: null, plus: dropped }, rating: -1 });
      onDone();
    } catch {
      // It has been said what went wrong; what was decided is still here.
    }
  };
  return {
    ...{ kept, second, dropped, rejecting, setRejecting, carryOut },
    first: { checked: asDossier, onCheck: setAsDossier, name, onName: setName },
    other: { checked: asSecond, onCheck: setAsSecond, name: secondName, onName: setSecondName },
    isReady:
      !change.isPending &&
      (gathers || holds || rejects) &&
      !(gathers && name.trim() === '') &&
      !(holds && secondName.trim() === ''),
    label: (gathers || holds) && rejects ? 'Keep and reject' : gathers || holds ? 'Keep as dossier' : 'Reject',
  };
}

function Ending({ pass, mayChange, onBack, onClose }: EndingProps) {
  const { setChosen } = useSelection();
  const outcome = useOutcome(pass);
  const { kept, second, dropped } = outcome;
  const chooseKept = () => {
    setChosen(kept.length > 0 ? chooseRange(NOTHING, kept, 0) : NOTHING);
    onClose();
  };
  return (
    <div className="m-auto w-[min(640px,90vw)] rounded-lg border border-line bg-card p-6">
      <h2 className="font-title text-[19px] font-semibold">
        {countText(kept.length, 'photo')} kept{second.length > 0 && `, ${numberText(second.length)} second choice`},{' '}
        {numberText(dropped.length)} dropped
      </h2>
      <p className="mt-1 text-ink-2">Nothing has changed yet.</p>
      {mayChange && (
        <>
          <DossierWish
            count={countText(kept.length, 'photo')}
            label="Name of the dossier"
            isThere={kept.length > 0}
            {...outcome.first}
          />
          <DossierWish
            count={countText(second.length, 'second choice')}
            label="Name of the dossier of second choices"
            isThere={second.length > 0}
            {...outcome.other}
          />
        </>
      )}
      {mayChange && dropped.length > 0 && (
        <Wish checked={outcome.rejecting} onCheck={outcome.setRejecting}>
          Reject {dropped.length === 1 ? 'the dropped photo' : `the ${countText(dropped.length, 'dropped photo')}`}
        </Wish>
      )}
      <div className="mt-4 flex flex-wrap gap-2">
        {mayChange && (
          <Button
            look="primary"
            autoFocus
            disabled={!outcome.isReady}
            onClick={() => void outcome.carryOut(chooseKept)}
          >
            {outcome.label}
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

interface DossierWishProps {
  /** What is kept, counted. */
  count: string;
  label: string;
  isThere: boolean;
  checked: boolean;
  onCheck: (checked: boolean) => void;
  name: string;
  onName: (name: string) => void;
}

/** That photos become a dossier, and how it is called. */
function DossierWish({ count, label, isThere, checked, onCheck, name, onName }: DossierWishProps) {
  if (!isThere) return null;
  return (
    <Wish checked={checked} onCheck={onCheck}>
      <span className="whitespace-nowrap">Keep {count} as dossier</span>
      <TextField
        label={label}
        hideLabel
        className="min-w-0 flex-1"
        boxClass="h-8 disabled:opacity-50"
        maxLength={200}
        disabled={!checked}
        value={name}
        onChange={(event) => onName(event.target.value)}
      />
    </Wish>
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
