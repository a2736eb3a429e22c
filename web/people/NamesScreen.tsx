// Names that files bring and that are nobody of the catalogue yet: each is somebody new, somebody known, or nobody.

import { useState } from 'react';
import type { Who } from '@stellin/contract/people';
import { countText } from '@stellin/contract/wording';
import { previewUrl } from '../foundation/api';
import { useChange } from '../foundation/changes';
import { useMayChange } from '../foundation/session';
import { Button } from '../parts/Button';
import { DataTable, type Column } from '../parts/DataTable';
import { deskLink } from '../parts/deskLink';
import { Queried } from '../parts/Queried';
import { Link } from 'react-router';
import { PeopleFrame } from './PeopleFrame';
import { PersonPicker } from './PersonPicker';
import { useNames } from './queries';

type Decision = { who: Who; name: string } | { who: null };

type Name = NonNullable<ReturnType<typeof useNames>['data']>['names'][number];

export function NamesScreen() {
  const query = useNames();
  const { data } = query;
  const names = data?.names ?? [];
  const [decided, setDecided] = useState<ReadonlyMap<string, Decision>>(new Map());
  const change = useChange();
  const mayChange = useMayChange('settleNames');
  const decide = (name: string, decision: Decision | null) =>
    setDecided((before) => {
      const next = new Map(before);
      if (decision) next.set(name, decision);
      else next.delete(name);
      return next;
    });
  const settle = () =>
    change.mutate(
      { kind: 'settleNames', decisions: [...decided].map(([name, { who }]) => ({ name, who })) },
      { onSuccess: () => setDecided(new Map()) },
    );
  const allNew = () => setDecided(new Map(names.map((each) => [each.name, proposal(each)])));
  const columns: readonly Column<Name>[] = [
    ...FACTS,
    {
      id: 'is',
      title: 'Is',
      cell: (row) => <Deciding name={row} decision={decided.get(row.name)} mayChange={mayChange} onDecide={decide} />,
    },
  ];
  return (
    <PeopleFrame>
      <div className="flex items-baseline gap-3">
        <h1 className="font-title text-[19px] font-semibold">Names from files</h1>
        {data && <span className="figures text-ink-2">{countText(names.length, 'name')} not settled</span>}
        {mayChange && names.length > 0 && (
          <span className="ml-auto flex gap-2">
            <Button onClick={allNew}>Take all as proposed</Button>
            <Button look="primary" disabled={decided.size === 0 || change.isPending} onClick={settle}>
              Settle {countText(decided.size, 'name')}
            </Button>
          </span>
        )}
      </div>
      <p className="mt-1 max-w-190 text-ink-2">
        Names that stand in files as persons shown, or beside regions. Once settled, a name is recognised in all files
        to come; regions name the faces they fit.
      </p>
      <Queried query={query} className="mt-4">
        {() => (
          <div className="mt-3">
            <DataTable
              label="Names from files"
              rows={names}
              keyOf={({ name }) => name}
              columns={columns}
              empty={<p className="text-ink-2">Every name is settled.</p>}
            />
          </div>
        )}
      </Queried>
    </PeopleFrame>
  );
}

/** Who a name is as it is proposed: somebody known, else somebody new. */
function proposal({ name, proposed }: Name): Decision {
  return proposed ? { who: { personId: proposed.id }, name: proposed.name } : { who: { name }, name };
}

/** What is known of a name. */
const FACTS: readonly Column<Name>[] = [
  {
    id: 'name',
    title: 'Name in files',
    className: 'font-semibold',
    sortBy: ({ name }) => name.toLowerCase(),
    cell: ({ name }) => name,
  },
  {
    id: 'photos',
    title: 'Photos',
    sortBy: ({ photos }) => photos,
    cell: ({ name, photos }) => (
      <Link to={deskLink(`personInImage:"${name}"`)} className="figures text-slate underline">
        {photos}
      </Link>
    ),
  },
  {
    id: 'samples',
    title: 'For instance',
    cell: ({ samples }) => (
      <span className="flex gap-1">
        {samples.map(({ photoId, version }) => (
          <img key={photoId} src={previewUrl(photoId, version)} alt="" loading="lazy" className="h-11 rounded-sm" />
        ))}
      </span>
    ),
  },
];

interface DecidingProps {
  name: Name;
  decision: Decision | undefined;
  mayChange: boolean;
  onDecide: (name: string, decision: Decision | null) => void;
}

/** What was decided on a name, or the ways to decide. */
function Deciding({ name: row, decision, mayChange, onDecide }: DecidingProps) {
  const { name, proposed } = row;
  if (decision)
    return (
      <span className="flex items-center gap-2">
        <b>{decision.who === null ? 'Nobody of the catalogue' : decision.name}</b>
        {decision.who && 'name' in decision.who && <span className="text-ink-2">new</span>}
        <Button look="quiet" className="!h-7" onClick={() => onDecide(name, null)}>
          Change
        </Button>
      </span>
    );
  if (!mayChange) return null;
  return (
    <span className="flex items-center gap-1.5">
      <Button className="!h-7" onClick={() => onDecide(name, proposal(row))}>
        {proposed ? proposed.name : 'New person'}
      </Button>
      <PersonPicker
        label={`Who ${name} is`}
        placeholder="Someone else …"
        className="w-40"
        onPick={(who, picked) => onDecide(name, { who, name: picked })}
      />
      <Button look="quiet" className="!h-7" onClick={() => onDecide(name, { who: null })}>
        Nobody
      </Button>
    </span>
  );
}
