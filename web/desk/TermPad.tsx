// A term pad: a handful of terms on single keys, laid out as the keyboard is. While it is open a key gives its term to the
// chosen photos, and again takes it off.

import { useState } from 'react';
import { z } from 'zod';
import { PAD_KEYS } from '@stellin/contract/termChanges';
import type { Selection } from '@stellin/contract/photos';
import type { TermPad as Pad } from '@stellin/contract/vocabulary';
import { useChange } from '../foundation/changes';
import { shownKey } from '../foundation/keys';
import { usePlainKeys } from '../foundation/useKeys';
import { Button } from '../parts/Button';
import { useStored } from '../foundation/useStored';
import { Kbd } from '../parts/Kbd';
import { useDragging } from '../parts/dragging/dragging';
import { TermPicker } from '../parts/terms/TermPicker';
import type { GivenState } from './CheckMark';
import { usePads } from './queries';
import { Checkbox } from '../parts/Checkbox';
import { changeSchema } from '@stellin/contract/ledger';
import { LineForm } from '../parts/LineForm';

interface Props {
  selection: Selection | null;
  stateOf: (id: number) => GivenState;
  onSet: (termId: number, given: boolean) => void;
  onClose: () => void;
}

const ROWS = [PAD_KEYS.slice(0, 10), PAD_KEYS.slice(10, 20), PAD_KEYS.slice(20)];

export function TermPad({ selection, stateOf, onSet, onClose }: Props) {
  const { data: pads = [] } = usePads();
  const [padId, setPadId] = useStored('pad', z.number().nullable(), null);
  const [filling, setFilling] = useState<string | null>(null);
  const [naming, setNaming] = useState(false);
  const change = useChange();
  const pad = pads.find(({ id }) => id === padId) ?? pads[0];
  const choose = (id: number) => {
    setPadId(id);
    setFilling(null);
  };
  const termOf = (key: string) => pad?.keys.find((entry) => entry.key === key)?.term;
  const press = (key: string) => {
    const term = termOf(key);
    if (!term) setFilling(pad?.mayChange ? key : null);
    else if (selection) onSet(term.id, stateOf(term.id) !== 'all');
  };
  usePlainKeys(PAD_KEYS, press, true);
  const define = (keys: Pad['keys'], of: Pad) =>
    change.mutate({
      kind: 'definePad',
      padId: of.id,
      name: of.name,
      shared: of.shared,
      keys: Object.fromEntries(keys.map(({ key, term }) => [key, term.id])),
    });
  const put = (key: string, term: Pad['keys'][number]['term'] | null) => {
    if (!pad) return;
    const others = pad.keys.filter((entry) => entry.key !== key);
    define(term ? [...others, { key: key as Pad['keys'][number]['key'], term }] : others, pad);
    setFilling(null);
  };
  return (
    <section aria-label="Term pad" className="flex min-w-0 flex-1 flex-col overflow-auto p-3">
      <div className="mb-2 flex flex-wrap items-center gap-2">
        {pads.map(({ id, name, shared }) => (
          <button
            key={id}
            type="button"
            aria-pressed={id === pad?.id}
            className={`rounded border px-2.5 py-0.5 ${id === pad?.id ? 'border-spruce bg-spruce-pale font-semibold' : 'border-line bg-card hover:border-ink-3'}`}
            onClick={() => choose(id)}
          >
            {name}
            {!shared && <span className="ml-1.5 text-[11px] font-normal text-ink-2">yours</span>}
          </button>
        ))}
        <button type="button" className="text-[12px] text-slate hover:underline" onClick={() => setNaming(true)}>
          New pad …
        </button>
        {pad?.mayChange && (
          <button
            type="button"
            className="text-[12px] text-slate hover:underline"
            onClick={() => change.mutate({ kind: 'removePad', padId: pad.id })}
          >
            Remove this pad
          </button>
        )}
        <span className="ml-auto text-[12px] text-ink-2">
          A key gives, again takes off; the right button refills it. <Kbd>{shownKey('pad')}</Kbd> closes.
        </span>
      </div>
      {naming && <NewPad onClose={() => setNaming(false)} onMade={choose} />}
      {!pad && !naming && (
        <p className="text-ink-2">
          There is no pad yet. Make one, then press a key to put a term on it: from then on that key gives the term.
        </p>
      )}
      {pad && (
        <div className="space-y-1.5">
          {ROWS.map((row, i) => (
            <div
              key={i}
              className="grid grid-cols-10 gap-1.5"
              style={{ marginLeft: i * 14, width: `calc(100% - ${28}px)` }}
            >
              {row.map((key) => {
                const term = termOf(key);
                return (
                  <PadKey
                    key={key}
                    letter={key.toUpperCase()}
                    term={term}
                    state={term ? stateOf(term.id) : 'none'}
                    gives={selection !== null}
                    fills={pad.mayChange}
                    onPress={() => press(key)}
                    onRefill={() => setFilling(key)}
                    onTerm={(id) => put(key, { id, label: '', path: [] })}
                  />
                );
              })}
            </div>
          ))}
        </div>
      )}
      {filling && pad && (
        <div className="mt-2 flex items-center gap-2 rounded border border-amber bg-amber-pale p-2">
          <span>
            Put on <Kbd>{filling.toUpperCase()}</Kbd>
          </span>
          <TermPicker
            label={`Term for the key ${filling.toUpperCase()}`}
            placeholder="Find a term …"
            assignable
            autoFocus
            above
            className="w-72"
            onPick={(term) => put(filling, term)}
          />
          {termOf(filling) && <Button onClick={() => put(filling, null)}>Empty the key</Button>}
          <Button look="quiet" onClick={() => setFilling(null)}>
            Not now
          </Button>
        </div>
      )}
      <button type="button" className="sr-only" onClick={onClose}>
        Close the pad
      </button>
    </section>
  );
}

