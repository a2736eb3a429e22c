// A vocabulary as a file, in any of the formats.

import { useState } from 'react';
import { FORMAT_IDS, FORMAT_FACTS, type FormatId } from '@stellin/core/vocabulary/formatIds';
import { countText } from '@stellin/contract/wording';
import { Dialog } from '../parts/Dialog';
import { useVocabularies } from '../parts/terms/queries';

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
        <select
          className="mt-1 block h-8 w-full rounded border border-line bg-card px-2 text-base text-ink"
          value={id ?? ''}
          onChange={(event) => setChosen(Number(event.target.value))}
        >
          {data?.vocabularies.map((one) => (
            <option key={one.id} value={one.id}>
              {one.name} ({countText(one.terms, 'term')})
            </option>
          ))}
        </select>
      </label>
      <fieldset className="mt-3 space-y-1.5">
        <legend className="mb-1 text-[12px] text-ink-2">Format</legend>
        {FORMAT_IDS.map((one) => (
          <label key={one} className="flex items-baseline gap-2">
            <input
              type="radio"
              name="format"
              className="accent-spruce"
              checked={format === one}
              onChange={() => setFormat(one)}
            />
            <span>
              {FORMAT_FACTS[one].label}
              <span className="block text-[12px] text-ink-2">{EXPLAINED[one]}</span>
            </span>
          </label>
        ))}
      </fieldset>
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
