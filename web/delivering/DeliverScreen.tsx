// Deliver: presets and past deliveries on the left, what is to leave in the middle, how it is made on the right.

import { useState, type ReactNode } from 'react';
import { useDebounce } from 'use-debounce';
import { Link, useLocation, useNavigate, useSearchParams } from 'react-router';
import { SORTS } from '@stellin/core/search/sorts';
import { copySettings, type DeliveryKind, type DeliveryPlan } from '@stellin/contract/delivering';
import { incomingTableRoutes } from '@stellin/contract/incomingTables';
import { sizeText } from '@stellin/contract/sizeText';
import { countText } from '@stellin/contract/wording';
import { useMayCall } from '../foundation/session';
import { useStored } from '../foundation/useStored';
import { Button } from '../parts/Button';
import { FilterButton } from '../parts/FilterButton';
import {
  draftSchema,
  leavingOf,
  NEW_DRAFT,
  settingsOf,
  targetOf,
  type Draft,
  type Leaving as LeavingPhotos,
} from './draft';
import { Leaving, COPIES_SHOWN } from './Leaving';
import { Making } from './Making';
import { PastDeliveries } from './PastDeliveries';
import { LinkDialog } from '../sharing/LinkDialog';
import { Presets } from './Presets';
import { useDeliver, usePlan, type PlanInput } from './queries';
import { Report } from './Report';
import { SheetPreview } from './SheetPreview';
import { openSlideWindow, SlideShow } from './SlideShow';
import { Sources } from './Sources';

/** Tables and sheets take photos as they are. */
const AS_THEY_ARE = copySettings.parse({ format: 'original' });

/** So long nothing is to be changed before it is worked out anew, in milliseconds. */
const SETTLED_MS = 250;
const isSame = (one: unknown, other: unknown): boolean => JSON.stringify(one) === JSON.stringify(other);

export function DeliverScreen() {
  const leaving = useLeaving();
  const [draft, setDraft] = useStored<Draft>('delivery', draftSchema, NEW_DRAFT);
  const change = (part: Partial<Draft>) => setDraft({ ...draft, ...part });
  const [shown, setShown] = useShown();
  const mayBringIn = useMayCall(incomingTableRoutes.listIncomingTables);
  return (
    <div className="grid h-full grid-cols-[230px_minmax(0,1fr)_320px] max-lg:grid-cols-[190px_minmax(0,1fr)_290px] 2xl:grid-cols-[270px_minmax(0,1fr)_380px]">
      <aside className="overflow-y-auto border-r border-line bg-sheet pb-4">
        <Presets
          draft={draft}
          onChoose={(preset) => {
            change({ kind: 'copies', presetId: preset.id, settings: preset.settings });
            setShown(null);
          }}
          onMade={(presetId) => change({ kind: 'copies', presetId })}
        />
        <PastDeliveries shown={shown} onShow={setShown} />
        <p className="mt-3 border-t border-line px-3 pt-3">
          <Link className="text-slate underline" to="/deliver/links">
            View links
          </Link>
        </p>
        <p className="px-3 pt-1">
          <Link className="text-slate underline" to="/deliver/mail">
            Outgoing mail
          </Link>
        </p>
        {mayBringIn && (
          <p className="px-3 pt-1">
            <Link className="text-slate underline" to="/deliver/tables">
              Tables that come back in
            </Link>
          </p>
        )}
      </aside>
      {shown ? (
        <div className="col-span-2 min-h-0 bg-card">
          <Report key={shown} id={shown} onClose={() => setShown(null)} />
        </div>
      ) : (
        <Preparing leaving={leaving} draft={draft} onChange={change} onDelivered={setShown} />
      )}
    </div>
  );
}

/** The delivery that is looked at, as the address says. */
function useShown(): [string | null, (id: string | null) => void] {
  const { state } = useLocation() as { state: unknown };
  const [params, setParams] = useSearchParams();
  return [
    params.get('shown'),
    (id) => {
      const others = [...params].filter(([name]) => name !== 'shown');
      setParams(id === null ? others : [...others, ['shown', id]], { state });
    },
  ];
}

/** What is to leave: photos chosen on the Desk, or what the query in the address finds. */
function useLeaving(): LeavingPhotos | undefined {
  const { state } = useLocation();
  const [params] = useSearchParams();
  const query = params.get('q');
  const sort = SORTS.find((candidate) => candidate === params.get('sort')) ?? 'taken';
  return query === null ? leavingOf(state) : { selection: { query, minus: [], plus: [] }, sort };
}

