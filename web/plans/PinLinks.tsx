// What a pin stands for: a term of the vocabulary, and one of the archive's own places.

import { Button } from '../parts/Button';
import { Field } from '../parts/Field';
import { Select } from '../parts/Select';
import { TermPicker } from '../parts/terms/TermPicker';
import { useOwnPlaces } from '../places/queries';

interface Link {
  id: number;
  label: string;
}

interface Props {
  term: Link | null;
  place: Link | null;
  onTerm: (term: Link | null) => void;
  onPlace: (place: Link | null) => void;
}

export function PinLinks({ term, place, onTerm, onPlace }: Props) {
  const places = useOwnPlaces().data ?? [];
  return (
    <div className="grid grid-cols-2 gap-2">
      <div className="min-w-0">
        <p className="mb-1 text-[12px] text-ink-2">Term</p>
        {term ? (
          <p className="flex h-8 items-center gap-1">
            <b className="min-w-0 truncate" title={term.label}>
              {term.label}
            </b>
            <Button look="quiet" className="!h-7" aria-label="Term: none" onClick={() => onTerm(null)}>
              None
            </Button>
          </p>
        ) : (
          <TermPicker
            label="Term of the pin"
            placeholder="none; find one …"
            onPick={({ id, label }) => onTerm({ id, label })}
          />
        )}
      </div>
      <Field label="Place" className="min-w-0">
        {(tied) => (
          <Select
            {...tied}
            className="w-full"
            value={place?.id ?? 0}
            onChange={(id) => {
              const found = places.find((each) => each.id === id);
              onPlace(found ? { id, label: found.name } : null);
            }}
            options={[
              { value: 0, label: 'none' },
              ...places.map(({ id, name, path }) => ({ value: id, label: [...path, name].join(' › ') })),
            ]}
          />
        )}
      </Field>
    </div>
  );
}
