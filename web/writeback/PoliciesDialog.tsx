// How files are written: settled by keepers for everybody.

import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { FieldId } from '@stellin/core/metadata/fields';
import { customName, DESCRIBED_FIELDS, type Target } from '@stellin/core/describing/targets';
import { writeBackRoutes, type WritePolicies } from '@stellin/contract/writeback';
import { call } from '../foundation/api';
import { showError } from '../foundation/changes';
import { useMayCall } from '../foundation/session';
import { FieldChoice } from '../describing/FieldChoice';
import { usePrepared } from '../describing/queries';
import { Button } from '../parts/Button';
import { Dialog } from '../parts/Dialog';
import { FormActions } from '../parts/FormActions';
import { kindLabel, kindsWhere } from '@stellin/core/metadata/containers/index';
import { Checkbox } from '../parts/Checkbox';
import { Radio, RadioGroup } from '../parts/RadioGroup';
import { TextField } from '../parts/Field';

/** Kinds whose files can hold a description themselves: pictures, and films and sounds. */
const EMBEDDING = kindsWhere(({ embeds, media }) => embeds && media === 'still');
const RECORDINGS = kindsWhere(({ embeds, media }) => embeds && media !== 'still');

/** Fields that belong together, and whether files get them. Regions bear names, so without names there are none. */
const CONTENTS: readonly { label: string; fields: readonly FieldId[] }[] = [
  {
    label: 'names of people, in fields and face regions',
    fields: ['personInImage', 'personInImageDetails', 'regions', 'imageRegion'],
  },
  { label: 'face regions', fields: ['regions', 'imageRegion'] },
  { label: 'the GPS position', fields: ['position'] },
];

export function PoliciesDialog() {
  const [open, setOpen] = useState(false);
  const { data } = useQuery({
    queryKey: ['writeBack', 'policies'],
    queryFn: () => call(writeBackRoutes.showPolicies, {}),
  });
  if (!useMayCall(writeBackRoutes.savePolicies) || !data) return null;
  return (
    <>
      <Button className="ml-auto" onClick={() => setOpen(true)}>
        How files are written …
      </Button>
      {open && <Policies policies={data} onClose={() => setOpen(false)} />}
    </>
  );
}

function Policies({ policies, onClose }: { policies: WritePolicies; onClose: () => void }) {
  const [draft, setDraft] = useState(policies);
  const client = useQueryClient();
  const save = useMutation({
    mutationFn: () => call(writeBackRoutes.savePolicies, { body: draft }),
    onError: showError,
    onSuccess: async () => {
      await client.invalidateQueries({ queryKey: ['writeBack'] });
      onClose();
    },
  });
  const set = (part: Partial<WritePolicies>) => setDraft({ ...draft, ...part });
  const { data: prepared } = usePrepared();
  const own = (prepared?.fieldSets ?? []).flatMap(({ entries }) => entries.map(({ target }) => target));
  const withheldOwn = draft.withheld.filter((each) => each.startsWith('custom:')) as Target[];
  const targets = [
    ...DESCRIBED_FIELDS.map(({ id }): Target => id),
    ...new Set([...own, ...withheldOwn].filter((target) => customName(target) !== undefined)),
  ];
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title="How files are written" wide>
      <form
        className="flex flex-col gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          save.mutate();
        }}
      >
        <div className="grid grid-cols-2 gap-x-8 gap-y-4">
          <Iim draft={draft} set={set} />
          <SidecarKinds draft={draft} set={set} />
          <ByItself draft={draft} set={set} />
          <Contents draft={draft} set={set} />
          <Times draft={draft} set={set} />
        </div>
        <FieldChoice
          label="Never written: these fields stay in the catalogue"
          targets={targets}
          chosen={new Set(targets.filter((target) => draft.withheld.includes(target)))}
          onChoose={(chosen) =>
            set({
              withheld: [...draft.withheld.filter((each) => !targets.some((target) => target === each)), ...chosen],
            })
          }
        />
        <p className="text-[12px] text-ink-2">
          Whether broader terms and other labels go along is a rule of each term.
        </p>
        <FormActions onCancel={onClose} action="Write files so" disabled={save.isPending} />
      </form>
    </Dialog>
  );
}

interface PartProps {
  draft: WritePolicies;
  set: (part: Partial<WritePolicies>) => void;
}

