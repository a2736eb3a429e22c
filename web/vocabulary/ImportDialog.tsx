// Taking in a vocabulary: a file is read, held against what is there, and taken in on request.

import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { FORMAT_IDS, FORMAT_FACTS, type FormatId } from '@stellin/core/vocabulary/formatIds';
import { IMPORT_KINDS, type ImportKind } from '@stellin/core/vocabulary/importKinds';
import { vocabularyRoutes, type ImportRow } from '@stellin/contract/vocabulary';
import { countText, numberText } from '@stellin/contract/wording';
import { call } from '../foundation/api';
import { showError, useChange } from '../foundation/changes';
import { Button } from '../parts/Button';
import { DataTable, type Column } from '../parts/DataTable';
import { Dialog } from '../parts/Dialog';
import { useVocabularies } from '../parts/terms/queries';
import { useComparedImport } from './queries';
import { Select } from '../parts/Select';
import { Checkbox } from '../parts/Checkbox';
import { TextArea } from '../parts/Field';

const KIND_LABELS: Record<ImportKind, string> = {
  new: 'new',
  changed: 'changed',
  moved: 'moved',
  doubtful: 'doubtful',
  gone: 'not in the file',
  same: 'as they are',
};

interface ReadFile {
  importId: string;
  format: FormatId;
  name: string;
  terms: number;
  problems: { at: string; message: string }[];
  problemCount: number;
}

export function ImportDialog({ onClose }: { onClose: () => void }) {
  const [text, setText] = useState('');
  const [name, setName] = useState('pasted');
  const [format, setFormat] = useState<FormatId | ''>('');
  const read = useMutation({
    mutationFn: (file: { name: string; text: string }) =>
      call(vocabularyRoutes.readImport, { body: { ...file, ...(format ? { format } : {}) } }),
    onError: showError,
  });
  return (
    <Dialog open onOpenChange={onClose} title="Import a vocabulary" wide>
      {read.data ? (
        <Preview file={read.data} onBack={() => read.reset()} onClose={onClose} />
      ) : (
        <form
          className="space-y-3"
          onSubmit={(event) => {
            event.preventDefault();
            read.mutate({ name, text });
          }}
        >
          <p className="text-ink-2">
            SKOS as Turtle, RDF/XML or JSON-LD, indented text, or a table as CSV. Nothing changes before you have seen
            what is new, changed, moved, doubtful or missing.
          </p>
          <div className="flex items-center gap-3">
            <input
              type="file"
              aria-label="File of a vocabulary"
              accept=".ttl,.rdf,.xml,.jsonld,.json,.txt,.csv"
              onChange={(event) => {
                const [file] = event.target.files ?? [];
                if (!file) return;
                setName(file.name);
                void file.text().then((content) => read.mutate({ name: file.name, text: content }));
              }}
            />
            <label className="ml-auto flex items-center gap-2 text-[12px] text-ink-2">
              Format
              <Select
                value={format}
                onChange={(value) => setFormat(FORMAT_IDS.find((id) => id === value) ?? '')}
                options={[
                  { value: '', label: 'by its name and beginning' },
                  ...FORMAT_IDS.map((id) => ({ value: id, label: FORMAT_FACTS[id].label })),
                ]}
              />
            </label>
          </div>
          <TextArea
            label="Or paste it here"
            hideLabel
            placeholder="Or paste it here"
            rows={10}
            boxClass="font-mono text-[12px]"
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
          <div className="flex justify-end gap-2">
            <Button look="quiet" onClick={onClose}>
              Cancel
            </Button>
            <Button type="submit" look="primary" disabled={text.trim() === '' || read.isPending}>
              {read.isPending ? 'Reading …' : 'Read it'}
            </Button>
          </div>
        </form>
      )}
    </Dialog>
  );
}

function Preview({ file, onBack, onClose }: { file: ReadFile; onBack: () => void; onClose: () => void }) {
  const { data: overview } = useVocabularies();
  const [into, setInto] = useState<number | null>(
    overview?.vocabularies.find(({ name }) => name === file.name)?.id ?? null,
  );
  const [kind, setKind] = useState<ImportKind | undefined>();
  const [gone, setGone] = useState<'keep' | 'deprecate' | 'remove'>('keep');
  const [same, setSame] = useState<ReadonlySet<string>>(new Set());
  const [without, setWithout] = useState<ReadonlySet<string>>(new Set());
  const { data: compared } = useComparedImport(file.importId, into, kind);
  const change = useChange();
  const flip = (set: ReadonlySet<string>, key: string) => {
    const next = new Set(set);
    if (!next.delete(key)) next.add(key);
    return next;
  };
  const counts = compared?.counts;
  const touched = counts
    ? counts.new + counts.changed + counts.moved + counts.doubtful + (gone === 'keep' ? 0 : counts.gone) - without.size
    : 0;
  return (
    <div>
      <p className="mb-2">
        “{file.name}”, {FORMAT_FACTS[file.format].label}: {countText(file.terms, 'term')}.{' '}
        <label>
          Take them into{' '}
          <Select
            label="Into which vocabulary"
            className="h-7"
            value={into ?? ''}
            onChange={(value) => {
              setInto(Number(value) || null);
              setSame(new Set());
            }}
            options={[
              { value: '', label: 'a new vocabulary' },
              ...(overview?.vocabularies ?? []).map(({ id, name }) => ({ value: id, label: name })),
            ]}
          />
        </label>
      </p>
      <Mended file={file} />
      <Kinds counts={counts} chosen={kind} onChoose={setKind} />
      <div className="h-72 overflow-y-auto rounded border border-line">
        <DataTable
          label="Terms of the file"
          small
          rows={compared?.rows ?? []}
          keyOf={({ key }) => key}
          columns={columnsOf({
            gone,
            same,
            without,
            onSame: (key) => setSame(flip(same, key)),
            onWithout: (key) => setWithout(flip(without, key)),
          })}
        />
        {compared?.rows.length === 0 && <p className="p-3 text-ink-2">Everything in it is here already, just so.</p>}
      </div>
      {into !== null && (
        <label className="mt-2 flex items-center gap-2">
          Terms that are not in the file
          <Select
            className="h-7"
            value={gone}
            onChange={setGone}
            options={[
              { value: 'keep', label: 'stay as they are' },
              { value: 'deprecate', label: 'are deprecated' },
              { value: 'remove', label: 'are removed, if no photo has them' },
            ]}
          />
        </label>
      )}
      <div className="mt-3 flex justify-end gap-2">
        <Button look="quiet" onClick={onBack}>
          Another file
        </Button>
        <Button look="quiet" onClick={onClose}>
          Cancel
        </Button>
        <Button
          look="primary"
          disabled={touched <= 0 || change.isPending}
          onClick={() =>
            change.mutate(
              {
                kind: 'importTerms',
                importId: file.importId,
                vocabularyId: into,
                gone,
                same: [...same],
                without: [...without],
              },
              { onSuccess: onClose },
            )
          }
        >
          {change.isPending ? 'Taking in …' : `Take in ${countText(Math.max(0, touched), 'term')}`}
        </Button>
      </div>
    </div>
  );
}

