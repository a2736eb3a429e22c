// What the browser remembers for a person on this machine: one value by name, as JSON. What is not as expected, from an earlier
// version or by another hand, counts as not there; where the browser keeps nothing, it holds until the page is left.

import { useCallback, useState } from 'react';
import type { z } from 'zod';

/** Names of what is remembered; each once, so that no two share a name. */
export type StoredName =
  | 'delivery'
  | 'deliverWidth'
  | 'drawer'
  | `drawerHeight.${string}`
  | 'drawerLooking'
  | 'drivesWidth'
  | 'fieldSet'
  | 'headings'
  | `letter.${string}`
  | 'namePatterns'
  | 'pad'
  | 'pin'
  | 'personsWidth'
  | 'sheet'
  | 'slides'
  | 'sourcesWidth'
  | 'termWidth'
  | 'theme';

const keyOf = (name: StoredName) => `stellin.${name}`;

/** What is remembered under a name, or `otherwise`. */
export function readStored<Value>(name: StoredName, schema: z.ZodType<Value>, otherwise: Value): Value {
  try {
    const text = localStorage.getItem(keyOf(name));
    return text === null ? otherwise : schema.catch(otherwise).parse(parsed(text));
  } catch {
    return otherwise;
  }
}

/** Earlier versions kept texts as they are. */
function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return text;
  }
}

export function writeStored(name: StoredName, value: unknown): void {
  try {
    localStorage.setItem(keyOf(name), JSON.stringify(value));
  } catch {
    // Full, or switched off: nothing depends on it.
  }
}

/** A state that the browser remembers; another one where it is called by another name. */
export function useStored<Value>(
  name: StoredName,
  schema: z.ZodType<Value>,
  otherwise: Value,
): [Value, (value: Value) => void] {
  const [held, setHeld] = useState(() => ({ name, value: readStored(name, schema, otherwise) }));
  let { value } = held;
  if (held.name !== name) {
    value = readStored(name, schema, otherwise);
    setHeld({ name, value });
  }
  const set = useCallback(
    (next: Value) => {
      setHeld({ name, value: next });
      writeStored(name, next);
    },
    [name],
  );
  return [value, set];
}
