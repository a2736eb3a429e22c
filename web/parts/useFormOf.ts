// A form over a schema of the contract: what the server would refuse is said while it is typed, in sentences for people.

import { zodResolver } from '@hookform/resolvers/zod';
import { useForm, type DefaultValues, type FieldValues, type UseFormReturn } from 'react-hook-form';
import type { z } from 'zod';

/** What is wrong with a value, for those kinds of problems whose own message speaks of types. */
function sentenceFor(issue: z.core.$ZodRawIssue): string | undefined {
  if (issue.code === 'too_small' && issue.origin === 'string')
    return issue.minimum === 1 ? 'This is needed.' : `At least ${String(issue.minimum)} characters.`;
  if (issue.code === 'too_big' && issue.origin === 'string') return `At most ${String(issue.maximum)} characters.`;
  return undefined;
}

/** The schema’s values are what is typed and what is sent: it transforms nothing but texts. */
export function useFormOf<Values extends FieldValues>(
  schema: z.ZodType<Values, Values>,
  values: DefaultValues<Values>,
): UseFormReturn<Values, unknown, Values> {
  return useForm<Values, unknown, Values>({
    resolver: zodResolver(schema, { error: sentenceFor }),
    defaultValues: values,
    // Nobody is told off for what they have not finished typing.
    mode: 'onTouched',
  });
}
