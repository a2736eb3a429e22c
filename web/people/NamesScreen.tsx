// Names that files bring and that are nobody of the catalogue yet: each is somebody new, somebody known, or nobody.

import { useState } from 'react';
import type { Who } from '@stellin/contract/people';
import { countText } from '@stellin/contract/wording';
import { previewUrl } from '../api';
import { useChange } from '../app/changes';
import { useMay } from '../app/session';
import { Button } from '../parts/Button';
import { deskLink } from '../parts/deskLink';
import { Link } from 'react-router';
import { PeopleFrame } from './PeopleFrame';
import { PersonPicker } from './PersonPicker';
import { useNames } from './queries';

type Decision = { who: Who; name: string } | { who: null };

export function NamesScreen() {
  const { data } = useNames();
  const names = data?.names ?? [];
  const [decided, setDecided] = useState<ReadonlyMap<string, Decision>>(new Map());
  const change = useChange();
  const mayChange = useMay('cataloguer');
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
  const allNew = () =>
    setDecided(
      new Map(
        names.map(({ name, proposed }) => [
          name,
          proposed ? { who: { personId: proposed.id }, name: proposed.name } : { who: { name }, name },
        ]),
      ),
    );
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
      {data && names.length === 0 && <p className="mt-4 text-ink-2">Every name is settled.</p>}
      {names.length > 0 && (
        <table className="mt-3 w-full border-collapse text-left">
          <thead>
            <tr className="border-b border-line text-[12px] text-ink-2">
              <th className="py-1.5 font-semibold">Name in files</th>
              <th className="font-semibold">Photos</th>
              <th className="font-semibold">For instance</th>
              <th className="font-semibold">Is</th>
            </tr>
          </thead>
          <tbody>
            {names.map(({ name, photos, samples, proposed }) => {
              const decision = decided.get(name);
              return (
                <tr key={name} className="border-b border-line align-middle">
                  <td className="py-1.5 pr-3 font-semibold">{name}</td>
                  <td className="pr-3">
                    <Link to={deskLink(`personInImage:"${name}"`)} className="figures text-slate underline">
                      {photos}
                    </Link>
                  </td>
                  <td className="pr-3">
                    <span className="flex gap-1">
                      {samples.map(({ photoId, version }) => (
                        <img
                          key={photoId}
                          src={previewUrl(photoId, version)}
                          alt=""
                          loading="lazy"
                          className="h-11 rounded-sm"
                        />
                      ))}
                    </span>
                  </td>
                  <td className="w-105">
                    {decision ? (
                      <span className="flex items-center gap-2">
                        <b>{decision.who === null ? 'Nobody of the catalogue' : decision.name}</b>
                        {decision.who && 'name' in decision.who && <span className="text-ink-2">new</span>}
                        <Button look="quiet" className="!h-7" onClick={() => decide(name, null)}>
                          Change
                        </Button>
                      </span>
                    ) : (
                      mayChange && (
                        <span className="flex items-center gap-1.5">
                          <Button
                            className="!h-7"
                            onClick={() =>
                              decide(
                                name,
                                proposed
                                  ? { who: { personId: proposed.id }, name: proposed.name }
                                  : { who: { name }, name },
                              )
                            }
                          >
                            {proposed ? proposed.name : 'New person'}
                          </Button>
                          <PersonPicker
                            label={`Who ${name} is`}
                            placeholder="Someone else …"
                            className="w-40"
                            onPick={(who, picked) => decide(name, { who, name: picked })}
                          />
                          <Button look="quiet" className="!h-7" onClick={() => decide(name, { who: null })}>
                            Nobody
                          </Button>
                        </span>
                      )
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
    </PeopleFrame>
  );
}
