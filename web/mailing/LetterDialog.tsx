// Writing a letter that takes a view link or a small delivery along: who gets it, what it says, and how it will look.

import { useContext } from 'react';
import { Controller } from 'react-hook-form';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { z } from 'zod';
import { fillLetter, LETTER_PLACEHOLDERS } from '@stellin/core/mailing/letters';
import { letterRequest, MAX_RECIPIENTS, type LetterAbout } from '@stellin/contract/mailing';
import { countText } from '@stellin/contract/wording';
import { PersonContext } from '../foundation/session';
import { readStored, writeStored } from '../foundation/useStored';
import { Dialog } from '../parts/Dialog';
import { TextArea, TextField } from '../parts/Field';
import { FormActions } from '../parts/FormActions';
import { useFormOf } from '../parts/useFormOf';
import { useSendLetter } from './queries';
import { RecipientsField } from './RecipientsField';

interface Props {
  about: LetterAbout;
  /** What is sent. */
  title: string;
  onClose: () => void;
}

const { subject, text } = letterRequest.shape;
const schema = z.object({
  subject,
  text,
  recipients: z
    .array(z.object({ name: z.string(), address: z.string() }))
    .min(1, 'Somebody has to get it.')
    .max(MAX_RECIPIENTS),
});
type Values = z.infer<typeof schema>;

const said = z.object({ subject: z.string(), text: z.string() });
/** What is written until somebody writes something else, which is then remembered. */
const FIRST: Record<LetterAbout['kind'], z.infer<typeof said>> = {
  link: {
    subject: '{title}',
    text: 'Dear {name},\n\nhere you can see the pictures of “{title}”:\n\n{link}\n\n{sender}\n',
  },
  delivery: {
    subject: '{title}',
    text: 'Dear {name},\n\nthe pictures you asked for come with this letter.\n\n{sender}\n',
  },
};

export function LetterDialog({ about, title, onClose }: Props) {
  const { kind } = about;
  const sender = useContext(PersonContext)?.displayName ?? '';
  const send = useSendLetter();
  const form = useFormOf<Values>(schema, {
    ...readStored(`letter.${kind}`, said, FIRST[kind]),
    recipients: [],
  });
  const { errors } = form.formState;
  const submit = form.handleSubmit(({ subject: head, text: body, recipients: people }) =>
    send.mutate(
      { about, subject: head, text: body, recipients: people },
      {
        onSuccess: () => {
          writeStored(`letter.${kind}`, { subject: head, text: body });
          toast(`On its way to ${countText(people.length, 'recipient')}.`);
          onClose();
        },
      },
    ),
  );
  const typed = form.watch();
  const [first] = typed.recipients;
  const facts = {
    name: first ? first.name || first.address : '…',
    sender,
    title,
    link: about.kind === 'link' ? about.address : '',
  };
  const known = Object.entries(LETTER_PLACEHOLDERS).filter(([name]) => kind === 'link' || name !== 'link');
  // What is written is kept while it is written: a dialog is closed in a moment.
  const close = () => {
    writeStored(`letter.${kind}`, { subject: typed.subject, text: typed.text });
    onClose();
  };
  return (
    <Dialog open onOpenChange={(open) => !open && close()} title={`Send “${title}” by mail`} wide>
      <form className="grid grid-cols-2 gap-x-6 gap-y-3 max-md:grid-cols-1" onSubmit={(event) => void submit(event)}>
        <div className="space-y-3">
          <Controller
            control={form.control}
            name="recipients"
            render={({ field }) => (
              <RecipientsField value={field.value} onChange={field.onChange} error={errors.recipients?.message} />
            )}
          />
          <TextField label="Subject" required error={errors.subject?.message} {...form.register('subject')} />
          <TextArea
            label="Text"
            rows={10}
            error={errors.text?.message}
            help={known.map(([name, what]) => `{${name}} ${what}`).join(' · ')}
            {...form.register('text')}
          />
        </div>
        <section aria-label="How it will look" className="flex min-w-0 flex-col">
          <h2 className="mb-1 text-[12px] text-ink-2">How it will look</h2>
          <div className="flex-1 rounded border border-line bg-sheet p-4">
            <p className="mb-3 font-semibold break-words">{fillLetter(typed.subject, facts)}</p>
            <p className="break-words whitespace-pre-wrap">{fillLetter(typed.text, facts)}</p>
            {kind === 'delivery' && (
              <p className="mt-3 border-t border-line pt-2 text-ink-2">With the files of the delivery</p>
            )}
          </div>
          <p className="mt-2 text-[12px] text-ink-2">
            Each gets a letter of their own.{' '}
            <Link className="underline" to="/deliver/mail">
              Outgoing mail
            </Link>{' '}
            says what became of it.
          </p>
        </section>
        <div className="col-span-full">
          {send.error && (
            <p role="alert" className="text-red">
              {send.error.message}
            </p>
          )}
          <FormActions onCancel={close} action="Send" disabled={send.isPending} />
        </div>
      </form>
    </Dialog>
  );
}
