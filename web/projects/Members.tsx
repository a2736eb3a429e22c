// Who works on a project: accounts and teams that hold a role in its dossier. For who administers.

import { X } from 'lucide-react';
import { useState } from 'react';
import type { Project } from '@stellin/contract/projects';
import type { TeamOverview, TeamRight } from '@stellin/contract/team';
import { useGiveRight, useTakeRight, useTeam } from '../accounts/queries';
import { Button } from '../parts/Button';
import { Queried } from '../parts/Queried';
import { Select } from '../parts/Select';

export function Members({ project }: { project: Project }) {
  const team = useTeam();
  return (
    <section aria-labelledby="members" className="min-w-0">
      <h3 id="members" className="mb-2 flex min-h-8 items-center font-title text-[16px] font-semibold">
        Members
      </h3>
      <div className="rounded border border-line bg-card">
        <Queried query={team}>{(overview) => <MemberList overview={overview} project={project} />}</Queried>
      </div>
    </section>
  );
}

function MemberList({ overview, project: { dossierId, name } }: { overview: TeamOverview; project: Project }) {
  const take = useTakeRight();
  const rights = overview.rights.filter(({ place }) => place.kind === 'dossier' && place.dossierId === dossierId);
  return (
    <>
      <ul>
        {rights.map((right) => {
          const text = `${holderName(right.holder, overview)} · ${roleName(right, overview)}`;
          return (
            <li key={right.id} className="flex items-center gap-2 border-b border-line px-3 py-1">
              <span className="min-w-0 flex-1 truncate">{text}</span>
              <Button
                look="quiet"
                className="!h-7"
                aria-label={`No member any more: ${text}`}
                disabled={take.isPending}
                onClick={() => take.mutate(right.id)}
              >
                <X size={14} />
              </Button>
            </li>
          );
        })}
        {rights.length === 0 && (
          <li className="border-b border-line px-3 py-2 text-ink-2">
            Nobody but those who work on the whole archive. A member sees {name}, and does there what the role says.
          </li>
        )}
      </ul>
      <AddMember overview={overview} dossierId={dossierId} />
    </>
  );
}

function AddMember({ overview, dossierId }: { overview: TeamOverview; dossierId: number }) {
  const give = useGiveRight();
  const holders = [
    ...overview.teams.map(({ id, name }) => ({ value: `team ${id}`, label: name, group: 'Teams' })),
    ...overview.accounts
      .filter(({ disabled }) => !disabled)
      .map(({ id, displayName }) => ({ value: `account ${id}`, label: displayName, group: 'Accounts' })),
  ];
  const [holder, setHolder] = useState('');
  const [roleId, setRoleId] = useState(overview.roles.find(({ preset }) => preset === 'cataloguer')?.id ?? 0);
  return (
    <form
      className="flex items-center gap-2 px-3 py-2"
      onSubmit={(event) => {
        event.preventDefault();
        const [kind, id] = holder.split(' ');
        give.mutate(
          {
            holder: { kind: kind === 'team' ? 'team' : 'account', id: Number(id) },
            roleId,
            place: { kind: 'dossier', dossierId },
          },
          { onSuccess: () => setHolder('') },
        );
      }}
    >
      <Select
        label="New member"
        className="min-w-0 flex-1"
        value={holder}
        onChange={setHolder}
        options={[{ value: '', label: 'Who …' }, ...holders]}
      />
      <Select
        label="Role of the new member"
        className="w-40"
        value={roleId}
        onChange={setRoleId}
        options={overview.roles.map(({ id, name }) => ({ value: id, label: name }))}
      />
      <Button type="submit" disabled={holder === '' || give.isPending}>
        Add
      </Button>
    </form>
  );
}

function holderName(holder: TeamRight['holder'], { accounts, teams }: TeamOverview): string {
  return holder.kind === 'team'
    ? (teams.find(({ id }) => id === holder.id)?.name ?? '')
    : (accounts.find(({ id }) => id === holder.id)?.displayName ?? '');
}

function roleName({ roleId }: TeamRight, { roles }: TeamOverview): string {
  return roles.find(({ id }) => id === roleId)?.name ?? '';
}
