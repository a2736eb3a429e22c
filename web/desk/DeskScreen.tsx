// The Desk: query line, sources, sheet (or the viewer in its place), drawer.

import { useQueryClient, type QueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import { photoRoutes, type Photo } from '@stellin/contract/photos';
import { countText } from '@stellin/contract/wording';
import { call } from '../foundation/api';
import { showError, useChange } from '../foundation/changes';
import { useKeys, usePlainKeys } from '../foundation/useKeys';
import { useMay } from '../foundation/session';
import { useMarks } from '../marks/queries';
import { useDossiers } from '../dossiers/queries';
import { QueryBuilder } from '../search/QueryBuilder';
import { QueryLine, type QueryLineHandle } from '../search/QueryLine';
import { Split } from '../parts/Split';
import { rememberSearch } from '../search/queries';
import { SearchDialog } from '../search/SearchDialog';
import { TimeRuler } from '../search/TimeRuler';
import { WhyDialog } from '../search/WhyDialog';
import { Pass } from '../viewer/Pass';
import { Viewer } from '../viewer/Viewer';
import { useResultChange, useSteadyFocus } from './changes';
import { NOTHING, selectionOf } from '../photos/chosen';
import { Drawer } from './Drawer';
import { useHeadings } from './headings';
import { photosBetween, photosOfSelection, useCount, type Result } from '../photos/queries';
import { useResult } from '../photos/result';
import { useSelection } from '../photos/selection';
import { useSheetSize } from '../photos/sheetSize';
import { Sheet } from './Sheet';
import { Sources } from './Sources';
import { Failed } from '../parts/Queried';

/** What is looked at in the place of the sheet. */
type Looking = { kind: 'one' } | { kind: 'compare'; photos: Photo[] } | { kind: 'pass'; photos: Photo[] };

const SOURCES_WIDTH = { lowest: 150, usual: 224, highest: 480 };
const MAX_COMPARED = 4;
const MAX_PASSED = 1000;
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
  const [looking, setLooking] = useState<Looking | null>(null);
  const queryLine = useRef<QueryLineHandle>(null);
  const mayChange = useMay('cataloguer');
  const change = useChange();
  const total = count.data?.count ?? 0;

  const changed = useResultChange({ query, sort }, count.isPlaceholderData ? undefined : count.data?.count);
  useSteadyFocus({ query, sort }, count.dataUpdatedAt);

  useEffect(() => {
    setChosen(NOTHING);
    setLooking(null);
  }, [query, sort, setChosen]);
  useEffect(() => setTotal(total), [total, setTotal]);
  // Only what one stays with is worth remembering.
  useEffect(() => {
    const timer = setTimeout(() => void rememberSearch(query, sort).catch(() => undefined), REMEMBERED_AFTER_MS);
    return () => clearTimeout(timer);
  }, [query, sort]);
  useEffect(() => () => setTotal(null), [setTotal]);

  const rate = (rating: number) => () => {
    const selection = selectionOf(chosen, query);
    if (selection && mayChange) change.mutate({ kind: 'setRating', selection, rating });
  };
  const { data: marks = [] } = useMarks();
  const client = useQueryClient();
  usePlainKeys(
    marks.map(({ letter }) => letter),
    (letter) => {
      const selection = selectionOf(chosen, query);
      const mark = marks.find((candidate) => candidate.letter === letter);
      if (!selection || !mark || !mayChange) return;
      // Again takes it off, where the photo in focus has it.
      void focusedPhoto(client, { query, sort }, chosen.focus).then((focused) =>
        change.mutate({ kind: 'setMark', selection, mark: focused?.mark === mark.name ? '' : mark.name }),
      );
    },
  );
  const photosOfChoice = async (limit: number) => {
    const selection = selectionOf(chosen, query);
    return selection ? photosOfSelection(selection, sort, limit) : [];
  };
  const compare = async () => {
    const photos = await photosOfChoice(MAX_COMPARED + 1);
    if (photos.length < 2 || photos.length > MAX_COMPARED) toast('Choose two to four photos to compare.');
    else setLooking({ kind: 'compare', photos });
  };
  const pass = async () => {
    const photos = await photosOfChoice(MAX_PASSED);
    if (photos.length < 2) toast('Choose the photos to pass through.');
    else setLooking({ kind: 'pass', photos });
    if (photos.length === MAX_PASSED) toast(`A pass goes through the first ${countText(MAX_PASSED, 'photo')}.`);
  };
  const { data: dossiers = [] } = useDossiers();
  const pinned = dossiers.find((dossier) => dossier.pinned);
  /** Into the pinned dossier; again, where the photo in focus is in it, out of it. */
  const gather = async () => {
    const selection = selectionOf(chosen, query);
    if (!mayChange || !selection) return;
    if (!pinned) {
      toast('Pin a dossier first, by its menu among the sources.');
      return;
    }
    const focused = await focusedPhoto(client, { query, sort }, chosen.focus);
    const isIn = focused !== undefined && (await isInDossier(focused.id, pinned.id));
    change.mutate({ kind: isIn ? 'takeFromDossier' : 'putInDossier', dossierId: pinned.id, selection });
  };
  const open = () => setLooking((before) => (before ? null : { kind: 'one' }));
  useKeys({
    query: () => queryLine.current?.focus(),
    saveSearch: () => mayChange && setAsking('save'),
    build: () => setAsking('build'),
    why: () => void focusedPhoto(client, { query, sort }, chosen.focus).then((photo) => setAsking({ why: photo?.id })),
    ruler: () => ruler.current?.focus(),
    gather: () => void gather().catch(showError),
    open: () => chosen.focus !== null && looking === null && open(),
    compare: () => void compare().catch(showError),
    pass: () => void pass().catch(showError),
    rate0: rate(0),
    rate1: rate(1),
    rate2: rate(2),
    rate3: rate(3),
    rate4: rate(4),
    rate5: rate(5),
    reject: rate(-1),
  });

  return (
    <div className="flex h-full flex-col">
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
      <TimeRuler ref={ruler} query={query} show={show} />
      <Drawer result={{ query, sort }} show={show}>
        {looking?.kind === 'pass' ? (
          <Pass photos={looking.photos} mayChange={mayChange} onClose={() => setLooking(null)} />
        ) : looking ? (
          <Viewer
            result={{ query, sort }}
            total={total}
            compared={looking.kind === 'compare' ? looking.photos : null}
            onClose={() => setLooking(null)}
            onPass={() => void pass().catch(showError)}
          />
        ) : (
          <Split
            name="sourcesWidth"
            label="Width of the sources"
            at="left"
            size={SOURCES_WIDTH}
            sized={<Sources query={query} sort={sort} show={show} size={size} onSize={setSize} />}
          >
            <Sheet
              result={{ query, sort }}
              total={total}
              isLoading={count.isPending}
              failure={count.error && !count.data && <Failed query={count} className="m-4" />}
              rowHeight={size}
              headings={headings}
              onOpen={open}
            />
          </Split>
        )}
      </Drawer>
      {asking === 'save' && <SearchDialog query={query} sort={sort} size={size} onClose={() => setAsking(null)} />}
      {asking === 'build' && <QueryBuilder query={query} show={show} onClose={() => setAsking(null)} />}
      {asking !== null && typeof asking === 'object' && (
        <WhyDialog query={query} show={show} photoId={asking.why} onClose={() => setAsking(null)} />
      )}
    </div>
  );
}

async function isInDossier(photoId: number, dossierId: number): Promise<boolean> {
  const { dossiers } = await call(photoRoutes.showPhoto, { params: { id: photoId } });
  return dossiers.some(({ id }) => id === dossierId);
}

async function focusedPhoto(client: QueryClient, result: Result, focus: number | null): Promise<Photo | undefined> {
  return focus === null ? undefined : (await photosBetween(client, result, focus, focus))[0];
}
