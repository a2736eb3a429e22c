// What faces are looked for by example: the example, how alike, and what else they have to be.

import { Checkbox } from '../parts/Checkbox';
import { Select } from '../parts/Select';
import { Slider } from '../parts/Slider';
import { TextField } from '../parts/Field';

const WANTED = [
  { id: 'smiling', label: 'Smiling' },
  { id: 'eyesOpen', label: 'Eyes open' },
  { id: 'sharp', label: 'Sharp' },
  { id: 'frontal', label: 'Frontal' },
] as const;
type Wanted = (typeof WANTED)[number]['id'];

const NAMED = [
  { id: 'all', label: 'Named or not' },
  { id: 'open', label: 'Not named' },
  { id: 'named', label: 'Named' },
] as const;

export interface LikeRequest {
  /** From 0, wide, to 100, exact. */
  strictness: number;
  wanted: ReadonlySet<Wanted>;
  named: (typeof NAMED)[number]['id'];
  /** Within what a query finds; empty: everywhere. */
  query: string;
  limit: number;
}

export const USUAL_REQUEST: LikeRequest = { strictness: 50, wanted: new Set(), named: 'all', query: '', limit: 100 };

/** A request as the server takes it. */
export function requestBody({ strictness, wanted, ...rest }: LikeRequest) {
  const only = Object.fromEntries(WANTED.map(({ id }) => [id, wanted.has(id)])) as Record<Wanted, boolean>;
  return { ...rest, ...only, strictness: strictness / 100 };
}

interface Props {
  /** The picture that others are to be like. */
  example: { url: string; name: string } | null;
  request: LikeRequest;
  onChange: (request: LikeRequest) => void;
  onPicture: (file: File | undefined) => void;
}

export function LikeForm({ example, request, onChange, onPicture }: Props) {
  const set = (part: Partial<LikeRequest>) => onChange({ ...request, ...part });
  return (
    <div className="mt-3 flex gap-4 rounded-md border border-line bg-card p-3">
      <div className="w-30 shrink-0">
        {example ? (
          <img src={example.url} alt={example.name} className="h-30 w-30 rounded object-cover" />
        ) : (
          <div className="flex h-30 w-30 items-center justify-center rounded bg-ground p-2 text-center text-[12px] text-ink-2">
            Choose a face, or a picture
          </div>
        )}
        <label className="mt-1.5 block cursor-pointer text-center text-slate underline focus-within:outline-2">
          Take a picture …
          <input
            type="file"
            accept="image/*"
            className="sr-only"
            onChange={(event) => onPicture(event.target.files?.[0])}
          />
        </label>
      </div>
      <div className="min-w-0 flex-1 space-y-2.5">
        <div className="flex items-center gap-3">
          <span className="w-20 text-ink-2">Strictness</span>
          <span className="text-[12px]">wide</span>
          <Slider
            label="Strictness"
            value={request.strictness}
            lowest={0}
            highest={100}
            step={5}
            onChange={(strictness) => set({ strictness })}
          />
          <span className="text-[12px]">exact</span>
        </div>
        <div className="flex flex-wrap items-center gap-x-4 gap-y-1.5">
          <span className="w-17 text-ink-2">Only</span>
          {WANTED.map(({ id, label }) => (
            <Checkbox
              key={id}
              checked={request.wanted.has(id)}
              onChange={() => {
                const next = new Set(request.wanted);
                if (!next.delete(id)) next.add(id);
                set({ wanted: next });
              }}
            >
              {label}
            </Checkbox>
          ))}
          <Select
            label="Named or not"
            value={request.named}
            className="h-7"
            onChange={(named) => set({ named })}
            options={NAMED.map(({ id, label }) => ({ value: id, label }))}
          />
        </div>
        <div className="flex items-center gap-3">
          <span aria-hidden className="w-20 shrink-0 text-ink-2">
            Within
          </span>
          <TextField
            label="Within"
            hideLabel
            value={request.query}
            placeholder='the whole catalogue, or a query such as term:Kites, not term:Portrait, within:"Vault 1/2019", dossier:"Open day"'
            className="min-w-0 flex-1"
            onChange={(event) => set({ query: event.target.value })}
          />
          <span className="text-ink-2">at most</span>
          <Select
            label="At most"
            value={request.limit}
            onChange={(limit) => set({ limit })}
            options={[20, 100, 200, 500].map((count) => ({ value: count, label: count }))}
          />
        </div>
      </div>
    </div>
  );
}
