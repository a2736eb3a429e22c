// What Holdings looks at: the whole catalogue, or what a search finds. It moves all figures.

import { criterion } from '@stellin/core/query/query';
import { queryText } from '@stellin/core/search/language';
import { useProjects } from '../dossiers/queries';
import { useDrives } from '../drives/queries';
import { QueryForm } from '../parts/QueryForm';
import { Select } from '../parts/Select';
import { useSearches } from '../search/queries';

const WHOLE_CATALOGUE = { value: '', label: 'The whole catalogue' };
const PERIODS = [
  { value: 'added:"last 30 days"', label: 'Taken in during the last 30 days' },
  { value: 'added:"this year"', label: 'Taken in this year' },
  { value: 'changed:"last 30 days"', label: 'Changed during the last 30 days' },
];

export function ScopeLine({ query, onShow }: { query: string; onShow: (query: string) => void }) {
  const drives = useDrives().data?.drives ?? [];
  const projects = useProjects().data ?? [];
  const searches = useSearches().data ?? [];
  const options = [
    WHOLE_CATALOGUE,
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
  return (
    <QueryForm
      label="A search whose photos are looked at"
      placeholder="or photos of a search: words, fields, terms …"
      className="mt-2 max-w-4xl"
      query={query}
      onShow={onShow}
      before={
        <Select
          label="What is looked at"
          className="w-64"
          value={isKnown ? query : 'other'}
          onChange={onShow}
          options={isKnown ? options : [{ value: 'other', label: 'What the search finds', disabled: true }, ...options]}
        />
      }
    />
  );
}