interface Decisions {
  gone: DecisionProps['gone'];
  /** Keys of doubtful ones that are the same, and of those that are left out. */
  same: ReadonlySet<string>;
  without: ReadonlySet<string>;
  onSame: (key: string) => void;
  onWithout: (key: string) => void;
}

function columnsOf({ gone, same, without, onSame, onWithout }: Decisions): readonly Column<ImportRow>[] {
  return [
    {
      id: 'term',
      title: 'Term',
      cell: ({ path, label }) => (
        <>
          <span className="text-ink-2">{path.slice(0, -1).map((above) => `${above} › `)}</span>
          <b>{label}</b>
        </>
      ),
    },
    {
      id: 'stands',
      title: 'How it stands',
      cell: ({ kind: own, what }) => (
        <>
          <span className={own === 'doubtful' ? 'text-amber' : ''}>{KIND_LABELS[own]}</span>
          {what.length > 0 && `: ${what.join(', ')}`}
        </>
      ),
    },
    {
      id: 'decision',
      title: 'What becomes of it',
      className: 'w-44',
      cell: (row) => (
        <Decision
          row={row}
          gone={gone}
          isSame={same.has(row.key)}
          isWithout={without.has(row.key)}
          onSame={() => onSame(row.key)}
          onWithout={() => onWithout(row.key)}
        />
      ),
    },
  ];
}

/** What in the file was not as its format wants it. */
function Mended({ file }: { file: ReadFile }) {
  if (file.problemCount === 0) return null;
  return (
    <details className="mb-2 rounded border border-amber bg-amber-pale px-3 py-1.5">
      <summary className="cursor-pointer font-semibold">
        {countText(file.problemCount, 'thing')} in the file had to be mended
      </summary>
      <ul className="mt-1 max-h-32 overflow-y-auto text-[12px]">
        {file.problems.map(({ at, message }, i) => (
          <li key={i}>
            <b>{at}</b>: {message}
          </li>
        ))}
      </ul>
    </details>
  );
}

interface KindsProps {
  counts: Partial<Record<ImportKind, number>> | undefined;
  chosen: ImportKind | undefined;
  onChoose: (kind: ImportKind | undefined) => void;
}

/** How many rows there are of each kind; one kind may be shown alone. */
function Kinds({ counts, chosen, onChoose }: KindsProps) {
  return (
    <div role="group" aria-label="Kinds" className="mb-2 flex flex-wrap gap-1.5">
      {IMPORT_KINDS.map((one) => (
        <button
          key={one}
          type="button"
          aria-pressed={chosen === one}
          disabled={!counts?.[one]}
          className={`rounded-full border px-3 py-0.5 text-[12px] disabled:opacity-60 ${chosen === one ? 'border-spruce bg-spruce-pale font-semibold' : 'border-line bg-card hover:border-ink-3'}`}
          onClick={() => onChoose(chosen === one ? undefined : one)}
        >
          <b className={`figures ${one === 'doubtful' ? 'text-amber' : ''}`}>{numberText(counts?.[one] ?? 0)}</b>{' '}
          {KIND_LABELS[one]}
        </button>
      ))}
    </div>
  );
}

interface DecisionProps {
  row: ImportRow;
  gone: 'keep' | 'deprecate' | 'remove';
  isSame: boolean;
  isWithout: boolean;
  onSame: () => void;
  onWithout: () => void;
}

const GONE_TEXTS = { keep: 'stays', deprecate: 'is deprecated', remove: 'is removed' };

function Decision({ row, gone, isSame, isWithout, onSame, onWithout }: DecisionProps) {
  if (row.kind === 'gone') return <span className="text-ink-2">{GONE_TEXTS[gone]}</span>;
  if (row.kind === 'same') return <span className="text-ink-2">nothing</span>;
  return (
    <span className="flex gap-3">
      {row.kind === 'doubtful' && (
        <Checkbox checked={isSame} onChange={onSame}>
          is the same
        </Checkbox>
      )}
      <Checkbox checked={isWithout} onChange={onWithout}>
        leave out
      </Checkbox>
    </span>
  );
}
