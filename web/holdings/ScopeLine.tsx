// What Holdings looks at: the whole catalogue, or what a search finds. It moves all figures.

import { useState } from 'react';
import { criterion } from '@stellin/core/query/query';
import { parseQuery, queryText } from '@stellin/core/search/language';
import { useProjects } from '../dossiers/queries';
import { useDrives } from '../drives/queries';
import { Button } from '../parts/Button';
import { TextField } from '../parts/Field';
import { Select } from '../parts/Select';
import { useSearches } from '../search/queries';

const WHOLE = { value: '', label: 'The whole catalogue' };
const PERIODS = [
  { value: 'added:"last 30 days"', label: 'Taken in during the last 30 days' },
  { value: 'added:"this year"', label: 'Taken in this year' },
  { value: 'changed:"last 30 days"', label: 'Changed during the last 30 days' },
];

export function ScopeLine({ query, onShow }: { query: string; onShow: (query: string) => void }) {
  const [typed, setTyped] = useState(query);
  const [before, setBefore] = useState(query);
  const drives = useDrives().data?.drives ?? [];
  const projects = useProjects().data ?? [];
  const searches = useSearches().data ?? [];
  if (before !== query) {
    setBefore(query);
    setTyped(query);
  }
  const options = [
    WHOLE,
    ...PERIODS.map((period) => ({ ...period, group: 'Periods' })),
    ...drives
      .filter(({ id }) => id !== null)
      .map(({ label }) => ({ value: queryText(criterion('drive', label)), label, group: 'Drives' })),
    ...projects.map((project) => ({ value: project.query, label: project.name, group: 'Projects' })),
    ...searches.map(({ name }) => ({
      value: queryText(criterion('search', name)),
      label: name,
      group: 'Saved searches',
    })),
  ];
  const isKnown = options.some(({ value }) => value === query);
  const problem = parseQuery(typed).errors[0]?.message;
  return (
    <form
      className="mt-2 flex items-start gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (problem === undefined) onShow(typed.trim());
      }}
    >
      <Select
        label="What is looked at"
        className="w-64"
        value={isKnown ? query : 'other'}
        onChange={(next) => onShow(next)}
        options={isKnown ? options : [{ value: 'other', label: 'What the search finds', disabled: true }, ...options]}
      />
      <TextField
        label="A search whose photos are looked at"
        hideLabel
        placeholder="or photos of a search: words, fields, terms …"
        className="max-w-xl min-w-0 flex-1"
        value={typed}
        error={problem}
        onChange={(event) => setTyped(event.target.value)}
      />
      <Button type="submit" className="!h-8" disabled={typed.trim() === query}>
        Show
      </Button>
    </form>
  );
}
