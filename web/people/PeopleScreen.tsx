// Likeness groups to settle, one row each: faces, then one question. By keys from row to row.

import { useEffect, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { STRICTNESS, type Strictness } from '@stellin/core/people/grouping';
import type { ChangeInput } from '@stellin/contract/ledger';
import { peopleRoutes, type LikenessGroup, type Who } from '@stellin/contract/people';
import { countText, numberText } from '@stellin/contract/wording';
import { useChange } from '../foundation/changes';
import { shownKey } from '../foundation/keys';
import { useKeys } from '../foundation/useKeys';
import { useMayCall, useMayChange } from '../foundation/session';
import { Button } from '../parts/Button';
import { GroupRow } from './GroupRow';
import { PeopleFrame } from './PeopleFrame';
import { useGroups } from './queries';
import { ScanBar } from './ScanBar';
import { Select } from '../parts/Select';
import { Failed } from '../parts/Queried';

const STRICTNESS_LABELS: Readonly<Record<Strictness, string>> = {
  exact: 'Exact: small groups, hardly ever mixed',
  close: 'Close',
  wide: 'Wide: large groups, look closely',
};
const PAGE = 20;

const keyOf = (group: LikenessGroup) => Math.min(...group.faceIds);

export function PeopleScreen() {
  if (useMayCall(peopleRoutes.listLikenessGroups)) return <LikenessGroups />;
  return (
    <PeopleFrame>
      <p className="text-ink-2">Choose a person at the left.</p>
    </PeopleFrame>
  );
}

function LikenessGroups() {
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
  const list = useRef<HTMLUListElement>(null);

  const groups = data?.groups ?? [];
  const place = groups.findIndex((one) => keyOf(one) === at.key);
  const current = place >= 0 ? place : Math.min(at.place, Math.max(0, groups.length - 1));
  const goTo = (to: number) => setAt({ key: groups[to] ? keyOf(groups[to]) : 0, place: to });
  const group = groups[current];
  useEffect(() => {
    list.current?.children[current]?.scrollIntoView({ block: 'nearest' });
  }, [current]);

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
  const own = group && settling(group);
  const acts = own && mayChange && !change.isPending ? own : undefined;
  const face = group?.faces[faceAt];
  useKeys({
    up: go(-1),
    down: go(1),
    left: () => setFaceAt(Math.max(0, faceAt - 1)),
    right: () => setFaceAt(Math.min((group?.faces.length ?? 1) - 1, faceAt + 1)),
    first: () => setFaceAt(0),
    last: () => setFaceAt(Math.max(0, (group?.faces.length ?? 1) - 1)),
    yes: () => (group?.guess ? acts?.yes() : setFocusKey((before) => before + 1)),
    no: () => acts?.no(),
    who: () => acts && setFocusKey((before) => before + 1),
    unnamed: () => acts?.set('unnamed'),
    noFace: () => acts?.set('none'),
    dropOut: () => face && acts?.toggle(face.id),
    like: () => face && own?.like(face.id),
  });

  return (
    <PeopleFrame>
      <div className="flex items-baseline gap-3">
        <h1 className="font-title text-[19px] font-semibold">
          {data ? `${countText(data.total, 'likeness group')} to settle` : 'Likeness groups'}
        </h1>
        {data && <span className="figures text-ink-2">{countText(data.faces, 'face')} not named</span>}
        <label className="ml-auto flex items-center gap-2 text-ink-2">
          Strictness
          <Select
            value={strictness}
            onChange={(value) => {
              setStrictness(value);
              go(-groups.length)();
            }}
            options={STRICTNESS.map((each) => ({ value: each, label: STRICTNESS_LABELS[each] }))}
          />
        </label>
      </div>
      <ScanBar />
      <Failed query={likeness} />
      {data && groups.length === 0 && (
        <p className="mt-4 text-ink-2">
          Every face that was found is settled. New ones come up here when pictures have been looked at.
        </p>
      )}
      {groups.length > 0 && (
        <p className="mt-2 text-[12px] text-ink-2">
          ↑ ↓ from group to group, ← → from face to face, {shownKey('last')} to the one least like the others,{' '}
          {shownKey('dropOut')} leaves a face out, {shownKey('like')} finds faces like it.
        </p>
      )}
      <ul ref={list} aria-label="Likeness groups" className="mt-3 space-y-2.5">
        {groups.map((one, i) => (
          <GroupRow
            key={keyOf(one)}
            group={one}
            current={i === current}
            faceAt={faceAt}
            out={i === current ? out : NONE}
            focusKey={i === current ? focusKey : 0}
            mayChange={mayChange}
            busy={change.isPending}
            onFocus={(face) => {
              if (i !== current) setOut(new Set());
              goTo(i);
              setFaceAt(face);
            }}
            {...settling(one)}
          />
        ))}
      </ul>
      {data && data.total > groups.length && (
        <Button className="mt-3" onClick={() => setLimit(limit + PAGE)}>
          More: {numberText(data.total - groups.length)}
        </Button>
      )}
    </PeopleFrame>
  );
}

const NONE: ReadonlySet<number> = new Set();
