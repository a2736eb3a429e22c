// What the map shows, as a query that is typed; the same as on the Desk.

import { useState } from 'react';
import { Link } from 'react-router';
import { parseQuery } from '@stellin/core/search/language';
import { Button } from '../parts/Button';
import { deskLink } from '../parts/deskLink';
import { TextField } from '../parts/Field';

export function MapQuery({ query, onShow }: { query: string; onShow: (query: string) => void }) {
  const [typed, setTyped] = useState(query);
  const [before, setBefore] = useState(query);
  if (before !== query) {
    setBefore(query);
    setTyped(query);
  }
  const problem = parseQuery(typed).errors[0]?.message;
  return (
    <form
      className="flex items-start gap-2 border-b border-line bg-card px-3 py-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (problem === undefined) onShow(typed.trim());
      }}
    >
      <TextField
        label="What the map shows"
        hideLabel
        placeholder="All photos; narrow by words, fields, terms …"
        className="min-w-0 flex-1"
        value={typed}
        error={problem}
        onChange={(event) => setTyped(event.target.value)}
      />
      <Button type="submit" className="!h-8" disabled={typed.trim() === query}>
        Show
      </Button>
      <Link to={deskLink(query)} className="self-center whitespace-nowrap text-slate hover:underline">
        On the Desk
      </Link>
    </form>
  );
}
