// Accounts that are no longer in use stay in the ledger, but nobody signs in with them.

export const sql = `
alter table account add column disabled_at timestamptz;
`;
