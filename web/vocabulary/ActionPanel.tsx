// One thing to be done with one or several terms: what is asked for first, then what it touches.

import { useState } from 'react';
import type { ChangeInput } from '@stellin/contract/ledger';
import type { TermName } from '@stellin/contract/termName';
import type { TermCard } from '@stellin/contract/vocabulary';
import { countText } from '@stellin/contract/wording';
import { Button } from '../parts/Button';
import { TermPath } from '../parts/terms/TermPath';
import { TermPicker } from '../parts/terms/TermPicker';
import type { Action } from './ActionMenu';
import { ImpactPanel } from './ImpactPanel';
import { Select } from '../parts/Select';
import { Checkbox } from '../parts/Checkbox';
import { TextField } from '../parts/Field';

interface Props {
  action: Action;
  card: TermCard;
  /** The terms meant, the card’s own among them. */
  termIds: readonly number[];
  /** Known already, from dragging or a finding. */
  target?: TermName | 'top' | undefined;
  onClose: () => void;
  onDone: (termId: number | null) => void;
}

export function ActionPanel(props: Props) {
  const Form = FORMS[props.action];
  return Form ? <Form {...props} /> : null;
}

const FORMS: Partial<Record<Action, (props: Props) => React.ReactNode>> = {
  move: Move,
  merge: Merge,
  split: Split,
  heading: Heading,
  deprecate: Deprecate,
  remove: Remove,
  broader: (props) => <Relate {...props} relation="broader" />,
  related: (props) => <Relate {...props} relation="related" />,
};

function Ask({ title, onClose, children }: { title: string; onClose: () => void; children: React.ReactNode }) {
  return (
    <section
      aria-label={title}
      className="my-3 rounded-md border border-amber bg-card"
      onKeyDown={(event) => event.key === 'Escape' && onClose()}
    >
      <h3 className="bg-amber-pale px-3 py-2 font-semibold">{title}</h3>
      <div className="space-y-2 p-3">{children}</div>
    </section>
  );
}

function few({ termIds, card }: Props): string {
  return termIds.length === 1 ? `“${card.label}”` : countText(termIds.length, 'term');
}

function Move(props: Props) {
  const { termIds, card, target, onClose, onDone } = props;
  const [to, setTo] = useState(target);
  if (to === undefined)
    return (
      <Ask title={`Move ${few(props)} below …`} onClose={onClose}>
        <TermPicker
          label="New broader term"
          placeholder="Find the new broader term …"
          autoFocus
          without={termIds}
          onPick={setTo}
        />
        <div className="flex gap-2">
          <Button onClick={() => setTo('top')}>To the top</Button>
          <Button look="quiet" onClick={onClose}>
            Not now
          </Button>
        </div>
      </Ask>
    );
  const change: ChangeInput = {
    kind: 'moveTerms',
    termIds: [...termIds],
    parentId: to === 'top' ? null : to.id,
    ...(to === 'top' ? { vocabularyId: card.vocabulary.id } : {}),
  };
  return <ImpactPanel change={change} verb="Move" onDone={() => onDone(card.id)} onCancel={onClose} />;
}

function Merge(props: Props) {
  const { termIds, card, target, onClose, onDone } = props;
  const [into, setInto] = useState(target === 'top' ? undefined : target);
  const [keepLabels, setKeepLabels] = useState<'alternative' | 'hidden' | 'none'>('alternative');
  if (!into)
    return (
      <Ask title={`Merge ${few(props)} into …`} onClose={onClose}>
        <TermPicker
          label="Merge into"
          placeholder="Find the term that stays …"
          autoFocus
          without={termIds}
          onPick={setInto}
        />
        <Button look="quiet" onClick={onClose}>
          Not now
        </Button>
      </Ask>
    );
  return (
    <>
      <p className="mt-3 text-[12px] text-ink-2">
        <TermPath term={into} /> stays.{' '}
        <label>
          The old labels are kept{' '}
          <Select
            className="h-7"
            value={keepLabels}
            onChange={setKeepLabels}
            options={[
              { value: 'alternative', label: 'as other labels' },
              { value: 'hidden', label: 'only to be found by' },
              { value: 'none', label: 'not at all' },
            ]}
          />
        </label>
      </p>
      <ImpactPanel
        change={{ kind: 'mergeTerms', termIds: termIds.filter((id) => id !== into.id), intoId: into.id, keepLabels }}
        verb="Merge"
        onDone={() => onDone(into.id)}
        onCancel={onClose}
      />
      {card.status === 'proposed' && (
        <p className="text-[12px] text-ink-2">The proposal is mapped to it: its photos get this term.</p>
      )}
    </>
  );
}

