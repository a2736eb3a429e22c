// The card of a term: what it says, where its photos are, what else they have, what was done to it.

import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import type { TermName } from '@stellin/contract/termName';
import type { TermCard as Card } from '@stellin/contract/vocabulary';
import { countText, numberText } from '@stellin/contract/wording';
import { previewUrl } from '../foundation/api';
import { useChange } from '../foundation/changes';
import { Button } from '../parts/Button';
import { dateTimeText } from '../parts/dateTimeText';
import { deskLink } from '../parts/deskLink';
import { COLOUR_DOTS } from '../parts/terms/TermColumns';
import { ActionMenu, type Action } from './ActionMenu';
import { CardForm } from './CardForm';
import { useTermHistory, useUses } from './queries';

interface Props {
  card: Card;
  mayEdit: boolean;
  onAction: (action: Action) => void;
  onShow: (termId: number) => void;
}

export function TermCard({ card, mayEdit, onAction, onShow }: Props) {
  const [editing, setEditing] = useState(false);
  const change = useChange();
  if (editing && mayEdit) return <CardForm card={card} onClose={() => setEditing(false)} />;
  const showBy = (examplePhoto: number | null) =>
    change.mutate({ kind: 'editTerm', termId: card.id, facts: { examplePhoto } });
  const preferred = card.otherLabels.filter(({ kind }) => kind === 'preferred');
  const also = card.otherLabels.filter(({ kind }) => kind === 'alternative');
  const hidden = card.otherLabels.filter(({ kind }) => kind === 'hidden');
  return (
    <article aria-label={`Card of ${card.label}`}>
      <h2 className="flex items-center gap-2 font-title text-[19px] font-semibold">
        {card.colour && (
          <span aria-hidden className="size-3 rounded-full" style={{ background: COLOUR_DOTS[card.colour] }} />
        )}
        <span className={card.deprecated ? 'line-through' : ''}>{card.label}</span>
        {card.status === 'proposed' && <Badge look="amber">proposed</Badge>}
        {card.deprecated && <Badge look="red">deprecated</Badge>}
        {card.heading && <Badge look="plain">heading</Badge>}
      </h2>
      <p className="mt-0.5 text-[12px] text-ink-2">
        {[card.vocabulary.name, ...card.path.map(({ label }) => label)].join(' › ')}
      </p>
      {mayEdit && (
        <div className="mt-2.5 flex gap-2">
          <Button onClick={() => setEditing(true)}>Edit</Button>
          <ActionMenu card={card} onAction={onAction} />
        </div>
      )}
      <dl className="mt-3 grid grid-cols-[104px_1fr] gap-x-3 gap-y-1.5">
        {card.replacedBy && (
          <Fact name="Give instead">
            <TermLink term={card.replacedBy} onShow={onShow} />
          </Fact>
        )}
        <Labels
          name="Also called"
          labels={also}
          {...(mayEdit ? { onSwap: (label) => change.mutate({ kind: 'swapLabels', termId: card.id, label }) } : {})}
        />
        <Labels name="In other languages" labels={preferred} />
        <Labels name="Found as, too" labels={hidden} />
        {card.scopeNote && <Fact name="Scope note">{card.scopeNote}</Fact>}
        {card.definition && <Fact name="Definition">{card.definition}</Fact>}
        {card.notation && (
          <Fact name="Notation">
            <span className="font-mono text-[12px]">{card.notation}</span>
          </Fact>
        )}
        <Links
          name="Also below"
          relation="broader"
          card={card}
          terms={card.broader}
          mayEdit={mayEdit}
          onShow={onShow}
        />
        <Links name="Related" relation="related" card={card} terms={card.related} mayEdit={mayEdit} onShow={onShow} />
        <Fact name="Given to">
          <Link className="text-slate underline decoration-line underline-offset-2" to={deskLink(card.query)}>
            {countText(card.photosWithin, 'photo')}
          </Link>
          {card.photosWithin > card.photos && ` (${numberText(card.photos)} directly)`}
          {card.lastGivenAt && `, last ${dateTimeText(card.lastGivenAt)}`}
        </Fact>
        <Fact name="Written as">
          {card.keywords.length ? (
            card.keywords.join(' · ')
          ) : (
            <span className="text-ink-2">
              {card.heading
                ? 'nothing: headings are not written'
                : card.status === 'proposed'
                  ? 'nothing until it is accepted'
                  : 'nothing'}
            </span>
          )}
        </Fact>
        <Fact name="Identifier">
          <span className="font-mono text-[11px] break-all text-ink-2">{card.uri}</span>
        </Fact>
        {card.madeBy && card.madeAt && (
          <Fact name="Made">
            {card.madeBy}, {dateTimeText(card.madeAt)}
          </Fact>
        )}
        {card.proposedBy && <Fact name="Proposed by">{card.proposedBy}</Fact>}
        {card.example && (
          <Fact name="Example">
            <img
              src={previewUrl(card.example.id, card.example.previewVersion)}
              alt={`What ${card.label} means`}
              className="max-h-28 max-w-full"
            />
            {mayEdit && (
              <button type="button" className="text-[12px] text-slate hover:underline" onClick={() => showBy(null)}>
                Take it off
              </button>
            )}
          </Fact>
        )}
      </dl>
      <Uses card={card} mayEdit={mayEdit} onShow={onShow} />
      <History id={card.id} />
    </article>
  );
}

function Badge({ look, children }: { look: 'amber' | 'red' | 'plain'; children: ReactNode }) {
  const looks = { amber: 'bg-amber-pale text-amber', red: 'bg-red-pale text-red', plain: 'bg-ground text-ink-2' };
  return <span className={`rounded px-1.5 py-0.5 font-sans text-[11px] font-semibold ${looks[look]}`}>{children}</span>;
}

