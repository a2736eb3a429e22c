// The accounts of the archive, with what each may do in words.

import { formatDistanceToNow, parseISO } from 'date-fns';
import { useState } from 'react';
import type { TeamAccount, TeamOverview } from '@stellin/contract/team';
import { DataTable, type Column } from '../parts/DataTable';
import { Menu, MenuItem } from '../parts/Menu';
import { LinkDialog } from './LinkDialog';
import { useChangeAccount, useLink, useResetFactor } from './queries';
import { RenameDialog } from './RenameDialog';
import { RightsDialog } from './RightsDialog';
import { rightsOf, rightText } from './rightText';

type Open =
  | { what: 'rights' | 'name'; account: TeamAccount }
  | { what: 'link'; account: TeamAccount; link: { token: string; until: string } };

export function AccountTable({ team }: { team: TeamOverview }) {
  const [open, setOpen] = useState<Open | null>(null);
  const change = useChangeAccount();
  const link = useLink();
  const reset = useResetFactor();
  const close = () => setOpen(null);
  const columns: Column<TeamAccount>[] = [
    {
      id: 'name',
      title: 'Name',
      headsRow: true,
      sortBy: ({ displayName }) => displayName.toLowerCase(),
      cell: ({ displayName, name }) => (
        <>
          <span className="font-semibold">{displayName}</span> <span className="text-ink-2">{name}</span>
        </>
      ),
    },
    { id: 'rights', title: 'May do', cell: (account) => <RightLines account={account} team={team} /> },
    { id: 'state', title: 'State', sortBy: stateText, cell: (account) => stateText(account) },
    {
      id: 'menu',
      title: <span className="sr-only">What can be done</span>,
      className: 'text-right',
      cell: (account) => (
        <Menu label={`What can be done with ${account.displayName}`}>
          <MenuItem label="Rights …" onSelect={() => setOpen({ what: 'rights', account })} />
          <MenuItem label="Name …" onSelect={() => setOpen({ what: 'name', account })} />
          <MenuItem
            label={account.joined ? 'Link for a new password …' : 'Another invitation …'}
            disabled={account.disabled}
            onSelect={() =>
              link.mutate(account.id, { onSuccess: (made) => setOpen({ what: 'link', account, link: made }) })
            }
          />
          {account.secondFactor && (
            <MenuItem label="Take the second factor off" onSelect={() => reset.mutate(account.id)} />
          )}
          <MenuItem
            label={account.disabled ? 'Enable' : 'Disable'}
            onSelect={() => change.mutate({ id: account.id, disabled: !account.disabled })}
          />
        </Menu>
      ),
    },
  ];
  return (
    <>
      <DataTable
        label="Accounts"
        rows={team.accounts}
        keyOf={({ id }) => id}
        columns={columns}
        rowClass={({ disabled }) => (disabled ? 'text-ink-3' : '')}
      />
      {open?.what === 'rights' && (
        <RightsDialog
          team={team}
          holder={{ kind: 'account', id: open.account.id }}
          name={open.account.displayName}
          onClose={close}
        />
      )}
      {open?.what === 'name' && <RenameDialog account={open.account} onClose={close} />}
      {open?.what === 'link' && <LinkDialog name={open.account.displayName} link={open.link} onClose={close} />}
    </>
  );
}

/** Own rights, and those of the teams somebody is in. */
function RightLines({ account, team }: { account: TeamAccount; team: TeamOverview }) {
  const own = rightsOf(team, 'account', account.id).map((right) => rightText(right, team));
  const others = team.teams
    .filter(({ id }) => account.teams.includes(id))
    .flatMap(({ id, name }) => rightsOf(team, 'team', id).map((right) => `${rightText(right, team)}, as ${name}`));
  const lines = [...own, ...others];
  if (lines.length === 0) return <span className="text-amber">nothing yet</span>;
  return lines.map((line) => (
    <span key={line} className="block">
      {line}
    </span>
  ));
}

function stateText({ disabled, joined, invitedUntil, lastUsedAt }: TeamAccount): string {
  if (disabled) return 'disabled';
  if (!joined) return invitedUntil ? 'invited' : 'no open invitation';
  return lastUsedAt ? `here ${formatDistanceToNow(parseISO(lastUsedAt), { addSuffix: true })}` : 'not signed in';
}
