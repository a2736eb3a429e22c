// Describing: what photos say, what a description would make of them, and what is prepared for it.

import { describing, type Description } from '@stellin/core/describing/description';
import type { FieldEdit } from '@stellin/core/describing/editing';
import type { OwnField } from '@stellin/core/describing/ownFields';
import { ALL_RULES } from '@stellin/core/search/saved';
import { fieldOf } from '@stellin/core/metadata/fields';
import type { z } from 'zod';
import {
  type changedField,
  fieldSetShape,
  MAX_CHECKED,
  templateShape,
  type FieldSet,
  type QualityRule,
  type Template,
} from '@stellin/contract/describing';
import type { Selection } from '@stellin/contract/photos';
import type { TermName } from '@stellin/contract/termName';
import type { Database, Transaction } from '../database/database';
import type { AfterChange } from '../ledger/service';
import { today } from '../catalogue/clock';
import { previewVersions } from '../catalogue/previewVersions';
import { mayAlter, type Person, type Viewer } from '../catalogue/viewer';
import type { Search } from '../search/service';
import { idsSql, selectionSql } from '../catalogue/selection';
import type { VocabularyIndex } from '../catalogue/vocabularySnapshot';
import { offeredChoices, ownFieldsOf } from './ownFields';
import { prefetch } from './prefetch';
import { recordFieldSet, requirePrepared, usableTemplates } from './prepared';
import type { Planner } from './planner';
import type { PlannedChange } from './planner.worker';
import { previewCache, type WorkedOut } from './previewCache';
import { whatPhotosHave } from './givenStore';
import * as store from './store';

export { otherChanges, type Given } from './giving';
export type { Has } from './givenStore';
export type { DescriptionRecorder } from './recording';

export type Describing = ReturnType<typeof describingService>;

/** A preview reads at most this many photos; of a larger selection it says how many it read. */
const MAX_PREVIEWED = 20_000;

