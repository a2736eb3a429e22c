// The drawer along the bottom: tabs like index cards. It resizes by its edge, folds away with one key, and remembers.

import { Tabs } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { z } from 'zod';
import type { Photo } from '@stellin/contract/photos';
import { countText } from '@stellin/contract/wording';
import { shownKey } from '../foundation/keys';
import { useKeys } from '../foundation/useKeys';
import { useMayChange } from '../foundation/session';
import { DescribeMenu } from '../describing/DescribeMenu';
import { FieldsTab } from '../describing/FieldsTab';
import { FilesMenu } from '../filing/FilesMenu';
import { Split } from '../parts/Split';
import { Tooltip } from '../parts/Tooltip';
import { useStored } from '../foundation/useStored';
import { OnlookerLine } from '../onlookers/Onlookers';
import { useLookingAt } from '../onlookers/queries';
import { PeopleTab } from '../people/PeopleTab';
import { PlaceTimeTab } from '../places/PlaceTimeTab';
import { NarrowTab } from '../search/NarrowTab';
import { selectionOf } from '../photos/chosen';
import { BlocksTab } from './BlocksTab';
import { DetailsTab } from './DetailsTab';
import { HistoryTab } from './HistoryTab';
import { useBlock, useChosenDescription, BLOCK, type Result } from '../photos/queries';
import { useSelection } from '../photos/selection';
import { TermsTab } from './TermsTab';

const keptState = z.object({ folded: z.boolean(), tab: z.string() });
type Kept = z.infer<typeof keptState>;

interface Props {
  result: Result;
  show: (change: Partial<Result>) => void;
  /** What stands above the drawer. */
  children: ReactNode;
}