function Split({ card, onClose, onDone }: Props) {
  const [parts, setParts] = useState([
    { label: '', query: '' },
    { label: '', query: '' },
  ]);
  const [ready, setReady] = useState(false);
  const filled = parts.filter(({ label }) => label.trim() !== '');
  const put = (i: number, part: Partial<(typeof parts)[number]>) => {
    setReady(false);
    setParts(parts.map((one, at) => (at === i ? { ...one, ...part } : one)));
  };
  return (
    <>
      <Ask title={`Split “${card.label}” into narrower terms`} onClose={onClose}>
        <p className="text-[12px] text-ink-2">
          Each photo that has it directly goes to the first part whose search finds it; the others keep “{card.label}”.
          Leave the search empty to choose the photos by hand later.
        </p>
        {parts.map(({ label, query }, i) => (
          <div key={i} className="flex gap-1">
            <TextField
              label={`New narrower term ${i + 1}`}
              hideLabel
              autoFocus={i === 0}
              placeholder="new narrower term"
              maxLength={200}
              className="w-2/5"
              value={label}
              onChange={(event) => put(i, { label: event.target.value })}
            />
            <TextField
              label={`Search for part ${i + 1}`}
              hideLabel
              placeholder="search, like taken:<1970"
              className="min-w-0 flex-1"
              boxClass="h-8 font-mono text-[12px]"
              value={query}
              onChange={(event) => put(i, { query: event.target.value })}
            />
          </div>
        ))}
        <div className="flex gap-2">
          <Button onClick={() => setParts([...parts, { label: '', query: '' }])}>One more</Button>
          <Button look="primary" disabled={filled.length === 0} onClick={() => setReady(true)}>
            See what it touches
          </Button>
          <Button look="quiet" onClick={onClose}>
            Not now
          </Button>
        </div>
      </Ask>
      {ready && (
        <ImpactPanel
          change={{
            kind: 'splitTerm',
            termId: card.id,
            into: filled.map(({ label, query }) => ({
              label,
              selection: { query: query.trim() === '' ? null : query },
            })),
          }}
          verb="Split"
          onDone={() => onDone(card.id)}
          onCancel={onClose}
        />
      )}
    </>
  );
}

/** Where photos go that have a term which can’t be given any more. */
function Destination({
  title,
  card,
  photosTo,
  onPick,
  onClose,
}: {
  title: string;
  card: TermCard;
  photosTo: TermName | null | undefined;
  onPick: (to: TermName | null) => void;
  onClose: () => void;
}) {
  return (
    <Ask title={title} onClose={onClose}>
      <p>{countText(card.photos, 'photo')} have it directly. They get instead:</p>
      <TermPicker
        label="Term for its photos"
        placeholder={photosTo ? photosTo.label : 'Find a term …'}
        assignable
        autoFocus
        without={[card.id]}
        onPick={onPick}
      />
      <div className="flex gap-2">
        <Button onClick={() => onPick(null)}>Nothing</Button>
        <Button look="quiet" onClick={onClose}>
          Not now
        </Button>
      </div>
    </Ask>
  );
}

