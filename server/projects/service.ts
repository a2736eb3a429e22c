// Projects: what there are of them for somebody, and what photos that come into one are filled with.

import { criterion } from '@stellin/core/query/query';
import { queryText } from '@stellin/core/search/language';
import type { Project } from '@stellin/contract/projects';
import type { SqlCondition } from '../catalogue/compile';
import type { Viewer } from '../catalogue/viewer';
import type { Database, Transaction } from '../database/database';
import type { Describing } from '../describing/service';
import type { Dossiers } from '../dossiers/service';
import type { ChangeContext } from '../ledger/service';
import type { Search } from '../search/service';
import * as store from './store';

export type Projects = ReturnType<typeof projectService>;

interface ProjectParts {
  database: Database;
  dossiers: Dossiers;
  describing: Describing;
  search: Search;
}

export function projectService({ database, dossiers, describing, search }: ProjectParts) {
  return {
    /** The projects whose dossiers exist for somebody, open ones first, with what their photos lack of what the rule asks for. */
    async list(viewer: Viewer): Promise<Project[]> {
      const [rows, seen, rules] = await Promise.all([
        store.listProjects(database),
        dossiers.list(viewer),
        describing.rules(),
      ]);
      const byId = new Map(seen.map((dossier) => [dossier.id, dossier]));
      const projects = rows.flatMap((row) => {
        const dossier = byId.get(row.dossier_id);
        if (!dossier) return [];
        const { name, note, colour, query, photos } = dossier;
        const lacking = (rules.find(({ id }) => id === row.rule_id)?.lacking ?? []).map((part) => ({
          part: part.part,
          query: `${query} ${part.query}`,
        }));
        return [
          {
            ...{ id: row.id, dossierId: row.dossier_id, name, note, colour, query, photos },
            ...{ starts: row.starts, ends: row.ends, closed: row.closed },
            ...{ fieldSetId: row.field_set_id, templateId: row.template_id, ruleId: row.rule_id },
            lacking,
          },
        ];
      });
      const counts = await search
        .seenBy(viewer)
        .counts(projects.flatMap(({ lacking }) => lacking.map(({ query }) => query)));
      return projects.map(({ lacking, ...project }) => ({
        ...project,
        lacking: lacking.map((part) => ({ ...part, photos: counts.shift() ?? 0 })),
      }));
    },

    /** What the searches of a project are asked within, by its dossier; undefined where that is none of a project. */
    async scopeOf(dossierId: number, tx: Transaction): Promise<string | undefined> {
      const isOne = (await store.listProjects(database, tx)).some(({ dossier_id }) => dossier_id === dossierId);
      return isOne ? queryText(criterion('dossier', await dossiers.nameOf(dossierId, tx))) : undefined;
    },

    /** The project that a dossier lies in fills what the photos that an entry puts into it do not say yet. `home`: where the dossier lies, if it is made by the same entry. */
    async fillNew(
      dossierId: number,
      home: number,
      context: ChangeContext,
      fill: (templateId: number, photos: SqlCondition, context: ChangeContext) => Promise<void>,
    ): Promise<void> {
      const project = await store.projectOf(database, home, context.tx);
      if (project?.template_id === null || project === undefined) return;
      await fill(project.template_id, store.newPhotosSql(context.entryId, dossierId, project), context);
    },
  };
}
