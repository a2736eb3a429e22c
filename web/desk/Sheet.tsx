// The sheet: all photos of a result in justified rows, read and drawn only where one looks. Blocks not looked at yet have
// an estimated height, so the scrollbar is true for a million as for ten.

import { useQueryClient } from '@tanstack/react-query';
import { useVirtualizer } from '@tanstack/react-virtual';
import {
  useCallback,
  useEffect,
  useEffectEvent,
  useMemo,
  useRef,
  useState,
  type MouseEvent,
  type ReactNode,
  type RefObject,
} from 'react';
import { Link } from 'react-router';
import { sortOrder, type Sort } from '@stellin/core/search/sorts';
import type { Photo } from '@stellin/contract/photos';
import { numberText } from '@stellin/contract/wording';
import { useChange } from '../foundation/changes';
import { useKeys } from '../foundation/useKeys';
import { useArranging } from '../dossiers/arranging';
import { chooseAll, chooseOne, chooseRange, isChosen, NOTHING, toggle, selectionOfGrasped } from '../photos/chosen';
import { GROUP_LABELS, stepGroup, type PlacedGroup } from '../photos/groups';
import { nearest, neighbour, USUAL_ASPECT, type Layout, type LayoutOptions } from './justify';
import { CAPTION_HEIGHT, PhotoTile } from './PhotoTile';
import { BLOCK, photosBetween, useBlock, useGroups, type Result } from '../photos/queries';
import { estimateBlock, HEADING_HEIGHT, layBlock } from './sections';
import { useSelection } from '../photos/selection';

const NO_GROUPS: readonly PlacedGroup[] = [];
const PADDING = 12;
const GAP = 10;

interface SheetProps {
  result: Result;
  total: number;
  /** Why the result could not be counted. */
  failure: ReactNode;
  isLoading: boolean;
  /** Of the rows of pictures, in pixels. */
  rowHeight: number;
  /** Whether groups have headings. */
  headings: boolean;
  /** Looks at the photo in focus. */
  onOpen: () => void;
}

export function Sheet({ result, total, failure, isLoading, rowHeight, headings, onOpen }: SheetProps) {
  const { data: groups = NO_GROUPS } = useGroups(result);
  const shownGroups = headings ? groups : NO_GROUPS;
  const scroller = useRef<HTMLDivElement>(null);
  const width = useWidth(scroller) - PADDING * 2;
  const layouts = useRef(new Map<number, Layout>());
  const blocks = Math.ceil(total / BLOCK);
  const options = useMemo(() => ({ width, rowHeight, gap: GAP, caption: CAPTION_HEIGHT }), [width, rowHeight]);
  const virtualizer = useVirtualizer({
    count: width > 0 ? blocks : 0,
    getScrollElement: () => scroller.current,
    estimateSize: (block) =>
      estimateBlock(Math.min(BLOCK, total - block * BLOCK), shownGroups, block * BLOCK, { ...options, last: false }),
    overscan: 1,
    paddingStart: PADDING,
  });
  useEffect(() => {
    layouts.current.clear();
    virtualizer.measure();
  }, [options, shownGroups, result.query, result.sort, virtualizer]);
  useEffect(() => {
    scroller.current?.scrollTo({ top: 0 });
  }, [result.query, result.sort]);

  const noteLayout = useCallback((block: number, layout: Layout) => layouts.current.set(block, layout), []);
  const reveal = (position: number) => {
    const show = () => {
      const tile = scroller.current?.querySelector(`[data-position="${position}"]`);
      tile?.scrollIntoView({ block: 'nearest' });
      return tile !== null && tile !== undefined;
    };
    // A block that is not drawn yet has to be brought near first.
    if (show()) return;
    virtualizer.scrollToIndex(Math.floor(position / BLOCK), { align: 'auto' });
    requestAnimationFrame(show);
  };
  const choose = useChoosing(result, total, groups, layouts, reveal);
  const { chosen } = useSelection();
  const onDropTerms = useDroppedTerms(result.query);
  const onDropPhotos = useArranging(result, total);
  const focus = useRef(chosen.focus);
  // Back from the viewer, one is where the viewer was.
  useEffect(() => {
    if (focus.current === null || width <= 0) return;
    const target = focus.current;
    focus.current = null;
    requestAnimationFrame(() => reveal(target));
  });

  // Where the drawer opens over it, the photo that was just chosen stays in sight.
  useWhenLower(scroller, () => chosen.focus !== null && reveal(chosen.focus));

  return (
    <div
      ref={scroller}
      tabIndex={0}
      role="listbox"
      aria-label="Photos"
      aria-multiselectable="true"
      className="relative min-h-0 min-w-0 flex-1 overflow-y-auto bg-ground outline-offset-[-2px]"
      onClick={choose.onClickBeside}
      onDoubleClick={onOpen}
    >
      {failure}
      {total === 0 && !isLoading && !failure && <NothingFound query={result.query} />}
      <div data-in-flow style={{ height: virtualizer.getTotalSize(), position: 'relative' }}>
        {virtualizer.getVirtualItems().map((item) => (
          <div
            key={item.key}
            data-in-flow
            ref={virtualizer.measureElement}
            data-index={item.index}
            style={{
              position: 'absolute',
              top: 0,
              left: PADDING,
              right: PADDING,
              transform: `translateY(${item.start}px)`,
            }}
          >
            <Block
              result={result}
              block={item.index}
              size={item.size}
              groups={shownGroups}
              options={{ ...options, last: item.index === blocks - 1 }}
              onLayout={noteLayout}
              onClickPhoto={choose.onClickPhoto}
              onDropTerms={onDropTerms}
              onDropPhotos={onDropPhotos}
            />
          </div>
        ))}
      </div>
    </div>
  );
}

