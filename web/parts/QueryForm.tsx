// A query that is typed and then shown; one that is not understood is marked, stays as it is and changes nothing.

import { useState, type ReactNode } from 'react';
import { parseQuery } from '@stellin/core/search/language';
import { Button } from './Button';
import { TextField } from './Field';

interface Props {
  label: string;
  placeholder: string;
  /** What is shown now. */
  query: string;
  onShow: (query: string) => void;
  /** Stands before the field, and behind its button. */
  before?: ReactNode;
  behind?: ReactNode;
  className?: string;
}

export function QueryForm({ label, placeholder, query, onShow, before, behind, className = '' }: Props) {
  const [typed, setTyped] = useState(query);
  const [last, setLast] = useState(query);
  if (last !== query) {
    setLast(query);
    setTyped(query);
  }
  const problem = parseQuery(typed).errors[0]?.message;
  return (
    <form
      className={`flex items-start gap-2 ${className}`}
      onSubmit={(event) => {
        event.preventDefault();
        if (problem === undefined) onShow(typed.trim());
      }}
    >
      {before}
      <TextField
        label={label}
        hideLabel
        placeholder={placeholder}
        className="min-w-0 flex-1"
        value={typed}
        error={problem}
        onChange={(event) => setTyped(event.target.value)}
      />
      <Button type="submit" className="!h-8" disabled={typed.trim() === query}>
        Show
      </Button>
      {behind}
    </form>
  );
}