/** Where IIM is written. */
function Iim({ draft, set }: PartProps) {
  return (
    <fieldset>
      <legend className="text-[12px] text-ink-2">IIM, for programs that know no XMP</legend>
      <RadioGroup label="IIM" value={draft.iim} onChange={(iim) => set({ iim })}>
        <Radio value="always">always, where the kind of file has a place for it</Radio>
        <Radio value="where present">only in files that hold IIM already</Radio>
      </RadioGroup>
    </fieldset>
  );
}

/** Kinds of files whose description goes into a sidecar. */
function SidecarKinds({ draft, set }: PartProps) {
  return (
    <fieldset>
      <legend className="text-[12px] text-ink-2">Into a sidecar instead of the file itself</legend>
      <div className="flex flex-wrap gap-x-4">
        {EMBEDDING.map((kind) => (
          <Checkbox
            key={kind}
            checked={draft.sidecarKinds.includes(kind)}
            onChange={(checked) =>
              set({
                sidecarKinds: checked
                  ? [...draft.sidecarKinds, kind]
                  : draft.sidecarKinds.filter((each) => each !== kind),
              })
            }
            className="py-0.5"
          >
            {kindLabel(kind)}
          </Checkbox>
        ))}
      </div>
      <Checkbox
        checked={draft.recordings === 'sidecar'}
        onChange={(checked) => set({ recordings: checked ? 'sidecar' : 'file' })}
        className="py-0.5"
      >
        films and sounds ({RECORDINGS.map(kindLabel).join(', ')}): else all of the file is written anew the first time
      </Checkbox>
      <p className="text-[12px] text-ink-2">Other kinds get a sidecar in any case.</p>
    </fieldset>
  );
}

/** When files are written without being asked. */
function ByItself({ draft, set }: PartProps) {
  return (
    <fieldset>
      <legend className="text-[12px] text-ink-2">By itself</legend>
      <Checkbox
        checked={draft.automaticMinutes !== null}
        onChange={(checked) => set({ automaticMinutes: checked ? 10 : null })}
        className="py-0.5"
      >
        <span className="flex flex-wrap items-center gap-1.5">
          when nobody has changed anything for
          <TextField
            label="Minutes"
            hideLabel
            type="number"
            min={1}
            max={1440}
            disabled={draft.automaticMinutes === null}
            className="w-16"
            boxClass="figures h-7 disabled:opacity-50"
            value={draft.automaticMinutes ?? 10}
            onChange={(event) => set({ automaticMinutes: Math.max(1, Math.floor(event.target.valueAsNumber || 1)) })}
          />
          minutes
        </span>
      </Checkbox>
      <Checkbox
        checked={draft.onReturn === 'write'}
        onChange={(checked) => set({ onReturn: checked ? 'write' : 'ask' })}
        className="py-0.5"
      >
        when a drive returns on which writes wait
      </Checkbox>
    </fieldset>
  );
}

/** What files get of what is delicate. */
function Contents({ draft, set }: PartProps) {
  const holdBack = (fields: readonly string[], held: boolean) =>
    set({ withheld: [...draft.withheld.filter((each) => !fields.includes(each)), ...(held ? fields : [])] });
  return (
    <fieldset>
      <legend className="text-[12px] text-ink-2">Files get</legend>
      {CONTENTS.map(({ label, fields }) => (
        <Checkbox
          key={label}
          checked={!fields.some((field) => draft.withheld.includes(field))}
          onChange={(checked) => holdBack(fields, !checked)}
          className="py-0.5"
        >
          {label}
        </Checkbox>
      ))}
      <p className="text-[12px] text-ink-2">Names of private persons are never written.</p>
    </fieldset>
  );
}

/** What becomes of the times of files. */
function Times({ draft, set }: PartProps) {
  return (
    <fieldset>
      <legend className="text-[12px] text-ink-2">Times of files</legend>
      <Checkbox checked={draft.keepTimes} onChange={(checked) => set({ keepTimes: checked })} className="py-0.5">
        stay as they were when the file is written anew
      </Checkbox>
      <Checkbox
        checked={draft.keepTimesInPlace}
        onChange={(checked) => set({ keepTimesInPlace: checked })}
        className="py-0.5"
      >
        and when it is written in place
      </Checkbox>
      <p className="text-[12px] text-ink-2">
        In place its size stays as well: programs that go by size and time, backups among them, would not see that it
        changed.
      </p>
    </fieldset>
  );
}
