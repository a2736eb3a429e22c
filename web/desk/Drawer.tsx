// The drawer along the bottom: tabs like index cards. It resizes by its edge, folds away with one key, and remembers.

import { Tabs } from 'radix-ui';
import { useEffect, useEffectEvent, useState, type ReactNode } from 'react';
import { z } from 'zod';
import type { Sort } from '@stellin/core/search/sorts';
import type { Photo, Selection } from '@stellin/contract/photos';
import { countText } from '@stellin/contract/wording';
import { shownKey } from '../foundation/keys';
import { useKeys } from '../foundation/useKeys';
import { useMayChange } from '../foundation/session';
import { DeliverButton } from '../delivering/DeliverButton';
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
import { PhotoPins } from '../plans/PhotoPins';
import { NarrowTab } from '../search/NarrowTab';
import { selectionOf } from '../photos/chosen';
import { BlocksTab } from './BlocksTab';
import { DetailsTab } from './DetailsTab';
import { HistoryTab } from './HistoryTab';
import { useChosenDescription, type Result } from '../photos/queries';
import { useSelection } from '../photos/selection';
import { TermsTab } from './TermsTab';

const keptState = z.object({ folded: z.boolean(), tab: z.string() });
type Kept = z.infer<typeof keptState>;

/** Whether it is folded while pictures are looked at, by how wide the window is: on a wide screen there is room for both. */
const lookingState = z.record(z.string(), z.boolean());
const WIDE_PIXELS = 1600;

/**
 * The state of the drawer. While nothing is chosen it is folded, unless one opens it; while pictures are looked at it is folded or not
 * by a choice of its own.
 */
function useKept(isLooking: boolean, isEmpty: boolean): [Kept, (kept: Kept) => void] {
  const [kept, setKept] = useStored<Kept>('drawer', keptState, { folded: false, tab: 'terms' });
  const [looking, setLooking] = useStored('drawerLooking', lookingState, {});
  const [isWanted, setWanted] = useState(false);
  if (!isEmpty && isWanted) setWanted(false);
  if (!isLooking && isEmpty)
    return [
      { ...kept, folded: !isWanted },
      ({ folded, tab }) => {
        setKept({ ...kept, tab });
        setWanted(!folded);
      },
    ];
  if (!isLooking) return [kept, setKept];
  const width = window.innerWidth >= WIDE_PIXELS ? 'wide' : 'narrow';
  return [
    { ...kept, folded: looking[width] ?? true },
    ({ folded, tab }) => {
      setKept({ ...kept, tab });
      setLooking({ ...looking, [width]: folded });
    },
  ];
}

interface Props {
  result: Result;
  /** The one in focus. */
  photo: Photo | undefined;
  show: (change: Partial<Result>) => void;
  /** Single pictures are looked at: it folds to its tabs, unless one wants it open. */
  isLooking: boolean;
  /** Goes on to the next photo, where that is not the next of the result. */
  onNext?: () => void;
  /** The tab that is wanted first, whichever was open before. */
  begins?: DrawerTab | undefined;
  /** What stands above the drawer. */
  children: ReactNode;
}

export function Drawer({ result, photo, show, isLooking, begins, onNext, children }: Props) {
  const { chosen } = useSelection();
  const selection = selectionOf(chosen, result.query);
  const [kept, setKept] = useKept(isLooking, selection === null);
  const { data: described } = useChosenDescription(selection);
  const focused = photo?.id;
  const [describing, setDescribing] = useState(false);
  const lookedAt = chosen.plus.size > 0 ? [...chosen.plus] : focused === undefined ? [] : [focused];
  useLookingAt(lookedAt, describing ? 'describing' : 'looking');
  const change = (part: Partial<Kept>) => setKept({ ...kept, ...part });
  const begin = useEffectEvent((tab: DrawerTab) => change({ folded: false, tab }));
  useEffect(() => {
    if (begins) begin(begins);
  }, [begins]);
  const fold = () => change({ folded: !kept.folded });
  const { wantsTerms, setWantsTerms, wantsFields, setWantsFields, wantsPeople } = useDrawerKeys(fold, (tab) =>
    change({ folded: false, tab }),
  );
  const tab: DrawerTab = kept.tab in TABS ? (kept.tab as DrawerTab) : 'terms';
  const contents: Readonly<Record<DrawerTab, () => ReactNode>> = {
    narrow: () => <NarrowTab query={result.query} show={show} />,
    terms: () => (
      <TermsTab
        wantsFocus={wantsTerms}
        onFocused={() => setWantsTerms(false)}
        selection={selection}
        described={selection ? described : undefined}
      />
    ),
    fields: () => (
      <FieldsTab
        selection={selection}
        result={result}
        onNext={onNext}
        wantsFocus={wantsFields}
        onDescribing={setDescribing}
        onFocused={() => setWantsFields(false)}
      />
    ),
    people: () => (
      <PeopleTab
        selection={selection}
        photoId={described?.count === 1 ? (focused ?? null) : null}
        count={described?.count ?? 0}
        focusKey={wantsPeople}
      />
    ),
    place: () => (
      <PlaceTimeTab selection={selection} count={described?.count ?? 0} photoId={focused}>
        {selection && focused !== undefined && (
          <PhotoPins selection={selection} count={described?.count ?? 0} photoId={focused} />
        )}
      </PlaceTimeTab>
    ),
    details: () => <DetailsTab photoId={focused} />,
    blocks: () => <BlocksTab photoId={focused} />,
    history: () => <HistoryTab photo={photo} count={described?.count ?? 1} />,
  };
  return (
    <Split
      name={`drawerHeight.${tab}`}
      label="Height of the drawer"
      at="bottom"
      size={{ ...HEIGHT, usual: TABS[tab].height }}
      foldedTo={kept.folded ? FOLDED_HEIGHT : undefined}
      sized={
        <DrawerTabs kept={kept} onTab={(tab) => change({ tab, folded: false })} contents={contents}>
          <DrawerHead folded={kept.folded} onFold={fold} {...{ selection, described, photo, lookedAt }} {...result} />
        </DrawerTabs>
      }
    >
      {children}
    </Split>
  );
}

