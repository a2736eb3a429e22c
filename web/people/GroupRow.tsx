// A likeness group: its faces, and one question.

import { useState } from 'react';
import type { LikenessGroup, Who } from '@stellin/contract/people';
import { countText, numberText } from '@stellin/contract/wording';
import { shownKey } from '../foundation/keys';
import { Button } from '../parts/Button';
import { Kbd } from '../parts/Kbd';
import { FaceTile } from './FaceTile';
import { Meter } from '../parts/Meter';
import { PersonPicker } from './PersonPicker';

interface Settling {
  yes: () => void;
  no: () => void;
  name: (who: Who) => void;
  set: (state: 'unnamed' | 'none') => void;
  /** Leaves a face out, or takes it in again. */
  toggle: (faceId: number) => void;
  like: (faceId: number) => void;
}

interface Props extends Settling {
  group: LikenessGroup;
  current: boolean;
  /** The face that keys act on. */
  faceAt: number;
  out: ReadonlySet<number>;
  /** Raised to bring the focus to the name. */
  focusKey: number;
  mayChange: boolean;
  busy: boolean;
  onFocus: (faceAt: number) => void;
}

const FACES_SHOWN = 14;

export function GroupRow({ group, current, faceAt, out, focusKey, mayChange, busy, onFocus, ...settle }: Props) {
  const { faces, faceIds, photos, guess } = group;
  const [all, setAll] = useState(false);
  const [asking, setAsking] = useState(false);
  const meant = faceIds.length - out.size;
  const showsAll = all || (current && faceAt >= FACES_SHOWN);
  const shown = showsAll ? faces : faces.slice(0, FACES_SHOWN);
  const years = faces.flatMap(({ takenAt }) => (takenAt ? [Number(takenAt.slice(0, 4))] : []));
  const [from, to] = [Math.min(...years), Math.max(...years)];
  const when = years.length === 0 ? '' : from === to ? `, ${from}` : `, ${from}–${to}`;
  const asks = guess && !asking;
  return (
    <li
      aria-current={current || undefined}
      className={`flex rounded-md border bg-card ${current ? 'border-spruce ring-1 ring-spruce' : 'border-line'}`}
    >
      <div className="flex min-w-0 flex-1 flex-wrap content-start gap-2 p-2.5">
        {shown.map((face, i) => (
          <FaceTile
            key={face.id}
            face={face}
            chosen={current && i === faceAt}
            out={out.has(face.id)}
            dragged={mayChange && !busy ? [face.id] : []}
            label={`Face in ${face.photoName}${out.has(face.id) ? ', left out' : ''}`}
            onClick={() => {
              onFocus(i);
              if (current && i === faceAt && mayChange) settle.toggle(face.id);
            }}
            onDoubleClick={() => settle.like(face.id)}
          >
            {likenessText(face.likeness)}
          </FaceTile>
        ))}
        {faces.length > FACES_SHOWN && !showsAll && (
          <Button look="quiet" className="self-center" onClick={() => setAll(true)}>
            {numberText(faceIds.length - FACES_SHOWN)} more
          </Button>
        )}
        {showsAll && faceIds.length > faces.length && (
          <span className="self-center text-ink-2">and {numberText(faceIds.length - faces.length)} more</span>
        )}
      </div>
      <div className="w-78 shrink-0 space-y-1.5 border-l border-line p-3">
        {asks ? (
          <>
            <p>
              Is this <b className="font-title text-[15px]">{guess.name}</b>?
            </p>
            <Meter share={guess.certainty} fill={guess.certainty >= 0.9 ? 'spruce' : 'amber'} className="h-1.5" />
            <p className="figures text-[12px] text-ink-2">
              {sureText(guess.certainty)} sure · {countText(faceIds.length, 'face')} in {countText(photos, 'photo')}
            </p>
            {mayChange && (
              <div className="flex flex-wrap gap-1.5">
                <Button look="primary" disabled={busy || meant === 0} onClick={settle.yes}>
                  {meant === 1 ? 'Yes' : `Yes, all ${numberText(meant)}`} <Kbd>{shownKey('yes')}</Kbd>
                </Button>
                <Button disabled={busy} onClick={settle.no}>
                  No <Kbd>{shownKey('no')}</Kbd>
                </Button>
                <Button disabled={busy} onClick={() => setAsking(true)}>
                  Someone else …
                </Button>
              </div>
            )}
          </>
        ) : (
          <>
            <p className="font-title text-[15px] font-semibold">Who is this?</p>
            {mayChange && (
              <PersonPicker
                label="Who is this?"
                placeholder={`Name …  (${shownKey('who')})`}
                focusKey={asking ? focusKey + 1 : focusKey}
                onPick={(who) => {
                  // The group goes in a moment; keys are meant for what comes after it, or for undo.
                  if (document.activeElement instanceof HTMLElement) document.activeElement.blur();
                  settle.name(who);
                }}
                onEscape={() => setAsking(false)}
              />
            )}
            <p className="figures text-[12px] text-ink-2">
              {countText(faceIds.length, 'face')} in {countText(photos, 'photo')}
              {when}
            </p>
          </>
        )}
        {mayChange && (
          <div className="flex flex-wrap gap-1.5">
            <Button
              look="quiet"
              className="!h-7 !px-2 text-[12px]"
              disabled={busy}
              onClick={() => settle.set('unnamed')}
            >
              Not to be named <Kbd>{shownKey('unnamed')}</Kbd>
            </Button>
            <Button look="quiet" className="!h-7 !px-2 text-[12px]" disabled={busy} onClick={() => settle.set('none')}>
              Not {meant === 1 ? 'a face' : 'faces'} <Kbd>{shownKey('noFace')}</Kbd>
            </Button>
          </div>
        )}
      </div>
    </li>
  );
}

/** `97 in 100`; nothing is quite certain. */
export function sureText(certainty: number): string {
  return `${Math.min(99, Math.round(certainty * 100))} in 100`;
}

/** `.93` */
export function likenessText(likeness: number): string {
  return Math.max(0, Math.min(0.99, likeness)).toFixed(2).slice(1);
}
