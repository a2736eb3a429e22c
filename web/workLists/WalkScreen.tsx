// Walking through a work list: one photo after the other, with the drawer to describe it. What was on the list when the walk
// began stays in its order; whatever becomes of a photo, the next one comes by one key.

import { ArrowLeft } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import type { Photo } from '@stellin/contract/photos';
import { workListRoutes, type Outcome } from '@stellin/contract/workLists';
import { countText, numberText } from '@stellin/contract/wording';
import { Drawer, type DrawerTab } from '../desk/Drawer';
import { useChoiceKeys } from '../desk/useChoiceKeys';
import { shownKey } from '../foundation/keys';
import { useMayCall, useMayChange } from '../foundation/session';
import { useKeys } from '../foundation/useKeys';
import { Button } from '../parts/Button';
import { deskLink } from '../parts/deskLink';
import { Kbd } from '../parts/Kbd';
import { Queried } from '../parts/Queried';
import { chooseOne, NOTHING } from '../photos/chosen';
import { useResult } from '../photos/result';
import { useSelection } from '../photos/selection';
import { PhotoStage } from '../viewer/PhotoStage';
import { useDecodedAhead } from '../viewer/useDecodedAhead';
import { FIT, type Size, type Zoom } from '../viewer/zoom';
import { useIsListed, useSettle, useWalk } from './queries';

export function WalkScreen() {
  const { list = '' } = useParams();
  const { query: scope } = useResult();
  const walk = useWalk(list, scope);
  /** Counts the times that the list was read, each of which begins a walk. */
  const begun = walk.dataUpdatedAt;
  return (
    <Queried query={walk} pending={<p className="p-6 text-ink-2">The list is being read …</p>}>
      {({ label, query, photos, left, later }) => (
        <Walk
          key={`${list} ${scope} ${begun}`}
          list={list}
          {...{ label, query, photos, left, later }}
          onAgain={() => void walk.refetch()}
        />
      )}
    </Queried>
  );
}

interface Props {
  list: string;
  label: string;
  /** What finds the photos of the list. */
  query: string;
  photos: readonly Photo[];
  /** How many there are in all. */
  left: number;
  later: number;
  onAgain: () => void;
}

function Walk({ list, label, query, photos, left, later, onAgain }: Props) {
  const [at, setAt] = useState(0);
  const [outcomes, setOutcomes] = useState<ReadonlyMap<number, Outcome>>(new Map());
  const { chosen, setChosen } = useSelection();
  const settle = useSettle();
  const navigate = useNavigate();
  const mayChange = useMayChange('setRating');
  const maySettle = useMayCall(workListRoutes.settleListed);
  const photo = photos[at];
  const isListed = useIsListed(photo?.id, query);
  const outcome = photo && outcomes.get(photo.id);

  useEffect(() => {
    setChosen(photo ? chooseOne(photo.id, 0) : NOTHING);
  }, [photo, setChosen]);
  useEffect(() => () => setChosen(NOTHING), [setChosen]);
  useChoiceKeys(query, chosen, mayChange, () => Promise.resolve(photo));

  const step = (by: number) => () => setAt((before) => Math.max(0, Math.min(photos.length, before + by)));
  /** Said of this photo; the same again takes it back. */
  const say = (said: 'done' | 'later') => () => {
    if (!photo || !maySettle) return;
    const isAgain = outcome === said;
    settle.mutate(
      { list, photoId: photo.id, outcome: isAgain ? 'open' : said },
      {
        onSuccess: () => {
          setOutcomes((before) => new Map([...before, [photo.id, isAgain ? 'open' : said]]));
          if (!isAgain) setAt((before) => (photos[before]?.id === photo.id ? before + 1 : before));
        },
      },
    );
  };
  useKeys({
    nextOne: step(1),
    oneBefore: step(-1),
    right: step(1),
    left: step(-1),
    keep: say('done'),
    dropOut: say('later'),
    chooseNone: () => void navigate('/holdings'),
  });

  const said = (which: Outcome) => [...outcomes.values()].filter((each) => each === which).length;
  return (
    <div className="flex h-full flex-col">
      <header className="flex h-11 shrink-0 items-center gap-3 border-b border-line bg-sheet px-3">
        <Link to="/holdings" className="flex items-center gap-1 text-slate hover:underline">
          <ArrowLeft size={14} aria-hidden /> Holdings
        </Link>
        <h1 className="truncate font-title text-[16px] font-semibold">{label}</h1>
        {photo && (
          <span className="figures whitespace-nowrap text-ink-2" role="status">
            {numberText(at + 1)} of {numberText(left)}
            {outcome === 'done' && ' · done with'}
            {outcome === 'later' && ' · later'}
            {isListed === false && <b className="text-spruce"> · no longer on the list</b>}
          </span>
        )}
        <span className="ml-auto flex items-center gap-1.5">
          <Link to={deskLink(query)} className="mr-2 text-slate hover:underline">
            All on the Desk
          </Link>
          <Button look="quiet" disabled={at === 0} onClick={step(-1)}>
            Before <Kbd>{shownKey('oneBefore')}</Kbd>
          </Button>
          {maySettle && (
            <>
              <Button disabled={!photo} onClick={say('later')}>
                {outcome === 'later' ? 'Not later' : 'Later'} <Kbd>{shownKey('dropOut')}</Kbd>
              </Button>
              <Button disabled={!photo} onClick={say('done')}>
                {outcome === 'done' ? 'Not done with' : 'Done with'} <Kbd>{shownKey('keep')}</Kbd>
              </Button>
            </>
          )}
          <Button look="primary" disabled={!photo} onClick={step(1)}>
            {isListed === false || outcome ? 'Next' : 'Skip'} <Kbd>{shownKey('nextOne')}</Kbd>
          </Button>
        </span>
      </header>
      {photo ? (
        <Drawer
          result={{ query, sort: 'taken' }}
          photo={photo}
          show={({ query: other }) => void navigate(deskLink(other ?? query))}
          isLooking={false}
          begins={TABS[list]}
          onNext={step(1)}
        >
          <Looking photos={photos} at={at} />
        </Drawer>
      ) : (
        <Ending
          {...{ query, later }}
          seen={photos.length}
          done={said('done')}
          off={said('later')}
          more={left - photos.length}
          onAgain={onAgain}
        />
      )}
    </div>
  );
}

