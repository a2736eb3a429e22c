// Settling likeness groups one after the other, by keys or by hand.

import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { Strictness } from '@stellin/core/people/grouping';
import type { ChangeInput } from '@stellin/contract/ledger';
import type { LikenessGroup, Who } from '@stellin/contract/people';
import { useChange } from '../foundation/changes';
import { useKeys } from '../foundation/useKeys';
import { useMayChange } from '../foundation/session';
import { useGroups } from './queries';

const PAGE = 20;

/** What tells a group from others while it is settled. */
export const keyOf = (group: LikenessGroup) => Math.min(...group.faceIds);

/** What can be done with a group. */
interface Settling {
  yes: () => unknown;
  no: () => unknown;
  name: (who: Who) => unknown;
  set: (state: 'unnamed' | 'none') => unknown;
  toggle: (faceId: number) => void;
  like: (faceId: number) => void;
}

/** The groups page by page, the one that keys act on, and how it is settled. */
export function useGroupWork() {
  const [strictness, setStrictness] = useState<Strictness>('close');
  const [limit, setLimit] = useState(PAGE);
  const likeness = useGroups(strictness, limit);
  const { data } = likeness;
  const mayChange = useMayChange('nameFaces');
  const change = useChange();
  const navigate = useNavigate();
  /** The group that keys act on, and where it stood: when it is settled, the one that comes there is next. */
  const [at, setAt] = useState({ key: 0, place: 0 });
  const [faceAt, setFaceAt] = useState(0);
  const [out, setOut] = useState<ReadonlySet<number>>(new Set());
  const [focusKey, setFocusKey] = useState(0);
  const groups = data?.groups ?? [];
  const place = groups.findIndex((one) => keyOf(one) === at.key);
  const current = place >= 0 ? place : Math.min(at.place, Math.max(0, groups.length - 1));
  const goTo = (to: number) => setAt({ key: groups[to] ? keyOf(groups[to]) : 0, place: to });
  const group = groups[current];
  const apply = (made: ChangeInput, one: LikenessGroup) => {
    setAt({ key: keyOf(one), place: groups.indexOf(one) });
    change.mutate(made);
    setOut(new Set());
    setFaceAt(0);
    setFocusKey(0);
  };
  const settling = (one: LikenessGroup) => {
    const meant = one.faceIds.filter((id) => !out.has(id));
    const notFaceIds = one.faceIds.filter((id) => out.has(id));
    const act = (made: ChangeInput) => meant.length > 0 && apply(made, one);
    const name = (who: Who) => act({ kind: 'nameFaces', faceIds: meant, notFaceIds, who });
    return {
      yes: () => one.guess && name({ personId: one.guess.personId }),
      no: () => one.guess && act({ kind: 'refuseFaces', faceIds: meant, personId: one.guess.personId }),
      name,
      set: (state: 'unnamed' | 'none') => act({ kind: 'setFaces', faceIds: meant, state }),
      toggle: (faceId: number) =>
        setOut((before) => {
          const next = new Set(before);
          if (!next.delete(faceId)) next.add(faceId);
          return next;
        }),
      like: (faceId: number) => void navigate(`/people/like?face=${faceId}`),
    };
  };
  const go = (by: number) => () => {
    goTo(Math.max(0, Math.min(groups.length - 1, current + by)));
    setFaceAt(0);
    setOut(new Set());
    setFocusKey(0);
  };
  const faceTo = (to: number) => setFaceAt(Math.max(0, Math.min((group?.faces.length ?? 1) - 1, to)));
  const ask = () => setFocusKey((before) => before + 1);
  useGroupKeys({ group, faceAt, isFree: mayChange && !change.isPending, settling, go, faceTo, ask });

  return {
    ...{ strictness, likeness, groups, current, faceAt, out, focusKey, mayChange, isBusy: change.isPending, settling },
    setStrictness: (next: Strictness) => {
      setStrictness(next);
      go(-groups.length)();
    },
    more: () => setLimit(limit + PAGE),
    /** A face of a group has the focus. */
    focus: (i: number, face: number) => {
      if (i !== current) setOut(new Set());
      goTo(i);
      setFaceAt(face);
    },
  };
}

interface Keyed {
  /** The group that keys act on. */
  group: LikenessGroup | undefined;
  faceAt: number;
  /** Nothing is on its way, and who presses may settle. */
  isFree: boolean;
  settling: (group: LikenessGroup) => Settling;
  go: (by: number) => () => void;
  faceTo: (place: number) => void;
  /** Asks who it is. */
  ask: () => void;
}

function useGroupKeys({ group, faceAt, isFree, settling, go, faceTo, ask }: Keyed): void {
  const own = group && settling(group);
  const acts = isFree ? own : undefined;
  const face = group?.faces[faceAt];
  useKeys({
    up: go(-1),
    down: go(1),
    left: () => faceTo(faceAt - 1),
    right: () => faceTo(faceAt + 1),
    first: () => faceTo(0),
    last: () => faceTo(Infinity),
    yes: () => (group?.guess ? acts?.yes() : ask()),
    no: () => acts?.no(),
    who: () => acts && ask(),
    unnamed: () => acts?.set('unnamed'),
    noFace: () => acts?.set('none'),
    dropOut: () => face && acts?.toggle(face.id),
    like: () => face && own?.like(face.id),
  });
}
