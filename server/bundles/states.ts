// What bundles photos are in, derived in one place: who leads, and who is folded into the lead while it is closed.

import { kindFacts, kindsWhere } from '@stellin/core/metadata/containers/index';

/** The state of a photo `p` as the ledger keeps it. */
export const BUNDLE_STATE = stateOf('p.bundle', 'p.leads', 'p.folded_into', 'p.unbundled');

/** Which photo of a bundle leads when nobody chose: what every program shows comes first, then the rest, raw files last. */
const LEADING = `case kind ${kindsWhere(() => true)
  .map((kind) => `when '${kind}' then ${kindFacts(kind).leads}`)
  .join(' ')} else 99 end`;

/**
 * The state photos are to be in, from what is wanted of them.
 * @param wanted a statement that returns id, kind, shown, leads (as they are), bundle, unbundled (as wanted), closed (of the
 *   bundle) and wish (whether it is to lead), for all photos of the bundles it names
 * @returns a statement that returns id and state
 */
export function derivedStates(wanted: string): string {
  return `select id, ${stateOf(
    'case when members > 1 then bundle end',
    '(bundle is not null and members > 1 and id = lead)',
    'case when bundle is not null and members > 1 and closed and id <> lead then lead end',
    'unbundled',
  )} as state
    from (select *, count(*) over (partition by bundle) as members,
        first_value(id) over (partition by bundle order by wish desc, shown desc, leads desc, ${LEADING}, id) as lead
      from (${wanted}) wanted) sized`;
}

function stateOf(bundle: string, leads: string, foldedInto: string, unbundled: string): string {
  return `jsonb_build_object('bundle', ${bundle}, 'leads', ${leads}, 'foldedInto', ${foldedInto}, 'unbundled', ${unbundled})`;
}

/** Sets columns of photo to a state (SQL). */
export function setState(state: string): string {
  return `bundle = (${state} ->> 'bundle')::int, leads = (${state} ->> 'leads')::boolean,
    folded_into = (${state} ->> 'foldedInto')::int, unbundled = (${state} ->> 'unbundled')::boolean`;
}
