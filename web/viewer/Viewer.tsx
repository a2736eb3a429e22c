// The viewer, in the place of the sheet: one photo, or two to six side by side with one zoom for all.

import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { isTimed } from '@stellin/core/metadata/containers/kinds';
import { textsOf } from '@stellin/core/metadata/values';
import type { Photo } from '@stellin/contract/photos';
import { numberText } from '@stellin/contract/wording';
import { useChange } from '../foundation/changes';
import { toggleFullScreen } from '../foundation/fullScreen';
import { shownKey } from '../foundation/keys';
import { useKeys } from '../foundation/useKeys';
import { useMayChange } from '../foundation/session';
import { chooseOne } from '../photos/chosen';
import { stepGroup } from '../photos/groups';
import { BLOCK, photosBetween, useBlock, useGroups, usePhoto, type Result } from '../photos/queries';
import { useSelection } from '../photos/selection';
import { Button } from '../parts/Button';
import { useFacesOf } from '../people/queries';
import { Tooltip } from '../parts/Tooltip';
import { AIDS, NO_AIDS, type Aid } from './aids';
import { AidsMenu } from './AidsMenu';
import { Neighbours } from './Neighbours';
import { kindOf, PhotoStage } from './PhotoStage';
import { ThenNow } from './ThenNow';
import { useDecodedAhead } from './useDecodedAhead';
import { FIT, MAX_SCALE, type Size, type Zoom } from './zoom';

const STEP = 1.5;
/** How far from where one is, in the order in which they are wanted: most go on. */
const DECODED_AHEAD = [0, 1, 2, -1, -2];
/** How many are compared stand in two rows; fewer stand side by side. */
const BESIDE: Readonly<Record<number, string>> = {
  4: 'grid auto-rows-fr grid-cols-2',
  5: 'grid auto-rows-fr grid-cols-3',
  6: 'grid auto-rows-fr grid-cols-3',
};

interface Props {
  result: Result;
  total: number;
  /** Where a film or sound is come to, in seconds. */
  from: { photoId: number; seconds: number } | null;
  /** Photos that are compared; null: the one in focus is shown. */
  compared: readonly Photo[] | null;
  onClose: () => void;
  onPass: () => void;
  /** Finds what looks like a photo. */
  onLike: (photoId: number) => void;
}

