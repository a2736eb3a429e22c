// Moving, copying, renaming, trashing, restoring and taking out: what it would do, and doing it.

import { useEffect, useRef, useState } from 'react';
import { PLACEHOLDERS } from '@stellin/core/filing/namePattern';
import type { FilingAction, FilingPlan } from '@stellin/contract/filing';
import type { ChangeInput } from '@stellin/contract/ledger';
import type { Selection } from '@stellin/contract/photos';
import { countText } from '@stellin/contract/wording';
import { useChange } from '../app/changes';
import { Dialog } from '../parts/Dialog';
import { FormActions } from '../parts/FormActions';
import { FolderPicker, type Place } from './FolderPicker';
import { useFilingPlan } from './queries';
import { planText, WORDINGS } from './wording';

interface Props {
  action: FilingAction;
  selection: Selection;
  onClose: () => void;
  onDone: () => void;
}

interface Details {
  place: Place | undefined;
  pattern: string;
  start: number;
}

/** The change an action is; undefined while something it needs is not said. */
const CHANGES: Record<FilingAction, (selection: Selection, details: Details) => ChangeInput | undefined> = {
  move: (selection, { place }) => place && { kind: 'moveFiles', selection, ...place },
  copy: (selection, { place }) => place && { kind: 'copyFiles', selection, ...place },
  rename: (selection, { pattern, start }) =>
    pattern.trim() === '' ? undefined : { kind: 'renameFiles', selection, pattern, start },
  trash: (selection) => ({ kind: 'trashFiles', selection }),
  restore: (selection) => ({ kind: 'restoreFiles', selection }),
  remove: (selection) => ({ kind: 'removePhotos', selection }),
  return: (selection) => ({ kind: 'returnPhotos', selection }),
};

const NEEDS_DETAILS: ReadonlySet<FilingAction> = new Set<FilingAction>(['move', 'copy', 'rename']);

export function FilingDialog({ action, selection, onClose, onDone }: Props) {
  const [details, setDetails] = useState<Details>({ place: undefined, pattern: '{name}', start: 1 });
  const change = useChange();
  const { place, pattern, start } = details;
  const wanted = CHANGES[action](selection, details);
  const { data: plan } = useFilingPlan({ action, selection, ...place, pattern, start }, wanted !== undefined);
  const { title, verb, explains } = WORDINGS[action];
  const set = (part: Partial<Details>) => setDetails((before) => ({ ...before, ...part }));
  const known = wanted ? plan : undefined;
  const button = useRef<HTMLButtonElement>(null);
  const isReady = known !== undefined;
  useEffect(() => {
    // Where nothing is to be said first, Enter confirms as soon as it is known what would happen.
    if (isReady && !NEEDS_DETAILS.has(action)) button.current?.focus();
  }, [isReady, action]);
  return (
    <Dialog open onOpenChange={onClose} title={title}>
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (wanted) change.mutate(wanted, { onSuccess: onDone });
        }}
      >
        {(action === 'move' || action === 'copy') && <FolderPicker onChoose={(chosen) => set({ place: chosen })} />}
        {action === 'rename' && <Pattern details={details} onChange={set} plan={known} />}
        <p className="text-ink-2">{explains}</p>
        {known?.problem ? (
          <p role="alert" className="rounded bg-red-pale px-2.5 py-1.5 text-red">
            {known.problem}
          </p>
        ) : (
          known && (
            <ul aria-live="polite" className="figures space-y-0.5">
              {planText(known).map((text) => (
                <li key={text}>{text}</li>
              ))}
            </ul>
          )
        )}
        <FormActions
          ref={button}
          onCancel={onClose}
          action={`${verb} ${known && known.photos > 0 ? countText(known.photos, 'photo') : ''}`}
          disabled={!known || known.photos === 0 || known.problem !== null || change.isPending}
        />
      </form>
    </Dialog>
  );
}

const SHOWN_EXAMPLES = 6;

function Pattern({
  details: { pattern, start },
  onChange,
  plan,
}: {
  details: Details;
  onChange: (part: Partial<Details>) => void;
  plan: FilingPlan | undefined;
}) {
  return (
    <>
      <div className="flex gap-2">
        <label className="min-w-0 flex-1 text-[12px] text-ink-2">
          New name, without its extension
          <input
            autoFocus
            spellCheck={false}
            className="mt-1 block h-8 w-full rounded border border-line bg-card px-2 font-mono text-[12px] text-ink"
            value={pattern}
            onChange={(event) => onChange({ pattern: event.target.value })}
          />
        </label>
        <label className="text-[12px] text-ink-2">
          First number
          <input
            type="number"
            min={0}
            className="figures mt-1 block h-8 w-24 rounded border border-line bg-card px-2 text-base text-ink"
            value={start}
            onChange={(event) => onChange({ start: Math.max(0, Math.floor(event.target.valueAsNumber || 0)) })}
          />
        </label>
      </div>
      <div className="flex flex-wrap gap-1">
        {Object.entries(PLACEHOLDERS).map(([name, { help }]) => (
          <button
            key={name}
            type="button"
            title={help}
            className="rounded border border-line bg-sheet px-1.5 py-0.5 font-mono text-[11px] text-ink-2 hover:border-ink-3 hover:text-ink"
            onClick={() => onChange({ pattern: `${pattern}{${name === 'number' ? 'number:3' : name}}` })}
          >
            {`{${name}}`}
          </button>
        ))}
      </div>
      {plan && plan.examples.length > 0 && (
        <table className="w-full font-mono text-[12px]">
          <tbody>
            {plan.examples.slice(0, SHOWN_EXAMPLES).map(({ photoId, before, after }) => (
              <tr key={photoId} className={before === after ? 'text-ink-3' : ''}>
                <td className="max-w-40 truncate py-0.5 pr-2" title={before}>
                  {before}
                </td>
                <td aria-hidden="true" className="px-1 text-ink-3">
                  →
                </td>
                <td className="max-w-48 truncate py-0.5 pl-2" title={after}>
                  {after}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  );
}