interface PreparingProps {
  leaving: LeavingPhotos | undefined;
  draft: Draft;
  onChange: (part: Partial<Draft>) => void;
  onDelivered: (id: string) => void;
}

function Preparing({ leaving, draft, onChange, onDelivered }: PreparingProps) {
  const { kind, settings, recipient } = draft;
  const presetId = kind === 'copies' ? draft.presetId : null;
  const [offset, setOffset] = useState(0);
  const [listed, setListed] = useState(false);
  const request: PlanInput | null = leaving
    ? {
        ...leaving,
        settings: kind === 'copies' ? settings : AS_THEY_ARE,
        presetId,
        recipient,
        offset,
        limit: COPIES_SHOWN,
      }
    : null;
  // While somebody types, what stood there a moment ago stays: names of many photos take their time.
  const [planned] = useDebounce(request, SETTLED_MS, { equalityFn: isSame });
  const plan = usePlan(planned);
  const [page] = useDebounce(
    leaving && { ...leaving, settings: draft.sheet, target: { kind: 'download' as const } },
    SETTLED_MS,
    { equalityFn: isSame },
  );
  const deliver = useDeliver();
  const begin = () => {
    if (!leaving) return;
    const { reason } = draft;
    deliver.mutate(
      { ...leaving, settings: settingsOf(draft), presetId, recipient, reason, target: targetOf(draft) },
      { onSuccess: ({ id }) => onDelivered(id) },
    );
  };
  const ready = plan.data && plan.data.problem === null ? plan.data : undefined;
  const leavingNow = ready ? ready.photos - ready.problems : 0;
  return (
    <>
      <div className="flex min-h-0 flex-col bg-card">
        <Head plan={leaving && ready} kind={kind}>
          {leaving && kind === 'sheet' && (
            <span className="flex gap-3">
              <FilterButton isOn={!listed} onClick={() => setListed(false)}>
                First page
              </FilterButton>
              <FilterButton isOn={listed} onClick={() => setListed(true)}>
                Photos
              </FilterButton>
            </span>
          )}
          {leaving && <Showing leaving={leaving} />}
        </Head>
        {/* It scrolls by keys as well. */}
        <div role="region" aria-label="What leaves" tabIndex={0} className="min-h-0 flex-1 overflow-y-auto">
          {!leaving ? (
            <Sources />
          ) : kind === 'sheet' && !listed && page ? (
            <SheetPreview request={page} />
          ) : (
            <Leaving kind={kind} plan={plan} offset={offset} onMove={setOffset} />
          )}
        </div>
      </div>
      <Making
        draft={draft}
        onChange={onChange}
        photos={leaving ? leavingNow : 0}
        busy={deliver.isPending}
        onBegin={begin}
      />
    </>
  );
}

interface HeadProps {
  /** What is to leave; undefined while that is not known. */
  plan: DeliveryPlan | undefined;
  kind: DeliveryKind;
  children: ReactNode;
}

/** The title, how much is to leave, and what can be done with that. */
function Head({ plan, kind, children }: HeadProps) {
  return (
    <div className="flex items-center gap-3 border-b border-line px-4 py-2.5">
      <h1 className="font-title text-[19px] font-semibold">Deliver</h1>
      {plan && (
        <span className="figures min-w-0 truncate text-ink-2">
          {countText(plan.photos, 'photo')}
          {kind === 'copies' && `, about ${sizeText(plan.bytes)}`}
        </span>
      )}
      {children}
    </div>
  );
}

/** Slide shows of what is to leave, and choosing something else. */
function Showing({ leaving }: { leaving: LeavingPhotos }) {
  const [showing, setShowing] = useState(false);
  const [sharing, setSharing] = useState(false);
  const navigate = useNavigate();
  return (
    <>
      <span className="ml-auto flex shrink-0 gap-2">
        <Button onClick={() => setSharing(true)}>View link …</Button>
        <Button onClick={() => setShowing(true)}>Slide show</Button>
        <Button look="quiet" onClick={() => openSlideWindow(leaving)}>
          In a window
        </Button>
        <Button look="quiet" onClick={() => void navigate('/deliver', { replace: true })}>
          Choose others
        </Button>
      </span>
      {sharing && <LinkDialog meant={leaving} onClose={() => setSharing(false)} />}
      {showing && <SlideShow leaving={leaving} onClose={() => setShowing(false)} />}
    </>
  );
}