/** The tabs in their order, whether what they hold scrolls as a whole, and how many pixels it usually needs. */
const TABS = {
  narrow: { label: 'Narrow', scrolls: false, height: 230 },
  terms: { label: 'Terms', scrolls: false, height: 186 },
  fields: { label: 'Fields', scrolls: false, height: 262 },
  people: { label: 'People', scrolls: false, height: 230 },
  place: { label: 'Place & time', scrolls: false, height: 262 },
  details: { label: 'Details', scrolls: true, height: 230 },
  blocks: { label: 'Blocks', scrolls: true, height: 262 },
  history: { label: 'History', scrolls: true, height: 230 },
} as const;
export type DrawerTab = keyof typeof TABS;

const HEIGHT = { lowest: 150, highest: 620 };
const FOLDED_HEIGHT = 34;

/** The keys of the drawer, and which of its fields is to take the focus since one was pressed. */
function useDrawerKeys(fold: () => void, open: (tab: DrawerTab) => void) {
  const [wantsTerms, setWantsTerms] = useState(false);
  const [wantsFields, setWantsFields] = useState(false);
  const [wantsPeople, setWantsPeople] = useState(0);
  useKeys({
    drawer: fold,
    fields: () => {
      open('fields');
      setWantsFields(true);
    },
    terms: () => {
      open('terms');
      setWantsTerms(true);
    },
    people: () => {
      open('people');
      setWantsPeople((before) => before + 1);
    },
    narrow: () => open('narrow'),
  });
  return { wantsTerms, setWantsTerms, wantsFields, setWantsFields, wantsPeople };
}

interface TabsProps {
  kept: Kept;
  onTab: (tab: string) => void;
  contents: Readonly<Record<DrawerTab, () => ReactNode>>;
  /** What stands above what a tab holds. */
  children: ReactNode;
}

function DrawerTabs({ kept, onTab, contents, children: head }: TabsProps) {
  return (
    <Tabs.Root value={kept.tab} onValueChange={onTab} className="flex h-full flex-col bg-card" aria-label="Drawer">
      {head}
      {/* What a tab controls is there for assistive technology, though nothing of it is seen. */}
      {kept.folded && <Tabs.Content value={kept.tab} className="hidden" />}
      {!kept.folded &&
        Object.entries(TABS).map(([value, { scrolls }]) => (
          <Tabs.Content
            key={value}
            value={value}
            className={`min-h-0 flex-1 ${scrolls ? 'overflow-y-auto' : ''}`}
            tabIndex={scrolls ? 0 : -1}
          >
            {contents[value as DrawerTab]()}
          </Tabs.Content>
        ))}
    </Tabs.Root>
  );
}

interface HeadProps {
  folded: boolean;
  onFold: () => void;
  selection: Selection | null;
  described: ReturnType<typeof useChosenDescription>['data'];
  photo: Photo | undefined;
  lookedAt: number[];
  query: string;
  sort: Sort;
}

/** The tabs, and what can be done with the chosen photos whichever of them is open. */
function DrawerHead({ folded, onFold, selection, described, photo, lookedAt, query, sort }: HeadProps) {
  const mayChange = useMayChange('setFields');
  return (
    <div className="flex h-[34px] shrink-0 items-end gap-1 border-b border-line bg-ground px-3">
      <Tabs.List className="flex gap-1" aria-label="Drawer">
        {Object.entries(TABS).map(([value, { label }]) => (
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
        {mayChange && <FilesMenu selection={selection} bundled={photo?.bundle ? photo.id : undefined} query={query} />}
        <DeliverButton selection={selection} sort={sort} />
        <Tooltip text={folded ? 'Open the drawer' : 'Fold the drawer'} keyName={shownKey('drawer')}>
          <button type="button" className="text-slate hover:underline" onClick={onFold}>
            {folded ? 'Open' : 'Fold'}
          </button>
        </Tooltip>
      </span>
    </div>
  );
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
