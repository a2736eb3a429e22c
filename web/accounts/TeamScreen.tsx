// Team: who works on the archive, in which teams, and what each role stands for. For who administers.

import { useState } from 'react';
import { PERMISSIONS, PERMISSION_IDS } from '@stellin/core/accounts/permissions';
import type { Team, TeamOverview, TeamRole } from '@stellin/contract/team';
import { Check } from 'lucide-react';
import { countText } from '@stellin/contract/wording';
import { Button } from '../parts/Button';
import { DataTable } from '../parts/DataTable';
import { Dialog } from '../parts/Dialog';
import { FormActions } from '../parts/FormActions';
import { Menu, MenuItem } from '../parts/Menu';
import { Queried } from '../parts/Queried';
import { AccountTable } from './AccountTable';
import { InviteDialog } from './InviteDialog';
import { useRemoveRole, useRemoveTeam, useTeam } from './queries';
import { RightsDialog } from './RightsDialog';
import { rightsOf, rightText } from './rightText';
import { RoleDialog } from './RoleDialog';
import { TeamDialog } from './TeamDialog';

export function TeamScreen() {
  const team = useTeam();
  const [inviting, setInviting] = useState(false);
  return (
    <div className="h-full overflow-y-auto p-6">
      <div className="flex items-center gap-4">
        <h1 className="font-title text-[22px] font-semibold">Team</h1>
        <Button look="primary" className="ml-auto" onClick={() => setInviting(true)}>
          Invite somebody …
        </Button>
      </div>
      <Queried query={team}>
        {(overview) => (
          <>
            <p className="mt-1 text-ink-2">
              {countText(overview.accounts.length, 'account')}. What somebody may not see does not exist for them.
            </p>
            <section aria-label="Accounts" className="mt-4 rounded border border-line bg-card">
              <AccountTable team={overview} />
            </section>
            <div className="mt-6 grid grid-cols-1 gap-6 xl:grid-cols-2">
              <Teams overview={overview} />
              <Roles overview={overview} />
            </div>
          </>
        )}
      </Queried>
      {inviting && <InviteDialog onClose={() => setInviting(false)} />}
    </div>
  );
}

function Teams({ overview }: { overview: TeamOverview }) {
  const [open, setOpen] = useState<{ what: 'team' | 'rights' | 'removing'; team: Team | null } | null>(null);
  const close = () => setOpen(null);
  return (
    <section aria-labelledby="teams">
      <div className="mb-2 flex items-center gap-3">
        <h2 id="teams" className="font-title text-[16px] font-semibold">
          Teams
        </h2>
        <Button className="ml-auto" onClick={() => setOpen({ what: 'team', team: null })}>
          New team …
        </Button>
      </div>
      <ul className="rounded border border-line bg-card">
        {overview.teams.map((team) => {
          const members = overview.accounts.filter(({ teams }) => teams.includes(team.id));
          const rights = rightsOf(overview, 'team', team.id);
          return (
            <li key={team.id} className="flex items-start gap-3 border-b border-line px-3 py-2 last:border-0">
              <div className="min-w-0 flex-1">
                <span className="font-semibold">{team.name}</span>{' '}
                <span className="text-ink-2">
                  {members.map(({ displayName }) => displayName).join(', ') || 'nobody yet'}
                </span>
                {rights.map((right) => (
                  <span key={right.id} className="block">
                    {rightText(right, overview)}
                  </span>
                ))}
                {team.note && <span className="block text-[12px] text-ink-2">{team.note}</span>}
              </div>
              <Menu label={`What can be done with the team ${team.name}`}>
                <MenuItem label="Rights …" onSelect={() => setOpen({ what: 'rights', team })} />
                <MenuItem label="Name and members …" onSelect={() => setOpen({ what: 'team', team })} />
                <MenuItem label="Remove …" onSelect={() => setOpen({ what: 'removing', team })} />
              </Menu>
            </li>
          );
        })}
        {overview.teams.length === 0 && (
          <li className="px-3 py-2 text-ink-2">A team has rights that all its members have.</li>
        )}
      </ul>
      {open?.what === 'team' && <TeamDialog overview={overview} team={open.team} onClose={close} />}
      {open?.what === 'removing' && open.team && <RemoveDialog overview={overview} team={open.team} onClose={close} />}
      {open?.what === 'rights' && open.team && (
        <RightsDialog
          team={overview}
          holder={{ kind: 'team', id: open.team.id }}
          name={`the team ${open.team.name}`}
          onClose={close}
        />
      )}
    </section>
  );
}

/** What goes with a team is said first: it does not come back by undo. */
function RemoveDialog({ overview, team, onClose }: { overview: TeamOverview; team: Team; onClose: () => void }) {
  const remove = useRemoveTeam();
  const members = overview.accounts.filter(({ teams }) => teams.includes(team.id)).length;
  const rights = rightsOf(overview, 'team', team.id).length;
  return (
    <Dialog open onOpenChange={onClose} title={`Remove the team ${team.name}`}>
      <p>
        It has {countText(members, 'person', 'people')} and {countText(rights, 'right')}: what they may do because of it
        they can’t do any more. That can’t be undone.
      </p>
      <FormActions
        onCancel={onClose}
        action="Remove the team"
        disabled={remove.isPending}
        onAction={() => remove.mutate(team.id, { onSuccess: onClose })}
      />
    </Dialog>
  );
}

function Roles({ overview }: { overview: TeamOverview }) {
  const [open, setOpen] = useState<TeamRole | 'new' | null>(null);
  const remove = useRemoveRole();
  return (
    <section aria-labelledby="roles">
      <div className="mb-2 flex items-center gap-3">
        <h2 id="roles" className="font-title text-[16px] font-semibold">
          Roles
        </h2>
        <Button className="ml-auto" onClick={() => setOpen('new')}>
          New role …
        </Button>
      </div>
      <div className="overflow-x-auto rounded border border-line bg-card">
        <DataTable
          label="Roles and what they may do"
          small
          rows={PERMISSION_IDS}
          keyOf={(id) => id}
          columns={[
            {
              id: 'permission',
              title: 'May',
              headsRow: true,
              cell: (id) => <span title={PERMISSIONS[id].help}>{PERMISSIONS[id].label}</span>,
            },
            ...overview.roles.map((role) => ({
              id: String(role.id),
              title: <RoleHead role={role} onOpen={() => setOpen(role)} onRemove={() => remove.mutate(role.id)} />,
              cell: (id: (typeof PERMISSION_IDS)[number]) =>
                role.permissions.includes(id) ? (
                  <Check size={14} className="text-spruce" aria-label="yes" />
                ) : (
                  <span className="text-ink-3">–</span>
                ),
            })),
          ]}
        />
      </div>
      {open !== null && <RoleDialog role={open === 'new' ? null : open} onClose={() => setOpen(null)} />}
    </section>
  );
}

/** Those that every archive has stay as they are. */
function RoleHead({ role, onOpen, onRemove }: { role: TeamRole; onOpen: () => void; onRemove: () => void }) {
  if (role.preset !== null) return role.name;
  return (
    <span className="inline-flex items-center gap-1">
      {role.name}
      <Menu label={`What can be done with the role ${role.name}`}>
        <MenuItem label="Change …" onSelect={onOpen} />
        <MenuItem label="Remove" onSelect={onRemove} />
      </Menu>
    </span>
  );
}
