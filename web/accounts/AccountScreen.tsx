// One's own account: name, password, and where one is signed in.

import { use, useState } from 'react';
import { z } from 'zod';
import { displayName, type Session } from '@stellin/contract/accounts';
import { PersonContext } from '../foundation/session';
import { Button } from '../parts/Button';
import { DataTable } from '../parts/DataTable';
import { dateTimeText } from '../parts/dateTimeText';
import { Field, TextField } from '../parts/Field';
import { LANGUAGES, languageText } from '../parts/languageText';
import { Queried } from '../parts/Queried';
import { Select } from '../parts/Select';
import { useFormOf } from '../parts/useFormOf';
import { deviceText } from './deviceText';
import { PasswordDialog } from './PasswordDialog';
import { SecondFactor } from './SecondFactor';
import { Tokens } from './Tokens';
import { useChangeLanguage, useChangeOwnName, useEndOtherSessions, useEndSession, useSessions } from './queries';

const schema = z.object({ displayName });

export function AccountScreen() {
  const person = use(PersonContext);
  const [changing, setChanging] = useState(false);
  const rename = useChangeOwnName();
  const { register, handleSubmit, formState, reset } = useFormOf(schema, { displayName: person?.displayName ?? '' });
  return (
    <div className="h-full overflow-y-auto p-6">
      <h1 className="font-title text-[22px] font-semibold">Your account</h1>
      <p className="mt-1 text-ink-2">
        You sign in as <b>{person?.name}</b>. Your role: {person?.role || 'none yet'}.
      </p>
      <div className="mt-4 max-w-3xl space-y-6">
        <form
          className="flex items-start gap-2"
          onSubmit={handleSubmit((given) => rename.mutate(given.displayName, { onSuccess: () => reset(given) }))}
        >
          <TextField
            label="Your name, as others see it"
            className="min-w-0 flex-1"
            error={formState.errors.displayName?.message}
            {...register('displayName')}
          />
          <Button type="submit" className="mt-5 !h-8" disabled={!formState.isDirty || rename.isPending}>
            Keep
          </Button>
        </form>
        {person && <ReadingLanguage language={person.language} />}
        <div>
          <Button onClick={() => setChanging(true)}>Change your password …</Button>
        </div>
        <SecondFactor />
        <Sessions />
        <Tokens />
      </div>
      {changing && <PasswordDialog onClose={() => setChanging(false)} />}
    </div>
  );
}

/** In which language one likes to read what is there in several. */
function ReadingLanguage({ language }: { language: string | null }) {
  const change = useChangeLanguage();
  const known = language === null || LANGUAGES.some(({ tag }) => tag === language);
  return (
    <Field
      label="Texts and terms in"
      className="max-w-sm"
      help="Fields that say something in several languages open in it, and terms show what they are called in it."
    >
      {(tied) => (
        <Select
          {...tied}
          value={language ?? ''}
          disabled={change.isPending}
          onChange={(tag) => change.mutate(tag === '' ? null : tag)}
          options={[
            { value: '', label: 'the language they are kept in' },
            ...(known ? [] : [{ value: language, label: languageText(language) }]),
            ...LANGUAGES.map(({ tag, name }) => ({ value: tag, label: name })),
          ]}
        />
      )}
    </Field>
  );
}

function Sessions() {
  const sessions = useSessions();
  const end = useEndSession();
  const endOthers = useEndOtherSessions();
  return (
    <section aria-labelledby="sessions">
      <div className="mb-2 flex items-center gap-3">
        <h2 id="sessions" className="font-title text-[16px] font-semibold">
          Where you are signed in
        </h2>
        <Button
          className="ml-auto"
          disabled={endOthers.isPending || (sessions.data?.length ?? 0) < 2}
          onClick={() => endOthers.mutate(undefined)}
        >
          End all others
        </Button>
      </div>
      <Queried query={sessions}>
        {(rows) => (
          <div className="rounded border border-line bg-card">
            <DataTable<Session>
              label="Sessions"
              rows={rows}
              keyOf={({ id }) => id}
              columns={[
                {
                  id: 'device',
                  title: 'Device',
                  headsRow: true,
                  cell: ({ device, isThis }) => (
                    <span title={device}>
                      {deviceText(device)} {isThis && <b>(this one)</b>}
                    </span>
                  ),
                },
                { id: 'since', title: 'Since', cell: ({ since }) => dateTimeText(since) },
                { id: 'used', title: 'Last used', cell: ({ lastUsed }) => dateTimeText(lastUsed) },
                {
                  id: 'end',
                  title: <span className="sr-only">End</span>,
                  className: 'text-right',
                  cell: ({ id, isThis, device }) =>
                    !isThis && (
                      <Button
                        look="quiet"
                        className="!h-7"
                        aria-label={`End the session on ${deviceText(device)}`}
                        disabled={end.isPending}
                        onClick={() => end.mutate(id)}
                      >
                        End
                      </Button>
                    ),
                },
              ]}
            />
          </div>
        )}
      </Queried>
    </section>
  );
}
