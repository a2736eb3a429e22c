// What an own place is the same as: a place of the gazetteer, and a term.

import { useState } from 'react';
import type { Point } from '@stellin/core/timeplace/areas';
import { Button } from '../parts/Button';
import { PlaceFinder } from '../parts/PlaceFinder';
import { TermPicker } from '../parts/terms/TermPicker';

export interface Links {
  geonamesId: number | null;
  /** What it is called there, once it has been found; '' while only its number is known. */
  geonamesName: string;
  term: { id: number; label: string } | null;
}

interface Props {
  links: Links;
  onLinks: (links: Links) => void;
  /** Where the place of the gazetteer is. */
  onPoint: (point: Point) => void;
}

export function PlaceLinks({ links, onLinks, onPoint }: Props) {
  const { geonamesId, geonamesName, term } = links;
  /** What was found last: its field has gone, and what stands there now takes the focus. */
  const [found, setFound] = useState<'place' | 'term' | null>(null);
  return (
    <div className="grid grid-cols-2 gap-3">
      {geonamesId === null ? (
        <PlaceFinder
          label="The same in the gazetteer"
          gazetteerOnly
          onPick={(place) => {
            setFound('place');
            onLinks({ ...links, geonamesId: place.geonamesId, geonamesName: `${place.name}, ${place.detail}` });
            onPoint(place);
          }}
        />
      ) : (
        <Linked
          label="The same in the gazetteer"
          text={geonamesName || `number ${geonamesId} at GeoNames`}
          takesFocus={found === 'place'}
          onNone={() => onLinks({ ...links, geonamesId: null, geonamesName: '' })}
        />
      )}
      {term ? (
        <Linked
          label="Its term"
          text={term.label}
          takesFocus={found === 'term'}
          onNone={() => onLinks({ ...links, term: null })}
        />
      ) : (
        <div>
          <p className="mb-1 text-[12px] text-ink-2">Its term</p>
          <TermPicker
            label="Its term"
            placeholder="none; find one …"
            onPick={({ id, label }) => {
              setFound('term');
              onLinks({ ...links, term: { id, label } });
            }}
          />
        </div>
      )}
    </div>
  );
}

interface LinkedProps {
  label: string;
  text: string;
  takesFocus: boolean;
  onNone: () => void;
}

function Linked({ label, text, takesFocus, onNone }: LinkedProps) {
  return (
    <div className="min-w-0">
      <p className="mb-1 text-[12px] text-ink-2">{label}</p>
      <p className="flex h-8 items-center gap-2">
        <b className="min-w-0 truncate" title={text}>
          {text}
        </b>
        <Button look="quiet" className="!h-7" aria-label={`${label}: none`} autoFocus={takesFocus} onClick={onNone}>
          None
        </Button>
      </p>
    </div>
  );
}
