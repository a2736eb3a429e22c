// The record of access as a table.

import { Link } from 'react-router';
import { ACCESS_KINDS, type AccessEntry } from '@stellin/contract/access';
import { deviceText } from '../accounts/deviceText';
import { DataTable, type Column } from '../parts/DataTable';
import { dateTimeText } from '../parts/dateTimeText';
import { deskLink } from '../parts/deskLink';
import { queryText } from '@stellin/core/search/language';
import { criterion } from '@stellin/core/query/query';

const COLUMNS: readonly Column<AccessEntry>[] = [
  { id: 'when', title: 'When', cell: ({ at }) => dateTimeText(at), className: 'figures whitespace-nowrap' },
  { id: 'who', title: 'Who', cell: ({ by }) => by || '–', className: 'whitespace-nowrap' },
  {
    id: 'what',
    title: 'What',
    className: ({ kind }) => (kind === 'refused' || kind === 'signInRefused' ? 'text-amber' : ''),
    cell: ({ kind }) => ACCESS_KINDS[kind],
  },
  {
    id: 'about',
    title: 'About',
    cell: ({ kind, photo, about }) =>
      photo ? (
        photo.name === null ? (
          'a photo that is gone'
        ) : (
          <Link
            className="font-mono text-[12px] hover:text-slate hover:underline"
            to={deskLink(queryText(criterion('name', photo.name)))}
          >
            {photo.name}
          </Link>
        )
      ) : (
        <span className="block max-w-md truncate text-ink-2" title={about}>
          {kind === 'signedIn' ? deviceText(about) : about}
        </span>
      ),
  },
  { id: 'address', title: 'From', cell: ({ address }) => address, className: 'figures whitespace-nowrap text-ink-2' },
];

export function AccessList({ entries }: { entries: AccessEntry[] }) {
  return (
    <DataTable
      label="The record of access"
      rows={entries}
      keyOf={({ id }) => id}
      columns={COLUMNS}
      empty={<p className="p-4 text-ink-2">Nothing of this was recorded.</p>}
    />
  );
}
