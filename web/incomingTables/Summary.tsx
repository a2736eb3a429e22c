// How a table was read, how its rows met photos, and taking it in.

import { LIST_MARKS, LIST_MARK_IDS } from '@stellin/core/incomingTables/cells';
import {
  ENCODINGS,
  ENCODING_IDS,
  INCOMING_FORMATS,
  SEPARATORS,
  SEPARATOR_IDS,
} from '@stellin/core/incomingTables/recognising';
import { saysSomething } from '@stellin/core/incomingTables/uses';
import type { IncomingSettings, IncomingTable } from '@stellin/contract/incomingTables';
import { countText, numberText } from '@stellin/contract/wording';
import { useChange } from '../foundation/changes';
import { Button } from '../parts/Button';
import { Checkbox } from '../parts/Checkbox';
import { dateTimeText } from '../parts/dateTimeText';
import { Field } from '../parts/Field';
import { Select } from '../parts/Select';
import { useReadAgain } from './queries';

interface Props {
  table: IncomingTable;
  onChange: (part: Partial<IncomingSettings>) => void;
  /** Something is still being worked out. */
  busy: boolean;
}

export function Summary({ table, onChange, busy }: Props) {
  const { id, name, settings, photos, taken } = table;
  const change = useChange();
  const says = settings.uses.some(saysSomething);
  return (
    <aside aria-label="The table" className="flex min-h-0 flex-col border-l border-line bg-card">
      <div className="min-h-0 flex-1 space-y-4 overflow-y-auto p-3">
        <Reading table={table} />
        <Field label="Several values in a cell are separated by">
          {(tied) => (
            <Select
              {...tied}
              className="w-full"
              value={settings.listMark}
              options={LIST_MARK_IDS.map((mark) => ({ value: mark, label: LIST_MARKS[mark].label }))}
              onChange={(listMark) => onChange({ listMark })}
            />
          )}
        </Field>
        <Checkbox checked={settings.emptyClears} onChange={(emptyClears) => onChange({ emptyClears })}>
          Empty cells take out what is said, where columns replace
        </Checkbox>
        <Counts table={table} />
        {taken && (
          <p className="rounded bg-ground px-2.5 py-1.5 text-[12px]">
            {dateTimeText(taken.at)}: {taken.title}
            {taken.undone && ' (taken back)'}
          </p>
        )}
      </div>
      <div className="border-t border-line p-3">
        {!says && <p className="mb-2 text-[12px] text-ink-2">No column says anything of a photo yet.</p>}
        <Button
          look="primary"
          className="w-full justify-center"
          disabled={photos === 0 || !says || busy || change.isPending}
          onClick={() => change.mutate({ kind: 'takeTable', tableId: id, name })}
        >
          Take in {photos > 0 ? `for ${countText(photos, 'photo')}` : ''}
        </Button>
      </div>
    </aside>
  );
}

/** How the file is written, as it was recognised; another reading can be chosen. */
function Reading({ table: { id, format, encoding, separator, rows, columns } }: { table: IncomingTable }) {
  const again = useReadAgain(id);
  return (
    <section aria-label="How it was read" className="space-y-2">
      <p className="figures">
        {INCOMING_FORMATS[format]}: {countText(rows, 'row')}, {countText(columns.length, 'column')}
      </p>
      {format !== 'xlsx' && (
        <Field label="Encoding">
          {(tied) => (
            <Select
              {...tied}
              className="w-full"
              value={encoding}
              disabled={again.isPending}
              options={ENCODING_IDS.map((each) => ({ value: each, label: ENCODINGS[each] }))}
              onChange={(next) => again.mutate({ encoding: next })}
            />
          )}
        </Field>
      )}
      {format === 'text' && (
        <Field label="Values are separated by">
          {(tied) => (
            <Select
              {...tied}
              className="w-full"
              value={separator}
              disabled={again.isPending}
              options={SEPARATOR_IDS.map((each) => ({ value: each, label: SEPARATORS[each].label }))}
              onChange={(next) => again.mutate({ separator: next })}
            />
          )}
        </Field>
      )}
    </section>
  );
}

function Counts({ table: { counts, photos, rows } }: { table: IncomingTable }) {
  const lines = [
    [`of ${countText(rows, 'row')} are about one photo`, counts.found, ''],
    ['are about none', counts.none, 'text-amber'],
    ['are about several, and are left out', counts.several, 'text-amber'],
    ['are about the photo of a row before', counts.again, 'text-amber'],
    ['have values that can’t be taken', counts.partly, 'text-amber'],
  ] as const;
  return (
    <section aria-label="Rows and photos" className="figures space-y-1">
      <p className="font-semibold">{countText(photos, 'photo')} found</p>
      {lines.map(([text, count, look], i) =>
        count > 0 || i === 0 ? (
          <p key={text} className={look}>
            {numberText(count)} {text}
          </p>
        ) : null,
      )}
    </section>
  );
}
