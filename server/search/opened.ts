// A query as it is asked: saved searches in it are opened.

import type { QueryError } from '@stellin/core/search/language';
import type { Query } from '@stellin/core/query/query';

/** A query that can be asked: what of its text was not understood stands in `errors`. */
export interface Opened {
  query: Query;
  errors: QueryError[];
}
