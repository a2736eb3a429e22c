// Servers that copies are delivered to: those there are, and the form of one.

import { useState } from 'react';
import { Controller, type UseFormReturn } from 'react-hook-form';
import { z } from 'zod';
import { serverShape, type DeliveryServer, type ServerShape } from '@stellin/contract/deliveryServers';
import { Button } from '../parts/Button';
import { Dialog } from '../parts/Dialog';
import { Field, TextField } from '../parts/Field';
import { Queried } from '../parts/Queried';
import { Select } from '../parts/Select';
import { useFormOf } from '../parts/useFormOf';
import { useRemoveServer, useSaveServer, useServers, useTryServer } from './queries';

export const SERVER_LABELS: Readonly<Record<ServerShape['kind'], string>> = {
  sftp: 'SFTP',
  s3: 'S3-compatible storage',
};
const KINDS = Object.keys(SERVER_LABELS) as [ServerShape['kind'], ...ServerShape['kind'][]];

/** All that is typed of either kind. */
const typed = z.object({
  kind: z.enum(KINDS),
  name: z.string(),
  host: z.string(),
  port: z.number(),
  endpoint: z.string(),
  region: z.string(),
  bucket: z.string(),
  user: z.string(),
  secret: z.string(),
  root: z.string(),
});
type Typed = z.infer<typeof typed>;

const EMPTY: Typed = {
  ...{ kind: 'sftp', name: '', host: '', port: 22, endpoint: 'https://', region: 'us-east-1', bucket: '' },
  ...{ user: '', secret: '', root: '' },
};

export function ServersDialog({ onClose }: { onClose: () => void }) {
  const servers = useServers();
  const [chosen, setChosen] = useState<DeliveryServer | 'new' | null>(null);
  // Read anew, a server is another object.
  const isChosen = ({ id }: DeliveryServer) => chosen !== null && chosen !== 'new' && chosen.id === id;
  return (
    <Dialog open onOpenChange={onClose} title="Servers that copies are delivered to" wide>
      <div className="grid min-h-72 grid-cols-[200px_minmax(0,1fr)] gap-5">
        <div>
          <Queried query={servers}>
            {(all) => (
              <ul className="mb-2">
                {all.map((each) => (
                  <li key={each.id}>
                    <button
                      type="button"
                      aria-pressed={isChosen(each)}
                      className={`block w-full rounded px-2 py-1 text-left ${isChosen(each) ? 'bg-spruce-pale' : 'hover:bg-ground'}`}
                      onClick={() => setChosen(each)}
                    >
                      {each.server.name}
                      <span className="block text-[12px] text-ink-2">{SERVER_LABELS[each.server.kind]}</span>
                    </button>
                  </li>
                ))}
                {all.length === 0 && <li className="py-1 text-ink-2">There is none yet.</li>}
              </ul>
            )}
          </Queried>
          <Button onClick={() => setChosen('new')}>New server …</Button>
        </div>
        {chosen && (
          <ServerForm
            key={chosen === 'new' ? 'new' : chosen.id}
            known={chosen === 'new' ? null : chosen}
            onDone={() => setChosen(null)}
          />
        )}
      </div>
    </Dialog>
  );
}

