// What can be done with the chosen photos as files, and as bundles.

import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { toast } from 'sonner';
import type { FilingAction } from '@stellin/contract/filing';
import type { Selection } from '@stellin/contract/photos';
import { writeBackRoutes } from '@stellin/contract/writeback';
import { useChange } from '../foundation/changes';
import { shownKey, type KeyAction } from '../foundation/keys';
import { useMayCall, useMayChange } from '../foundation/session';
import { useKeys } from '../foundation/useKeys';
import { NOTHING } from '../photos/chosen';
import { useSelection } from '../photos/selection';
import { useRun } from '../writeback/queries';
import { FilingDialog } from './FilingDialog';
import type { Place } from './FolderPicker';
import { usePlaceShown } from './placeShown';

interface Props {
  selection: Selection | null;
  /** The photo in focus, if it is in a bundle. */
  bundled: number | undefined;
  query: string;
}

type Item =
  | { file: FilingAction; label: string; keyName?: KeyAction }
  | { write: true; label: string; keyName?: KeyAction }
  | {
      bundle: 'bundlePhotos' | 'unbundlePhotos' | 'openBundles' | 'closeBundles' | 'lead';
      label: string;
      keyName?: KeyAction;
    };

const FILES: readonly Item[] = [
  { file: 'move', label: 'Move …', keyName: 'move' },
  { file: 'copy', label: 'Copy …' },
  { file: 'rename', label: 'Rename …', keyName: 'rename' },
  { file: 'trash', label: 'Trash …', keyName: 'trash' },
  { file: 'remove', label: 'Take out of the catalogue …' },
];
const WRITTEN: readonly Item[] = [{ write: true, label: 'Write them back now' }];
const TRASHED: readonly Item[] = [{ file: 'restore', label: 'Restore …' }];
const REMOVED: readonly Item[] = [{ file: 'return', label: 'Bring back into the catalogue …' }];
const BUNDLES: readonly Item[] = [
  { bundle: 'bundlePhotos', label: 'Bundle these', keyName: 'bundle' },
  { bundle: 'unbundlePhotos', label: 'Take out of the bundle', keyName: 'unbundle' },
  { bundle: 'lead', label: 'Let the photo in focus lead' },
  { bundle: 'openBundles', label: 'Open bundles', keyName: 'openBundles' },
  { bundle: 'closeBundles', label: 'Close bundles', keyName: 'closeBundles' },
];

/** What takes photos off the sheet, or may. */
const LEAVES: ReadonlySet<FilingAction> = new Set<FilingAction>(['move', 'trash', 'restore', 'remove', 'return']);

export function FilesMenu({ selection, bundled, query }: Props) {
  const [action, setAction] = useState<FilingAction | null>(null);
  const change = useChange();
  const { setChosen } = useSelection();
  const [files, bundles] = /\bis:trashed\b/i.test(query)
    ? [TRASHED, []]
    : /\bis:removed\b/i.test(query)
      ? [REMOVED, []]
      : [FILES, BUNDLES];
  const mayFile = useMayChange('trashFiles');
  const mayWrite = useMayCall(writeBackRoutes.run);
  const write = useRun();
  const groups = [mayFile ? files : [], mayWrite ? WRITTEN : [], bundles].filter(({ length }) => length > 0);
  const does = (item: Item) => {
    if (!selection) return;
    if ('file' in item) setAction(item.file);
    else if ('write' in item) write.mutate({ selection, retryFailed: true });
    else if (item.bundle !== 'lead') change.mutate({ kind: item.bundle, selection });
    else if (bundled !== undefined) change.mutate({ kind: 'chooseLead', photoId: bundled });
  };
  const items = groups.flat();
  const here = usePlaceShown(query);
  const [clip, setClip] = useState<{ action: 'move' | 'copy'; selection: Selection } | null>(null);
  const [pasted, setPasted] = useState<Place | null>(null);
  const clipAs = (action: 'move' | 'copy') => () => {
    if (!selection || files !== FILES) return;
    setClip({ action, selection });
    toast(
      `${action === 'move' ? 'Cut' : 'Copied'}: ${shownKey('pastePhotos')} puts them into the folder that is shown then.`,
    );
  };
  const paste = () => {
    if (!clip) toast(`Nothing was cut or copied: ${shownKey('cutPhotos')} and ${shownKey('copyPhotos')} do so.`);
    else if (!here) toast('Show the folder of a drive first into which they are to go.');
    else setPasted(here);
  };
  useKeys(mayFile ? { cutPhotos: clipAs('move'), copyPhotos: clipAs('copy'), pastePhotos: paste } : {});
  useKeys(
    Object.fromEntries(items.flatMap((item) => (item.keyName ? [[item.keyName, () => does(item)] as const] : []))),
  );
  return (
    <>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger
          disabled={!selection || groups.length === 0}
          className="rounded border border-line bg-card px-2.5 py-0.5 hover:border-ink-3 disabled:opacity-50"
        >
          Files
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="end"
            sideOffset={4}
            className="z-40 min-w-60 rounded-md border border-line bg-card p-1 text-[13px] shadow-lg"
          >
            {groups.map((group, i) => (
              <DropdownMenu.Group key={i} className={i > 0 ? 'mt-1 border-t border-line pt-1' : ''}>
                {group.map((item) => (
                  <DropdownMenu.Item
                    key={item.label}
                    disabled={'bundle' in item && item.bundle === 'lead' && bundled === undefined}
                    className="flex cursor-pointer items-center gap-6 rounded px-2.5 py-1 outline-none data-[disabled]:cursor-default data-[disabled]:text-ink-3 data-[highlighted]:bg-spruce-pale"
                    onSelect={() => does(item)}
                  >
                    {item.label}
                    {item.keyName && <span className="ml-auto text-[12px] text-ink-2">{shownKey(item.keyName)}</span>}
                  </DropdownMenu.Item>
                ))}
              </DropdownMenu.Group>
            ))}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      {pasted && clip && (
        <FilingDialog
          {...clip}
          place={pasted}
          onClose={() => setPasted(null)}
          onDone={() => {
            setPasted(null);
            if (clip.action === 'move') setClip(null);
          }}
        />
      )}
      {action && selection && (
        <FilingDialog
          action={action}
          selection={selection}
          onClose={() => setAction(null)}
          onDone={() => {
            setAction(null);
            if (LEAVES.has(action)) setChosen(NOTHING);
          }}
        />
      )}
    </>
  );
}