/** Where what a list lacks is said. */
const TABS: Readonly<Record<string, DrawerTab>> = {
  terms: 'terms',
  caption: 'fields',
  rights: 'fields',
  people: 'people',
  place: 'place',
  date: 'place',
  blocks: 'blocks',
};
const DECODED_AHEAD = 3;

/** The photo where one is, whole until one comes nearer. */
function Looking({ photos, at }: { photos: readonly Photo[]; at: number }) {
  const frame = useRef<Size | null>(null);
  const photo = photos[at];
  useDecodedAhead(photos.slice(at, at + DECODED_AHEAD), frame);
  return photo ? <OneLooked key={photo.id} photo={photo} onFrame={(size) => (frame.current = size)} /> : null;
}

function OneLooked({ photo, onFrame }: { photo: Photo; onFrame: (size: Size) => void }) {
  const [zoom, setZoom] = useState<Zoom>(FIT);
  const [faceId, setFaceId] = useState<number | null>(null);
  const [faces, setFaces] = useState(true);
  const [drawing, setDrawing] = useState(false);
  const [naming, setNaming] = useState(0);
  useKeys({
    zoom: () => setZoom((before) => (before.scale === null ? { ...before, scale: 1 } : FIT)),
    faces: () => setFaces((before) => !before),
    drawFace: () => setDrawing((before) => !before),
    nameFace: () => faceId !== null && setNaming((before) => before + 1),
  });
  return (
    <section aria-label="Photo" className="flex min-h-0 min-w-0 flex-1 flex-col bg-ground">
      <PhotoStage
        photo={photo}
        from={undefined}
        faces={faces}
        faceId={faceId}
        onFace={setFaceId}
        drawing={drawing}
        onDrawn={() => setDrawing(false)}
        naming={naming}
        zoom={zoom}
        onZoom={setZoom}
        onFit={(_, size) => onFrame(size)}
      />
    </section>
  );
}

interface EndingProps {
  query: string;
  seen: number;
  done: number;
  off: number;
  later: number;
  /** How many the walk did not take along. */
  more: number;
  onAgain: () => void;
}

function Ending({ query, seen, done, off, later, more, onAgain }: EndingProps) {
  return (
    <div className="m-auto w-[min(560px,90vw)] rounded-lg border border-line bg-card p-6">
      <h2 className="font-title text-[19px] font-semibold">
        {seen === 0 ? 'Nothing is left on this list' : `You went through ${countText(seen, 'photo')}`}
      </h2>
      <p className="mt-1 text-ink-2">
        {[
          done > 0 && `${numberText(done)} done with.`,
          off + later > 0 && `${countText(off + later, 'photo')} put off until tomorrow.`,
          more > 0 && `${countText(more, 'more photo')} of the list come after these.`,
        ]
          .filter(Boolean)
          .join(' ')}
      </p>
      <div className="mt-4 flex gap-2">
        {seen > 0 && (
          <Button look="primary" onClick={onAgain}>
            {more > 0 ? 'Go on' : 'Begin again with what is left'}
          </Button>
        )}
        <Link className="self-center text-slate hover:underline" to="/holdings">
          Back to Holdings
        </Link>
        <Link className="self-center text-slate hover:underline" to={deskLink(query)}>
          All on the Desk
        </Link>
      </div>
    </div>
  );
}