export function Drawer({ result, show, children }: Props) {
  const [kept, setKept] = useStored<Kept>('drawer', keptState, { folded: false, tab: 'terms' });
  // The key was pressed, and the field for terms has not had the focus since.
  const [wantsTerms, setWantsTerms] = useState(false);
  const [wantsFields, setWantsFields] = useState(false);
  const [wantsPeople, setWantsPeople] = useState(0);
  const { chosen } = useSelection();
  const selection = selectionOf(chosen, result.query);
  const { data: described } = useChosenDescription(selection);
  const photo = useFocusedPhoto(result);
  const focused = photo?.id;
  const [describing, setDescribing] = useState(false);
  const lookedAt = chosen.plus.size > 0 ? [...chosen.plus] : focused === undefined ? [] : [focused];
  useLookingAt(lookedAt, describing ? 'describing' : 'looking');
  const mayChange = useMayChange('setFields');
  const change = (part: Partial<Kept>) => setKept({ ...kept, ...part });
  const fold = () => change({ folded: !kept.folded });
  const openTerms = () => {
    change({ folded: false, tab: 'terms' });
    setWantsTerms(true);
  };
  const openFields = () => {
    change({ folded: false, tab: 'fields' });
    setWantsFields(true);
  };
  useKeys({
    drawer: fold,
    fields: openFields,
    terms: () => openTerms(),
    people: () => {
      change({ folded: false, tab: 'people' });
      setWantsPeople((before) => before + 1);
    },
    narrow: () => change({ folded: false, tab: 'narrow' }),
  });

  const drawer = (
    <Tabs.Root
      value={kept.tab}
      onValueChange={(tab) => change({ tab, folded: false })}
      className="flex h-full flex-col bg-card"
      aria-label="Drawer"
    >
      <div className="flex h-[34px] shrink-0 items-end gap-1 border-b border-line bg-ground px-3">
        <Tabs.List className="flex gap-1" aria-label="Drawer">
          {[
            ['narrow', 'Narrow'],
            ['terms', 'Terms'],
            ['fields', 'Fields'],
            ['people', 'People'],
            ['place', 'Place & time'],
            ['details', 'Details'],
            ['blocks', 'Blocks'],
            ['history', 'History'],
          ].map(([value = '', label]) => (
            <Tabs.Trigger
              key={value}
              value={value}
              className="relative -mb-px h-[29px] rounded-t border border-line bg-transparent px-3.5 text-ink-2 data-[state=active]:border-b-transparent data-[state=active]:bg-card data-[state=active]:font-semibold data-[state=active]:text-ink"
            >
              {label}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        <span className="ml-auto flex h-full items-center gap-3 text-[12px]">
          <OnlookerLine photoIds={lookedAt} />
          {selection && described && <ChosenLine count={described.count} drives={described.drives} />}
          {mayChange && <DescribeMenu selection={selection} photo={photo} />}
          {mayChange && (
            <FilesMenu selection={selection} bundled={photo?.bundle ? photo.id : undefined} query={result.query} />
          )}
          <Tooltip text={kept.folded ? 'Open the drawer' : 'Fold the drawer'} keyName={shownKey('drawer')}>
            <button type="button" className="text-slate hover:underline" onClick={fold}>
              {kept.folded ? 'Open' : 'Fold'}
            </button>
          </Tooltip>
        </span>
      </div>
      {!kept.folded && (
        <>
          <Tabs.Content value="narrow" className="min-h-0 flex-1" tabIndex={-1}>
            <NarrowTab query={result.query} show={show} />
          </Tabs.Content>
          <Tabs.Content value="terms" className="min-h-0 flex-1" tabIndex={-1}>
            <TermsTab
              wantsFocus={wantsTerms}
              onFocused={() => setWantsTerms(false)}
              selection={selection}
              described={selection ? described : undefined}
            />
          </Tabs.Content>
          <Tabs.Content value="fields" className="min-h-0 flex-1" tabIndex={-1}>
            <FieldsTab
              selection={selection}
              result={result}
              wantsFocus={wantsFields}
              onDescribing={setDescribing}
              onFocused={() => setWantsFields(false)}
            />
          </Tabs.Content>
          <Tabs.Content value="people" className="min-h-0 flex-1" tabIndex={-1}>
            <PeopleTab
              selection={selection}
              photoId={described?.count === 1 ? (focused ?? null) : null}
              count={described?.count ?? 0}
              focusKey={wantsPeople}
            />
          </Tabs.Content>
          <Tabs.Content value="place" className="min-h-0 flex-1" tabIndex={-1}>
            <PlaceTimeTab selection={selection} count={described?.count ?? 0} photoId={focused} />
          </Tabs.Content>
          <Tabs.Content value="details" className="min-h-0 flex-1 overflow-y-auto" tabIndex={0}>
            <DetailsTab photoId={focused} />
          </Tabs.Content>
          <Tabs.Content value="blocks" className="min-h-0 flex-1 overflow-y-auto" tabIndex={0}>
            <BlocksTab photoId={focused} />
          </Tabs.Content>
          <Tabs.Content value="history" className="min-h-0 flex-1 overflow-y-auto" tabIndex={0}>
            <HistoryTab photo={photo} count={described?.count ?? 1} />
          </Tabs.Content>
        </>
      )}
    </Tabs.Root>
  );
  return (
    <Split
      name="drawerHeight"
      label="Height of the drawer"
      at="bottom"
      size={HEIGHT}
      foldedTo={kept.folded ? FOLDED_HEIGHT : undefined}
      sized={drawer}
    >
      {children}
    </Split>
  );
}

const HEIGHT = { lowest: 150, usual: 262, highest: 620 };
const FOLDED_HEIGHT = 34;

/** The photo that has the focus on the sheet. */
function useFocusedPhoto(result: Result): Photo | undefined {
  const { chosen } = useSelection();
  const { data } = useBlock(result, Math.floor((chosen.focus ?? 0) / BLOCK));
  return chosen.focus === null ? undefined : data?.[chosen.focus % BLOCK];
}

function ChosenLine({ count, drives }: { count: number; drives: { label: string; away: boolean; photos: number }[] }) {
  const away = drives.filter((drive) => drive.away).reduce((sum, { photos }) => sum + photos, 0);
  const [first] = drives;
  const where =
    drives.length === 1 && first
      ? `on ${first.label}${first.away ? ' (away)' : ''}`
      : `on ${countText(drives.length, 'drive')}${away ? `, ${away} away` : ''}`;
  return (
    <span className="figures text-ink-2">
      <b className="text-spruce">{countText(count, 'photo')}</b> chosen {where}
    </span>
  );
}
