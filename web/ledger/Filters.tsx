// Which entries of the ledger are shown: by whom, what kind of work, when, of which drive or project.

import { PERMISSIONS, PERMISSION_IDS, type Permission } from '@stellin/core/accounts/permissions';
import { ACCESS_KINDS, ACCESS_KIND_IDS, type AccessKind } from '@stellin/contract/access';
import { kindsFor } from '@stellin/contract/ledger';
import { teamRoutes } from '@stellin/contract/team';
import { useTeam } from '../accounts/queries';
import { useProjects } from '../dossiers/queries';
import { useDrives } from '../drives/queries';
import { useMayCall } from '../foundation/session';
import { Button } from '../parts/Button';
import { TextField } from '../parts/Field';
import { Select } from '../parts/Select';

/** What is asked of one of the two books; what is empty asks nothing. */
export interface Asked {
  accountId: number;
  from: string;
  to: string;
  containing: string;
  work: Permission | '';
  driveId: string;
  dossierId: number;
  kind: AccessKind | '';
}
export const NOTHING_ASKED: Asked = {
  accountId: 0,
  from: '',
  to: '',
  containing: '',
  work: '',
  driveId: '',
  dossierId: 0,
  kind: '',
};

/** Kinds of work that leave an entry. */
const WORK = PERMISSION_IDS.filter((id) => kindsFor(id).length > 0);

interface Props {
  book: 'changes' | 'access';
  asked: Asked;
  onAsk: (asked: Asked) => void;
}

export function Filters({ book, asked, onAsk }: Props) {
  const ask = (change: Partial<Asked>) => onAsk({ ...asked, ...change });
  const isAsking = Object.values(asked).some((value) => value !== '' && value !== 0);
  return (
    <div role="group" aria-label="Which entries" className="mb-3 flex flex-wrap items-end gap-2">
      <WhoChoice value={asked.accountId} onChange={(accountId) => ask({ accountId })} />
      {book === 'changes' ? (
        <ChangesOnly asked={asked} ask={ask} />
      ) : (
        <Select
          label="What was recorded"
          className="w-40"
          value={asked.kind}
          onChange={(kind) => ask({ kind })}
          options={[
            { value: '' as const, label: 'everything' },
            ...ACCESS_KIND_IDS.map((kind) => ({ value: kind, label: ACCESS_KINDS[kind] })),
          ]}
        />
      )}
      <TextField
        label="From"
        type="date"
        className="w-34"
        value={asked.from}
        onChange={(event) => ask({ from: event.target.value })}
      />
      <TextField
        label="To"
        type="date"
        className="w-34"
        value={asked.to}
        onChange={(event) => ask({ to: event.target.value })}
      />
      {isAsking && (
        <Button look="quiet" onClick={() => onAsk(NOTHING_ASKED)}>
          Show all
        </Button>
      )}
    </div>
  );
}

/** Accounts are known to who administers. */
function WhoChoice({ value, onChange }: { value: number; onChange: (id: number) => void }) {
  return useMayCall(teamRoutes.showTeam) ? <KnownAccounts value={value} onChange={onChange} /> : null;
}

function KnownAccounts({ value, onChange }: { value: number; onChange: (id: number) => void }) {
  const { data } = useTeam();
  return (
    <Select
      label="By whom"
      className="w-32"
      value={value}
      onChange={onChange}
      options={[
        { value: 0, label: 'by anybody' },
        ...(data?.accounts ?? []).map(({ id, displayName }) => ({ value: id, label: displayName })),
      ]}
    />
  );
}

function ChangesOnly({ asked, ask }: { asked: Asked; ask: (change: Partial<Asked>) => void }) {
  const drives = useDrives().data?.drives ?? [];
  const { data: projects = [] } = useProjects();
  return (
    <>
      <Select
        label="What kind of work"
        className="w-32"
        value={asked.work}
        onChange={(work) => ask({ work })}
        options={[
          { value: '' as const, label: 'any work' },
          ...WORK.map((id) => ({ value: id, label: PERMISSIONS[id].label })),
        ]}
      />
      <Select
        label="On which drive"
        className="w-32"
        value={asked.driveId}
        onChange={(driveId) => ask({ driveId })}
        options={[
          { value: '', label: 'any drive' },
          ...drives.flatMap(({ id, label }) => (id === null ? [] : [{ value: id, label }])),
        ]}
      />
      {projects.length > 0 && (
        <Select
          label="In which project"
          className="w-32"
          value={asked.dossierId}
          onChange={(dossierId) => ask({ dossierId })}
          options={[
            { value: 0, label: 'any project' },
            ...projects.map(({ dossierId, name }) => ({ value: dossierId, label: name })),
          ]}
        />
      )}
      <TextField
        label="Words of the entry"
        hideLabel
        type="search"
        placeholder="Words …"
        className="w-28"
        value={asked.containing}
        onChange={(event) => ask({ containing: event.target.value })}
      />
    </>
  );
}
