// The Desk: query line, sources, sheet (or the viewer in its place), drawer.

import { useQueryClient } from '@tanstack/react-query';
import { Activity, useEffect, useRef, useState } from 'react';
import { flushSync } from 'react-dom';
import { toast } from 'sonner';
import { criterion } from '@stellin/core/query/query';
import { queryText } from '@stellin/core/search/language';
import type { FoundStretch } from '@stellin/contract/media';
import { MAX_PASSED, type Photo } from '@stellin/contract/photos';
import { countText } from '@stellin/contract/wording';
import { showError } from '../foundation/changes';
import { useKeys } from '../foundation/useKeys';
import { useMayChange } from '../foundation/session';
import { Calendar } from '../calendar/Calendar';
import { QueryBuilder } from '../search/QueryBuilder';
import { QueryLine, type QueryLineHandle } from '../search/QueryLine';
import { Split } from '../parts/Split';
import { rememberSearch } from '../search/queries';
import { SearchDialog } from '../search/SearchDialog';
import { Breadcrumb } from '../stepping/Breadcrumb';
import { TimeRuler } from '../search/TimeRuler';
import { WhyDialog } from '../search/WhyDialog';
import { Pass } from '../viewer/Pass';
import { Viewer } from '../viewer/Viewer';
import { useResultChange, useSteadyFocus } from './changes';
import { FoundStretches } from '../media/FoundStretches';
import { chooseOne, NOTHING, selectionOf } from '../photos/chosen';
import { Drawer } from './Drawer';
import { useHeadings } from './headings';
import { useFocusedPhoto } from '../photos/focused';
import { photosBetween, photosOfSelection, useCount } from '../photos/queries';
import { useResult } from '../photos/result';
import { useSelection } from '../photos/selection';
import { useSheetSize } from '../photos/sheetSize';
import { Sheet } from './Sheet';
import { Sources } from './Sources';
import { useChoiceKeys } from './useChoiceKeys';
import { Failed } from '../parts/Queried';

/** What is looked at in the place of the sheet. */
type Looking =
  | { kind: 'one'; from?: { photoId: number; seconds: number } }
  | { kind: 'calendar' }
  | { kind: 'compare'; photos: Photo[] }
  | { kind: 'pass'; photos: Photo[] };

const SOURCES_WIDTH = { lowest: 150, usual: 224, highest: 480 };
const MAX_COMPARED = 6;
const REMEMBERED_AFTER_MS = 2500;

