// Finding a folder by parts of its name and path.

import { useState } from 'react';
import { queryText } from '@stellin/core/search/language';
import { folderQuery } from '@stellin/core/stepping/stepping';
import { numberText } from '@stellin/contract/wording';
import { Combobox } from '../parts/Combobox';
import { useFolderPaths } from './places';

const MAX_SHOWN = 12;

export function FolderFinder({ onFound }: { onFound: (query: string) => void }) {
  const [text, setText] = useState('');
  const folders = useFolderPaths();
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const found = folders
    .filter(({ shown }) => words.every((word) => shown.toLowerCase().includes(word)))
    // What is meant is more often called so than below something that is.
    .sort((a, b) => score(b, words) - score(a, words) || a.shown.localeCompare(b.shown, 'en', { numeric: true }));
  return (
    <div className="min-h-80">
      <Combobox
        label="A part of its name"
        autoFocus
        text={text}
        onText={setText}
        listLabel="Folders"
        placeholder="A part of its name, or of what is above it"
        firstInFocus
        opensEmpty
        nothing="No folder is called so."
        className="h-8 w-full rounded border border-line bg-card px-2.5"
        options={found.slice(0, MAX_SHOWN).map(({ id, drive, path, shown, photosWithin }) => ({
          key: String(id),
          content: (
            <>
              <span className="truncate">{shown}</span>
              <span className="figures ml-auto text-[12px] text-ink-2">{numberText(photosWithin)}</span>
            </>
          ),
          onPick: () => onFound(queryText(folderQuery(drive, path))),
        }))}
      />
    </div>
  );
}

/** How well a folder’s own name fits what is looked for. */
function score({ name }: { name: string }, words: readonly string[]): number {
  const own = name.toLowerCase();
  return words.filter((word) => own.startsWith(word)).length * 2 + words.filter((word) => own.includes(word)).length;
}
