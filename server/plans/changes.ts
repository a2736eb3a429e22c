// What changes to site plans do.

import { positionEdit } from '@stellin/core/describing/placing';
import type { FieldEdit } from '@stellin/core/describing/editing';
import type { FieldValues } from '@stellin/core/metadata/fields';
import { followPlans } from '@stellin/core/plans/naming';
import { inOrder, pinName, pinPath } from '@stellin/core/plans/pins';
import { withPinRegions } from '@stellin/core/plans/regions';
import { tiedBy } from '@stellin/core/plans/tying';
import { foldText } from '@stellin/core/text/words';
import { countText } from '@stellin/contract/wording';
import { ALL_PHOTOS, idsSql, selectionSql } from '../catalogue/selection';
import type { SqlCondition } from '../catalogue/compile';
import { PROGRAM } from '../catalogue/viewer';
import type { Database, Transaction } from '../database/database';
import { StellinError } from '../errors';
import { objectRows, recordObject, recordObjects } from '../ledger/recordStore';
import type { ChangeContext, ChangeHandlers } from '../ledger/service';
import type { Search } from '../search/service';
import { saidOf } from './service';
import * as store from './store';

type PlanChanges = Pick<
  ChangeHandlers,
  | 'makePlan'
  | 'changePlan'
  | 'removePlan'
  | 'savePins'
  | 'removePins'
  | 'mergePins'
  | 'numberPins'
  | 'pinPhotos'
  | 'unpinPhotos'
  | 'placeByPlan'
  | 'writePinRegions'
>;

/** Records edits of each photo’s own, as describing offers it. */
type RecordEach = (
  photos: SqlCondition,
  editsOf: (page: readonly { id: number; fields: string }[]) => Promise<ReadonlyMap<number, readonly FieldEdit[]>>,
  context: ChangeContext,
) => Promise<void>;

interface Parts {
  database: Database;
  search: Search;
  recordEach: RecordEach;
}

