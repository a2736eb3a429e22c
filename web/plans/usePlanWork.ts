// What somebody is doing on the screen of site plans: which plan and pin they mean, which photos, and what they are putting there.

import { useRef, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { allOf, criterion } from '@stellin/core/query/query';
import { parseQuery, queryText } from '@stellin/core/search/language';
import { pinAt, type Spot } from '@stellin/core/plans/pins';
import type { Selection } from '@stellin/contract/photos';
import type { PinForm, PlanPin } from '@stellin/contract/plans';
import { useChange } from '../foundation/changes';
import { useMayChange } from '../foundation/session';
import { useResult } from '../photos/result';
import type { Meant } from '../photos/Strip';
import { areaOf, movedBy, newPin, pointAt, viewFrom, type Mode } from './pinForm';
import type { PlanHandle } from './PlanMap';
import { usePlan, usePlans } from './queries';
import { useLastPin } from './useLastPin';

const NOBODY: Meant = { kind: 'some', ids: new Set() };
/** A photo that is let go so many pixels beside a pin is meant for it. */
const REACH_PIXELS = 24;

/** What stands beside the plan: the pin that is chosen, how it is tied to the map, or what is proposed. */
export type Panel = 'pin' | 'tie' | 'proposals';

export type PlanWork = ReturnType<typeof usePlanWork>;

export function usePlanWork() {
  const { id } = useParams();
  const navigate = useNavigate();
  const { query, show } = useResult();
  const plans = usePlans();
  const planId = id === undefined ? plans.data?.[0]?.id : Number(id);
  const plan = usePlan(planId);
  const map = useRef<PlanHandle>(null);
  const [pinId, setPinId] = useState<number | null>(null);
  /** The pin that was put there just now: it is to be named. */
  const [freshId, setFreshId] = useState<number | null>(null);
  const [panel, setPanel] = useState<Panel>('pin');
  const [hidden, setHidden] = useState<ReadonlySet<string>>(new Set());
  const [meant, setMeant] = useState<Meant>(NOBODY);
  const [onlyFree, setOnlyFree] = useState(true);
  const mayPin = useMayChange('savePins');
  const mayGive = useMayChange('pinPhotos');
  const change = useChange();
  const last = useLastPin();
  const pins = plan.data?.pinned ?? [];
  const shown = pins.filter(({ layer }) => !hidden.has(layer));
  const pin = pins.find((each) => each.id === pinId) ?? null;
  const offered = plan.data && onlyFree ? without(query, plan.data.name) : query;
  const selection = selectionOf(meant, offered);

  const save = (given: { pinId: number | null; pin: PinForm }[], then?: () => void) => {
    if (planId === undefined || given.length === 0) return;
    change.mutate(
      { kind: 'savePins', planId, pins: given },
      {
        onSuccess: ({ entry }) => {
          then?.();
          // A new one is the one that is meant now.
          if (given.length === 1 && given[0]?.pinId === null && entry?.objectId) {
            setPinId(entry.objectId);
            setFreshId(entry.objectId);
            setPanel('pin');
          }
        },
      },
    );
  };
  const placing = usePlacing(plan.data, pins, (forms) => save(forms.map((form) => ({ pinId: null, pin: form }))));
  const choose = (chosen: PlanPin | null) => {
    setPinId(chosen?.id ?? null);
    setPanel('pin');
    if (chosen && plan.data) last.note({ pinId: chosen.id, name: `${plan.data.name}/${chosen.name}` });
  };
  const give = (to: PlanPin, photos: Selection | null) => {
    if (photos)
      change.mutate({ kind: 'pinPhotos', pinId: to.id, selection: photos }, { onSuccess: () => setMeant(NOBODY) });
  };
  return {
    ...{ plans, plan, planId, pins, shown, pin, freshId, panel, setPanel, hidden, setHidden, map, mayPin, mayGive },
    ...{ query, offered, meant, setMeant, onlyFree, setOnlyFree, selection, change, save, choose, give },
    ...placing,
    look: (next: string) => {
      setMeant(NOBODY);
      show({ query: next });
    },
    open: (next: number) => {
      choose(null);
      placing.setMode('look');
      void navigate({ pathname: `/places/plans/${next}`, search: window.location.search });
    },
    /** A photo was let go over the plan: with all chosen ones, if it is one of these. */
    dropped: (photoId: number, client: { x: number; y: number }) => {
      const found = map.current?.at(client);
      const to = found && plan.data && pinAt(shown, found.spot, plan.data, REACH_PIXELS * found.scale);
      if (!to) return;
      const isChosen = meant.kind === 'all' || meant.ids.has(photoId);
      choose(to);
      give(to, isChosen ? selection : { query: null, minus: [], plus: [photoId] });
    },
    moved: (moving: PlanPin, by: Spot) => save([{ pinId: moving.id, pin: movedBy(moving, by) }]),
  };
}

/** Putting pins on the plan, spot by spot. */
function usePlacing(
  plan: { width: number; height: number } | undefined,
  pins: readonly PlanPin[],
  add: (pins: PinForm[]) => void,
) {
  const [mode, setMode] = useState<Mode>('look');
  /** Spots picked so far of what needs several. */
  const [spots, setSpots] = useState<readonly Spot[]>([]);
  const before = pins.at(-1);
  const begin = (next: Mode) => {
    setMode(next);
    setSpots([]);
  };
  const finish = (lying: Parameters<typeof newPin>[2]) => {
    add([newPin(pins, before, lying)]);
    setSpots([]);
  };
  const PICKED: Record<Mode, (spot: Spot) => void> = {
    look: () => undefined,
    point: (spot) => finish(pointAt(spot)),
    view: (spot) => {
      const [from] = spots;
      if (from && plan) finish(viewFrom(from, spot, plan));
      else setSpots([spot]);
    },
    area: (spot) => setSpots([...spots, spot]),
    tie: (spot) => setSpots([spot]),
  };
  return {
    ...{ mode, setMode: begin, spots },
    pick: (spot: Spot) => PICKED[mode](spot),
    /** The outline is drawn: it becomes an area. */
    close: spots.length > 2 && mode === 'area' ? () => finish(areaOf(spots)) : undefined,
    /** One spot less, or no spots any more. */
    stepBack: () => (spots.length > 0 ? setSpots(spots.slice(0, -1)) : begin('look')),
  };
}

/** A result without the photos that are on a plan. */
function without(query: string, plan: string): string {
  const asked = parseQuery(query).query;
  return queryText(allOf([asked, { kind: 'not', of: criterion('plan', plan) }]));
}

function selectionOf(meant: Meant, query: string): Selection | null {
  if (meant.kind === 'all') return { query, minus: [], plus: [] };
  return meant.ids.size === 0 ? null : { query: null, minus: [], plus: [...meant.ids] };
}
