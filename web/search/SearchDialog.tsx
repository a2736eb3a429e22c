// Keeping the present query as a saved search, or changing one.

import { useState } from 'react';
import { Controller } from 'react-hook-form';
import { parseQuery, queryText } from '@stellin/core/search/language';
import { allOf, conjuncts, type Query } from '@stellin/core/query/query';
import { searchDescription as described, type SavedSearch } from '@stellin/contract/search';
import { countText } from '@stellin/contract/wording';
import { useChange } from '../foundation/changes';
import { useCount, type Result } from '../photos/queries';
import { Button } from '../parts/Button';
import { Checkbox } from '../parts/Checkbox';
import { Combobox } from '../parts/Combobox';
import { Dialog } from '../parts/Dialog';
import { BOX, Field, TextArea, TextField } from '../parts/Field';
import { useFormOf } from '../parts/useFormOf';
import { useProjects } from '../dossiers/queries';
import { useSearches } from './queries';

interface Props extends Result {
  size: number;
  /** The one to change; else a new one is made of the query. */
  search?: SavedSearch;
  onClose: () => void;
}

export function SearchDialog({ query, sort, size, search, onClose }: Props) {
  const { branch, rest } = branchOf(query);
  const { register, control, watch, handleSubmit, formState } = useFormOf(described, {
    name: search?.name ?? '',
    folder: search?.folder ?? '',
    note: search?.note ?? '',
    pinned: search?.pinned ?? false,
  });
  const { errors } = formState;
  const name = watch('name');
  const [scoped, setScoped] = useState(search ? search.scope !== '' : false);
  const change = useChange();
  const asked = search ? search.asks : query;
  const { data: count } = useCount(asked);
  const { data: searches = [] } = useSearches();
  const { data: projects = [] } = useProjects();
  const known = search ? undefined : searches.find((each) => each.name.toLowerCase() === name.trim().toLowerCase());
  const folders = [...new Set(searches.map((each) => each.folder).filter(Boolean))];
  const scope = search ? search.scope : branch;
  // What is asked within a project can be kept as one of its searches.
  const project = projects.find((each) => each.query === branch);
  const [ofProject, setOfProject] = useState(true);
  const submit = handleSubmit((said) => {
    const asks = search ? {} : { query: scoped ? rest : query, scope: scoped ? scope : '', sort, size };
    const target = search ?? known;
    if (target)
      change.mutate(
        { kind: 'changeSearch', searchId: target.id, ...said, ...asks, name: known?.name ?? said.name },
        { onSuccess: onClose },
      );
    else {
      const kept =
        project && ofProject
          ? { query: rest, dossierId: project.dossierId }
          : { query: scoped ? rest : query, scope: scoped ? scope : '' };
      change.mutate({ kind: 'saveSearch', ...said, ...kept, sort, size }, { onSuccess: onClose });
    }
  });
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title={search ? `Saved search “${search.name}”` : 'Save this search'}
    >
      <form onSubmit={submit} className="flex flex-col gap-3">
        <p className="text-ink-2">
          It always shows what matches now: {countText(count?.count ?? 0, 'photo')} at this moment.
        </p>
        <p className="rounded border border-line bg-sheet px-2.5 py-1.5 font-mono text-[12px] break-words">
          {asked || 'all photos'}
        </p>
        <TextField label="Name" autoFocus error={errors.name?.message} {...register('name')} />
        <Controller
          control={control}
          name="folder"
          render={({ field }) => (
            <Field label="Folder" error={errors.folder?.message}>
              {(tied) => (
                <Combobox
                  {...tied}
                  listLabel="Folders of saved searches"
                  placeholder="none, or like Work/Gaps"
                  className={`${BOX} h-8`}
                  text={field.value}
                  onText={field.onChange}
                  opensEmpty
                  options={folders
                    .filter((each) => each !== field.value && each.toLowerCase().includes(field.value.toLowerCase()))
                    .map((each) => ({ key: each, content: each, onPick: () => field.onChange(each) }))}
                />
              )}
            </Field>
          )}
        />
        <TextArea label="Note" rows={2} error={errors.note?.message} {...register('note')} />
        <Controller
          control={control}
          name="pinned"
          render={({ field }) => (
            <Checkbox checked={field.value} onChange={field.onChange}>
              Stands on Holdings
            </Checkbox>
          )}
        />
        {!search && project && (
          <Checkbox checked={ofProject} onChange={setOfProject}>
            A search of the project “{project.name}”, for all who work on it
          </Checkbox>
        )}
        {!search && branch !== '' && !(project && ofProject) && (
          <Checkbox checked={scoped} onChange={setScoped}>
            Keep <span className="font-mono text-[12px]">{branch}</span> as its branch, apart from the query
          </Checkbox>
        )}
        {search && search.scope !== '' && (
          <p className="flex items-center justify-between gap-2">
            <span>
              Within <span className="font-mono text-[12px]">{search.scope}</span>
            </span>
            <Button
              onClick={() =>
                change.mutate(
                  { kind: 'changeSearch', searchId: search.id, scope: '', dossierId: null },
                  { onSuccess: onClose },
                )
              }
            >
              Ask the whole catalogue
            </Button>
          </p>
        )}
        {known && (
          <p className="rounded bg-amber-pale px-3 py-2 text-amber">
            There is one of this name already: its query will be replaced.
          </p>
        )}
        <div className="flex gap-2">
          <Button type="submit" look="primary" disabled={change.isPending}>
            {search ? 'Keep the changes' : known ? 'Replace the saved search' : 'Save search'}
          </Button>
          <Button onClick={onClose}>Not now</Button>
        </div>
      </form>
    </Dialog>
  );
}

/** The part of a query that says where (folder, drive, term branch), and the rest. */
function branchOf(query: string): { branch: string; rest: string } {
  const parts = conjuncts(parseQuery(query).query);
  const isBranch = (part: Query) =>
    part.kind === 'criterion' && ['within', 'folder', 'drive', 'accession', 'dossier'].includes(part.criterion);
  return {
    branch: queryText(allOf(parts.filter(isBranch))),
    rest: queryText(allOf(parts.filter((part) => !isBranch(part)))),
  };
}
