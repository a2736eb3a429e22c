// What descriptions do: they record before and after of each photo that changes. And what is prepared for them: templates,
// field sets, what counts as described.

import { describing, type Description } from '@stellin/core/describing/description';
import { fieldIdOf, shapeOf, type Target } from '@stellin/core/describing/targets';
import { remarksOn } from '@stellin/core/describing/limits';
import type { FieldEdit } from '@stellin/core/describing/editing';
import { withStretches } from '@stellin/core/media/stretches';
import { isTimed } from '@stellin/core/metadata/containers/index';
import type { FieldValues } from '@stellin/core/metadata/fields';
import { sameValue } from '@stellin/core/metadata/values';
import { TURNS, type TurnWay } from '@stellin/core/metadata/orientation';
import { parseQuery } from '@stellin/core/search/language';
import { criterionOf } from '@stellin/core/query/criteria';
import type { Selection } from '@stellin/contract/photos';
import { saysOf } from '@stellin/contract/describing';
import { countText } from '@stellin/contract/wording';
import type { Database } from '../database/database';
import { StellinError } from '../errors';
import { idsSql, selectionSql } from '../catalogue/selection';
import { mayAlter } from '../catalogue/viewer';
import { recordObject } from '../ledger/recordStore';
import type { ChangeContext, ChangeHandlers } from '../ledger/service';
import { otherKind } from './ownFields';
import { lastPosition, requirePrepared, usableTemplates } from './prepared';
import type { DescriptionRecorder } from './recording';
import * as store from './store';

type Kinds =
  | 'setFields'
  | 'replaceText'
  | 'tidyText'
  | 'changeTime'
  | 'turnPhotos'
  | 'turnUpright'
  | 'setStretches'
  | 'fillTemplate'
  | 'applyTemplate'
  | 'saveTemplate'
  | 'removeTemplate'
  | 'saveFieldSet'
  | 'removeFieldSet'
  | 'saveQualityRule'
  | 'removeQualityRule';

/** How pictures are turned that stand on their side, by the degrees clockwise that put them upright. */
const UPRIGHT: readonly (readonly [degrees: number, way: TurnWay])[] = [
  [90, 'right'],
  [270, 'left'],
];

