// Making or changing a template: fields with texts that may hold placeholders, terms that are given along, earlier versions.

import { X } from 'lucide-react';
import { useRef, useState } from 'react';
import { editOf, typedText } from '@stellin/core/describing/drafts';
import { EDIT_MODES, type EditMode, type FieldEdit } from '@stellin/core/describing/editing';
import { hasPlaceholders, parsePlaceholders, TEMPLATE_PLACEHOLDERS } from '@stellin/core/describing/placeholders';
import { DESCRIBED_FIELDS, isTarget, shapeOf, type Target } from '@stellin/core/describing/targets';
import { fieldText } from '@stellin/core/metadata/fieldText';
import type { TermName } from '@stellin/contract/termName';
import { useChange } from '../foundation/changes';
import { Button } from '../parts/Button';
import { dateTimeText } from '../parts/dateTimeText';
import { Dialog } from '../parts/Dialog';
import { FormActions } from '../parts/FormActions';
import { TermPicker } from '../parts/terms/TermPicker';
import { MODE_LABELS } from './modes';
import { usePrepared, useTemplateVersions } from './queries';
import { Select } from '../parts/Select';
import { Checkbox } from '../parts/Checkbox';

export interface TemplateDraft {
  /** Null: a new one. */
  id: number | null;
  name: string;
  note: string;
  edits: readonly FieldEdit[];
  terms: readonly TermName[];
  shared: boolean;
}

interface Row {
  target: Target;
  mode: EditMode;
  typed: string;
  /** A value that can't be typed as a text: it is kept as it is. */
  kept?: FieldEdit['value'];
}

const INPUT = 'mt-1 block h-8 w-full rounded border border-line bg-card px-2 text-base text-ink';

