// What can be said of the chosen photos besides typing into fields.

import { DropdownMenu } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { TURNS } from '@stellin/core/metadata/orientation';
import type { ChangeInput } from '@stellin/contract/ledger';
import { DESCRIBED_FIELDS, isTarget } from '@stellin/core/describing/targets';
import { photoRoutes, type Photo, type Selection } from '@stellin/contract/photos';
import { countText } from '@stellin/contract/wording';
import { call } from '../foundation/api';
import { showError, useChange } from '../foundation/changes';
import { shownKey, type KeyAction } from '../foundation/keys';
import { useKeys } from '../foundation/useKeys';
import { useMayChange } from '../foundation/session';
import { CheckDialog } from './CheckDialog';
import { CopyDialog } from './CopyDialog';
import { DescribeDialog } from './DescribeDialog';
import { FieldSetsDialog } from './FieldSetsDialog';
import { fieldsCopied, lastDescription, type CopiedFields } from './last';
import { PasteDialog } from './PasteDialog';
import { QualityDialog } from './QualityDialog';
import { ReplaceDialog } from './ReplaceDialog';
import { TemplatesDialog } from './TemplatesDialog';
import { TidyDialog } from './TidyDialog';
import { TimeDialog } from './TimeDialog';

interface Props {
  selection: Selection | null;
  /** The photo in focus, of which fields are copied. */
  photo: Photo | undefined;
}

type Action =
  | 'template'
  | 'replace'
  | 'tidy'
  | 'time'
  | 'copy'
  | 'paste'
  | 'repeat'
  | 'turnLeft'
  | 'turnRight'
  | 'turnOver'
  | 'turnStored'
  | 'turnUpright'
  | 'private'
  | 'open'
  | 'check'
  | 'table'
  | 'fieldSets'
  | 'quality';

/** Items that begin another part of the menu. */
const BEGINNINGS: ReadonlySet<Action> = new Set<Action>(['turnLeft', 'private', 'fieldSets']);

interface Item {
  action: Action;
  label: string;
  keyName?: KeyAction;
  /** It needs no photos. */
  alone?: boolean;
  keeper?: boolean;
  /** For who may say what is private. */
  secret?: boolean;
}

/** What is done at once, without a dialog. */
const CHANGES: Partial<Record<Action, (selection: Selection) => ChangeInput>> = {
  turnLeft: (selection) => ({ kind: 'turnPhotos', selection, way: 'left' }),
  turnRight: (selection) => ({ kind: 'turnPhotos', selection, way: 'right' }),
  turnOver: (selection) => ({ kind: 'turnPhotos', selection, way: 'over' }),
  turnStored: (selection) => ({ kind: 'turnPhotos', selection, way: 'stored' }),
  turnUpright: (selection) => ({ kind: 'turnUpright', selection }),
  private: (selection) => ({ kind: 'setPrivate', selection, private: true }),
  open: (selection) => ({ kind: 'setPrivate', selection, private: false }),
};

const ITEMS: readonly Item[] = [
  { action: 'template', label: 'Templates …', keyName: 'template' },
  { action: 'replace', label: 'Find and replace …', keyName: 'replaceText' },
  { action: 'tidy', label: 'Tidy texts …' },
  { action: 'time', label: 'Time of capture …' },
  { action: 'copy', label: 'Copy fields of the photo in focus …', keyName: 'copyFields' },
  { action: 'paste', label: 'Paste fields …', keyName: 'pasteFields' },
  { action: 'repeat', label: 'Repeat the last description …', keyName: 'repeatDescription' },
  { action: 'turnLeft', label: TURNS.left.label, keyName: 'turnLeft' },
  { action: 'turnRight', label: TURNS.right.label, keyName: 'turnRight' },
  { action: 'turnOver', label: TURNS.over.label },
  { action: 'turnStored', label: TURNS.stored.label },
  { action: 'turnUpright', label: 'Turn upright, as faces say' },
  { action: 'private', label: 'Mark as private', secret: true },
  { action: 'open', label: 'Mark as no longer private', secret: true },
  { action: 'check', label: 'Check before delivery …' },
  { action: 'table', label: 'Take a table in …', alone: true },
  { action: 'fieldSets', label: 'Field sets …', alone: true, keeper: true },
  { action: 'quality', label: 'What counts as described …', alone: true, keeper: true },
];

