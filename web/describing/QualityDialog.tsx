// What a team calls described: rules, each with the photos it is about and what they must have, and what is lacking now.

import { X } from 'lucide-react';
import { useState } from 'react';
import { useController } from 'react-hook-form';
import { Link } from 'react-router';
import { parseQuery } from '@stellin/core/search/language';
import { PARTS } from '@stellin/core/query/criteria';
import { DESCRIBED_FIELDS } from '@stellin/core/describing/targets';
import { qualityRuleShape, type QualityRule } from '@stellin/contract/describing';
import { numberText } from '@stellin/contract/wording';
import { useChange } from '../foundation/changes';
import { useCount } from '../photos/queries';
import { Button } from '../parts/Button';
import { deskLink } from '../parts/deskLink';
import { Dialog } from '../parts/Dialog';
import { TextField } from '../parts/Field';
import { FormActions } from '../parts/FormActions';
import { partLabel } from './partLabel';
import { usePrepared, type Prepared } from './queries';
import { Select } from '../parts/Select';
import { useFormOf } from '../parts/useFormOf';

type Draft = Omit<QualityRule, 'id'> & { id: number | null };

export function QualityDialog({ onClose }: { onClose: () => void }) {
  const { data } = usePrepared();
  const [editing, setEditing] = useState<Draft | null>(null);
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title="What counts as described" wide>
      {editing ? (
        <Editor draft={editing} onClose={() => setEditing(null)} />
      ) : (
        <>
          <p className="mb-2 text-ink-2">
            A rule says which photos must have what. What they lack stands on Holdings as work to do.
          </p>
          <ul className="divide-y divide-line rounded border border-line">
            {(data?.rules ?? []).map((rule) => (
              <Rule key={rule.id} rule={rule} onChange={() => setEditing(rule)} onLeave={onClose} />
            ))}
            {data?.rules.length === 0 && <li className="px-3 py-1.5 text-ink-2">No rules yet.</li>}
          </ul>
          <div className="mt-3">
            <Button
              look="primary"
              onClick={() => setEditing({ id: null, name: '', query: '', requires: ['terms', 'caption'] })}
            >
              New rule …
            </Button>
          </div>
        </>
      )}
    </Dialog>
  );
}

function Rule({
  rule,
  onChange,
  onLeave,
}: {
  rule: Prepared['rules'][number];
  onChange: () => void;
  onLeave: () => void;
}) {
  const change = useChange();
  return (
    <li className="flex flex-wrap items-baseline gap-x-3 gap-y-1 px-3 py-1.5">
      <b className="w-44 truncate">{rule.name}</b>
      <span className="min-w-0 flex-1 truncate font-mono text-[12px] text-ink-2">{rule.query || 'all photos'}</span>
      <Button className="!h-7" onClick={onChange}>
        Change …
      </Button>
      <Button
        look="quiet"
        className="!h-7"
        disabled={change.isPending}
        onClick={() => change.mutate({ kind: 'removeQualityRule', ruleId: rule.id })}
      >
        Remove
      </Button>
      <ul className="flex w-full flex-wrap gap-x-4 text-[12px]">
        {rule.lacking.map(({ part, query }) => (
          <li key={part}>
            <Link className="text-slate hover:underline" to={deskLink(query)} onClick={onLeave}>
              {partLabel(part)}: <Lacking query={query} />
            </Link>
          </li>
        ))}
      </ul>
    </li>
  );
}

function Lacking({ query }: { query: string }) {
  const { data } = useCount(query);
  return <span className="figures">{data ? `${numberText(data.count)} lack it` : '…'}</span>;
}

/** The query is held to the language while it is typed. */
const schema = qualityRuleShape.extend({
  query: qualityRuleShape.shape.query.superRefine((query, context) => {
    const [problem] = parseQuery(query).errors;
    if (problem) context.addIssue({ code: 'custom', message: problem.message });
  }),
});

function Editor({ draft, onClose }: { draft: Draft; onClose: () => void }) {
  const { name, query } = draft;
  const { register, control, handleSubmit, formState } = useFormOf(schema, {
    name,
    query,
    requires: [...draft.requires],
  });
  const { field: required } = useController({ control, name: 'requires' });
  const { value: requires, onChange: setRequires } = required;
  const change = useChange();
  const { errors } = formState;
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={handleSubmit((rule) =>
        change.mutate({ kind: 'saveQualityRule', ruleId: draft.id, ...rule }, { onSuccess: onClose }),
      )}
    >
      <div className="grid grid-cols-[1fr_2fr] gap-4">
        <TextField label="Name" autoFocus error={errors.name?.message} {...register('name')} />
        <TextField
          label="Photos it is about, as in the query line; empty for all"
          boxClass="h-8 font-mono text-[12px]"
          error={errors.query?.message}
          {...register('query')}
        />
      </div>
      <div className="flex flex-wrap items-center gap-1.5" role="group" aria-label="What they must have">
        They must have
        {requires.map((part) => (
          <span key={part} className="flex h-6 items-center gap-1.5 rounded border border-line bg-spruce-pale px-2">
            {partLabel(part)}
            <button
              type="button"
              aria-label={`Without ${partLabel(part)}`}
              className="text-ink-3 hover:text-red"
              onClick={() => setRequires(requires.filter((each) => each !== part))}
            >
              <X size={12} />
            </button>
          </span>
        ))}
        <Select
          label="Add what they must have"
          className="h-7"
          value=""
          onChange={(value) => setRequires([...requires, value])}
          options={[
            { value: '', label: 'add …' },
            ...[...PARTS, ...FIELD_PARTS]
              .filter((part) => !requires.includes(part))
              .map((part) => ({ value: part, label: partLabel(part) })),
          ]}
        />
      </div>
      <FormActions onCancel={onClose} action="Keep the rule" disabled={requires.length === 0 || change.isPending} />
    </form>
  );
}

/** Fields that `has:` asks for by their own ids. */
const FIELD_PARTS: readonly string[] = DESCRIBED_FIELDS.map(({ id }) => id).filter(
  (id) => !['description', 'dateCreated', 'position'].includes(id),
);
