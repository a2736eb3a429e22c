// A vocabulary as a file, in any of the formats.

import { useState } from 'react';
import { FORMAT_IDS, FORMAT_FACTS, type FormatId } from '@stellin/core/vocabulary/formatIds';
import { countText } from '@stellin/contract/wording';
import { Dialog } from '../parts/Dialog';
import { useVocabularies } from '../parts/terms/queries';
import { Select } from '../parts/Select';
import { Radio, RadioGroup } from '../parts/RadioGroup';

const EXPLAINED: Record<FormatId, string> = {
  turtle: 'All that is said of the terms; for other programs and archives.',
  rdfxml: 'The same as XML.',
  jsonld: 'The same as JSON.',
  indented: 'Labels, languages and headings; to read and to edit as text.',
  csv: 'All that is said, one term a row; for spreadsheets.',
};

export function ExportDialog({ onClose }: { onClose: () => void }) {
  const { data } = useVocabularies();
  const [chosen, setChosen] = useState<number | null>(null);
  const [format, setFormat] = useState<FormatId>('turtle');
  const id = chosen ?? data?.vocabularies[0]?.id;
  return (
    <Dialog open onOpenChange={onClose} title="Export a vocabulary">
      <label className="block text-[12px] text-ink-2">
        Vocabulary
        <Select
          className="mt-1 w-full text-base"
          value={id ?? ''}
          onChange={(value) => setChosen(Number(value))}
          options={(data?.vocabularies ?? []).map((one) => ({
            value: one.id,
            label: `${one.name} (${countText(one.terms, 'term')})`,
          }))}
        />
      </label>
      <p className="mt-3 mb-1 text-[12px] text-ink-2">Format</p>
      <RadioGroup label="Format" value={format} onChange={setFormat} className="space-y-1.5">
        {FORMAT_IDS.map((one) => (
          <Radio key={one} value={one}>
            <span>
              {FORMAT_FACTS[one].label}
              <span className="block text-[12px] text-ink-2">{EXPLAINED[one]}</span>
            </span>
          </Radio>
        ))}
      </RadioGroup>
      <div className="mt-4 flex justify-end">
        {id !== undefined && (
          <a
            className="inline-flex h-8 items-center rounded border border-spruce bg-spruce px-3 font-semibold text-on-spruce hover:brightness-110"
            href={`/api/vocabulary/${id}/export?format=${format}`}
            download
            onClick={() => setTimeout(onClose)}
          >
            Download
          </a>
        )}
      </div>
    </Dialog>
  );
}