/** Does something when an element has become lower. */
function useWhenLower(element: RefObject<HTMLElement | null>, act: () => void): void {
  const latest = useEffectEvent(act);
  useEffect(() => {
    const target = element.current;
    if (!target) return;
    let before = target.clientHeight;
    const observer = new ResizeObserver(() => {
      if (target.clientHeight < before) latest();
      before = target.clientHeight;
    });
    observer.observe(target);
    return () => observer.disconnect();
  }, [element]);
}

/** Terms dropped on a photo are given to it, or to all that are chosen when it is one of them. */
function useDroppedTerms(query: string): (termIds: number[], photo: Photo) => void {
  const { chosen } = useSelection();
  const change = useChange();
  const latest = useRef({ chosen, query, change });
  useEffect(() => {
    latest.current = { chosen, query, change };
  });
  return useCallback((termIds: number[], photo: Photo) => {
    const { chosen: now, query: asked, change: give } = latest.current;
    if (termIds.length === 0) return;
    give.mutate({ kind: 'giveTerms', selection: selectionOfGrasped(now, asked, photo.id), termIds });
  }, []);
}

interface BlockProps {
  result: Result;
  block: number;
  size: number;
  groups: readonly PlacedGroup[];
  options: LayoutOptions;
  onLayout: (block: number, layout: Layout) => void;
  onClickPhoto: (event: MouseEvent, photo: Photo, position: number) => void;
  onDropTerms: (termIds: number[], photo: Photo) => void;
  onDropPhotos: ((grasped: number, before: Photo) => void) | undefined;
}

function Block({
  result,
  block,
  size,
  groups,
  options,
  onLayout,
  onClickPhoto,
  onDropTerms,
  onDropPhotos,
}: BlockProps) {
  const { data: photos } = useBlock(result, block);
  const { chosen } = useSelection();
  const { width, rowHeight, gap, caption, last } = options;
  const layout = useMemo(
    () =>
      photos &&
      layBlock(
        photos.map((photo) => (photo.width && photo.height ? photo.width / photo.height : USUAL_ASPECT)),
        groups,
        block * BLOCK,
        { width, rowHeight, gap, caption, last },
      ),
    [photos, groups, block, width, rowHeight, gap, caption, last],
  );
  useEffect(() => {
    if (layout) onLayout(block, layout);
  }, [block, layout, onLayout]);
  if (!photos || !layout) return <div style={{ height: size }} />;
  return (
    <div style={{ height: layout.height, position: 'relative' }}>
      {layout.headings.map(({ group, top }) => (
        <GroupHeading key={group.start} group={group} top={top} sort={result.sort} />
      ))}
      {layout.rows.flat().map((place) => {
        const photo = photos[place.index];
        if (!photo) return null;
        const position = block * BLOCK + place.index;
        return (
          <PhotoTile
            key={photo.id}
            photo={photo}
            place={place}
            position={position}
            chosen={isChosen(chosen, photo.id)}
            focused={chosen.focus === position}
            onClick={onClickPhoto}
            onDropTerms={onDropTerms}
            onDropPhotos={onDropPhotos}
          />
        );
      })}
    </div>
  );
}

function GroupHeading({ group, top, sort }: { group: PlacedGroup; top: number; sort: Sort }) {
  const { groupBy } = sortOrder(sort);
  return (
    <div
      role="presentation"
      className="absolute right-0 left-0 flex items-baseline gap-2.5 border-b border-line pb-1"
      style={{ top: top + 6, height: HEADING_HEIGHT - 12 }}
    >
      <span className="truncate font-title text-[14px] font-semibold">
        {groupBy && GROUP_LABELS[groupBy](group.key)}
      </span>
      <span className="figures text-[12px] whitespace-nowrap text-ink-2">{numberText(group.count)}</span>
    </div>
  );
}

