// Proposed terms: a keeper accepts, renames, maps to a term that is there, or refuses with a word. One's own that were settled
// stand below, with what was said.

import { useState } from 'react';
import { Link } from 'react-router';
import { queryText } from '@stellin/core/search/language';
import { criterion } from '@stellin/core/query/query';
import type { TermName } from '@stellin/contract/termName';
import { countText } from '@stellin/contract/wording';
import { previewUrl } from '../foundation/api';
import { useChange } from '../foundation/changes';
import { Button } from '../parts/Button';
import { dateTimeText } from '../parts/dateTimeText';
import { deskLink } from '../parts/deskLink';
import { TermPath } from '../parts/terms/TermPath';
import { useProposals } from './queries';
import { Failed } from '../parts/Queried';
import { changeSchema } from '@stellin/contract/ledger';
import { LineForm } from '../parts/LineForm';

interface Props {
  mayEdit: boolean;
  onShow: (termId: number) => void;
  onMerge: (termId: number) => void;
}

export function Proposals({ mayEdit, onShow, onMerge }: Props) {
  const query = useProposals();
  const { data } = query;
  if (query.error && !data) return <Failed query={query} className="m-4" />;
  if (!data) return <p className="p-4 text-ink-2">Looking …</p>;
  return (
    <div className="min-h-0 flex-1 overflow-y-auto p-4">
      {data.proposals.length === 0 && (
        <p className="text-ink-2">
          No proposals wait. Cataloguers make them while describing, where no term is called so.
        </p>
      )}
      <ul className="space-y-2">
        {data.proposals.map((proposal) => (
          <Proposal key={proposal.id} {...{ proposal, mayEdit, onShow, onMerge }} />
        ))}
      </ul>
      {data.settled.length > 0 && (
        <>
          <h2 className="mt-5 mb-1 font-semibold">What became of yours</h2>
          <ul className="space-y-0.5 text-[12px]">
            {data.settled.map(({ at, title, by }) => (
              <li key={at + title}>
                <span className="figures text-ink-2">{dateTimeText(at)}</span> {by}: {title}
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  );
}

interface ProposalProps extends Props {
  proposal: TermName & {
    scopeNote: string;
    by: string;
    photos: number;
    samples: { id: number; previewVersion: number }[];
    near: TermName[];
  };
}

function Proposal({ proposal, mayEdit, onShow, onMerge }: ProposalProps) {
  const { id, label, path, scopeNote, by, photos, samples, near } = proposal;
  const [refusing, setRefusing] = useState(false);
  const change = useChange();
  return (
    <li aria-label={`Proposal ${label}`} className="rounded-md border border-line bg-card p-3">
      <div className="flex items-baseline gap-3">
        <button type="button" className="text-left hover:underline" onClick={() => onShow(id)}>
          <TermPath term={{ id, label, path }} />
        </button>
        <span className="text-[12px] text-ink-2">proposed by {by}</span>
        <Link
          className="figures ml-auto text-[12px] text-slate underline"
          to={deskLink(queryText(criterion('only', [...path.slice(-1), label].join('/'))))}
        >
          {countText(photos, 'photo')}
        </Link>
      </div>
      {scopeNote && <p className="mt-1 text-ink-2">{scopeNote}</p>}
      <div className="mt-2 flex flex-wrap items-center gap-2">
        {samples.map((photo) => (
          <img
            key={photo.id}
            src={previewUrl(photo.id, photo.previewVersion)}
            alt=""
            loading="lazy"
            className="h-12 max-w-20 bg-ground object-contain"
          />
        ))}
        {near.length > 0 && (
          <span className="text-[12px] text-ink-2">
            Already there?{' '}
            {near.map((term, i) => (
              <span key={term.id}>
                {i > 0 && ', '}
                {mayEdit ? (
                  <button
                    type="button"
                    title={`Map to ${[...term.path, term.label].join(' › ')}`}
                    className="text-slate underline"
                    onClick={() =>
                      change.mutate({ kind: 'mergeTerms', termIds: [id], intoId: term.id, keepLabels: 'alternative' })
                    }
                  >
                    {term.label}
                  </button>
                ) : (
                  term.label
                )}
              </span>
            ))}
          </span>
        )}
        {mayEdit && !refusing && (
          <span className="ml-auto flex gap-2">
            <Button look="primary" onClick={() => change.mutate({ kind: 'acceptTerms', termIds: [id] })}>
              Accept
            </Button>
            <Button onClick={() => onShow(id)}>Rename or place …</Button>
            <Button onClick={() => onMerge(id)}>Map to …</Button>
            <Button look="quiet" onClick={() => setRefusing(true)}>
              Refuse …
            </Button>
          </span>
        )}
      </div>
      {refusing && (
        <LineForm
          label="A word on why"
          placeholder="a word on why; its photos lose it"
          schema={changeSchema('refuseTerm').shape.word.unwrap()}
          action="Refuse"
          className="mt-2"
          busy={change.isPending}
          onCancel={() => setRefusing(false)}
          onSubmit={(word) => change.mutate({ kind: 'refuseTerm', termId: id, word })}
        />
      )}
    </li>
  );
}
