// The builder: the query by mouse, as nested groups of conditions. It says the same as the query line at any moment.

import { Plus, X } from 'lucide-react';
import { useState } from 'react';
import {
  builtOf,
  GROUP_MODES,
  operatorsOf,
  problemOf,
  queryOf,
  type Built,
  type BuiltCondition,
  type BuiltGroup,
  type GroupMode,
} from '@stellin/core/search/building';
import { CRITERIA, criterionOf, OWN_CRITERIA } from '@stellin/core/query/criteria';
import { parseQuery, queryText } from '@stellin/core/search/language';
import type { Operator } from '@stellin/core/query/query';
import { countText } from '@stellin/contract/wording';
import { useCount } from '../photos/queries';
import { Button } from '../parts/Button';
import { Combobox } from '../parts/Combobox';
import { Dialog } from '../parts/Dialog';
import { useSuggestions } from './queries';
import { Select } from '../parts/Select';

interface Props {
  query: string;
  show: (change: { query: string }) => void;
  onClose: () => void;
}

const MODE_LABELS: Record<GroupMode, string> = { all: 'All of these', any: 'Any of these', none: 'None of these' };
const OPERATOR_LABELS: Record<Operator, string> = {
  '=': 'is',
  '>': 'above',
  '>=': 'from',
  '<': 'below',
  '<=': 'up to',
  '..': 'between',
};
const NEW_CONDITION: BuiltCondition = { kind: 'condition', of: 'words', operator: '=', value: '', to: '', not: false };
const MAX_LEVELS = 5;

export function QueryBuilder({ query, show, onClose }: Props) {
  const [group, setGroup] = useState(() => withRoom(builtOf(parseQuery(query).query)));
  const text = queryText(queryOf(group));
  const { data: count } = useCount(text);
  const apply = () => {
    show({ query: text });
    onClose();
  };
  return (
    <Dialog open wide onOpenChange={(open) => !open && onClose()} title="Build the query">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          apply();
        }}
      >
        <Group group={group} level={0} onChange={setGroup} />
        <p
          className="mt-3 rounded border border-line bg-sheet px-2.5 py-1.5 font-mono text-[12px] break-words"
          aria-live="polite"
        >
          {text || 'all photos'}
        </p>
        <div className="mt-4 flex items-center gap-2">
          <Button type="submit" look="primary">
            Show {countText(count?.count ?? 0, 'photo')}
          </Button>
          <Button onClick={onClose}>Not now</Button>
        </div>
      </form>
    </Dialog>
  );
}

/** An empty group gets a first condition to fill in. */
function withRoom(group: BuiltGroup): BuiltGroup {
  return group.of.length > 0 ? group : { ...group, of: [NEW_CONDITION] };
}

interface GroupProps {
  group: BuiltGroup;
  level: number;
  onChange: (group: BuiltGroup) => void;
  onRemove?: () => void;
}

function Group({ group, level, onChange, onRemove }: GroupProps) {
  const put = (i: number, node: Built | undefined) =>
    onChange({ ...group, of: group.of.flatMap((each, k) => (k === i ? (node ? [node] : []) : [each])) });
  const add = (node: Built) => onChange({ ...group, of: [...group.of, node] });
  return (
    <fieldset
      className={`rounded border-l-3 py-1.5 pr-2 pl-3 ${level % 2 ? 'bg-sheet' : 'bg-card'} ${group.mode === 'none' ? 'border-red' : 'border-spruce'}`}
    >
      <legend className="sr-only">{MODE_LABELS[group.mode]}</legend>
      <div className="mb-1.5 flex items-center gap-2">
        <Select
          label="How the conditions go together"
          className="h-7 font-semibold"
          value={group.mode}
          onChange={(value) => onChange({ ...group, mode: value })}
          options={GROUP_MODES.map((mode) => ({ value: mode, label: MODE_LABELS[mode] }))}
        />
        {onRemove && (
          <button
            type="button"
            aria-label="Remove the group"
            className="ml-auto p-1 text-ink-3 hover:text-red"
            onClick={onRemove}
          >
            <X size={14} />
          </button>
        )}
      </div>
      <ul className="flex flex-col gap-1.5">
        {group.of.map((node, i) => (
          // Nodes have no names of their own; they change in place.
          <li key={i}>
            {node.kind === 'group' ? (
              <Group
                group={node}
                level={level + 1}
                onChange={(changed) => put(i, changed)}
                onRemove={() => put(i, undefined)}
              />
            ) : (
              <Condition condition={node} onChange={(changed) => put(i, changed)} onRemove={() => put(i, undefined)} />
            )}
          </li>
        ))}
      </ul>
      <div className="mt-1.5 flex gap-2">
        <Button look="quiet" onClick={() => add(NEW_CONDITION)}>
          <Plus size={13} /> Condition
        </Button>
        {level < MAX_LEVELS && (
          <Button look="quiet" onClick={() => add({ kind: 'group', mode: 'any', of: [NEW_CONDITION, NEW_CONDITION] })}>
            <Plus size={13} /> Group
          </Button>
        )}
      </div>
    </fieldset>
  );
}