export function describingChanges(database: Database, recorder: DescriptionRecorder): Pick<ChangeHandlers, Kinds> {
  // One closure for what its functions share; each of them fits a screen.
  return {
    async setFields({ selection, edits, pasted, seen }, context) {
      for (const { target, value } of edits) {
        const problem = remarksOn(shapeOf(target), value).find(({ kind }) => kind === 'error');
        if (problem) throw new StellinError('describingRefused', { why: `${shapeOf(target).label}: ${problem.text}` });
      }
      if (seen) await requireAsSeen(selection, seen, context);
      await record(selection, { kind: 'setFields', edits }, context);
      const labels = [...new Set(edits.map(({ target }) => shapeOf(target).label))];
      const [label = ''] = labels;
      const what = labels.length === 1 ? `“${label}”` : countText(labels.length, 'field');
      return (photos) => `${pasted ? 'Paste' : 'Set'} ${what}: ${countText(photos, 'photo')}`;
    },

    async replaceText({ selection, ...description }, context) {
      await record(selection, description, context);
      return (photos) => `Replace “${description.find}” by “${description.replace}”: ${countText(photos, 'photo')}`;
    },

    async tidyText({ selection, ...description }, context) {
      await record(selection, description, context);
      return (photos) => `Tidy texts: ${countText(photos, 'photo')}`;
    },

    async changeTime({ selection, ...description }, context) {
      await record(selection, description, context);
      return (photos) => `Change the time of capture: ${countText(photos, 'photo')}`;
    },

    async turnPhotos({ selection, ...description }, context) {
      await record(selection, description, context);
      return (photos) => `${TURNS[description.way].label}: ${countText(photos, 'photo')}`;
    },

    async turnUpright({ selection }, context) {
      for (const [degrees, way] of UPRIGHT) {
        await recorder.record(store.sidewaysSql(selection, degrees), { kind: 'turnPhotos', way }, context);
      }
      return (photos) => `Turn upright, as faces say: ${countText(photos, 'photo')}`;
    },

    async setStretches({ photoId, stretches, seen }, context) {
      let name = '';
      await recorder.recordEach(
        idsSql([photoId]),
        ([photo]) => {
          const edits = new Map<number, FieldEdit[]>();
          if (!photo) return Promise.resolve(edits);
          if (!isTimed(photo.kind))
            throw new StellinError('describingRefused', { why: `“${photo.name}” is neither a film nor a sound` });
          name = photo.name;
          const now = (JSON.parse(photo.fields) as FieldValues).stretches;
          if (!sameValue(now, seen ?? undefined))
            throw new StellinError('changedMeanwhile', { what: `The stretches of “${photo.name}” have`, by: '' });
          edits.set(photo.id, [{ target: 'stretches', mode: 'replace', value: withStretches(now, stretches) }]);
          return Promise.resolve(edits);
        },
        context,
      );
      return () => `Stretches of ${name}`;
    },

    async fillTemplate({ selection, ...description }, context) {
      await record(selection, description, context);
      return (photos) => `Fill ${countText(description.edits.length, 'field')}: ${countText(photos, 'photo')}`;
    },

    async applyTemplate({ selection, templateId }, context) {
      const row = await requireTemplate(templateId, context);
      await recorder.fill(row, selectionSql(selection), { onlyEmpty: false }, context);
      return (photos) => `Template “${row.name}”: ${countText(photos, 'photo')}`;
    },

    async saveTemplate({ kind: _, templateId, shared, ...given }, context) {
      const made = describing({ kind: 'fillTemplate', edits: given.edits });
      if (!made.ok) throw new StellinError('describingRefused', { why: made.problem });
      const { tx, entryId, accountId } = context;
      const before = templateId === null ? null : await requireOwnTemplate(templateId, context);
      const owner_id = shared ? null : accountId;
      const all = await store.listPrepared(database, 'template', tx);
      if (all.some((other) => other.id !== templateId && other.owner_id === owner_id && other.name === given.name))
        throw new StellinError('preparedExists', { what: 'a template', name: given.name });
      const { termIds, ...others } = given;
      await recordObject<store.TemplateRow>(
        database,
        entryId,
        'template',
        before,
        { ...others, term_ids: termIds, owner_id, created_by: before ? before.created_by : accountId },
        tx,
      );
      return () => `${before ? 'Change' : 'Make'} the template “${given.name}”`;
    },

    async removeTemplate({ templateId }, context) {
      const before = await requireOwnTemplate(templateId, context);
      await recordObject<store.TemplateRow>(database, context.entryId, 'template', before, null, context.tx);
      return () => `Remove the template “${before.name}”`;
    },

    async saveFieldSet({ fieldSetId, name, entries }, { tx, entryId }) {
      const all = await store.listPrepared(database, 'field_set', tx);
      const before = requirePrepared(all, fieldSetId, 'field set');
      if (all.some((other) => other.id !== fieldSetId && other.name === name))
        throw new StellinError('preparedExists', { what: 'a field set', name });
      const other = otherKind(
        entries,
        all.filter(({ id }) => id !== fieldSetId),
      );
      if (other)
        throw new StellinError('describingRefused', {
          why: `“${other.name}” is a field of another kind in “${other.set}”; call it otherwise`,
        });
      const position = before?.position ?? lastPosition(all);
      await recordObject<store.FieldSetRow>(database, entryId, 'field_set', before, { name, entries, position }, tx);
      return () => `${before ? 'Change' : 'Make'} the field set “${name}”`;
    },

    async removeFieldSet({ fieldSetId }, { tx, entryId }) {
      const before = requirePrepared(await store.listPrepared(database, 'field_set', tx), fieldSetId, 'field set');
      await recordObject<store.FieldSetRow>(database, entryId, 'field_set', before, null, tx);
      return () => `Remove the field set “${before?.name ?? ''}”; photos keep what they say`;
    },

    async saveQualityRule({ ruleId, name, query, requires }, { tx, entryId }) {
      const all = await store.listPrepared(database, 'quality_rule', tx);
      const before = requirePrepared(all, ruleId, 'rule');
      if (all.some((other) => other.id !== ruleId && other.name === name))
        throw new StellinError('preparedExists', { what: 'a rule', name });
      const [error] = parseQuery(query).errors;
      if (error) throw new StellinError('describingRefused', { why: error.message });
      const known = criterionOf('has')?.choices ?? [];
      const unknown = requires.find((part) => !known.includes(part));
      if (unknown !== undefined)
        throw new StellinError('describingRefused', { why: `“${unknown}” can’t be asked for` });
      await recordObject<store.QualityRuleRow>(
        database,
        entryId,
        'quality_rule',
        before,
        { name, query, requires },
        tx,
      );
      return () => `${before ? 'Change' : 'Make'} the rule “${name}”`;
    },

    async removeQualityRule({ ruleId }, { tx, entryId }) {
      const before = requirePrepared(await store.listPrepared(database, 'quality_rule', tx), ruleId, 'rule');
      await recordObject<store.QualityRuleRow>(database, entryId, 'quality_rule', before, null, tx);
      return () => `Remove the rule “${before?.name ?? ''}”`;
    },
  };

  function record(selection: Selection, description: Description, context: ChangeContext): Promise<void> {
    return recorder.record(selectionSql(selection), description, context);
  }

  /** Refuses where fields say something else by now than whoever describes them has seen. */
  async function requireAsSeen(
    selection: Selection,
    seen: readonly { target: Target; says: string }[],
    { tx }: ChangeContext,
  ): Promise<void> {
    const photos = selectionSql(selection);
    await store.lockTexts(database, photos, tx);
    const { fields } = await store.agreementOf(database, selection, tx);
    const changed = seen.filter(({ target, says }) => saysOf(fields.find((field) => field.target === target)) !== says);
    const [first] = changed;
    if (!first) return;
    const by = await store.lastChangedBy(
      database,
      photos,
      changed.map(({ target }) => fieldIdOf(target)),
      tx,
    );
    const label = `“${shapeOf(first.target).label}”`;
    throw new StellinError('changedMeanwhile', {
      what: changed.length === 1 ? `${label} has` : `${label} and ${countText(changed.length - 1, 'other field')} have`,
      by: by === undefined ? '' : ` by ${by}`,
    });
  }

  /** A template that one may change. */
  async function requireOwnTemplate(id: number, context: ChangeContext): Promise<store.TemplateRow> {
    const found = await requireTemplate(id, context);
    if (!mayAlter(context.person, found)) throw new StellinError('notYours', { name: found.name });
    return found;
  }

  /** A template that one may use. */
  async function requireTemplate(id: number, { tx, accountId }: ChangeContext): Promise<store.TemplateRow> {
    const all = usableTemplates(await store.listPrepared(database, 'template', tx), accountId);
    return requirePrepared(all, id, 'template');
  }
}