interface PadKeyProps {
  letter: string;
  term: Pad['keys'][number]['term'] | undefined;
  state: GivenState;
  /** Pressing it does something to chosen photos. */
  gives: boolean;
  /** Its term may be another one. */
  fills: boolean;
  onPress: () => void;
  onRefill: () => void;
  /** A term was dropped on it. */
  onTerm: (id: number) => void;
}

function PadKey({ letter, term, state, gives, fills, onPress, onRefill, onTerm }: PadKeyProps) {
  const { ref, props, over } = useDragging(`pad ${letter}`, {
    takes: fills ? { terms: ({ ids: [id] }) => id !== undefined && onTerm(id) } : {},
  });
  const empty = fills ? 'put a term on this key' : 'nothing on this key';
  return (
    <button
      type="button"
      ref={ref}
      {...props}
      aria-label={`${letter}: ${term ? term.label : empty}`}
      disabled={!term && !fills}
      aria-pressed={term && gives ? state === 'all' : undefined}
      title={term ? [...term.path, term.label].join(' › ') : empty}
      className={`flex h-12 min-w-0 items-start gap-1.5 rounded border px-1.5 py-1 text-left ${over ? 'border-amber bg-amber-pale' : PAD_LOOKS[term ? state : 'empty']}`}
      onClick={onPress}
      onContextMenu={(event) => {
        event.preventDefault();
        if (fills) onRefill();
      }}
    >
      <span className="font-mono text-[11px] text-ink-2">{letter}</span>
      <span className="line-clamp-3 min-w-0 flex-1 text-[12px] leading-[1.15] break-words">{term?.label}</span>
    </button>
  );
}

const PAD_LOOKS: Record<GivenState | 'empty', string> = {
  all: 'border-spruce bg-spruce-pale',
  some: 'border-dashed border-spruce bg-card',
  narrower: 'border-line bg-card hover:border-ink-3',
  none: 'border-line bg-card hover:border-ink-3',
  empty: 'border-dashed border-line hover:border-ink-3',
};

function NewPad({ onClose, onMade }: { onClose: () => void; onMade: (id: number) => void }) {
  const [shared, setShared] = useState(true);
  const change = useChange();
  return (
    <LineForm
      label="Name of the pad"
      schema={changeSchema('definePad').shape.name}
      action="Make it"
      className="mb-2"
      busy={change.isPending}
      onCancel={onClose}
      onSubmit={(name) =>
        change.mutate(
          { kind: 'definePad', padId: null, name, shared, keys: {} },
          {
            onSuccess: ({ entry }) => {
              if (entry?.objectId) onMade(entry.objectId);
              onClose();
            },
          },
        )
      }
    >
      <Checkbox checked={shared} onChange={() => setShared(!shared)} className="h-8">
        for everybody
      </Checkbox>
    </LineForm>
  );
}
