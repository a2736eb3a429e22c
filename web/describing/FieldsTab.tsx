// The Fields tab: a field set as a form over the chosen photos. What is typed stays until it is applied or reset.

import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { z } from 'zod';
import { editOf, type Draft } from '@stellin/core/describing/drafts';
import { STANDARD_SETS } from '@stellin/core/describing/fieldSets';
import { customName, isTarget, shapeOf, type Target } from '@stellin/core/describing/targets';
import { conjuncts } from '@stellin/core/query/query';
import { parseQuery, queryText } from '@stellin/core/search/language';
import { saysOf, type FieldSet } from '@stellin/contract/describing';
import type { Selection } from '@stellin/contract/photos';
import { countText } from '@stellin/contract/wording';
import { useChange } from '../foundation/changes';
import { shownKey } from '../foundation/keys';
import { useMayChange } from '../foundation/session';
import { chooseOne } from '../photos/chosen';
import { photosBetween, type Result } from '../photos/queries';
import { useSelection } from '../photos/selection';
import { Button } from '../parts/Button';
import { Failure } from '../parts/Queried';
import { useProjects } from '../dossiers/queries';
import { useStored } from '../foundation/useStored';
import { DescribeDialog } from './DescribeDialog';
import { FieldRow, ownFieldOf } from './FieldRow';
import { rememberDescription } from './last';
import { useAgreement, usePrepared, type DescriptionInput } from './queries';

interface Props {
  selection: Selection | null;
  result: Result;
  /** Goes on to the next photo; else that of the result. */
  onNext?: (() => void) | undefined;
  wantsFocus: boolean;
  onFocused: () => void;
  /** Told whether something is typed that is not applied yet. */
  onDescribing: (isDescribing: boolean) => void;
}

interface ShownSet {
  name: string;
  entries: { target: Target; entry: FieldSet['entries'][number] | undefined }[];
}