function ServerForm({ known, onDone }: { known: DeliveryServer | null; onDone: () => void }) {
  const form = useFormOf<Typed>(typed, { ...EMPTY, ...known?.server });
  const [hostKey, setHostKey] = useState(known?.server.kind === 'sftp' ? known.server.hostKey : null);
  const [problem, setProblem] = useState<string | null>(null);
  const attempt = useTryServer();
  const save = useSaveServer();
  const remove = useRemoveServer();
  const kind = form.watch('kind');

  /** What is typed as the server takes it, or nothing where something of it is wrong, which is then said. */
  const described = (values: Typed, key: string | null) => {
    const read = serverShape.safeParse({ ...values, hostKey: key });
    const [issue] = read.error?.issues ?? [];
    setProblem(issue ? `${String(issue.path[0] ?? 'It')}: ${issue.message}` : null);
    const secret = values.secret === '' ? null : values.secret;
    return read.data && { serverId: known?.id ?? null, server: read.data, secret };
  };
  const tryIt = form.handleSubmit((values) => {
    const body = described(values, hostKey);
    if (body) attempt.mutate(body);
  });
  const keep = form.handleSubmit((values) => {
    // The key that it has shown is the one it is known by from now on.
    const body = described(values, attempt.data?.hostKey ?? hostKey);
    if (body) save.mutate(body, { onSuccess: onDone });
  });
  return (
    <form className="space-y-3" onSubmit={(event) => void keep(event)}>
      <ServerFields form={form} isNew={known === null} />
      {hostKey !== null && kind === 'sftp' && (
        <p className="text-[12px] break-all text-ink-2">
          Known by its key {hostKey}.{' '}
          <button type="button" className="text-slate underline" onClick={() => setHostKey(null)}>
            Take the next one it shows
          </button>
        </p>
      )}
      <Outcome problem={problem} busy={attempt.isPending} found={attempt.data} />
      <div className="flex gap-2">
        <Button type="submit" look="primary" disabled={save.isPending}>
          Keep
        </Button>
        <Button disabled={attempt.isPending} onClick={() => void tryIt()}>
          Try it
        </Button>
        {known && (
          <Button
            look="quiet"
            className="ml-auto"
            disabled={remove.isPending}
            onClick={() => remove.mutate(known.id, { onSuccess: onDone })}
          >
            Forget it
          </Button>
        )}
      </div>
    </form>
  );
}

/** What is asked of a server of the chosen kind. */
function ServerFields({ form, isNew }: { form: UseFormReturn<Typed>; isNew: boolean }) {
  const { register } = form;
  const kind = form.watch('kind');
  return (
    <div className="grid grid-cols-2 gap-3">
      <TextField label="Name" required autoFocus {...register('name')} />
      <Field label="Kind">
        {(tied) => (
          <Controller
            control={form.control}
            name="kind"
            render={({ field }) => (
              <Select
                {...tied}
                className="w-full"
                value={field.value}
                options={KINDS.map((each) => ({ value: each, label: SERVER_LABELS[each] }))}
                onChange={field.onChange}
              />
            )}
          />
        )}
      </Field>
      {kind === 'sftp' ? (
        <>
          <TextField label="Host" required spellCheck={false} {...register('host')} />
          <TextField label="Port" type="number" {...register('port', { valueAsNumber: true })} />
        </>
      ) : (
        <>
          <TextField label="Address" required spellCheck={false} {...register('endpoint')} />
          <TextField label="Region" spellCheck={false} {...register('region')} />
          <TextField label="Bucket" required spellCheck={false} {...register('bucket')} />
        </>
      )}
      <TextField label="Folder there" spellCheck={false} placeholder="none" {...register('root')} />
      <TextField
        label={kind === 'sftp' ? 'User' : 'Access key'}
        required
        spellCheck={false}
        autoComplete="off"
        {...register('user')}
      />
      <TextField
        label={kind === 'sftp' ? 'Password' : 'Secret key'}
        type="password"
        autoComplete="new-password"
        required={isNew}
        placeholder={isNew ? '' : 'as it is kept'}
        {...register('secret')}
      />
    </div>
  );
}

interface OutcomeProps {
  /** What is wrong with what was typed. */
  problem: string | null;
  busy: boolean;
  found: { problem: string | null; hostKey: string | null } | undefined;
}

/** What came of trying it. */
function Outcome({ problem, busy, found }: OutcomeProps) {
  return (
    <p role="status" className="min-h-5 break-words">
      {problem !== null ? (
        <span className="text-red">{problem}</span>
      ) : busy ? (
        'It is being tried …'
      ) : found ? (
        found.problem === null ? (
          <span className="text-spruce">
            A file was written there, read back and removed.
            {found.hostKey !== null && ` Its key is ${found.hostKey}.`}
          </span>
        ) : (
          <span className="text-red">It does not work: {found.problem}</span>
        )
      ) : null}
    </p>
  );
}
