// Making or changing a template: fields with texts that may hold placeholders, terms that are given along, earlier versions.

import { X } from 'lucide-react';
import { useRef, useState } from 'react';
import { EDIT_MODES, type FieldEdit } from '@stellin/core/describing/editing';
import { TEMPLATE_PLACEHOLDERS } from '@stellin/core/describing/placeholders';
import { DESCRIBED_FIELDS, isTarget, shapeOf } from '@stellin/core/describing/targets';
import { fieldText } from '@stellin/core/metadata/fieldText';
import type { TermName } from '@stellin/contract/termName';
import { useChange } from '../foundation/changes';
import { Button } from '../parts/Button';
import { dateTimeText } from '../parts/dateTimeText';
import { Dialog } from '../parts/Dialog';
import { FormActions } from '../parts/FormActions';
import { TermPicker } from '../parts/terms/TermPicker';
import { MODE_LABELS } from './modes';
import { editOfRow, rowOf, type TemplateRow } from './templateRows';
import { useOwnTargets, useTemplateVersions } from './queries';
import { Select } from '../parts/Select';
import { Checkbox } from '../parts/Checkbox';
import { TextField } from '../parts/Field';
import { Controller } from 'react-hook-form';
import { z } from 'zod';
import { changeSchema } from '@stellin/contract/ledger';
import { useFormOf } from '../parts/useFormOf';

export interface TemplateDraft {
  /** Null: a new one. */
  id: number | null;
  name: string;
  note: string;
  edits: readonly FieldEdit[];
  terms: readonly TermName[];
  shared: boolean;
}

const { name: nameShape, note: noteShape, shared: sharedShape } = changeSchema('saveTemplate').shape;
const schema = z.object({ name: nameShape, note: noteShape.unwrap(), shared: sharedShape.unwrap() });

export function TemplateDialog({ draft, onClose }: { draft: TemplateDraft; onClose: (id?: number) => void }) {
  const { name, note, shared } = draft;
  const { register, control, handleSubmit, setValue, formState } = useFormOf(schema, { name, note, shared });
  const { errors } = formState;
  const [rows, setRows] = useState<readonly TemplateRow[]>(() => draft.edits.map(rowOf));
  const [terms, setTerms] = useState(draft.terms);
  const change = useChange();
  /** The box that was typed in last: placeholders go there. */
  const focused = useRef<{ input: HTMLInputElement; at: number } | null>(null);
  const own = useOwnTargets();
  const set = (at: number, part: Partial<TemplateRow>) =>
    setRows(rows.map((row, i) => (i === at ? { ...row, ...part } : row)));
  const edits = rows.map(editOfRow);
  const insert = (placeholder: string) => {
    if (!focused.current) return;
    const { input, at } = focused.current;
    const row = rows[at];
    if (!row) return;
    const place = input.selectionStart ?? row.typed.length;
    set(at, { typed: `${row.typed.slice(0, place)}{${placeholder}}${row.typed.slice(place)}` });
    input.focus();
  };
  const submit = handleSubmit((named) => {
    change.mutate(
      {
        kind: 'saveTemplate',
        templateId: draft.id,
        ...named,
        edits: edits.filter((edit): edit is FieldEdit => typeof edit !== 'string'),
        termIds: terms.map(({ id }) => id),
      },
      { onSuccess: ({ entry }) => onClose(entry?.objectId ?? draft.id ?? undefined) },
    );
  });
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title={draft.id === null ? 'New template' : `Template “${draft.name}”`}
      wide
    >
      <form className="flex flex-col gap-3" onSubmit={submit}>
        <div className="grid grid-cols-[1fr_2fr_auto] items-end gap-4">
          <TextField label="Name" autoFocus error={errors.name?.message} {...register('name')} />
          <TextField label="Note" error={errors.note?.message} {...register('note')} />
          <Controller
            control={control}
            name="shared"
            render={({ field }) => (
              <Checkbox checked={field.value} onChange={field.onChange} className="h-8">
                for everybody
              </Checkbox>
            )}
          />
        </div>
        <ul className="flex flex-col gap-1.5" aria-label="Fields of the template">
          {rows.map((row, i) => (
            <FieldOfTemplate
              key={`${row.target} ${i}`}
              row={row}
              problem={problemOf(edits[i])}
              onChange={(part) => set(i, part)}
              onFocus={(input) => (focused.current = { input, at: i })}
              onRemove={() => setRows(rows.filter((_, at) => at !== i))}
            />
          ))}
        </ul>
        <div className="flex items-center gap-3">
          <Select
            label="Add a field"
            className="w-52"
            value=""
            onChange={(value) => {
              const target = value;
              if (isTarget(target)) setRows([...rows, { target, mode: 'replace', typed: '' }]);
            }}
            options={[
              { value: '', label: 'Add a field …' },
              ...[...own, ...DESCRIBED_FIELDS.filter(({ type }) => type !== 'struct').map(({ id }) => id)].map(
                (target) => ({ value: target, label: shapeOf(target).label }),
              ),
            ]}
          />
          <TermPicker
            label="Add a term"
            placeholder="Add a term …"
            assignable
            className="w-52"
            without={terms.map(({ id }) => id)}
            onPick={({ id, label, path }) => setTerms([...terms, { id, label, path }])}
          />
          <TermsGiven terms={terms} onRemove={(id) => setTerms(terms.filter((term) => term.id !== id))} />
        </div>
        <Placeholders onInsert={insert} />
        <EarlierVersions
          templateId={draft.id}
          onTake={(template) => {
            setValue('name', template.name);
            setValue('note', template.note);
            setRows(template.edits.map(rowOf));
          }}
        />
        <FormActions
          onCancel={() => onClose()}
          action="Keep the template"
          disabled={
            edits.some((edit) => typeof edit === 'string') || rows.length + terms.length === 0 || change.isPending
          }
        />
      </form>
    </Dialog>
  );
}