interface ConditionProps {
  condition: BuiltCondition;
  onChange: (condition: BuiltCondition) => void;
  onRemove: () => void;
}

const FIELD_CRITERIA = CRITERIA.filter((criterion) => !OWN_CRITERIA.includes(criterion));

function Condition({ condition, onChange, onRemove }: ConditionProps) {
  const { of, operator, value, to, not } = condition;
  const criterion = of === 'words' || of === 'phrase' ? undefined : criterionOf(of);
  const operators = operatorsOf(of);
  const problem = problemOf(condition);
  const change = (part: Partial<BuiltCondition>) => onChange({ ...condition, ...part });
  return (
    <div>
      <div className="flex flex-wrap items-center gap-1.5">
        <Select
          label="Whether it holds"
          className={`h-7 ${not ? 'text-red' : 'text-ink-2'}`}
          value={not ? 'not' : ''}
          onChange={(value) => change({ not: value === 'not' })}
          options={[
            { value: '', label: 'has' },
            { value: 'not', label: 'has not' },
          ]}
        />
        <Select
          label="Criterion"
          className="h-7 w-44"
          value={of}
          onChange={(value) => change({ of: value, operator: '=', value: '', to: '' })}
          options={[
            { value: 'words', label: 'words' },
            { value: 'phrase', label: 'words in this order' },
            ...OWN_CRITERIA.map(({ id, label }) => ({ value: id, label, group: 'Criteria' })),
            ...FIELD_CRITERIA.map(({ id, label }) => ({ value: id, label, group: 'Fields' })),
          ]}
        />
        {operators.length > 1 && (
          <Select
            label="Comparison"
            className="h-7"
            value={operator}
            onChange={(value) => change({ operator: value })}
            options={operators.map((each) => ({ value: each, label: OPERATOR_LABELS[each] }))}
          />
        )}
        <ValueField condition={condition} label="Value" value={value} onChange={(text) => change({ value: text })} />
        {operator === '..' && (
          <>
            <span className="text-ink-2">and</span>
            <ValueField condition={condition} label="Up to" value={to} onChange={(text) => change({ to: text })} />
          </>
        )}
        <button
          type="button"
          aria-label="Remove the condition"
          className="p-1 text-ink-3 hover:text-red"
          onClick={onRemove}
        >
          <X size={14} />
        </button>
      </div>
      {problem ? (
        <p role="status" className="mt-0.5 text-[12px] text-red">
          {problem}.
        </p>
      ) : (
        value === '' && criterion && <p className="mt-0.5 text-[12px] text-ink-3">{criterion.help}</p>
      )}
    </div>
  );
}

/** A value: one of the choices where there are some, else text with suggestions. */
function ValueField({
  condition,
  label,
  value,
  onChange,
}: {
  condition: BuiltCondition;
  label: string;
  value: string;
  onChange: (value: string) => void;
}) {
  const { of } = condition;
  const criterion = of === 'words' || of === 'phrase' ? undefined : criterionOf(of);
  const { data: suggestions = [] } = useSuggestions(
    criterion && !criterion.choices && value ? `${of}:${value}` : '',
    '',
  );
  if (criterion?.choices)
    return (
      <Select
        label={label}
        className="h-7 min-w-40 flex-1"
        value={value}
        onChange={onChange}
        options={[
          { value: '', label: 'choose …' },
          ...criterion.choices.map((choice) => ({ value: choice, label: choice })),
        ]}
      />
    );
  return (
    <Combobox
      label={label}
      listLabel={`Values for ${label}`}
      className="h-7 min-w-40 flex-1 rounded border border-line bg-card px-2 placeholder:text-ink-3"
      placeholder={criterion ? criterion.example.slice(criterion.example.indexOf(':') + 1).replaceAll('"', '') : 'kite'}
      text={value}
      onText={onChange}
      options={suggestions
        .filter(({ kind }) => kind !== 'field')
        .map((suggestion) => ({
          key: suggestion.query,
          content: (
            <>
              <span className="min-w-0 truncate">{valueOf(suggestion.query)}</span>
              <span className="min-w-0 truncate text-[11px] text-ink-2">{suggestion.detail}</span>
            </>
          ),
          onPick: () => onChange(valueOf(suggestion.query)),
        }))}
    />
  );
}

function valueOf(text: string): string {
  const { query } = parseQuery(text);
  return query.kind === 'criterion' ? query.value : text;
}
