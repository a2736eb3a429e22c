// A project: what it is, what it asks for, what its photos lack, and who works on it.

import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { OWN_FIELD_LABELS } from '@stellin/core/describing/ownFields';
import { customName, shapeOf } from '@stellin/core/describing/targets';
import type { FieldSet } from '@stellin/contract/describing';
import type { Project } from '@stellin/contract/projects';
import { teamRoutes } from '@stellin/contract/team';
import { countText, numberText } from '@stellin/contract/wording';
import { FieldSetsDialog } from '../describing/FieldSetsDialog';
import { partLabel } from '../describing/partLabel';
import { usePrepared } from '../describing/queries';
import { ColourDot } from '../dossiers/ColourDot';
import { useDossiers } from '../dossiers/queries';
import { useChange } from '../foundation/changes';
import { useMayCall, useMayChange } from '../foundation/session';
import { Button } from '../parts/Button';
import { DataTable } from '../parts/DataTable';
import { deskLink } from '../parts/deskLink';
import { Menu, MenuItem } from '../parts/Menu';
import { useSearches } from '../search/queries';
import { Members } from './Members';
import type { ProjectTask } from './ProjectDialog';
import { spanText } from './projectText';

interface Props {
  project: Project;
  onTask: (task: ProjectTask) => void;
}

export function ProjectPage({ project, onTask }: Props) {
  const change = useChange();
  const mayChange = useMayChange('changeProject');
  const administers = useMayCall(teamRoutes.showTeam);
  const { id: projectId, name, note, closed } = project;
  return (
    <article aria-labelledby="project" className="max-w-6xl p-6">
      <div className="flex flex-wrap items-center gap-3">
        <ColourDot colour={project.colour} />
        <h2 id="project" className="min-w-0 truncate font-title text-[22px] font-semibold">
          {name}
        </h2>
        {closed && (
          <span className="rounded bg-amber-pale px-2 py-0.5 text-[12px] font-semibold text-amber">closed</span>
        )}
        <span className="ml-auto flex items-center gap-2">
          <Link
            to={`${deskLink(project.query)}&sort=hand`}
            className="rounded border border-line bg-card px-3 py-1.5 hover:border-ink-3"
          >
            {countText(project.photos, 'photo')} on the Desk
          </Link>
          {mayChange && (
            <>
              {!closed && <Button onClick={() => onTask({ kind: 'change', project })}>Change …</Button>}
              <Menu label={`What can be done with the project ${name}`}>
                <MenuItem label="New project like this …" onSelect={() => onTask({ kind: 'make', like: project })} />
                <MenuItem
                  label={closed ? 'Open it again' : 'Close it: nothing of it changes any more'}
                  onSelect={() => change.mutate({ kind: 'closeProject', projectId, closed: !closed })}
                />
                <MenuItem
                  label="Remove it; its dossiers stay"
                  disabled={closed}
                  onSelect={() => change.mutate({ kind: 'removeProject', projectId })}
                />
              </Menu>
            </>
          )}
        </span>
      </div>
      <p className="mt-1 text-ink-2">{[spanText(project), note].filter(Boolean).join(' · ') || 'No dates, no note.'}</p>
      <div className="mt-5 grid grid-cols-1 gap-6 xl:grid-cols-2">
        <Fields project={project} mayChange={mayChange && !closed} />
        <Lacking project={project} />
        <Inside project={project} />
        {administers && <Members project={project} />}
      </div>
    </article>
  );
}

/** A part of the page under its heading. */
function Part({ id, title, aside, children }: { id: string; title: string; aside?: ReactNode; children: ReactNode }) {
  return (
    <section aria-labelledby={id} className="min-w-0">
      <div className="mb-2 flex min-h-8 items-center gap-3">
        <h3 id={id} className="font-title text-[16px] font-semibold">
          {title}
        </h3>
        {aside && <span className="ml-auto">{aside}</span>}
      </div>
      <div className="rounded border border-line bg-card">{children}</div>
    </section>
  );
}