export function describingService(database: Database, search: Search, vocabulary: VocabularyIndex, planner: Planner) {
  // One closure for what its functions share; each of them fits a screen.
  const remembered = previewCache(database);

  const ownFields = async (tx?: Transaction): Promise<OwnField[]> => {
    const sets = await store.listPrepared(database, 'field_set', tx);
    if (sets.length === 0) return [];
    const { tree } = await (tx ? vocabulary.seenIn(tx) : vocabulary.current());
    return ownFieldsOf(sets, tree);
  };

  const workOut = (
    selection: Selection,
    description: Description,
    { user, own }: { user: string; own: readonly OwnField[] },
  ): Promise<WorkedOut> =>
    database.transaction(async (tx) => {
      await store.readOneState(database, tx);
      const changes: PlannedChange[] = [];
      let looked = 0;
      for await (const photos of store.photosToDescribe(
        database,
        selectionSql(selection),
        { inOrder: true, locked: false },
        tx,
      )) {
        changes.push(...(await planner.preview({ description, photos, today: today(), user, own })));
        looked += photos.length;
        if (looked >= MAX_PREVIEWED) break;
      }
      const meant = looked < MAX_PREVIEWED ? looked : await store.countMeant(database, selection, tx);
      return { changes, looked, meant };
    });

  return {
    /** The fields that projects have made for themselves. */
    ownFields,

    /** What photos have besides their fields. */
    whatPhotosHave: (photoIds: readonly number[], tx?: Transaction) => whatPhotosHave(database, photoIds, tx),

    /** Brings photos whose fields an entry changes in line with its record: the fields, and by what they are found. */
    afterChange: (async (entryId, tx, progress) => {
      const derived = prefetch(store.photosChanged(database, entryId, tx), async (photos) => ({
        json: await planner.derive(photos),
        photos: photos.length,
      }));
      for await (const { json, photos } of derived) {
        await store.writeFields(database, json, tx);
        await progress?.('Describing', photos);
      }
      await store.forgetAgreeing(database, entryId, tx);
    }) satisfies AfterChange,

    /** What the photos of a selection say, field by field. */
    agreement: async (viewer: Viewer, selection: Selection) =>
      store.agreementOf(database, await search.seenBy(viewer).settled(selection)),

    /** Before and after of photos that a description changes. */
    async preview(
      asked: { selection: Selection; description: Description; offset: number; limit: number },
      person: Person,
    ) {
      const user = person.displayName;
      const { description, offset, limit } = asked;
      const made = describing(description);
      if (!made.ok) return { problem: made.problem, looked: 0, meant: 0, changing: 0, cuts: 0, photos: [] };
      const selection = await search.seenBy(person).settled(asked.selection);
      const own = await ownFields();
      const key = JSON.stringify([selection, description, today(), user, own]);
      const { changes, looked, meant } = await remembered.of(key, () => workOut(selection, description, { user, own }));
      const refused = changes.find(({ problem }) => problem !== undefined);
      const page = changes.slice(offset, offset + limit);
      const versions = await previewVersions(
        database,
        page.map(({ id }) => id),
      );
      return {
        problem: refused ? `${refused.problem} (${refused.name})` : null,
        looked,
        meant,
        changing: changes.length,
        cuts: changes.filter(({ fields }) => fields.some(({ cut }) => cut)).length,
        photos: page.map(({ id, name, fields }) => ({
          photoId: id,
          name,
          previewVersion: versions.get(id) ?? 0,
          fields: fields.map(labelled),
        })),
      };
    },

    /** Before and after of photos that edits of each one’s own change. It is for some photos: they are all read at once. */
    async previewEach(
      edits: ReadonlyMap<number, readonly FieldEdit[]>,
      { displayName: user }: Person,
    ): Promise<Map<number, z.infer<typeof changedField>[]>> {
      const own = await ownFields();
      const description: Description = { kind: 'setEach', edits };
      const changed = new Map<number, z.infer<typeof changedField>[]>();
      await database.transaction(async (tx) => {
        const pages = store.photosToDescribe(
          database,
          idsSql([...edits.keys()]),
          { inOrder: false, locked: false },
          tx,
        );
        for await (const photos of pages)
          for (const { id, fields } of await planner.preview({ description, photos, today: today(), user, own }))
            changed.set(id, fields.map(labelled));
      });
      return changed;
    },

    /** Field sets, templates that one may use, and rules with what each lacks as a query. */
    async prepared(person: Person) {
      const { accountId } = person;
      const { tree } = await vocabulary.current();
      const nameOf = (id: number): TermName[] => {
        const path = tree.path(id).map(({ label }) => label);
        const label = path.pop();
        return label === undefined ? [] : [{ id, label, path }];
      };
      const [sets, templates, rules] = await Promise.all([
        store.listPrepared(database, 'field_set'),
        store.listPrepared(database, 'template'),
        store.listPrepared(database, 'quality_rule'),
      ]);
      return {
        fieldSets: sets.map(({ id, ...row }): FieldSet => {
          const { name, entries } = fieldSetShape.parse(row);
          return { id, name, entries: entries.map((entry) => ({ ...entry, offered: offeredChoices(entry, tree) })) };
        }),
        templates: usableTemplates(templates, accountId).map(
          ({ id, owner_id, term_ids, created_by, ...row }): Template => ({
            id,
            mayChange: mayAlter(person, { owner_id, created_by }),
            ...templateShape.parse({ ...row, termIds: term_ids }),
            terms: term_ids.flatMap(nameOf),
            shared: owner_id === null,
            mine: owner_id === accountId,
          }),
        ),
        rules: rules.map((rule) => ({ ...rule, lacking: lackingOf(rule) })),
      };
    },

    /** Refuses field sets, templates and rules that are gone or, of templates, are not for somebody to use. */
    async requirePrepared(
      {
        fieldSetId,
        templateId,
        ruleId,
      }: { fieldSetId: number | null; templateId: number | null; ruleId: number | null },
      accountId: number,
      tx: Transaction,
    ): Promise<void> {
      requirePrepared(await store.listPrepared(database, 'field_set', tx), fieldSetId, 'field set');
      const templates = usableTemplates(await store.listPrepared(database, 'template', tx), accountId);
      requirePrepared(templates, templateId, 'template');
      requirePrepared(await store.listPrepared(database, 'quality_rule', tx), ruleId, 'rule');
    },

    /** Records an empty field set that is called as is wanted, or nearly so; gives its number. */
    recordFieldSet: (entryId: number, wanted: string, tx: Transaction) => recordFieldSet(database, entryId, wanted, tx),

    /** The rules of what counts as described, each with what lacks it as queries. */
    rules: async () =>
      (await store.listPrepared(database, 'quality_rule')).map((rule) => ({ ...rule, lacking: lackingOf(rule) })),

    /** Which photos of a selection lack what the rules ask for. */
    async check(viewer: Viewer, selection: Selection) {
      const rules = await store.listPrepared(database, 'quality_rule');
      const lacking = rules.flatMap((rule) => lackingOf(rule));
      const queries = ['', `described:${ALL_RULES}`, 'is:private', ...lacking.map(({ query }) => query)];
      const [all, ready, secret, ...found] = await search.seenBy(viewer).within(selection, queries, MAX_CHECKED);
      const counts = lacking.map(({ part }, i) => ({ part, ...(found[i] ?? { photos: 0, first: [] }) }));
      return {
        photos: all?.photos ?? 0,
        ready: ready?.photos ?? 0,
        private: secret?.photos ?? 0,
        rules: rules.map(({ name, requires }) => ({ name, lacking: counts.splice(0, requires.length) })),
      };
    },

    /** What each of some photos lacks of what the rules ask for; those that lack nothing are not there. */
    async lackedBy(viewer: Viewer, ids: readonly number[]): Promise<Map<number, string[]>> {
      const lacking = (await store.listPrepared(database, 'quality_rule')).flatMap((rule) => lackingOf(rule));
      const lacked = new Map<number, string[]>();
      if (lacking.length === 0 || ids.length === 0) return lacked;
      const queries = lacking.map(({ query }) => query);
      const selection = { query: null, minus: [], plus: [...ids] };
      const found = await search.seenBy(viewer).within(selection, queries, ids.length);
      lacking.forEach(({ part }, i) => {
        for (const id of found[i]?.first ?? []) lacked.set(id, [...new Set([...(lacked.get(id) ?? []), part])]);
      });
      return lacked;
    },

    /** How a template that somebody may use was before. */
    async templateVersions(id: number, accountId: number) {
      requirePrepared(usableTemplates(await store.listPrepared(database, 'template'), accountId), id, 'template');
      return (await store.templateVersions(database, id)).map(({ at, by, before }) => {
        const { term_ids, ...row } = before as store.TemplateRow;
        return { at, by, template: templateShape.parse({ ...row, termIds: term_ids }) };
      });
    },
  };
}

function labelled(change: PlannedChange['fields'][number]) {
  return { ...change, label: fieldOf(change.field).label };
}

/** For each part that a rule asks for, the query of photos that lack it. */
function lackingOf({ query, requires }: Pick<QualityRule, 'query' | 'requires'>) {
  const about = query.trim() === '' ? '' : `(${query}) `;
  return requires.map((part) => ({ part, query: `${about}missing:${part}` }));
}