export function FieldsTab({ selection, result, onNext, wantsFocus, onFocused, onDescribing }: Props) {
  const { data: prepared } = usePrepared();
  const [chosenSet, setChosenSet] = useStored('fieldSet', z.string(), '');
  const [drafts, setDrafts] = useState<ReadonlyMap<Target, Draft>>(new Map());
  const [asks, setAsks] = useState<DescriptionInput | null>(null);
  const { data: agreement, error, refetch, isPlaceholderData } = useAgreement(selection);
  const seen = useSeen(isPlaceholderData ? undefined : agreement, JSON.stringify(selection), drafts);
  const before = useBefore(isPlaceholderData ? undefined : agreement, JSON.stringify(selection));
  const mayChange = useMayChange('setFields');
  const change = useChange();
  const nextOfResult = useNextPhoto(result);
  const next = () => (onNext ? onNext() : void nextOfResult());
  const form = useRef<HTMLFormElement>(null);
  useEffect(() => {
    if (!wantsFocus || !agreement) return;
    form.current?.querySelector<HTMLElement>('[data-value]')?.focus();
    onFocused();
  }, [wantsFocus, onFocused, agreement]);

  const isDescribing = drafts.size > 0;
  useEffect(() => {
    onDescribing(isDescribing);
    return () => onDescribing(false);
  }, [isDescribing, onDescribing]);

  const sets = setsOf(prepared);
  const ofProject = useProjectSet(result.query, prepared?.fieldSets);
  const [leftFor, setLeftFor] = useState<string | undefined>(undefined);
  // In a project its own set comes first, until another one is chosen there.
  const wanted = ofProject !== undefined && leftFor !== ofProject ? ofProject : chosenSet;
  const shown = sets.find(({ name }) => name === wanted) ?? sets[0];
  const setDraft = (target: Target, draft: Draft | undefined) => {
    const changed = new Map(drafts);
    if (draft) changed.set(target, draft);
    else changed.delete(target);
    setDrafts(changed);
    if (!draft || !drafts.has(target)) seen.look([target]);
  };
  if (!selection) return <p className="p-3 text-ink-2">Choose photos on the sheet, then describe them here.</p>;
  if (error && !agreement) return <Failure error={error} onRetry={() => void refetch()} className="m-3" />;
  if (!agreement || !shown) return null;

  const known = new Map(
    sets.flatMap((set) => set.entries.flatMap(({ entry }) => ownFieldOf(entry) ?? [])).map((own) => [own.name, own]),
  );
  const made = [...drafts].map(([target, draft]) => editOf(target, draft, known.get(customName(target) ?? '')));
  const edits = made.flatMap((each) => (each.ok ? [each.edit] : []));
  const undecided = [...drafts.keys()].filter(seen.isChanged);
  const ready = edits.length > 0 && edits.length === made.length && undecided.length === 0;
  // Fields that agree are found by their target; own fields that photos have but no set names are shown with all fields.
  const own = agreement.fields.map(({ target }) => target).filter((target) => target.startsWith('custom:'));
  const entries =
    shown.name === 'All fields'
      ? [...shown.entries, ...own.filter(isTarget).map((target) => ({ target, entry: undefined }))]
      : shown.entries;
  const apply = (after?: () => void) => {
    if (!ready) return;
    const description: DescriptionInput = { kind: 'setFields', edits };
    // The server looks again: somebody may be quicker than what is shown here.
    if (agreement.photos > 1) {
      setAsks(description);
      return;
    }
    change.mutate(
      { ...description, selection, seen: asSeen },
      {
        onSuccess: () => {
          rememberDescription(description);
          setDrafts(new Map());
          after?.();
        },
      },
    );
  };
  const asSeen = edits.map(({ target }) => ({ target, says: seen.saysOf(target) }));
  const photos = countText(agreement.photos, 'photo');
  /** Fields that begin with something, and of which some photo says nothing yet. */
  const initial = entries.filter(
    ({ target, entry }) =>
      entry?.initial &&
      !drafts.has(target) &&
      (agreement.fields.find((field) => field.target === target)?.photos ?? 0) < agreement.photos,
  );
  const fillInitial = () => {
    seen.look(initial.map(({ target }) => target));
    setDrafts(
      new Map([
        ...drafts,
        ...initial.map(({ target, entry }): [Target, Draft] => [target, { mode: 'fill', typed: entry?.initial ?? '' }]),
      ]),
    );
  };
  return (
    <form
      ref={form}
      className="flex h-full"
      onSubmit={(event) => {
        event.preventDefault();
        apply();
      }}
      onKeyDownCapture={(event) => {
        if (event.key !== 'Enter' || !(event.ctrlKey || event.metaKey)) return;
        // Dialogs that stand elsewhere on the page have keys of their own.
        if (!(event.target instanceof Node && event.currentTarget.contains(event.target))) return;
        // A list would open by the same key.
        event.preventDefault();
        event.stopPropagation();
        apply(event.shiftKey ? next : undefined);
      }}
      onKeyDown={(event) => {
        if (
          event.key === 'Enter' &&
          event.target instanceof HTMLInputElement &&
          event.target.dataset['value'] !== undefined
        ) {
          // Enter goes on to the next field, as Tab does, without stops between.
          event.preventDefault();
          const inputs = [...event.currentTarget.querySelectorAll<HTMLElement>('[data-value]')];
          inputs[inputs.indexOf(event.target) + 1]?.focus();
        }
      }}
    >
      <SetChoice
        sets={sets}
        chosen={shown.name}
        onChoose={(name) => {
          setChosenSet(name);
          setLeftFor(name === ofProject ? undefined : ofProject);
        }}
      />
      <div className="min-w-0 flex-1 overflow-y-auto px-3 py-1.5">
        <div className="columns-2 gap-6 xl:columns-3">
          {entries.map(({ target, entry }) => (
            <FieldRow
              key={target}
              target={target}
              entry={entry}
              photos={agreement.photos}
              agreement={agreement.fields.find((field) => field.target === target)}
              changedMeanwhile={seen.isChanged(target)}
              onDecided={() => seen.look([target])}
              before={before?.fields.find((field) => field.target === target)?.values[0]?.value}
              draft={drafts.get(target)}
              onDraft={(draft) => setDraft(target, draft)}
              readOnly={!mayChange}
            />
          ))}
        </div>
      </div>
      {mayChange && (
        <Applying
          drafts={drafts}
          photos={agreement.photos}
          disabled={!ready || change.isPending}
          initial={initial.length}
          onFill={fillInitial}
          onApplyNext={() => apply(next)}
          onReset={() => setDrafts(new Map())}
        />
      )}
      {asks && (
        <DescribeDialog
          title={`Set ${countText(edits.length, 'field')} on ${photos}`}
          verb="Change"
          selection={selection}
          description={asks}
          // Of fewer photos than were looked at, something else is said.
          change={(meant) => ({ ...asks, selection: meant, ...(sameChoice(meant, selection) ? { seen: asSeen } : {}) })}
          onClose={() => setAsks(null)}
          onDone={() => setDrafts(new Map())}
        />
      )}
    </form>
  );
}

/**
 * What the photos said of each field as it was begun to be typed: others may change it meanwhile. `agreement`: what they say now;
 * undefined while that is not known. What was typed for other photos is meant for these as they are found.
 */
function useSeen(
  agreement: ReturnType<typeof useAgreement>['data'],
  choice: string,
  drafts: ReadonlyMap<Target, Draft>,
) {
  const [seen, setSeen] = useState<{ choice: string; says: ReadonlyMap<Target, string> }>({ choice, says: new Map() });
  const now = (target: Target) => saysOf(agreement?.fields.find((field) => field.target === target));
  if (agreement && seen.choice !== choice)
    setSeen({ choice, says: new Map([...drafts.keys()].map((target) => [target, now(target)])) });
  return {
    saysOf: (target: Target) => seen.says.get(target) ?? '',
    /** What they say now is what somebody decides on. */
    look: (targets: readonly Target[]) =>
      setSeen({ choice, says: new Map([...seen.says, ...targets.map((target) => [target, now(target)] as const)]) }),
    isChanged: (target: Target) =>
      agreement !== undefined && seen.choice === choice && drafts.has(target) && seen.says.get(target) !== now(target),
  };
}

