// Language tags, as texts, terms and accounts name a language.

import { text } from './route';

/** A tag after BCP 47. */
export const languageTag = text
  .trim()
  .max(35)
  .regex(/^(x|[a-z]{2,8})(-[a-z0-9]{1,8})*$/i, 'is no language tag like en or pt-BR');
