// The frame of everything that describes many photos: what is to be done, what would become of each photo, and doing it.

import { useEffect, useRef, useState, type ReactNode } from 'react';
import type { ChangeInput } from '@stellin/contract/ledger';
import type { Selection } from '@stellin/contract/photos';
import { countText } from '@stellin/contract/wording';
import { useChange } from '../foundation/changes';
import { Dialog } from '../parts/Dialog';
import { FormActions } from '../parts/FormActions';
import { rememberDescription } from './last';
import { PreviewPanel } from './PreviewPanel';
import { usePreview, PREVIEW_PAGE, type DescriptionInput } from './queries';

interface Props {
  title: string;
  /** What the button says before the number of photos. */
  verb: string;
  selection: Selection;
  /** Undefined while something is still to be said. */
  description: DescriptionInput | undefined;
  /** The change that is made; else the description itself. */
  change?: (selection: Selection) => ChangeInput;
  /** Something is done besides what the preview shows. */
  doesMore?: boolean;
  children?: ReactNode;
  onClose: () => void;
  onDone?: () => void;
}

/** More rows are not shown; they change all the same. */
const MAX_SHOWN = 500;
const NOBODY: ReadonlySet<number> = new Set();

export function DescribeDialog(props: Props) {
  const { title, verb, selection, description, children, onClose, onDone, doesMore = false } = props;
  const [leftOut, setLeftOut] = useState(NOBODY);
  const change = useChange();
  const [shown, setShown] = useState(PREVIEW_PAGE);
  const preview = usePreview(selection, description, shown);
  const { data } = preview;
  const beyond = data ? data.looked < data.meant : false;
  const changing = data ? data.changing - leftOut.size : 0;
  const button = useRef<HTMLButtonElement>(null);
  const isReady = data !== undefined;
  const asksNothing = children === undefined;
  useEffect(() => {
    // Where nothing is to be said first, Enter confirms as soon as it is known what would happen.
    if (isReady && asksNothing) button.current?.focus();
  }, [isReady, asksNothing]);
  const submit = () => {
    if (!description) return;
    const meant: Selection = {
      query: selection.query,
      minus: [...selection.minus, ...(selection.query === null ? [] : leftOut)],
      plus: selection.plus.filter((id) => !leftOut.has(id)),
    };
    const made = props.change?.(meant) ?? { ...description, selection: meant };
    change.mutate(made, {
      onSuccess: () => {
        rememberDescription(description);
        onDone?.();
        onClose();
      },
    });
  };
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title={title} wide>
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          submit();
        }}
        onKeyDown={(event) => {
          if (event.key !== 'Enter' || !(event.ctrlKey || event.metaKey)) return;
          event.preventDefault();
          event.currentTarget.requestSubmit();
        }}
      >
        {children}
        <PreviewPanel
          selection={selection}
          preview={description && preview}
          onMore={shown < MAX_SHOWN ? () => setShown(shown + PREVIEW_PAGE) : undefined}
          leftOut={leftOut}
          onLeaveOut={setLeftOut}
        />
        <FormActions
          ref={button}
          onCancel={onClose}
          action={`${verb} ${beyond ? countText(data?.meant ?? 0, 'photo') : changing > 0 ? countText(changing, 'photo') : ''}`.trim()}
          disabled={
            !description ||
            !data ||
            data.problem !== null ||
            (changing === 0 && !beyond && !doesMore) ||
            change.isPending
          }
        />
      </form>
    </Dialog>
  );
}
