// What changes to projects do. The dossier of a project carries its name, note and colour.

import type { ChangeOf } from '@stellin/contract/ledger';
import type { Database } from '../database/database';
import type { Describing } from '../describing/service';
import type { Dossiers } from '../dossiers/service';
import { StellinError } from '../errors';
import { recordObject } from '../ledger/recordStore';
import type { ChangeContext, ChangeHandlers } from '../ledger/service';
import type { Search } from '../search/service';
import * as store from './store';

type ProjectChanges = Pick<ChangeHandlers, 'makeProject' | 'changeProject' | 'closeProject' | 'removeProject'>;

interface ProjectParts {
  database: Database;
  dossiers: Dossiers;
  describing: Describing;
  search: Search;
  changeDossier: ChangeHandlers['changeDossier'];
}

export function projectChanges({
  database,
  dossiers,
  describing,
  search,
  changeDossier,
}: ProjectParts): ProjectChanges {
  // One closure for what its functions share; each of them fits a screen.
  /** A project with the name of its dossier. */
  const named = async (id: number, { tx }: ChangeContext) => {
    const row = (await store.listProjects(database, tx)).find((project) => project.id === id);
    const dossier = row && (await dossiers.find(row.dossier_id, tx));
    if (!row || !dossier)
      throw new StellinError('notFound', { what: 'such project (it may have been removed meanwhile)' });
    return { row, name: dossier.name };
  };

  const requireOpen = ({ row, name }: { row: store.ProjectRow; name: string }) => {
    if (row.closed) throw new StellinError('projectClosed', { name });
  };

  /** What a project takes over from another one: its dossiers without the photos in them, its searches, its members. */
  const takeOver = async (
    like: number,
    made: { dossierId: number; name: string; scope: string },
    context: ChangeContext,
  ) => {
    const { tx, entryId, accountId, person } = context;
    const { row, name } = await named(like, context);
    const ids = new Map([[row.dossier_id, made.dossierId]]);
    for (const below of await dossiers.below(row.dossier_id, tx)) {
      const parentId = ids.get(below.parent_id ?? 0) ?? made.dossierId;
      const { id } = await dossiers.recordNew(entryId, { ...below, parentId, accountId }, tx);
      ids.set(below.id, id);
    }
    const call = (search: string) => `${search.replace(` (${name})`, '')} (${made.name})`;
    await search.recordLike(entryId, row.dossier_id, { ...made, call, accountId }, tx);
    // Rights are given by who administers.
    if (!person.everywhere.includes('administer')) return;
    await store.copyMembers(database, row.dossier_id, made.dossierId, tx);
    await database.notify(['accounts'], tx);
  };

  return {
    async makeProject(change, context) {
      const { tx, entryId, accountId } = context;
      const { name, note, colour } = change;
      const { id: dossierId, query } = await dossiers.recordNew(
        entryId,
        { name, note, colour, parentId: null, accountId },
        tx,
      );
      const row = {
        ...(await columnsOf(change, context)),
        dossier_id: dossierId,
        closed: false,
        created_by: accountId,
      };
      await recordObject<store.ProjectRow>(database, entryId, 'project', null, row, tx);
      if (change.like !== null) await takeOver(change.like, { dossierId, name, scope: query }, context);
      return () => `Make the project “${name}”`;
    },

    async changeProject({ projectId, ...form }, context) {
      const { tx, entryId } = context;
      const { name, note, colour } = form;
      const before = await named(projectId, context);
      requireOpen(before);
      const after = { ...before.row, ...(await columnsOf(form, context, before.row)) };
      await recordObject<store.ProjectRow>(database, entryId, 'project', before.row, after, tx);
      await changeDossier({ kind: 'changeDossier', dossierId: before.row.dossier_id, name, note, colour }, context);
      return () =>
        before.name === name ? `Change the project “${name}”` : `Rename the project “${before.name}” to “${name}”`;
    },

    async closeProject({ projectId, closed }, context) {
      const { row, name } = await named(projectId, context);
      // What members may do is another thing now.
      await database.notify(['accounts'], context.tx);
      if (row.closed !== closed)
        await recordObject<store.ProjectRow>(database, context.entryId, 'project', row, { ...row, closed }, context.tx);
      return () => `${closed ? 'Close' : 'Open'} the project “${name}”`;
    },

    async removeProject({ projectId }, context) {
      const { tx, entryId } = context;
      const before = await named(projectId, context);
      requireOpen(before);
      await search.recordFreed(entryId, before.row.dossier_id, tx);
      await recordObject<store.ProjectRow>(database, entryId, 'project', before.row, null, tx);
      return () => `Remove the project “${before.name}”; its dossiers stay`;
    },
  };

  /** What a form says of a project beside its dossier; a new field set is called as the project is. `before`: what it stood on. */
  async function columnsOf(
    form: Omit<ChangeOf<'changeProject'>, 'kind' | 'projectId'>,
    { tx, entryId, accountId }: ChangeContext,
    before?: store.ProjectRow,
  ): Promise<Pick<store.ProjectRow, 'starts' | 'ends' | 'field_set_id' | 'template_id' | 'rule_id'>> {
    const { name, starts, ends, fieldSetId, templateId, ruleId } = form;
    if (starts !== '' && ends !== '' && ends < starts.slice(0, ends.length))
      throw new StellinError('projectRefused', { name, why: `it would end (${ends}) before it starts (${starts})` });
    // A template that only somebody else uses may stay where they put it.
    const asked = { fieldSetId: fieldSetId === 'new' ? null : fieldSetId, ruleId, templateId };
    if (templateId === before?.template_id) asked.templateId = null;
    await describing.requirePrepared(asked, accountId, tx);
    const field_set_id = fieldSetId === 'new' ? await describing.recordFieldSet(entryId, name, tx) : fieldSetId;
    return { starts, ends, field_set_id, template_id: templateId, rule_id: ruleId };
  }
}
