// Making a project, also like a former one, or saying anew what it is.

import { Controller } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { projectShape, type Project, type ProjectForm } from '@stellin/contract/projects';
import { usePrepared } from '../describing/queries';
import { ColourChoice } from '../dossiers/ColourChoice';
import { useChange } from '../foundation/changes';
import { Dialog } from '../parts/Dialog';
import { Field, TextArea, TextField } from '../parts/Field';
import { FormActions } from '../parts/FormActions';
import { Select } from '../parts/Select';
import { useFormOf } from '../parts/useFormOf';

export type ProjectTask = { kind: 'make'; like: Project | null } | { kind: 'change'; project: Project };

/** In a choice 0 is none, and -1 a new one. */
const [NONE, NEW] = [0, -1];

export function ProjectDialog({ task, onClose }: { task: ProjectTask; onClose: () => void }) {
  const given = task.kind === 'change' ? task.project : task.like;
  const { data: prepared } = usePrepared();
  const { register, control, handleSubmit, formState } = useFormOf<ProjectForm>(projectShape, {
    name: task.kind === 'change' ? task.project.name : '',
    note: given?.note ?? '',
    colour: projectShape.shape.colour.catch('').parse(given?.colour),
    starts: task.kind === 'change' ? task.project.starts : '',
    ends: task.kind === 'change' ? task.project.ends : '',
    fieldSetId: given ? given.fieldSetId : 'new',
    templateId: given?.templateId ?? null,
    ruleId: given?.ruleId ?? null,
  });
  const change = useChange();
  const navigate = useNavigate();
  const { errors } = formState;
  const submit = handleSubmit((form) => {
    if (task.kind === 'change')
      change.mutate({ kind: 'changeProject', projectId: task.project.id, ...form }, { onSuccess: onClose });
    else
      change.mutate(
        { kind: 'makeProject', ...form, like: task.like?.id ?? null },
        {
          onSuccess: () => {
            onClose();
            void navigate('/projects');
          },
        },
      );
  });
  const choices: readonly {
    name: 'fieldSetId' | 'templateId' | 'ruleId';
    label: string;
    all: readonly { id: number; name: string }[];
  }[] = [
    { name: 'fieldSetId', label: 'Fields', all: prepared?.fieldSets ?? [] },
    {
      name: 'templateId',
      label: 'Template for what comes in',
      all: (prepared?.templates ?? []).filter(({ shared }) => shared),
    },
    { name: 'ruleId', label: 'Rule', all: prepared?.rules ?? [] },
  ];
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title={task.kind === 'change' ? 'Project' : task.like ? `New project like “${task.like.name}”` : 'New project'}
    >
      <form onSubmit={submit} className="flex flex-col gap-3">
        {task.kind === 'make' && task.like && (
          <p className="text-ink-2">
            It gets the same dossiers, without the photos in them, the same searches and the same members.
          </p>
        )}
        <TextField label="Name" autoFocus error={errors.name?.message} {...register('name')} />
        <div className="flex gap-3">
          <TextField
            label="Starts"
            placeholder="2024-05"
            className="flex-1"
            error={errors.starts?.message}
            {...register('starts')}
          />
          <TextField
            label="Ends"
            placeholder="2024-09-30"
            className="flex-1"
            error={errors.ends?.message}
            {...register('ends')}
          />
        </div>
        <TextArea label="Note" rows={2} error={errors.note?.message} {...register('note')} />
        <Controller
          control={control}
          name="colour"
          render={({ field }) => <ColourChoice colour={field.value} onChoose={field.onChange} />}
        />
        <div className="grid grid-cols-2 gap-3">
          {choices.map(({ name, label, all }) => (
            <Controller
              key={name}
              control={control}
              name={name}
              render={({ field }) => (
                <Field label={label} className={name === 'fieldSetId' ? 'col-span-2' : ''}>
                  {(tied) => (
                    <Select
                      {...tied}
                      className="w-full"
                      value={field.value === 'new' ? NEW : (field.value ?? NONE)}
                      onChange={(value) => field.onChange(value === NEW ? 'new' : value === NONE ? null : value)}
                      options={[
                        { value: NONE, label: 'none' },
                        ...(name === 'fieldSetId' ? [{ value: NEW, label: 'a new set of its own' }] : []),
                        ...all.map((each) => ({ value: each.id, label: each.name })),
                      ]}
                    />
                  )}
                </Field>
              )}
            />
          ))}
        </div>
        <FormActions
          onCancel={onClose}
          action={task.kind === 'change' ? 'Keep the changes' : 'Make the project'}
          disabled={change.isPending}
        />
      </form>
    </Dialog>
  );
}