export function DeskScreen() {
  const { query, sort, show } = useResult();
  const count = useCount(query);
  const { chosen, setChosen, setTotal } = useSelection();
  const [size, setSize] = useSheetSize();
  const [headings, setHeadings] = useHeadings();
  /** The dialog that is open over the Desk. */
  const [asking, setAsking] = useState<'save' | 'build' | { why: number | undefined } | null>(null);
  const ruler = useRef<HTMLDivElement>(null);
  const [isCalendarOpen, setCalendarOpen] = useState(false);
  const [looking, setLooking] = useState<Looking | null>(null);
  const queryLine = useRef<QueryLineHandle>(null);
  const mayChange = useMayChange('setRating');
  const total = count.data?.count ?? 0;

  const changed = useResultChange({ query, sort }, count.isPlaceholderData ? undefined : count.data?.count);
  useSteadyFocus({ query, sort }, count.dataUpdatedAt);

  useEffect(() => {
    setChosen(NOTHING);
    setLooking(null);
    setCalendarOpen(false);
  }, [query, sort, setChosen]);
  useEffect(() => setTotal(total), [total, setTotal]);
  // Only what one stays with is worth remembering.
  useEffect(() => {
    const timer = setTimeout(() => void rememberSearch(query, sort).catch(() => undefined), REMEMBERED_AFTER_MS);
    return () => clearTimeout(timer);
  }, [query, sort]);
  useEffect(() => () => setTotal(null), [setTotal]);

  const client = useQueryClient();
  const focused = useFocusedPhoto({ query, sort });
  const photoInFocus = async () =>
    chosen.focus === null ? undefined : (await photosBetween(client, { query, sort }, chosen.focus, chosen.focus))[0];
  useChoiceKeys(query, chosen, mayChange, photoInFocus);
  const photosOfChoice = async (limit: number) => {
    const selection = selectionOf(chosen, query);
    return selection ? photosOfSelection(selection, sort, limit) : [];
  };
  const compare = async () => {
    const photos = await photosOfChoice(MAX_COMPARED + 1);
    if (photos.length < 2 || photos.length > MAX_COMPARED) toast('Choose two to six photos to compare.');
    else setLooking({ kind: 'compare', photos });
  };
  const pass = async () => {
    const photos = await photosOfChoice(MAX_PASSED);
    if (photos.length < 2) toast('Choose the photos to pass through.');
    else setLooking({ kind: 'pass', photos });
    if (photos.length === MAX_PASSED) toast(`A pass goes through the first ${countText(MAX_PASSED, 'photo')}.`);
  };
  const showLike = (photoId: number) =>
    show({ query: queryText(criterion('like', String(photoId))), sort: 'likeness' });
  const openCalendar = () => setCalendarOpen((before) => !before);
  const open = () => setLooking((before) => (before ? null : { kind: 'one' }));
  const openStretch = ({ photoId, position, from }: FoundStretch) => {
    setChosen(chooseOne(photoId, position));
    setLooking({ kind: 'one', from: { photoId, seconds: from } });
  };
  useKeys({
    query: () => {
      // Seen again before it takes the focus.
      flushSync(() => setLooking(null));
      queryLine.current?.focus();
    },
    saveSearch: () => mayChange && setAsking('save'),
    build: () => setAsking('build'),
    why: () => void photoInFocus().then((photo) => setAsking({ why: photo?.id })),
    lookalikes: () => void photoInFocus().then((photo) => photo && showLike(photo.id)),
    ruler: () => {
      flushSync(() => setLooking(null));
      ruler.current?.focus();
    },
    calendar: openCalendar,
    open: () => chosen.focus !== null && looking === null && open(),
    compare: () => void compare().catch(showError),
    pass: () => void pass().catch(showError),
  });

  return (
    <div className="flex h-full flex-col">
      {/* Whoever looks at pictures has the room for them; what was typed stays, and nothing is drawn for it meanwhile. */}
      <Activity mode={looking === null ? 'visible' : 'hidden'}>
        <QueryLine
          ref={queryLine}
          query={query}
          sort={sort}
          show={show}
          size={size}
          onSize={setSize}
          headings={headings}
          onHeadings={setHeadings}
          found={count.data}
          changed={changed}
          onBuild={() => setAsking('build')}
          onSave={mayChange ? () => setAsking('save') : undefined}
        />
        <Breadcrumb query={query} show={show} />
        <TimeRuler ref={ruler} query={query} show={show} onCalendar={openCalendar} />
      </Activity>
      {isCalendarOpen ? (
        <Calendar query={query} show={show} mayName={mayChange} onClose={() => setCalendarOpen(false)} />
      ) : (
        <Drawer result={{ query, sort }} photo={focused} show={show} isLooking={looking !== null}>
          {looking?.kind === 'pass' ? (
            <Pass photos={looking.photos} mayChange={mayChange} onClose={() => setLooking(null)} />
          ) : looking ? (
            <Viewer
              result={{ query, sort }}
              total={total}
              from={looking.kind === 'one' ? (looking.from ?? null) : null}
              compared={looking.kind === 'compare' ? looking.photos : null}
              onClose={() => setLooking(null)}
              onPass={() => void pass().catch(showError)}
              onLike={showLike}
            />
          ) : (
            <Split
              name="sourcesWidth"
              label="Width of the sources"
              at="left"
              size={SOURCES_WIDTH}
              sized={<Sources query={query} sort={sort} show={show} size={size} onSize={setSize} />}
            >
              <div className="flex min-h-0 flex-col">
                <FoundStretches result={{ query, sort }} onOpen={openStretch} />
                <Sheet
                  result={{ query, sort }}
                  total={total}
                  isLoading={count.isPending}
                  failure={count.error && !count.data && <Failed query={count} className="m-4" />}
                  rowHeight={size}
                  headings={headings}
                  onOpen={open}
                />
              </div>
            </Split>
          )}
        </Drawer>
      )}
      {asking === 'save' && <SearchDialog query={query} sort={sort} size={size} onClose={() => setAsking(null)} />}
      {asking === 'build' && <QueryBuilder query={query} show={show} onClose={() => setAsking(null)} />}
      {asking !== null && typeof asking === 'object' && (
        <WhyDialog query={query} show={show} photoId={asking.why} onClose={() => setAsking(null)} />
      )}
    </div>
  );
}
