// The address book, which all who deliver share.

import { mailbox, type Contact } from '@stellin/contract/mailing';
import { Button } from '../parts/Button';
import { DataTable, type Column } from '../parts/DataTable';
import { TextField } from '../parts/Field';
import { Queried } from '../parts/Queried';
import { useFormOf } from '../parts/useFormOf';
import { useContacts, useKeepContact, useMailStep } from './queries';

const CONTACT_COLUMNS: readonly Column<Contact>[] = [
  { id: 'name', title: 'Name', cell: ({ name }) => name || '–', sortBy: ({ name }) => name.toLowerCase() },
  {
    id: 'address',
    title: 'Address',
    cell: ({ address }) => address,
    sortBy: ({ address }) => address.toLowerCase(),
    headsRow: true,
  },
  {
    id: 'actions',
    title: <span className="sr-only">What to do</span>,
    cell: (contact) => <Forget contact={contact} />,
  },
];

function Forget({ contact: { id, name, address } }: { contact: Contact }) {
  const forget = useMailStep('forget');
  return (
    <span className="flex justify-end">
      <Button
        look="quiet"
        aria-label={`Take ${name || address} out of the address book`}
        onClick={() => forget.mutate([id])}
      >
        Remove
      </Button>
    </span>
  );
}

const contactSchema = mailbox.extend({ name: mailbox.shape.name.unwrap() });

function NewContact() {
  const keep = useKeepContact();
  const form = useFormOf<{ name: string; address: string }>(contactSchema, { name: '', address: '' });
  const { errors } = form.formState;
  const submit = form.handleSubmit((given) => keep.mutate(given, { onSuccess: () => form.reset() }));
  return (
    <form className="mb-3 flex items-start gap-2" onSubmit={(event) => void submit(event)}>
      <TextField
        label="Name"
        hideLabel
        placeholder="Name"
        className="flex-1"
        error={errors.name?.message}
        {...form.register('name')}
      />
      <TextField
        label="Mail address"
        hideLabel
        placeholder="Mail address"
        className="flex-1"
        error={errors.address?.message}
        {...form.register('address')}
      />
      <Button type="submit" disabled={keep.isPending}>
        Put into the address book
      </Button>
    </form>
  );
}

export function AddressBook() {
  const contacts = useContacts();
  return (
    <section aria-label="Address book" className="mt-6 max-w-[640px]">
      <h2 className="mb-1 font-title text-[15px] font-semibold">Address book</h2>
      <p className="mb-2 text-[12px] text-ink-2">
        Everybody who was written to; all who deliver share it. An address that is there already gets the name.
      </p>
      <NewContact />
      <Queried query={contacts}>
        {(all) => (
          <DataTable
            label="Address book"
            rows={all}
            keyOf={({ id }) => id}
            columns={CONTACT_COLUMNS}
            empty={<p className="text-ink-2">Nobody yet.</p>}
          />
        )}
      </Queried>
    </section>
  );
}