type Agreement = NonNullable<ReturnType<typeof useAgreement>['data']>;

/** What the single photo that one was at before said, as it was read then; undefined for the first one. */
function useBefore(agreement: Agreement | undefined, choice: string): Agreement | undefined {
  const [at, setAt] = useState<{ choice: string; here: Agreement; before: Agreement | undefined } | null>(null);
  if (agreement?.photos === 1 && at?.here !== agreement)
    setAt({ choice, here: agreement, before: at?.choice === choice ? at.before : at?.here });
  return at?.choice === choice ? at.before : at?.here;
}

interface SetChoiceProps {
  sets: readonly ShownSet[];
  chosen: string;
  onChoose: (name: string) => void;
}

/** The field sets of the team, then the standard ones, each with how many fields it has. */
function SetChoice({ sets, chosen, onChoose }: SetChoiceProps) {
  return (
    <div role="radiogroup" aria-label="Field set" className="w-36 shrink-0 overflow-y-auto border-r border-line py-1.5">
      {sets.map(({ name, entries: { length } }) => (
        <button
          key={name}
          type="button"
          role="radio"
          aria-checked={name === chosen}
          className={`flex w-full items-baseline gap-2 px-3 py-1 text-left ${name === chosen ? 'bg-spruce-pale font-semibold' : 'hover:bg-ground'}`}
          onClick={() => onChoose(name)}
        >
          <span className="min-w-0 flex-1 truncate">{name}</span>
          <span className="figures text-[11px] text-ink-2">{length}</span>
        </button>
      ))}
    </div>
  );
}

interface ApplyingProps {
  drafts: ReadonlyMap<Target, Draft>;
  photos: number;
  disabled: boolean;
  /** How many fields begin with something that is not filled in yet. */
  initial: number;
  onFill: () => void;
  onApplyNext: () => void;
  onReset: () => void;
}

/** What has been typed and is to be applied, and how; before that, which keys do it. */
function Applying({ drafts, photos, disabled, initial, onFill, onApplyNext, onReset }: ApplyingProps) {
  return (
    <div className="flex w-52 shrink-0 flex-col gap-2 overflow-y-auto border-l border-line p-3">
      {initial > 0 && <Button onClick={onFill}>Fill in {countText(initial, 'default')}</Button>}
      {drafts.size === 0 ? (
        <p className="text-ink-2">
          Type into a field; Enter goes to the next. <b>Ctrl Enter</b> applies it to{' '}
          {photos === 1 ? 'this photo' : `these ${countText(photos, 'photo')}`}
          {photos === 1 && (
            <>
              , <b>Ctrl Shift Enter</b> goes on to the next
            </>
          )}
          ; {shownKey('sameAsBefore')} says in a field what the photo before says, {shownKey('repeatDescription')}{' '}
          repeats your last description.
        </p>
      ) : (
        <>
          <ul className="text-[12px] text-ink-2" aria-label="To be applied">
            {[...drafts].map(([target, { mode }]) => (
              <li key={target} className="truncate">
                {shapeOf(target).label}
                {mode !== 'replace' && ` (${mode === 'fill' ? 'only empty' : mode})`}
              </li>
            ))}
          </ul>
          <Button type="submit" look="primary" disabled={disabled}>
            {photos === 1 ? 'Apply' : `Look at ${countText(photos, 'photo')} …`}
          </Button>
          {photos === 1 && (
            <Button disabled={disabled} onClick={onApplyNext}>
              Apply, next photo
            </Button>
          )}
          <Button look="quiet" onClick={onReset}>
            Reset all
          </Button>
        </>
      )}
    </div>
  );
}

/** The field set of the project that a query asks for, by its name. */
function useProjectSet(query: string, fieldSets: readonly FieldSet[] | undefined): string | undefined {
  const { data: projects = [] } = useProjects();
  const asked = conjuncts(parseQuery(query).query).map(queryText);
  const project = projects.find((each) => asked.includes(each.query));
  return fieldSets?.find(({ id }) => id === project?.fieldSetId)?.name;
}

function sameChoice(a: Selection, b: Selection): boolean {
  return a.minus.length === b.minus.length && a.plus.length === b.plus.length;
}

/** All field sets: those of the team first. */
function setsOf(prepared: { fieldSets: readonly FieldSet[] } | undefined): ShownSet[] {
  return [
    ...(prepared?.fieldSets ?? []).map(({ name, entries }) => ({
      name,
      entries: entries.map((entry) => ({ target: entry.target, entry })),
    })),
    ...STANDARD_SETS.map(({ name, targets }) => ({
      name,
      entries: targets.map((target) => ({ target, entry: undefined })),
    })),
  ];
}

/** Chooses the photo behind the one in focus. */
function useNextPhoto(result: Result): () => Promise<void> {
  const client = useQueryClient();
  const { chosen, total, setChosen } = useSelection();
  return async () => {
    const position = (chosen.focus ?? -1) + 1;
    if (total !== null && position >= total) return;
    const [photo] = await photosBetween(client, result, position, position);
    if (photo) setChosen(chooseOne(photo.id, position));
  };
}
