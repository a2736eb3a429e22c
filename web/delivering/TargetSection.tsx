// Where copies go, for whom and why.

import { useState } from 'react';
import { deliveryServerRoutes } from '@stellin/contract/deliveryServers';
import { sizeText } from '@stellin/contract/sizeText';
import { useDrives } from '../drives/queries';
import { usePrograms } from '../handover/queries';
import { useMayCall } from '../foundation/session';
import { Field, TextArea, TextField } from '../parts/Field';
import { Select } from '../parts/Select';
import type { Draft } from './draft';
import { useServers } from './queries';
import { Section } from './Section';
import { SERVER_LABELS, ServersDialog } from './ServersDialog';

/** How options of servers and programs are told from those of drives. */
const SERVER = 'server:';
const HANDOVER = 'handover:';

/** What an option means for the draft. */
function chosenBy(value: string): Partial<Draft> {
  const none = { driveId: '', serverId: null, handover: false, program: '' };
  if (value.startsWith(SERVER)) return { ...none, serverId: Number(value.slice(SERVER.length)) };
  if (value.startsWith(HANDOVER)) return { ...none, handover: true, program: value.slice(HANDOVER.length) };
  return { ...none, driveId: value };
}

interface Props {
  draft: Draft;
  onChange: (part: Partial<Draft>) => void;
}

export function TargetSection({ draft, onChange }: Props) {
  // Tables and sheets are downloaded.
  const mayChoose = draft.kind === 'copies';
  const { server, drive } = useTarget(draft);
  const mayKeep = useMayCall(deliveryServerRoutes.saveDeliveryServer);
  const [keeping, setKeeping] = useState(false);
  const chosen = mayChoose ? (server?.name ?? drive?.label) : undefined;
  return (
    <Section
      open
      title={mayChoose ? 'Where to' : 'For whom'}
      summary={
        mayChoose && draft.handover
          ? draft.program || 'A folder to work in'
          : chosen !== undefined
            ? `${chosen} › ${draft.folder}`
            : mayChoose
              ? 'Download'
              : draft.recipient
      }
    >
      {mayChoose && <GoesTo draft={draft} onChange={onChange} />}
      {mayChoose && mayKeep && (
        <button type="button" className="text-slate hover:underline" onClick={() => setKeeping(true)}>
          Servers …
        </button>
      )}
      {mayChoose && draft.handover && (
        <p className="text-[12px] text-ink-2">
          Files lie in a folder of their own for that. What the program saves beside them, and what it says in sidecars,
          is noticed, shown, and taken in beside the originals.
        </p>
      )}
      {keeping && <ServersDialog onClose={() => setKeeping(false)} />}
      {chosen !== undefined && (
        <TextField
          label="Into the folder"
          boxClass="h-8 font-mono text-[12px]"
          spellCheck={false}
          placeholder={`all of ${chosen}`}
          value={draft.folder}
          onChange={(event) => onChange({ folder: event.target.value })}
        />
      )}
      <TextField
        label="For whom"
        value={draft.recipient}
        onChange={(event) => onChange({ recipient: event.target.value })}
      />
      <TextArea
        label="Why"
        rows={2}
        value={draft.reason}
        onChange={(event) => onChange({ reason: event.target.value })}
      />
    </Section>
  );
}

/** Everything that copies can go to, and which of it a draft means. */
function useTarget(draft: Draft) {
  const { data } = useDrives();
  const drives = data?.drives.filter(({ id, readOnly }) => id !== null && !readOnly) ?? [];
  const servers = useServers().data ?? [];
  const programs = usePrograms().data ?? [];
  const server = draft.handover ? undefined : servers.find(({ id }) => id === draft.serverId)?.server;
  const drive = server || draft.handover ? undefined : drives.find(({ id }) => id === draft.driveId);
  return { drives, servers, programs, server, drive };
}

function GoesTo({ draft, onChange }: Props) {
  const { drives, servers, programs, server, drive } = useTarget(draft);
  // One that was chosen before and is not there any more is refused by name.
  const started = programs.includes(draft.program) || draft.program === '' ? programs : [...programs, draft.program];
  return (
    <Field label="Goes to">
      {(tied) => (
        <Select
          {...tied}
          className="w-full"
          value={
            draft.handover
              ? `${HANDOVER}${draft.program}`
              : server
                ? `${SERVER}${draft.serverId}`
                : drive
                  ? draft.driveId
                  : ''
          }
          onChange={(value) => onChange(chosenBy(value))}
          options={[
            { value: '', label: 'This computer: a ZIP to download' },
            ...drives.map(({ id, label, state, freeBytes }) => ({
              value: id ?? '',
              label: `${label} (${state === 'attached' ? `${freeBytes === null ? 'attached' : `${sizeText(freeBytes)} free`}` : 'away: it waits'})`,
            })),
            ...servers.map(({ id, server: { name, kind } }) => ({
              value: `${SERVER}${id}`,
              label: `${name} (${SERVER_LABELS[kind]})`,
              group: 'Servers',
            })),
            { value: HANDOVER, label: 'A folder to work in, where I start the program', group: 'Other programs' },
            ...started.map((name) => ({ value: `${HANDOVER}${name}`, label: name, group: 'Other programs' })),
          ]}
        />
      )}
    </Field>
  );
}