function Heading({ card, target, onClose, onDone }: Props) {
  const [to, setTo] = useState<TermName | null | undefined>(target === 'top' ? undefined : target);
  if (!card.heading && card.photos > 0 && to === undefined)
    return (
      <Destination
        title={`Make “${card.label}” a heading`}
        card={card}
        photosTo={to}
        onPick={setTo}
        onClose={onClose}
      />
    );
  return (
    <ImpactPanel
      change={{ kind: 'setHeading', termId: card.id, heading: !card.heading, photosTo: to?.id ?? null }}
      verb={card.heading ? 'Make it a term' : 'Make it a heading'}
      onDone={() => onDone(card.id)}
      onCancel={onClose}
    />
  );
}

function Deprecate({ card, onClose, onDone }: Props) {
  const [by, setBy] = useState<TermName | null | undefined>();
  const [movePhotos, setMovePhotos] = useState(true);
  if (card.deprecated)
    return (
      <ImpactPanel
        change={{ kind: 'deprecateTerm', termId: card.id, deprecated: false }}
        verb="Take into use again"
        onDone={() => onDone(card.id)}
        onCancel={onClose}
      />
    );
  if (by === undefined)
    return (
      <Ask title={`Deprecate “${card.label}” in favour of …`} onClose={onClose}>
        <TermPicker
          label="Replacement"
          placeholder="Find the term to give instead …"
          assignable
          autoFocus
          without={[card.id]}
          onPick={setBy}
        />
        <div className="flex gap-2">
          <Button onClick={() => setBy(null)}>No replacement</Button>
          <Button look="quiet" onClick={onClose}>
            Not now
          </Button>
        </div>
      </Ask>
    );
  return (
    <>
      {by && (
        <Checkbox checked={movePhotos} onChange={() => setMovePhotos(!movePhotos)} className="mt-3">
          Photos that have it get “{by.label}” now
        </Checkbox>
      )}
      <ImpactPanel
        change={{
          kind: 'deprecateTerm',
          termId: card.id,
          replacedBy: by?.id ?? null,
          movePhotos: by !== null && movePhotos,
        }}
        verb="Deprecate"
        onDone={() => onDone(card.id)}
        onCancel={onClose}
      />
    </>
  );
}

function Remove({ card, onClose, onDone }: Props) {
  const [to, setTo] = useState<TermName | null | undefined>();
  if (card.photos > 0 && to === undefined)
    return <Destination title={`Remove “${card.label}”`} card={card} photosTo={to} onPick={setTo} onClose={onClose} />;
  return (
    <>
      {card.narrower > 0 && (
        <p className="mt-3 text-[12px] text-ink-2">
          Its {countText(card.narrower, 'narrower term')} move up to where it stands.
        </p>
      )}
      <ImpactPanel
        change={{
          kind: 'removeTerm',
          termId: card.id,
          narrower: card.narrower > 0 ? 'up' : 'refuse',
          ...(to === undefined ? {} : { photosTo: to?.id ?? null }),
        }}
        verb="Remove"
        onDone={() => onDone(card.parentId)}
        onCancel={onClose}
      />
    </>
  );
}

function Relate({ card, relation, onClose, onDone }: Props & { relation: 'broader' | 'related' }) {
  const [to, setTo] = useState<TermName | undefined>();
  const title = relation === 'broader' ? `Put “${card.label}” below another term, too` : `Relate “${card.label}” to …`;
  if (!to)
    return (
      <Ask title={title} onClose={onClose}>
        <TermPicker
          label={relation === 'broader' ? 'Further broader term' : 'Related term'}
          placeholder="Find a term …"
          autoFocus
          without={[card.id]}
          onPick={setTo}
        />
        <Button look="quiet" onClick={onClose}>
          Not now
        </Button>
      </Ask>
    );
  return (
    <ImpactPanel
      change={{ kind: 'relateTerms', relation, fromId: card.id, toId: to.id }}
      verb={relation === 'broader' ? 'Put there, too' : 'Relate'}
      onDone={() => onDone(card.id)}
      onCancel={onClose}
    />
  );
}