export function TemplateDialog({ draft, onClose }: { draft: TemplateDraft; onClose: (id?: number) => void }) {
  const [name, setName] = useState(draft.name);
  const [note, setNote] = useState(draft.note);
  const [shared, setShared] = useState(draft.shared);
  const [rows, setRows] = useState<readonly Row[]>(() => draft.edits.map(rowOf));
  const [terms, setTerms] = useState(draft.terms);
  const change = useChange();
  const { data: versions } = useTemplateVersions(draft.id);
  const focused = useRef<HTMLInputElement | null>(null);
  const own = useOwnTargets();
  const set = (at: number, part: Partial<Row>) => setRows(rows.map((row, i) => (i === at ? { ...row, ...part } : row)));
  const edits = rows.map(editOfRow);
  const problem = edits.find((edit) => typeof edit === 'string');
  const insert = (placeholder: string) => {
    const input = focused.current;
    const at = Number(input?.dataset['row'] ?? -1);
    const row = rows[at];
    if (!input || !row) return;
    const place = input.selectionStart ?? row.typed.length;
    set(at, { typed: `${row.typed.slice(0, place)}{${placeholder}}${row.typed.slice(place)}` });
    input.focus();
  };
  const submit = () => {
    change.mutate(
      {
        kind: 'saveTemplate',
        templateId: draft.id,
        name,
        note,
        shared,
        edits: edits.filter((edit): edit is FieldEdit => typeof edit !== 'string'),
        termIds: terms.map(({ id }) => id),
      },
      { onSuccess: ({ entry }) => onClose(entry?.objectId ?? draft.id ?? undefined) },
    );
  };
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title={draft.id === null ? 'New template' : `Template “${draft.name}”`}
      wide
    >
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          submit();
        }}
      >
        <div className="grid grid-cols-[1fr_2fr_auto] items-end gap-4">
          <label className="text-[12px] text-ink-2">
            Name
            <input
              autoFocus
              required
              maxLength={100}
              className={INPUT}
              value={name}
              onChange={(event) => setName(event.target.value)}
            />
          </label>
          <label className="text-[12px] text-ink-2">
            Note
            <input className={INPUT} maxLength={2000} value={note} onChange={(event) => setNote(event.target.value)} />
          </label>
          <Checkbox checked={shared} onChange={setShared} className="h-8">
            for everybody
          </Checkbox>
        </div>
        <ul className="flex flex-col gap-1.5" aria-label="Fields of the template">
          {rows.map((row, i) => {
            const edit = edits[i];
            return (
              <li key={`${row.target} ${i}`} className="flex flex-wrap items-center gap-2">
                <span className="w-40 truncate">{shapeOf(row.target).label}</span>
                <Select
                  label={`How ${shapeOf(row.target).label} is put in`}
                  className="h-7 w-32 text-[12px]"
                  value={row.mode}
                  onChange={(value) => set(i, { mode: value })}
                  options={EDIT_MODES.map((mode) => ({ value: mode, label: MODE_LABELS[mode] }))}
                />
                {row.kept === undefined ? (
                  <input
                    data-row={i}
                    aria-label={shapeOf(row.target).label}
                    className="h-7 min-w-0 flex-1 rounded border border-line bg-card px-2"
                    value={row.typed}
                    onFocus={(event) => (focused.current = event.currentTarget)}
                    onChange={(event) => set(i, { typed: event.target.value })}
                  />
                ) : (
                  <span className="min-w-0 flex-1 truncate text-ink-2">
                    {row.kept === null ? 'nothing' : fieldText(row.kept)}
                  </span>
                )}
                <button
                  type="button"
                  aria-label={`Without ${shapeOf(row.target).label}`}
                  className="text-ink-3 hover:text-red"
                  onClick={() => setRows(rows.filter((_, at) => at !== i))}
                >
                  <X size={14} />
                </button>
                {typeof edit === 'string' && row.typed !== '' && <p className="w-full text-[12px] text-red">{edit}</p>}
              </li>
            );
          })}
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
                  onClick={() => setTerms(terms.filter((term) => term.id !== id))}
                >
                  <X size={12} />
                </button>
              </li>
            ))}
          </ul>
        </div>
        <div className="flex flex-wrap gap-1" role="group" aria-label="Placeholders">
          {Object.entries(TEMPLATE_PLACEHOLDERS).map(([placeholder, { help, example }]) => (
            <button
              key={placeholder}
              type="button"
              title={help}
              className="rounded border border-line bg-sheet px-1.5 py-0.5 font-mono text-[11px] text-ink-2 hover:border-ink-3 hover:text-ink"
              onMouseDown={(event) => event.preventDefault()}
              onClick={() => insert(example || placeholder)}
            >
              {`{${placeholder}}`}
            </button>
          ))}
        </div>
        {versions && versions.versions.length > 0 && (
          <details>
            <summary className="cursor-pointer text-slate">Earlier versions</summary>
            <ul className="mt-1">
              {versions.versions.map(({ at, by, template }) => (
                <li key={at} className="flex items-center gap-3 py-0.5">
                  <span className="figures text-ink-2">{dateTimeText(at)}</span>
                  <span className="min-w-0 flex-1 truncate">
                    {by} changed “{template.name}”:{' '}
                    {template.edits.map(({ target }) => shapeOf(target).label).join(', ')}
                  </span>
                  <Button
                    className="!h-7"
                    onClick={() => {
                      setName(template.name);
                      setNote(template.note);
                      setRows(template.edits.map(rowOf));
                    }}
                  >
                    Take this into the form
                  </Button>
                </li>
              ))}
            </ul>
          </details>
        )}
        <FormActions
          onCancel={() => onClose()}
          action="Keep the template"
          disabled={name.trim() === '' || problem !== undefined || rows.length + terms.length === 0 || change.isPending}
        />
      </form>
    </Dialog>
  );
}

function rowOf({ target, mode, value }: FieldEdit): Row {
  const shape = shapeOf(target);
  const plain =
    shape.type !== 'struct' && shape.type !== 'position' && (typeof value !== 'object' || Array.isArray(value));
  return plain
    ? { target, mode, typed: typedText(target, value ?? undefined) }
    : { target, mode, typed: '', kept: value };
}

/** The edit of a row, or why it is none. Texts with placeholders are checked once they are filled. */
function editOfRow({ target, mode, typed, kept }: Row): FieldEdit | string {
  if (kept !== undefined) return { target, mode, value: kept };
  if (!hasPlaceholders(typed)) {
    const made = editOf(target, { mode, typed });
    return made.ok ? made.edit : made.problem;
  }
  const parsed = parsePlaceholders(typed);
  if (!parsed.ok) return parsed.problem;
  return { target, mode, value: shapeOf(target).list ? typed.split(/\s*;\s*/).filter(Boolean) : typed };
}

/** Fields of the project that field sets name. */
function useOwnTargets(): Target[] {
  const { data } = usePrepared();
  const targets = (data?.fieldSets ?? []).flatMap(({ entries }) => entries.map(({ target }) => target));
  return [...new Set(targets.filter((target) => target.startsWith('custom:')))];
}
