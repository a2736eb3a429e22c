// Where an accession comes from: who gave it, what was agreed, until when, and the papers that say so.

import { useId, useState } from 'react';
import { provenanceShape, type Paper, type Provenance } from '@stellin/contract/accessions';
import { sizeText } from '@stellin/contract/sizeText';
import { useChange } from '../foundation/changes';
import { Button } from '../parts/Button';
import { Dialog } from '../parts/Dialog';
import { TextArea, TextField } from '../parts/Field';
import { FormActions } from '../parts/FormActions';
import { Queried } from '../parts/Queried';
import { useFilePicker } from '../parts/useFilePicker';
import { useFormOf } from '../parts/useFormOf';
import { paperUrl, useAddPaper, useProvenance, useRemovePaper } from './queries';

interface Props {
  accessionId: number;
  onClose: () => void;
}

export function ProvenanceDialog({ accessionId, onClose }: Props) {
  const query = useProvenance(accessionId);
  return (
    <Dialog open onOpenChange={onClose} title={`Where accession ${accessionId} comes from`} wide>
      <Queried query={query} className="">
        {({ provenance, papers }) => (
          <div className="grid gap-6 md:grid-cols-[3fr_2fr]">
            <ProvenanceForm accessionId={accessionId} given={provenance} onClose={onClose} />
            <Papers accessionId={accessionId} papers={papers} />
          </div>
        )}
      </Queried>
    </Dialog>
  );
}

function ProvenanceForm({ accessionId, given, onClose }: Props & { given: Provenance }) {
  const change = useChange();
  const { register, handleSubmit, formState } = useFormOf<Provenance>(provenanceShape, given);
  const { errors } = formState;
  const submit = handleSubmit((said) =>
    change.mutate({ kind: 'describeAccession', accessionId, ...said }, { onSuccess: onClose }),
  );
  return (
    <form className="space-y-3" onSubmit={(event) => void submit(event)}>
      <div className="grid grid-cols-2 gap-3">
        <TextField
          label="Number"
          autoFocus
          placeholder="as the archive numbers it"
          error={errors.number?.message}
          {...register('number')}
        />
        <TextField label="Donor" error={errors.donor?.message} {...register('donor')} />
      </div>
      <TextField
        label="Source"
        placeholder="where the files were before"
        error={errors.source?.message}
        {...register('source')}
      />
      <TextArea label="Agreement" rows={3} error={errors.agreement?.message} {...register('agreement')} />
      <TextArea
        label="Restrictions"
        rows={2}
        placeholder="what may not be done with them"
        error={errors.restrictions?.message}
        {...register('restrictions')}
      />
      <TextField
        label="Holds until"
        type="date"
        className="w-72"
        help="90 days before, its photos come on a work list."
        error={errors.ends?.message}
        {...register('ends')}
      />
      <TextArea label="Note" rows={2} error={errors.note?.message} {...register('note')} />
      <FormActions onCancel={onClose} action="Keep" disabled={!formState.isDirty || change.isPending} />
    </form>
  );
}

function Papers({ accessionId, papers }: { accessionId: number; papers: readonly Paper[] }) {
  const id = useId();
  const add = useAddPaper(accessionId);
  const remove = useRemovePaper();
  /** The one that is removed at the next click. */
  const [asked, setAsked] = useState<number | null>(null);
  const [field, openFiles] = useFilePicker({
    label: 'Paper to attach',
    accept: '',
    onFiles: ([file]) => file && add.mutate(file),
  });
  return (
    <section aria-labelledby={id}>
      <h3 id={id} className="font-semibold">
        Papers
      </h3>
      {papers.length === 0 && <p className="mt-1 text-ink-2">Letters, agreements and lists can be attached here.</p>}
      <ul className="mt-1">
        {papers.map((paper) => (
          <li key={paper.id} className="flex items-baseline gap-2 border-b border-line py-1 last:border-0">
            <a href={paperUrl(paper.id)} download={paper.name} className="min-w-0 truncate text-slate hover:underline">
              {paper.name}
            </a>
            <span className="figures ml-auto text-[12px] whitespace-nowrap text-ink-2">{sizeText(paper.bytes)}</span>
            <Button
              look="quiet"
              className="h-6! px-1.5!"
              aria-label={`Remove ${paper.name} for good`}
              onClick={() => (asked === paper.id ? remove.mutate(paper.id) : setAsked(paper.id))}
              onBlur={() => setAsked(null)}
            >
              {asked === paper.id ? 'For good?' : 'Remove'}
            </Button>
          </li>
        ))}
      </ul>
      <Button className="mt-2" disabled={add.isPending} onClick={() => openFiles()}>
        Attach a paper …
      </Button>
      {field}
    </section>
  );
}