export function Viewer({ result, total, from, compared, onClose, onPass, onLike }: Props) {
  // One closure for what its keys share: where one is, how near, and which face is meant.
  const client = useQueryClient();
  const { chosen, setChosen } = useSelection();
  const mayChange = useMayChange('setRating');
  const [zoom, setZoom] = useState<Zoom>(FIT);
  const [at, setAt] = useState(0);
  const [faces, setFaces] = useState(true);
  const [drawing, setDrawing] = useState(false);
  /** The face that keys act on, of the photo it was chosen on. */
  const [faceOn, setFaceOn] = useState<{ photoId: number; faceId: number } | null>(null);
  const [naming, setNaming] = useState(0);
  const [aids, setAids] = useState(NO_AIDS);
  const [isLaid, setLaid] = useState(false);
  const section = useRef<HTMLElement>(null);
  const change = useChange();
  const toggleAid = (aid: Aid) => setAids((before) => ({ ...before, [aid]: !before[aid] }));
  /** The scale at which the picture fits its frame. */
  const fit = useRef(1);
  const frame = useRef<Size | null>(null);
  const noteFit = (scale: number, size: Size) => {
    fit.current = scale;
    frame.current = size;
  };
  const position = chosen.focus ?? 0;
  const { data: block } = useBlock(result, Math.floor(position / BLOCK));
  const photo = block?.[position % BLOCK];
  const photos = compared ?? (photo ? [photo] : []);
  const marked = compared?.[at];
  const [below, above] = compared ?? [];
  const laid = isLaid && compared?.length === 2 && below && above ? ([below, above] as const) : null;

  const show = async (target: number) => {
    const [next] = await photosBetween(client, result, target, target);
    if (next) setChosen(chooseOne(next.id, target));
  };
  const step = (by: number) => () => {
    if (compared) setAt((before) => (before + by + compared.length) % compared.length);
    else void show(Math.max(0, Math.min(total - 1, position + by)));
  };
  const { data: groups = [] } = useGroups(result);
  const stepTo = (by: 1 | -1, far: boolean) => () => {
    const target = compared ? undefined : stepGroup(groups, position, by, far);
    if (target !== undefined) void show(target);
  };
  // What keys rate and describe is the one that is marked.
  useEffect(() => {
    if (marked) setChosen((before) => ({ ...chooseOne(marked.id, before.focus ?? 0), focus: before.focus }));
  }, [marked, setChosen]);
  const near = compared ? [] : DECODED_AHEAD.map((by) => block?.[(position % BLOCK) + by]);
  useDecodedAhead(
    near.filter((each) => each && !isTimed(kindOf(each))),
    frame,
  );

  const one = compared ? undefined : photo;
  const isFilm = one !== undefined && isTimed(kindOf(one));
  const { data: people } = useFacesOf(one?.id ?? null);
  const faceId = faceOn && faceOn.photoId === one?.id ? faceOn.faceId : null;
  const chooseFace = (id: number | null) => setFaceOn(id === null || !one ? null : { photoId: one.id, faceId: id });
  const nextFace = () => {
    const shown = people?.faces.filter(({ state }) => state !== 'none') ?? [];
    const next = shown[(shown.findIndex(({ id }) => id === faceId) + 1) % Math.max(1, shown.length)];
    if (!next || !one) return;
    setFaces(true);
    chooseFace(next.id);
    const { left, top, width, height } = next.box;
    // So near that the face fills a good part of the frame.
    const scale = Math.min(1, Math.max(fit.current, 300 / Math.max(1, height * (one.height ?? 1000))));
    setZoom(scale <= fit.current ? FIT : { scale, x: left + width / 2, y: top + height / 2 });
  };
  const scaleBy = (factor: number) => () =>
    setZoom((before) => {
      const scale = (before.scale ?? fit.current) * factor;
      return scale <= fit.current ? FIT : { ...before, scale: Math.min(MAX_SCALE, scale) };
    });
  const turn = (way: 'left' | 'right') =>
    one && change.mutate({ kind: 'turnPhotos', selection: { query: null, plus: [one.id] }, way });
  const fill = () => toggleFullScreen(section.current);
  const flip = () => setZoom((before) => (before.scale === null ? { ...before, scale: 1 } : FIT));
  useKeys({
    left: step(-1),
    right: step(1),
    first: () => !compared && void show(0),
    last: () => !compared && void show(total - 1),
    nextGroup: stepTo(1, false),
    groupBefore: stepTo(-1, false),
    nextStretch: stepTo(1, true),
    stretchBefore: stepTo(-1, true),
    ...Object.fromEntries((Object.keys(AIDS) as Aid[]).map((aid) => [aid, () => toggleAid(aid)])),
    ...(compared?.length === 2 ? { thenAndNow: () => setLaid((before) => !before) } : {}),
    ...(isFilm ? {} : { fullScreen: fill }),
    faces: () => setFaces((before) => !before),
    nextFace,
    drawFace: () => one && setDrawing((before) => !before),
    nameFace: () => faceId !== null && setNaming((before) => before + 1),
    ...(isFilm ? {} : { zoom: flip, zoomIn: scaleBy(STEP), zoomOut: scaleBy(1 / STEP) }),
    chooseNone: onClose,
    open: onClose,
  });

  return (
    <section ref={section} aria-label="Viewer" className="flex min-w-0 flex-1 flex-col bg-ground">
      <Tools
        title={compared ? `${numberText(compared.length)} photos compared` : photo?.name}
        place={compared ? undefined : `${numberText(position + 1)} of ${numberText(total)}`}
        scale={zoom.scale}
        faces={faces}
        drawing={one && mayChange ? drawing : undefined}
        act={{
          ...(compared ? {} : { left: step(-1), right: step(1) }),
          ...(compared?.length === 2 ? { thenAndNow: () => setLaid(!isLaid) } : {}),
          ...(isFilm
            ? {}
            : {
                zoomOut: scaleBy(1 / STEP),
                zoomIn: scaleBy(STEP),
                zoom: flip,
                faces: () => setFaces(!faces),
                drawFace: () => setDrawing(!drawing),
              }),
          pass: onPass,
          chooseNone: onClose,
        }}
      >
        {!isFilm && (
          <AidsMenu
            aids={aids}
            onChange={toggleAid}
            onTurn={one && mayChange ? turn : undefined}
            onLike={one && (() => onLike(one.id))}
          />
        )}
      </Tools>
      <div className={`min-h-0 flex-1 gap-px bg-line ${BESIDE[photos.length] ?? 'flex'}`}>
        {laid && <ThenNow below={laid[0]} above={laid[1]} zoom={zoom} onZoom={setZoom} onFit={noteFit} />}
        {(laid ? [] : photos).map((one) => (
          <div key={one.id} className="flex min-h-0 min-w-0 flex-1 flex-col">
            <PhotoStage
              key={one.id}
              photo={one}
              from={from?.photoId === one.id ? from.seconds : undefined}
              faces={faces}
              faceId={one.id === photo?.id ? faceId : null}
              onFace={chooseFace}
              drawing={drawing}
              onDrawn={() => setDrawing(false)}
              naming={naming}
              zoom={zoom}
              onZoom={setZoom}
              onFit={noteFit}
              aids={aids}
              marked={compared !== null && one.id === marked?.id}
            />
            {aids.caption && <CaptionLine photoId={one.id} />}
            {compared && <NameLine photo={one} />}
          </div>
        ))}
      </div>
      {!compared && <Neighbours result={result} position={position} total={total} onShow={(at) => void show(at)} />}
    </section>
  );
}