function Fields({ project, mayChange }: { project: Project; mayChange: boolean }) {
  const { data } = usePrepared();
  const [editing, setEditing] = useState<FieldSet | null>(null);
  const set = data?.fieldSets.find(({ id }) => id === project.fieldSetId);
  const template = data?.templates.find(({ id }) => id === project.templateId);
  return (
    <Part
      id="fields"
      title="Fields"
      aside={mayChange && set && <Button onClick={() => setEditing(set)}>Change the fields …</Button>}
    >
      <DataTable
        label="Fields of the project"
        small
        rows={set?.entries ?? []}
        keyOf={({ target }) => target}
        empty={
          <p className="px-3 py-2 text-ink-2">
            {set ? 'None yet: change the fields to say what is asked here.' : 'It has no field set.'}
          </p>
        }
        columns={[
          { id: 'name', title: 'Field', headsRow: true, cell: ({ target }) => shapeOf(target).label },
          {
            id: 'kind',
            title: 'Kind',
            cell: ({ target, kind }) => (customName(target) === undefined ? 'as everywhere' : OWN_FIELD_LABELS[kind]),
          },
          { id: 'choices', title: 'Choices', cell: ({ offered }) => offered.join(', ') },
          { id: 'required', title: 'Required', cell: ({ required }) => (required ? 'yes' : '') },
        ]}
      />
      <p className="border-t border-line px-3 py-2 text-[12px] text-ink-2">
        {template
          ? `The template “${template.name}” fills what photos that come in do not say yet.`
          : 'No template fills what comes in.'}
      </p>
      {editing && <FieldSetsDialog first={editing} onClose={() => setEditing(null)} />}
    </Part>
  );
}

/** What the rule of the project finds lacking. */
function Lacking({ project }: { project: Project }) {
  const { data } = usePrepared();
  const rule = data?.rules.find(({ id }) => id === project.ruleId);
  return (
    <Part id="lacking" title={rule ? `Rule “${rule.name}”` : 'Rule'}>
      <ul>
        {project.lacking.map(({ part, query, photos }) => (
          <li key={part} className="border-b border-line last:border-0">
            <Link to={deskLink(query)} className="flex items-baseline gap-3 px-3 py-1.5 hover:bg-sheet">
              <span className="flex-1">Without {partLabel(part)}</span>
              <b className={`figures ${photos > 0 ? 'text-amber' : 'text-spruce'}`}>{numberText(photos)}</b>
            </Link>
          </li>
        ))}
        {project.lacking.length === 0 && (
          <li className="px-3 py-2 text-ink-2">No rule says what its photos must have.</li>
        )}
      </ul>
    </Part>
  );
}

/** Its dossiers and searches. */
function Inside({ project }: { project: Project }) {
  const { data: dossiers = [] } = useDossiers();
  const { data: searches = [] } = useSearches();
  const below = (
    parentId: number,
    level: number,
  ): { id: number; level: number; name: string; query: string; photos: number }[] =>
    dossiers
      .filter((dossier) => dossier.parentId === parentId)
      .flatMap(({ id, name, query, photos }) => [{ id, level, name, query, photos }, ...below(id, level + 1)]);
  const inside = below(project.dossierId, 0);
  const own = searches.filter(({ dossierId }) => dossierId === project.dossierId);
  return (
    <Part id="inside" title="Dossiers and searches">
      <ul>
        {inside.map(({ id, level, name, query, photos }) => (
          <Row key={id} to={`${deskLink(query)}&sort=hand`} level={level} name={name} what="dossier" photos={photos} />
        ))}
        {own.map(({ id, name, asks, sort, count }) => (
          <Row
            key={`search ${id}`}
            to={`${deskLink(asks)}&sort=${sort}`}
            level={0}
            name={name}
            what="search"
            photos={count}
          />
        ))}
        {inside.length + own.length === 0 && (
          <li className="px-3 py-2 text-ink-2">
            Nothing yet: dossiers are made inside it on the Desk, and a search asked there can be kept as one of the
            project.
          </li>
        )}
      </ul>
    </Part>
  );
}

interface RowProps {
  to: string;
  level: number;
  name: string;
  what: string;
  photos: number;
}

function Row({ to, level, name, what, photos }: RowProps) {
  return (
    <li className="border-b border-line last:border-0">
      <Link
        to={to}
        className="flex items-baseline gap-3 px-3 py-1.5 hover:bg-sheet"
        style={{ paddingLeft: 12 + level * 14 }}
      >
        <span className="min-w-0 flex-1 truncate">{name}</span>
        <span className="text-[12px] text-ink-2">{what}</span>
        <b className="figures">{numberText(photos)}</b>
      </Link>
    </li>
  );
}