/** Choosing by click, shift and keys. */
function useChoosing(
  result: Result,
  total: number,
  groups: readonly PlacedGroup[],
  layouts: React.RefObject<Map<number, Layout>>,
  reveal: (position: number) => void,
) {
  const client = useQueryClient();
  const { chosen, setChosen } = useSelection();

  const extendTo = async (position: number) => {
    const anchor = chosen.anchor ?? position;
    const photos = await photosBetween(client, result, Math.min(anchor, position), Math.max(anchor, position));
    setChosen((before) =>
      chooseRange(
        before,
        photos.map(({ id }) => id),
        position,
      ),
    );
  };
  const moveTo = async (position: number, extend: boolean) => {
    if (total === 0) return;
    const target = Math.max(0, Math.min(total - 1, position));
    if (extend) await extendTo(target);
    else {
      const [photo] = await photosBetween(client, result, target, target);
      if (photo) setChosen(chooseOne(photo.id, target));
    }
    reveal(target);
  };
  const step = (by: number) => (extend: boolean) => void moveTo(chosen.focus === null ? 0 : chosen.focus + by, extend);
  const stepTo = (by: 1 | -1, far: boolean) => () => {
    const target = stepGroup(groups, chosen.focus ?? 0, by, far);
    if (target !== undefined) void moveTo(target, false);
  };
  const rowStep = (by: 1 | -1) => (extend: boolean) =>
    void moveTo(chosen.focus === null ? 0 : rowNeighbour(layouts.current, chosen.focus, by), extend);
  const toggleFocused = async () => {
    if (chosen.focus === null) return;
    const { focus } = chosen;
    const [photo] = await photosBetween(client, result, focus, focus);
    if (photo) setChosen((before) => toggle(before, photo.id, focus));
  };
  useKeys({
    left: step(-1),
    right: step(1),
    up: rowStep(-1),
    down: rowStep(1),
    first: (extend: boolean) => void moveTo(0, extend),
    last: (extend: boolean) => void moveTo(total - 1, extend),
    nextGroup: stepTo(1, false),
    groupBefore: stepTo(-1, false),
    nextStretch: stepTo(1, true),
    stretchBefore: stepTo(-1, true),
    toggle: () => void toggleFocused(),
    chooseAll: () => setChosen(chooseAll),
    chooseNone: () => setChosen(NOTHING),
  });

  return {
    onClickPhoto: (event: MouseEvent, photo: Photo, position: number) => {
      event.stopPropagation();
      if (event.shiftKey) void extendTo(position);
      else if (event.ctrlKey || event.metaKey) setChosen((before) => toggle(before, photo.id, position));
      else setChosen(chooseOne(photo.id, position));
    },
    onClickBeside: () => setChosen(NOTHING),
  };
}

/** The position in the row above or below; in the next block where this one ends. */
function rowNeighbour(layouts: ReadonlyMap<number, Layout>, position: number, by: 1 | -1): number {
  const block = Math.floor(position / BLOCK);
  const layout = layouts.get(block);
  if (!layout) return position + by;
  const within = neighbour(layout, position % BLOCK, by);
  if (within !== undefined) return block * BLOCK + within;
  const beyond = layouts.get(block + by);
  const row = by > 0 ? beyond?.rows[0] : beyond?.rows.at(-1);
  const here = layout.rows.flat().find(({ index }) => index === position % BLOCK);
  const index = row && here && nearest(row, here.left + here.width / 2);
  return index === undefined ? position : (block + by) * BLOCK + index;
}

function NothingFound({ query }: { query: string }) {
  return (
    <div className="absolute inset-0 flex flex-col items-center justify-center gap-2 text-center text-ink-2">
      {query === '' ? (
        <>
          <p className="font-title text-[17px] text-ink">The catalogue is empty</p>
          <p>
            Take a drive in first, under{' '}
            <Link to="/intake" className="text-slate underline">
              Intake
            </Link>
            .
          </p>
        </>
      ) : (
        <>
          <p className="font-title text-[17px] text-ink">No photo meets this query</p>
          <p>Take a token off the query line, or ask for a broader term.</p>
        </>
      )}
    </div>
  );
}

function useWidth(element: React.RefObject<HTMLElement | null>): number {
  const [width, setWidth] = useState(0);
  useEffect(() => {
    const target = element.current;
    if (!target) return;
    const observer = new ResizeObserver(() => setWidth(target.clientWidth));
    observer.observe(target);
    return () => observer.disconnect();
  }, [element]);
  return width;
}
