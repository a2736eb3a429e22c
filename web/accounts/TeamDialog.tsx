// A team: what it is called, and who is in it.

import { Controller } from 'react-hook-form';
import { z } from 'zod';
import { teamForm, type Team, type TeamOverview } from '@stellin/contract/team';
import { Checkbox } from '../parts/Checkbox';
import { Dialog } from '../parts/Dialog';
import { TextField } from '../parts/Field';
import { FormActions } from '../parts/FormActions';
import { useFormOf } from '../parts/useFormOf';
import { useSaveTeam } from './queries';

const schema = teamForm.omit({ id: true }).extend({ members: z.array(z.number()) });

interface Props {
  overview: TeamOverview;
  /** Null makes a new one. */
  team: Team | null;
  onClose: () => void;
}

export function TeamDialog({ overview, team, onClose }: Props) {
  const save = useSaveTeam();
  const members = overview.accounts.filter(({ teams }) => team !== null && teams.includes(team.id));
  const { register, control, handleSubmit, formState } = useFormOf(schema, {
    name: team?.name ?? '',
    note: team?.note ?? '',
    members: members.map(({ id }) => id),
  });
  return (
    <Dialog open onOpenChange={onClose} title={team ? `The team ${team.name}` : 'A new team'}>
      <form
        onSubmit={handleSubmit((given) => save.mutate({ id: team?.id ?? null, ...given }, { onSuccess: onClose }))}
        className="space-y-3"
      >
        <TextField label="Name" autoFocus error={formState.errors.name?.message} {...register('name')} />
        <TextField label="Note" error={formState.errors.note?.message} {...register('note')} />
        <Controller
          control={control}
          name="members"
          render={({ field }) => (
            <fieldset>
              <legend className="mb-1 text-[12px] text-ink-2">Members</legend>
              <div className="max-h-56 space-y-1 overflow-y-auto rounded border border-line p-2">
                {overview.accounts.map(({ id, displayName, name }) => (
                  <Checkbox
                    key={id}
                    checked={field.value.includes(id)}
                    onChange={(isIn) =>
                      field.onChange(isIn ? [...field.value, id] : field.value.filter((other) => other !== id))
                    }
                  >
                    {displayName} <span className="text-ink-2">{name}</span>
                  </Checkbox>
                ))}
              </div>
            </fieldset>
          )}
        />
        <FormActions onCancel={onClose} action={team ? 'Keep' : 'Make the team'} disabled={save.isPending} />
      </form>
    </Dialog>
  );
}