export function DescribeMenu({ selection, photo }: Props) {
  const [action, setAction] = useState<Action | null>(null);
  const [copied, setCopied] = useState<CopiedFields | null>(null);
  const isKeeper = useMayChange('saveFieldSet');
  const knowsPrivate = useMayChange('setPrivate');
  const change = useChange();
  const navigate = useNavigate();
  const open = (wanted: Action) => {
    const item = ITEMS.find((each) => each.action === wanted);
    if (!item?.alone && !selection) return;
    if (wanted === 'table') void navigate('/deliver/tables');
    else if (wanted === 'copy') void copy();
    else if (wanted === 'paste' && !fieldsCopied()) toast('No fields have been copied yet.');
    else if (wanted === 'repeat' && !lastDescription()) toast('Nothing has been described yet.');
    else {
      const made = selection && CHANGES[wanted]?.(selection);
      if (made) change.mutate(made);
      else setAction(wanted);
    }
  };
  /** What the photo in focus says, to choose from. */
  const copy = async () => {
    if (!photo) return;
    try {
      const { fields, name } = await call(photoRoutes.showPhoto, { params: { id: photo.id } });
      const edits = DESCRIBED_FIELDS.flatMap(({ id }) => {
        const value = fields[id];
        return value === undefined || !isTarget(id) ? [] : [{ target: id, mode: 'replace' as const, value }];
      });
      if (edits.length === 0) toast(`${name} says nothing that could be copied.`);
      else setCopied({ from: name, edits });
    } catch (error) {
      showError(error);
    }
  };
  useKeys(
    Object.fromEntries(
      ITEMS.flatMap(({ action: wanted, keyName }) => (keyName ? [[keyName, () => open(wanted)] as const] : [])),
    ),
  );
  const close = () => setAction(null);
  const last = action === 'repeat' ? lastDescription() : undefined;
  const dialogs: Partial<Record<Action, (chosen: Selection) => ReactNode>> = {
    template: (chosen) => <TemplatesDialog selection={chosen} photo={photo} onClose={close} />,
    replace: (chosen) => <ReplaceDialog selection={chosen} onClose={close} />,
    tidy: (chosen) => <TidyDialog selection={chosen} onClose={close} />,
    time: (chosen) => <TimeDialog selection={chosen} photo={photo} onClose={close} />,
    paste: (chosen) => <PasteDialog selection={chosen} onClose={close} />,
    repeat: (chosen) =>
      last && (
        <DescribeDialog
          title="Repeat the last description"
          verb="Change"
          selection={chosen}
          description={last}
          onClose={close}
        />
      ),
    check: (chosen) => <CheckDialog selection={chosen} onClose={close} />,
    fieldSets: () => <FieldSetsDialog onClose={close} />,
    quality: () => <QualityDialog onClose={close} />,
  };
  return (
    <>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger className="rounded border border-line bg-card px-2.5 py-0.5 hover:border-ink-3">
          Describe
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="end"
            sideOffset={4}
            className="z-40 min-w-60 rounded-md border border-line bg-card p-1 text-[13px] shadow-lg"
          >
            {ITEMS.filter(({ keeper, secret }) => (!keeper || isKeeper) && (!secret || knowsPrivate)).map((item) => (
              <DropdownMenu.Item
                key={item.action}
                disabled={!item.alone && !selection}
                className={`flex cursor-pointer items-center gap-6 rounded px-2.5 py-1 outline-none data-[disabled]:cursor-default data-[disabled]:text-ink-3 data-[highlighted]:bg-spruce-pale ${BEGINNINGS.has(item.action) ? 'mt-1 border-t border-line' : ''}`}
                onSelect={() => open(item.action)}
              >
                {item.label}
                {item.keyName && <span className="ml-auto text-[12px] text-ink-2">{shownKey(item.keyName)}</span>}
              </DropdownMenu.Item>
            ))}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      {action && dialogs[action]?.(selection ?? { query: null, minus: [], plus: [] })}
      {copied && (
        <CopyDialog
          copied={copied}
          onClose={() => setCopied(null)}
          onCopied={(count) => {
            setCopied(null);
            toast(`${countText(count, 'field')} of ${copied.from} copied. ${shownKey('pasteFields')} pastes.`);
          }}
        />
      )}
    </>
  );
}
