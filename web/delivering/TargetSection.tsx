// Where copies go, for whom and why.

import { useState } from 'react';
import { deliveryServerRoutes } from '@stellin/contract/deliveryServers';
import { sizeText } from '@stellin/contract/sizeText';
import { useDrives } from '../drives/queries';
import { useMayCall } from '../foundation/session';
import { Field, TextArea, TextField } from '../parts/Field';
import { Select } from '../parts/Select';
import type { Draft } from './draft';
import { useServers } from './queries';
import { Section } from './Section';
import { SERVER_LABELS, ServersDialog } from './ServersDialog';

/** How options of servers are told from those of drives. */
const SERVER = 'server:';

interface Props {
  draft: Draft;
  onChange: (part: Partial<Draft>) => void;
}

export function TargetSection({ draft, onChange }: Props) {
  const { data } = useDrives();
  const drives = data?.drives.filter(({ id, readOnly }) => id !== null && !readOnly) ?? [];
  // Tables and sheets are downloaded.
  const mayChoose = draft.kind === 'copies';
  const servers = useServers();
  const mayKeep = useMayCall(deliveryServerRoutes.saveDeliveryServer);
  const [keeping, setKeeping] = useState(false);
  const server = servers.data?.find(({ id }) => id === draft.serverId)?.server;
  const drive = server ? undefined : drives.find(({ id }) => id === draft.driveId);
  const chosen = mayChoose ? (server?.name ?? drive?.label) : undefined;
  return (
    <Section
      open
      title={mayChoose ? 'Where to' : 'For whom'}
      summary={chosen !== undefined ? `${chosen} › ${draft.folder}` : mayChoose ? 'Download' : draft.recipient}
    >
      {mayChoose && (
        <Field label="Goes to">
          {(tied) => (
            <Select
              {...tied}
              className="w-full"
              value={server ? `${SERVER}${draft.serverId}` : drive ? draft.driveId : ''}
              onChange={(value) =>
                onChange(
                  value.startsWith(SERVER)
                    ? { driveId: '', serverId: Number(value.slice(SERVER.length)) }
                    : { driveId: value, serverId: null },
                )
              }
              options={[
                { value: '', label: 'This computer: a ZIP to download' },
                ...drives.map(({ id, label, state, freeBytes }) => ({
                  value: id ?? '',
                  label: `${label} (${state === 'attached' ? `${freeBytes === null ? 'attached' : `${sizeText(freeBytes)} free`}` : 'away: it waits'})`,
                })),
                ...(servers.data ?? []).map(({ id, server: { name, kind } }) => ({
                  value: `${SERVER}${id}`,
                  label: `${name} (${SERVER_LABELS[kind]})`,
                  group: 'Servers',
                })),
              ]}
            />
          )}
        </Field>
      )}
      {mayChoose && mayKeep && (
        <button type="button" className="text-slate hover:underline" onClick={() => setKeeping(true)}>
          Servers …
        </button>
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
