// What the map or a plan shows, as a query that is typed; the same as on the Desk.

import { Link } from 'react-router';
import { deskLink } from '../parts/deskLink';
import { QueryForm } from '../parts/QueryForm';

export function MapQuery({ query, onShow }: { query: string; onShow: (query: string) => void }) {
  return (
    <QueryForm
      label="What the map shows"
      placeholder="All photos; narrow by words, fields, terms …"
      className="border-b border-line bg-card px-3 py-2"
      query={query}
      onShow={onShow}
      behind={
        <Link to={deskLink(query)} className="self-center whitespace-nowrap text-slate hover:underline">
          On the Desk
        </Link>
      }
    />
  );
}