function Fact({ name, children }: { name: string; children: ReactNode }) {
  return (
    <>
      <dt className="text-ink-2">{name}</dt>
      <dd className="min-w-0 break-words whitespace-pre-line">{children}</dd>
    </>
  );
}

function Labels({
  name,
  labels,
  onSwap,
}: {
  name: string;
  labels: Card['otherLabels'];
  onSwap?: (label: string) => void;
}) {
  if (labels.length === 0) return null;
  return (
    <Fact name={name}>
      {labels.map(({ label, language }, i) => (
        <span key={`${label}@${language}`}>
          {i > 0 && '; '}
          {onSwap ? (
            <button
              type="button"
              title={`Prefer “${label}” from now on`}
              className="underline decoration-line decoration-dotted underline-offset-2 hover:decoration-ink"
              onClick={() => onSwap(label)}
            >
              {label}
            </button>
          ) : (
            label
          )}
          {language && <i className="ml-1 text-[11px] text-ink-2">{language}</i>}
        </span>
      ))}
    </Fact>
  );
}

function TermLink({ term, onShow }: { term: TermName; onShow: (id: number) => void }) {
  return (
    <button
      type="button"
      title={[...term.path, term.label].join(' › ')}
      className="text-slate underline decoration-line underline-offset-2"
      onClick={() => onShow(term.id)}
    >
      {term.label}
    </button>
  );
}

interface LinksProps {
  name: string;
  relation: 'broader' | 'related';
  card: Card;
  terms: Card['related'];
  mayEdit: boolean;
  onShow: (id: number) => void;
}

function Links({ name, relation, card, terms, mayEdit, onShow }: LinksProps) {
  const change = useChange();
  if (terms.length === 0) return null;
  return (
    <Fact name={name}>
      {terms.map((term, i) => (
        <span key={term.id}>
          {i > 0 && '; '}
          <TermLink term={term} onShow={onShow} />
          {mayEdit && (
            <button
              type="button"
              aria-label={`No longer ${relation === 'broader' ? 'below' : 'related to'} ${term.label}`}
              title="No longer"
              className="ml-1 text-ink-3 hover:text-red"
              onClick={() =>
                change.mutate({ kind: 'relateTerms', relation, fromId: card.id, toId: term.id, on: false })
              }
            >
              ×
            </button>
          )}
        </span>
      ))}
    </Fact>
  );
}

const ORIGINS: Record<string, string> = {
  hand: 'by hand',
  file: 'from keywords of files',
  intake: 'from folder names',
  rule: 'by a rule',
  person: 'from a person',
};

function Uses({ card, mayEdit, onShow }: { card: Card; mayEdit: boolean; onShow: (id: number) => void }) {
  const { data: uses } = useUses(card.id);
  const change = useChange();
  if (!uses || card.photosWithin === 0) return null;
  return (
    <>
      <h3 className="mt-4 mb-1 font-semibold">Photos</h3>
      <div className="flex flex-wrap gap-1">
        {uses.samples.map(({ id, previewVersion }) => {
          const picture = (
            <img
              src={previewUrl(id, previewVersion)}
              alt=""
              loading="lazy"
              className="h-14 max-w-24 bg-ground object-contain"
            />
          );
          return mayEdit ? (
            <button
              key={id}
              type="button"
              aria-label={`Let this picture show what ${card.label} means`}
              title="Let this picture show what is meant"
              className="outline-offset-1 hover:outline-2 hover:outline-spruce"
              onClick={() => change.mutate({ kind: 'editTerm', termId: card.id, facts: { examplePhoto: id } })}
            >
              {picture}
            </button>
          ) : (
            <span key={id}>{picture}</span>
          );
        })}
      </div>
      <p className="mt-1 text-[12px] text-ink-2">
        {uses.drives
          .map(({ label, away, photos }) => `${label}${away ? ' (away)' : ''} ${numberText(photos)}`)
          .join(' · ')}
      </p>
      {uses.origins.length > 0 && (
        <p className="text-[12px] text-ink-2">
          Given{' '}
          {uses.origins.map(({ origin, photos }) => `${ORIGINS[origin] ?? origin} (${numberText(photos)})`).join(', ')}
        </p>
      )}
      {uses.together.length > 0 && (
        <>
          <h3 className="mt-3 mb-1 font-semibold">Often together with</h3>
          <ul className="flex flex-wrap gap-1">
            {uses.together.map((term) => (
              <li key={term.id}>
                <button
                  type="button"
                  title={[...term.path, term.label].join(' › ')}
                  className="rounded border border-line bg-card px-2 py-0.5 hover:border-ink-3"
                  onClick={() => onShow(term.id)}
                >
                  {term.label}{' '}
                  <span className="figures text-[11px] text-ink-2">{Math.round(term.share * 100)} in 100</span>
                </button>
              </li>
            ))}
          </ul>
        </>
      )}
    </>
  );
}

function History({ id }: { id: number }) {
  const { data: entries = [] } = useTermHistory(id);
  if (entries.length === 0) return null;
  return (
    <details className="mt-4">
      <summary className="cursor-pointer font-semibold">History</summary>
      <ul className="mt-1 space-y-0.5 text-[12px]">
        {entries.map(({ id: entry, at, by, title }) => (
          <li key={entry}>
            <span className="figures text-ink-2">{dateTimeText(at)}</span> {by}: {title}
          </li>
        ))}
      </ul>
    </details>
  );
}