/** Why a row makes no edit. */
function problemOf(edit: FieldEdit | string | undefined): string | undefined {
  return typeof edit === 'string' ? edit : undefined;
}

interface FieldProps {
  row: TemplateRow;
  problem: string | undefined;
  onChange: (part: Partial<TemplateRow>) => void;
  onFocus: (input: HTMLInputElement) => void;
  onRemove: () => void;
}

function FieldOfTemplate({ row, problem, onChange, onFocus, onRemove }: FieldProps) {
  const { label } = shapeOf(row.target);
  return (
    <li className="flex flex-wrap items-center gap-2">
      <span className="w-40 truncate">{label}</span>
      <Select
        label={`How ${label} is put in`}
        className="h-7 w-32 text-[12px]"
        value={row.mode}
        onChange={(mode) => onChange({ mode })}
        options={EDIT_MODES.map((mode) => ({ value: mode, label: MODE_LABELS[mode] }))}
      />
      {row.kept === undefined ? (
        <TextField
          label={label}
          hideLabel
          className="min-w-0 flex-1"
          boxClass="h-7"
          value={row.typed}
          onFocus={(event) => onFocus(event.currentTarget)}
          onChange={(event) => onChange({ typed: event.target.value })}
        />
      ) : (
        <span className="min-w-0 flex-1 truncate text-ink-2">
          {row.kept === null ? 'nothing' : fieldText(row.kept)}
        </span>
      )}
      <button type="button" aria-label={`Without ${label}`} className="text-ink-3 hover:text-red" onClick={onRemove}>
        <X size={14} />
      </button>
      {problem !== undefined && row.typed !== '' && <p className="w-full text-[12px] text-red">{problem}</p>}
    </li>
  );
}

function TermsGiven({ terms, onRemove }: { terms: readonly TermName[]; onRemove: (id: number) => void }) {
  return (
    <ul className="flex flex-wrap gap-1" aria-label="Terms that are given along">
      {terms.map(({ id, label, path }) => (
        <li
          key={id}
          title={[...path, label].join(' › ')}
          className="flex h-6 items-center gap-1.5 rounded border border-line bg-spruce-pale px-2"
        >
          {label}
          <button
            type="button"
            aria-label={`Without ${label}`}
            className="text-ink-3 hover:text-red"
            onClick={() => onRemove(id)}
          >
            <X size={12} />
          </button>
        </li>
      ))}
    </ul>
  );
}

function Placeholders({ onInsert }: { onInsert: (placeholder: string) => void }) {
  return (
    <div className="flex flex-wrap gap-1" role="group" aria-label="Placeholders">
      {Object.entries(TEMPLATE_PLACEHOLDERS).map(([placeholder, { help, example }]) => (
        <button
          key={placeholder}
          type="button"
          title={help}
          className="rounded border border-line bg-sheet px-1.5 py-0.5 font-mono text-[11px] text-ink-2 hover:border-ink-3 hover:text-ink"
          onMouseDown={(event) => event.preventDefault()}
          onClick={() => onInsert(example || placeholder)}
        >
          {`{${placeholder}}`}
        </button>
      ))}
    </div>
  );
}

interface VersionsProps {
  templateId: number | null;
  onTake: (template: Pick<TemplateDraft, 'name' | 'note' | 'edits'>) => void;
}

function EarlierVersions({ templateId, onTake }: VersionsProps) {
  const { data } = useTemplateVersions(templateId);
  if (!data || data.versions.length === 0) return null;
  return (
    <details>
      <summary className="cursor-pointer text-slate">Earlier versions</summary>
      <ul className="mt-1">
        {data.versions.map(({ at, by, template }) => (
          <li key={at} className="flex items-center gap-3 py-0.5">
            <span className="figures text-ink-2">{dateTimeText(at)}</span>
            <span className="min-w-0 flex-1 truncate">
              {by} changed “{template.name}”: {template.edits.map(({ target }) => shapeOf(target).label).join(', ')}
            </span>
            <Button className="!h-7" onClick={() => onTake(template)}>
              Take this into the form
            </Button>
          </li>
        ))}
      </ul>
    </details>
  );
}