type Tool =
  | 'thenAndNow'
  | 'left'
  | 'right'
  | 'zoomOut'
  | 'zoomIn'
  | 'zoom'
  | 'faces'
  | 'drawFace'
  | 'pass'
  | 'chooseNone';

interface ToolsProps {
  title: string | undefined;
  /** Which of how many it is; undefined while several are compared. */
  place: string | undefined;
  /** Null: the whole picture. */
  scale: number | null;
  faces: boolean;
  /** Whether a box is being drawn; undefined where none can be. */
  drawing: boolean | undefined;
  act: Partial<Record<Tool, () => void>>;
  children: ReactNode;
}

/** What is seen, and what can be done with it: each button says its key. */
function Tools({ title, place, scale, faces, drawing, act, children }: ToolsProps) {
  const tools: readonly [tool: Tool, label: string, shows: string][] = [
    ['left', 'Photo before', '←'],
    ['right', 'Next photo', '→'],
    ['zoomOut', 'Smaller', '−'],
    ['zoomIn', 'Larger', '+'],
    ['zoom', 'Whole picture, or pixel by pixel', scale === null ? 'Fit' : `${Math.round(scale * 100)} %`],
    ['faces', faces ? 'Hide the boxes of faces' : 'Show the boxes of faces', faces ? 'Hide faces' : 'Faces'],
    ['drawFace', drawing ? 'Draw no face' : 'Draw the box of a face', drawing ? 'Drawing …' : 'Draw a face'],
    ['thenAndNow', 'One over the other, or side by side', 'Then and now'],
    ['pass', 'Pass through the photos, keeping or dropping each', 'Pass'],
    ['chooseNone', 'Back to the sheet', 'Close'],
  ];
  return (
    <div className="flex h-10 shrink-0 items-center gap-3 border-b border-line bg-sheet px-3">
      <span className="truncate font-mono text-[12px] font-semibold">{title}</span>
      {place && <span className="figures text-[12px] whitespace-nowrap text-ink-2">{place}</span>}
      <span data-not-printed className="ml-auto flex items-center gap-1.5">
        {children}
        {tools.map(([tool, label, shows]) => {
          const onClick = act[tool];
          if (!onClick || (tool === 'drawFace' && drawing === undefined)) return null;
          return (
            <ToolButton key={tool} keyOf={tool} label={label} onClick={onClick}>
              {shows}
            </ToolButton>
          );
        })}
      </span>
    </div>
  );
}

/** Under a photo that is compared: its name, and its rating as it is now. */
function NameLine({ photo }: { photo: Photo }) {
  const { data } = usePhoto(photo.id);
  const rating = data?.rating ?? photo.rating;
  return (
    <p className="flex h-7 shrink-0 items-center gap-2 bg-sheet px-2 font-mono text-[11px]">
      <span className="truncate">{photo.name}</span>
      {rating !== 0 && <span className="font-sans font-semibold">{rating < 0 ? 'rejected' : `✦${rating}`}</span>}
    </p>
  );
}

/** What a photo says of itself, below it. */
function CaptionLine({ photoId }: { photoId: number }) {
  const { data } = usePhoto(photoId);
  const [headline] = textsOf(data?.fields.headline ?? data?.fields.title);
  const [caption] = textsOf(data?.fields.description);
  return (
    <p className="max-h-32 shrink-0 overflow-y-auto bg-sheet px-4 py-2 text-center" aria-live="polite">
      {headline && <strong className="font-title">{headline} </strong>}
      {caption ?? (data && !headline ? <span className="text-ink-2">It has no caption.</span> : null)}
    </p>
  );
}

function ToolButton({
  keyOf,
  label,
  onClick,
  children,
}: {
  keyOf: Parameters<typeof shownKey>[0];
  label: string;
  onClick: () => void;
  children: string;
}) {
  return (
    <Tooltip text={label} keyName={shownKey(keyOf)}>
      <Button aria-label={label} className="!h-7 !px-2.5" onClick={onClick}>
        {children}
      </Button>
    </Tooltip>
  );
}
