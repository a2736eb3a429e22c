// Likeness groups to settle, one row each: faces, then one question. By keys from row to row.

import { useEffect, useRef } from 'react';
import { STRICTNESS, type Strictness } from '@stellin/core/people/grouping';
import { peopleRoutes } from '@stellin/contract/people';
import { countText, numberText } from '@stellin/contract/wording';
import { shownKey } from '../foundation/keys';
import { useMayCall } from '../foundation/session';
import { Button } from '../parts/Button';
import { GroupRow } from './GroupRow';
import { PeopleFrame } from './PeopleFrame';
import { ScanBar } from './ScanBar';
import { keyOf, useGroupWork } from './useGroupWork';
import { Select } from '../parts/Select';
import { Failed } from '../parts/Queried';

const STRICTNESS_LABELS: Readonly<Record<Strictness, string>> = {
  exact: 'Exact: small groups, hardly ever mixed',
  close: 'Close',
  wide: 'Wide: large groups, look closely',
};

export function PeopleScreen() {
  if (useMayCall(peopleRoutes.listLikenessGroups)) return <LikenessGroups />;
  return (
    <PeopleFrame>
      <p className="text-ink-2">Choose a person at the left.</p>
    </PeopleFrame>
  );
}

function LikenessGroups() {
  const work = useGroupWork();
  const { strictness, likeness, groups, current, faceAt, out, focusKey, mayChange, settling } = work;
  const { data } = likeness;
  const list = useRef<HTMLUListElement>(null);
  useEffect(() => {
    list.current?.children[current]?.scrollIntoView({ block: 'nearest' });
  }, [current]);
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
            onChange={work.setStrictness}
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
            busy={work.isBusy}
            onFocus={(face) => work.focus(i, face)}
            {...settling(one)}
          />
        ))}
      </ul>
      {data && data.total > groups.length && (
        <Button className="mt-3" onClick={work.more}>
          More: {numberText(data.total - groups.length)}
        </Button>
      )}
    </PeopleFrame>
  );
}

const NONE: ReadonlySet<number> = new Set();
