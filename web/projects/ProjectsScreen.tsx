// Projects: what the archive works on for somebody or for a time, each with what belongs to it.

import { Plus } from 'lucide-react';
import { useState } from 'react';
import { NavLink, useParams } from 'react-router';
import type { Project } from '@stellin/contract/projects';
import { countText, numberText } from '@stellin/contract/wording';
import { ColourDot } from '../dossiers/ColourDot';
import { useProjects } from '../dossiers/queries';
import { useMayChange } from '../foundation/session';
import { Button } from '../parts/Button';
import { Queried } from '../parts/Queried';
import { spanText } from './projectText';
import { ProjectDialog, type ProjectTask } from './ProjectDialog';
import { ProjectPage } from './ProjectPage';

export function ProjectsScreen() {
  const projects = useProjects();
  const mayChange = useMayChange('makeProject');
  const [task, setTask] = useState<ProjectTask | null>(null);
  const { id } = useParams();
  return (
    <div className="flex h-full">
      <Queried query={projects}>
        {(all) => {
          const shown = all.find((project) => String(project.id) === id) ?? all[0];
          return (
            <>
              <nav
                aria-label="Projects"
                className="flex w-72 shrink-0 flex-col overflow-y-auto border-r border-line bg-card"
              >
                <div className="flex items-center gap-3 px-4 pt-4 pb-2">
                  <h1 className="font-title text-[22px] font-semibold">Projects</h1>
                  {mayChange && (
                    <Button className="ml-auto" onClick={() => setTask({ kind: 'make', like: null })}>
                      <Plus size={14} /> New …
                    </Button>
                  )}
                </div>
                <ProjectList label="Open" projects={all.filter(({ closed }) => !closed)} shown={shown} />
                <ProjectList label="Closed" projects={all.filter(({ closed }) => closed)} shown={shown} />
                {all.length === 0 && (
                  <p className="px-4 text-ink-2">
                    A case, a commission, an exhibition: with fields of its own, a template that fills what comes in, a
                    rule, members, dossiers and searches.
                  </p>
                )}
              </nav>
              <div className="min-w-0 flex-1 overflow-y-auto">
                {shown ? (
                  <ProjectPage key={shown.id} project={shown} onTask={setTask} />
                ) : (
                  <p className="p-6 text-ink-2">
                    {mayChange ? 'Make the first project by New.' : 'There is no project you work on.'}
                  </p>
                )}
              </div>
            </>
          );
        }}
      </Queried>
      {task && <ProjectDialog task={task} onClose={() => setTask(null)} />}
    </div>
  );
}

interface ListProps {
  label: string;
  projects: readonly Project[];
  shown: Project | undefined;
}

function ProjectList({ label, projects, shown }: ListProps) {
  if (projects.length === 0) return null;
  return (
    <section aria-label={`${label} projects`} className="pb-3">
      <h2 className="figures flex justify-between px-4 py-1 text-[12px] font-semibold text-ink-2">
        {label} <span>{numberText(projects.length)}</span>
      </h2>
      <ul>
        {projects.map((project) => (
          <li key={project.id}>
            <NavLink
              to={`/projects/${project.id}`}
              aria-current={project === shown ? 'page' : undefined}
              className={`block border-l-3 px-4 py-1.5 ${project === shown ? 'border-spruce bg-spruce-pale' : 'border-transparent hover:bg-ground'}`}
            >
              <span className="flex items-center gap-2">
                <ColourDot colour={project.colour} />
                <span className="min-w-0 flex-1 truncate font-semibold">{project.name}</span>
              </span>
              <span className="block truncate pl-[18px] text-[12px] text-ink-2">
                {[spanText(project), countText(project.photos, 'photo')].filter(Boolean).join(' · ')}
              </span>
            </NavLink>
          </li>
        ))}
      </ul>
    </section>
  );
}
