// Making a plan: of a picture that is uploaded, or of a photo, film still or page of the catalogue.

import { useState } from 'react';
import { criterion } from '@stellin/core/query/query';
import { queryText } from '@stellin/core/search/language';
import { useCount } from '../photos/queries';
import { showError, useChange } from '../foundation/changes';
import { base64Of } from '../foundation/base64';
import { Button } from '../parts/Button';
import { Dialog } from '../parts/Dialog';
import { TextArea, TextField } from '../parts/Field';
import { FormActions } from '../parts/FormActions';
import { Radio, RadioGroup } from '../parts/RadioGroup';
import { useFilePicker } from '../parts/useFilePicker';
import { useFormOf } from '../parts/useFormOf';
import { planWords } from './PlanForm';
import { useAddPicture } from './queries';
import { onePhoto, useOnePhoto } from './useOnePhoto';

interface Props {
  /** The photo that is chosen, if it is just one: most likely the plan is made of it. */
  chosenId: number | null;
  onClose: () => void;
  onMade: (planId: number) => void;
}

export function NewPlan({ chosenId, onClose, onMade }: Props) {
  const [from, setFrom] = useState<'file' | 'photo'>(chosenId === null ? 'file' : 'photo');
  const [file, setFile] = useState<File | null>(null);
  const [typed, setTyped] = useState(chosenId === null ? '' : queryText(criterion('photos', String(chosenId))));
  const [page, setPage] = useState('1');
  const form = useFormOf(planWords, { name: '', note: '' });
  const { register, handleSubmit, formState, setValue, watch } = form;
  const query = typed.trim();
  const found = useCount(query).data?.count ?? 0;
  const photo = useOnePhoto(query, found);
  const [field, openFiles] = useFilePicker({
    label: 'Picture of the plan',
    accept: 'image/*',
    onFiles: ([picture]) => {
      if (!picture) return;
      setFile(picture);
      if (watch('name') === '') setValue('name', picture.name.replace(/\.\w+$/, '').replaceAll('/', '-'));
    },
  });
  const add = useAddPicture();
  const change = useChange();
  const isReady = from === 'file' ? file !== null : photo !== null && /^[1-9]\d{0,4}$/.test(page);
  const submit = handleSubmit(async (said) => {
    try {
      const { pictureId } = await add.mutateAsync(
        from === 'file' && file
          ? { name: file.name, picture: await base64Of(file) }
          : { photoId: photo?.id ?? 0, page: Number(page) },
      );
      change.mutate(
        { kind: 'makePlan', ...said, pictureId },
        { onSuccess: ({ entry }) => entry?.objectId && onMade(entry.objectId) },
      );
    } catch (error) {
      // What the server refused has been said already.
      if (!add.isError) showError(error);
    }
  });
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title="New site plan">
      <form className="flex flex-col gap-3" onSubmit={(event) => void submit(event)}>
        <RadioGroup label="Its picture" value={from} onChange={setFrom}>
          <Radio value="file">A file of this machine</Radio>
          <Radio value="photo">A photo or page of the catalogue</Radio>
        </RadioGroup>
        {from === 'file' ? (
          <div className="flex items-center gap-3">
            <Button onClick={openFiles}>Choose a picture …</Button>
            <span className="min-w-0 truncate text-ink-2">{file?.name ?? 'none chosen'}</span>
            {field}
          </div>
        ) : (
          <div className="flex gap-3">
            <TextField
              label="A search that finds just it"
              className="min-w-0 flex-1"
              placeholder="name:SKM_PLAN_01.png"
              value={typed}
              help={onePhoto(query, found, photo)}
              onChange={(event) => setTyped(event.target.value)}
            />
            <TextField
              label="Page"
              className="w-16"
              inputMode="numeric"
              value={page}
              onChange={(event) => setPage(event.target.value)}
            />
          </div>
        )}
        <TextField label="Name" error={formState.errors.name?.message} {...register('name')} />
        <TextArea label="Note" rows={2} error={formState.errors.note?.message} {...register('note')} />
        <FormActions
          action={add.isPending ? 'The picture is being read …' : 'Make the plan'}
          disabled={!isReady || add.isPending || change.isPending}
          onCancel={onClose}
        />
      </form>
    </Dialog>
  );
}