export function planChanges({ database, search, recordEach }: Parts): PlanChanges {
  // One closure for what its functions share; each of them fits a screen.
  const record = (entryId: number, before: store.PlanRecord | null, after: NewPlan | null, tx: Transaction) =>
    recordObject<store.PlanRecord>(database, entryId, 'plan', before, after, tx);

  /** Records pins as they are to be; saved searches that name those that are called otherwise follow. */
  const recordPins = async (
    entryId: number,
    plan: store.PlanRecord,
    pins: readonly { before: store.PinRecord | null; after: store.PinRecord | null }[],
    tx: Transaction,
  ): Promise<void> => {
    const rows = pins
      .filter(({ before, after }) => JSON.stringify(before) !== JSON.stringify(after))
      .map(({ before, after }) => ({ id: before?.id ?? after?.id, before, after }));
    if (rows.length === 0) return;
    await recordObjects(database, entryId, 'plan_pin', objectRows(rows), tx);
    const renamed = rows.flatMap(({ before, after }) =>
      before && after && before.name !== after.name
        ? [[pinPath(plan.name, before), pinPath(plan.name, after)] as const]
        : [],
    );
    if (renamed.length > 0) await search.rewrite(entryId, (query) => followPlans(query, new Map(renamed)), tx);
  };

  const require = async (planId: number, tx: Transaction): Promise<store.PlanRecord> => {
    const plan = (await store.plans(database, tx)).find(({ id }) => id === planId);
    if (!plan) throw new StellinError('notFound', { what: 'such plan (it may have been removed meanwhile)' });
    return plan;
  };

  const requirePin = async (pinId: number, tx: Transaction) => {
    const planId = await store.planOfPin(database, pinId, tx);
    const plan = planId === undefined ? undefined : await require(planId, tx);
    const pins = plan ? await store.pinsOf(database, plan.id, tx) : [];
    const pin = pins.find(({ id }) => id === pinId);
    if (!plan || !pin) throw new StellinError('notFound', PIN_GONE);
    return { plan, pin, pins };
  };

  const requireFreeName = async (name: string, except: number | null, tx: Transaction): Promise<void> => {
    const folded = foldText(name);
    const others = await store.plans(database, tx);
    if (others.some((plan) => plan.id !== except && plan.name_folded === folded))
      throw new StellinError('planRefused', { name, why: 'there is one of this name already' });
  };

  return {
    async makePlan({ name, note, pictureId }, { tx, entryId, accountId }) {
      if (!(await store.isPictureOf(database, pictureId, accountId, tx)))
        throw new StellinError('notFound', { what: 'such picture for a plan' });
      await requireFreeName(name, null, tx);
      const plan = { name, name_folded: foldText(name), note, picture_id: pictureId, ties: [], created_by: accountId };
      await record(entryId, null, plan, tx);
      return () => `Make the site plan “${name}”`;
    },

    async changePlan({ planId, ...given }, { tx, entryId }) {
      const before = await require(planId, tx);
      const { name = before.name, note = before.note, ties = before.ties } = given;
      const after = { ...before, name, name_folded: foldText(name), note, ties };
      if (name !== before.name) await requireFreeName(name, planId, tx);
      await record(entryId, before, after, tx);
      if (name !== before.name) {
        const pins = await store.pinsOf(database, planId, tx);
        const renamed = new Map([
          [before.name, name],
          ...pins.map((pin): [string, string] => [pinPath(before.name, pin), pinPath(name, pin)]),
        ]);
        await search.rewrite(entryId, (query) => followPlans(query, renamed), tx);
      }
      if (name !== before.name) return () => `Rename the site plan “${before.name}” to “${name}”`;
      return () => (given.ties ? `Tie the site plan “${name}” to the map` : `Change the site plan “${name}”`);
    },

    async removePlan({ planId }, { tx, entryId }) {
      const plan = await require(planId, tx);
      const pins = await store.pinsOf(database, planId, tx);
      await store.recordUnpinned(
        database,
        entryId,
        pins.map(({ id }) => id),
        ALL_PHOTOS,
        tx,
      );
      await recordPins(
        entryId,
        plan,
        pins.map((before) => ({ before, after: null })),
        tx,
      );
      await record(entryId, plan, null, tx);
      return () => `Remove the site plan “${plan.name}” with ${countText(pins.length, 'pin')}`;
    },

    async savePins({ planId, pins: given }, { tx, entryId, accountId }) {
      const plan = await require(planId, tx);
      const present = await store.pinsOf(database, planId, tx);
      const fresh = await store.nextPinIds(database, given.filter(({ pinId }) => pinId === null).length, tx);
      const changes = given.map(({ pinId, pin }) => {
        const before = pinId === null ? null : present.find(({ id }) => id === pinId);
        if (before === undefined) throw new StellinError('notFound', PIN_GONE);
        const { termId: term_id, placeId: place_id, ...said } = pin;
        const kept = before ?? { id: fresh.shift() ?? 0, plan_id: planId, created_by: accountId };
        const after = { ...kept, ...said, ...namesOf(said), term_id, place_id };
        return { before, after };
      });
      const changed = new Map(changes.map((change) => [change.after.id, change.after]));
      requireOwnNames(plan, [
        ...present.map((pin) => changed.get(pin.id) ?? pin),
        ...changes.flatMap(({ before, after }) => (before ? [] : [after])),
      ]);
      await recordPins(entryId, plan, changes, tx);
      const [first] = changes;
      const added = changes.filter(({ before }) => !before).length;
      return () =>
        changes.length > 1
          ? `${added > 0 ? 'Put' : 'Change'} ${countText(changes.length, 'pin')} on “${plan.name}”`
          : `${added > 0 ? 'Put' : 'Change'} the pin “${first ? first.after.name : ''}” on “${plan.name}”`;
    },

    async removePins({ planId, pinIds }, { tx, entryId }) {
      const plan = await require(planId, tx);
      const gone = (await store.pinsOf(database, planId, tx)).filter(({ id }) => pinIds.includes(id));
      if (gone.length < new Set(pinIds).size) throw new StellinError('notFound', PIN_GONE);
      await store.recordUnpinned(database, entryId, pinIds, ALL_PHOTOS, tx);
      await recordPins(
        entryId,
        plan,
        gone.map((before) => ({ before, after: null })),
        tx,
      );
      const [first] = gone;
      return () =>
        gone.length === 1 && first
          ? `Remove the pin “${first.name}” of “${plan.name}”`
          : `Remove ${countText(gone.length, 'pin')} of “${plan.name}”`;
    },

    async mergePins({ pinId, intoId }, { tx, entryId }) {
      const { plan, pin, pins } = await requirePin(pinId, tx);
      const into = pins.find(({ id }) => id === intoId && id !== pinId);
      if (!into) throw new StellinError('notFound', { what: 'such other pin on this plan' });
      await store.recordPinned(database, entryId, intoId, store.photosAt(pinId), tx);
      await store.recordUnpinned(database, entryId, [pinId], ALL_PHOTOS, tx);
      await recordPins(entryId, plan, [{ before: pin, after: null }], tx);
      const renamed = new Map([[pinPath(plan.name, pin), pinPath(plan.name, into)]]);
      await search.rewrite(entryId, (query) => followPlans(query, renamed), tx);
      return () => `Merge the pin “${pin.name}” into “${into.name}” on “${plan.name}”`;
    },

    async numberPins({ planId, numbering }, { tx, entryId }) {
      const plan = await require(planId, tx);
      const pins = await store.pinsOf(database, planId, tx);
      const changes = inOrder(pins, numbering).map((before, i) => {
        const numbered = { ...before, number: i + 1 };
        return { before, after: { ...numbered, ...namesOf(numbered) } };
      });
      if (changes.every(({ before, after }) => before.number === after.number))
        throw new StellinError('nothingToDo', { why: `The pins of “${plan.name}” are numbered so already.` });
      requireOwnNames(
        plan,
        changes.map(({ after }) => after),
      );
      await recordPins(entryId, plan, changes, tx);
      return () => `Number the pins of “${plan.name}” anew`;
    },

    async pinPhotos({ pinId, selection }, { tx, entryId }) {
      const { plan, pin } = await requirePin(pinId, tx);
      await store.recordPinned(database, entryId, pinId, selectionSql(selection), tx);
      return (photos) => `Pin ${countText(photos, 'photo')} at “${pinPath(plan.name, pin)}”`;
    },

    async unpinPhotos({ planId, pinId, selection }, { tx, entryId }) {
      const plan = await require(planId, tx);
      const pins = (await store.pinsOf(database, planId, tx)).filter(({ id }) => pinId === null || id === pinId);
      const [first] = pins;
      if (!first) throw new StellinError('notFound', PIN_GONE);
      await store.recordUnpinned(
        database,
        entryId,
        pins.map(({ id }) => id),
        selectionSql(selection),
        tx,
      );
      const from = pinId === null ? plan.name : pinPath(plan.name, first);
      return (photos) => `Take ${countText(photos, 'photo')} off “${from}”`;
    },

    async placeByPlan({ planId, onlyWithout }, context) {
      const { tx } = context;
      const [plan] = await store.listPlans(database, PROGRAM, { planId, tx });
      if (!plan) throw new StellinError('notFound', { what: 'such plan (it may have been removed meanwhile)' });
      const tied = tiedBy(plan.ties, plan);
      if (!tied) throw new StellinError('planRefused', { name: plan.name, why: 'it is not tied to the map yet' });
      const edits = async (page: readonly { id: number; fields: string }[]) => {
        const pins = await store.pinsHolding(
          database,
          planId,
          page.map(({ id }) => id),
          tx,
        );
        return new Map(
          page.flatMap(({ id, fields }) => {
            const pin = pins.get(id);
            const isMeant = pin && !(onlyWithout && (JSON.parse(fields) as FieldValues).position !== undefined);
            return isMeant ? [[id, [positionEdit(tied.pointAt(pin))]] as const] : [];
          }),
        );
      };
      await recordEach(store.photosOn(planId), edits, context);
      return (photos) => `Place ${countText(photos, 'photo')} where the site plan “${plan.name}” has them`;
    },

    async writePinRegions({ planId }, context) {
      const { tx } = context;
      const [plan] = await store.listPlans(database, PROGRAM, { planId, tx });
      if (!plan) throw new StellinError('notFound', { what: 'such plan (it may have been removed meanwhile)' });
      const { photoId, name } = plan;
      if (photoId === null)
        throw new StellinError('planRefused', { name, why: 'its picture is no photo of the catalogue' });
      const links = await store.linksOf(database, planId, tx);
      const pins = await store.pinsOf(database, planId, tx);
      const said = pins.map((pin) => saidOf(pin, links));
      const edits = (page: readonly { id: number; fields: string }[]) =>
        Promise.resolve(
          new Map(
            page.map(({ id, fields }) => {
              const value = withPinRegions((JSON.parse(fields) as FieldValues).imageRegion, said);
              return [id, [{ target: 'imageRegion', mode: 'replace', value } as const]] as const;
            }),
          ),
        );
      await recordEach(idsSql([photoId]), edits, context);
      return () => `Write the pins of “${name}” into its picture as image regions`;
    },
  };
}

type NewPlan = Omit<store.PlanRecord, 'id'> & { id?: number };
const PIN_GONE = { what: 'such pin (it may have been removed meanwhile)' };

/** What a pin is called, as it is kept. */
function namesOf(pin: Pick<store.PinRecord, 'label' | 'number'>): Pick<store.PinRecord, 'name' | 'name_folded'> {
  const name = pinName(pin);
  return { name, name_folded: foldText(name) };
}

/** On one plan no two pins have the same number, or are called the same. */
function requireOwnNames(plan: store.PlanRecord, pins: readonly store.PinRecord[]): void {
  const refused = (why: string) => new StellinError('planRefused', { name: plan.name, why });
  const [numbers, names] = [new Set<number>(), new Set<string>()];
  for (const pin of pins) {
    if (numbers.has(pin.number)) throw refused(`there are two pins with the number ${pin.number}`);
    if (names.has(pin.name_folded)) throw refused(`there are two pins called “${pin.name}”`);
    numbers.add(pin.number);
    names.add(pin.name_folded);
  }
}
