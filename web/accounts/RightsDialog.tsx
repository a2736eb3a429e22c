// The rights of an account or a team: each a role in a part of the catalogue.

import { X } from 'lucide-react';
import { useState } from 'react';
import type { RightPlace, TeamOverview, TeamRight } from '@stellin/contract/team';
import { Button } from '../parts/Button';
import { Dialog } from '../parts/Dialog';
import { Field } from '../parts/Field';
import { Select } from '../parts/Select';
import { PlacePicker } from './PlacePicker';
import { useGiveRight, useTakeRight } from './queries';
import { rightsOf, rightText } from './rightText';

interface Props {
  team: TeamOverview;
  holder: TeamRight['holder'];
  name: string;
  onClose: () => void;
}

export function RightsDialog({ team, holder, name, onClose }: Props) {
  const take = useTakeRight();
  const rights = rightsOf(team, holder.kind, holder.id);
  return (
    <Dialog open onOpenChange={onClose} title={`What ${name} may do`}>
      <ul className="mb-4 divide-y divide-line">
        {rights.map((right) => {
          const text = rightText(right, team);
          return (
            <li key={right.id} className="flex items-center gap-2 py-1.5">
              <span className="min-w-0 flex-1">{text}</span>
              <Button
                look="quiet"
                className="!h-7"
                aria-label={`Take away: ${text}`}
                disabled={take.isPending}
                onClick={() => take.mutate(right.id)}
              >
                <X size={14} />
              </Button>
            </li>
          );
        })}
        {rights.length === 0 && (
          <li className="py-1.5 text-ink-2">
            No right {holder.kind === 'account' ? 'of their own' : 'yet'}: nothing in the catalogue exists for them
            because of it.
          </li>
        )}
      </ul>
      <GiveForm team={team} holder={holder} />
    </Dialog>
  );
}

/** Gives one more role. */
function GiveForm({ team, holder }: Pick<Props, 'team' | 'holder'>) {
  const give = useGiveRight();
  const [roleId, setRoleId] = useState(team.roles.find(({ preset }) => preset === 'viewer')?.id ?? 0);
  const [place, setPlace] = useState<RightPlace | null>({ kind: 'catalogue' });
  const [given, setGiven] = useState(0);
  return (
    <form
      className="space-y-3 border-t border-line pt-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (!place) return;
        give.mutate(
          { holder, roleId, place },
          {
            onSuccess: () => {
              setPlace({ kind: 'catalogue' });
              setGiven((count) => count + 1);
            },
          },
        );
      }}
    >
      <Field label="Role">
        {(tied) => (
          <Select
            {...tied}
            className="w-full"
            value={roleId}
            onChange={setRoleId}
            options={team.roles.map(({ id, name }) => ({ value: id, label: name }))}
          />
        )}
      </Field>
      <PlacePicker key={given} onChoose={setPlace} />
      <div className="flex justify-end">
        <Button type="submit" look="primary" disabled={place === null || give.isPending}>
          Give the role
        </Button>
      </div>
    </form>
  );
}
