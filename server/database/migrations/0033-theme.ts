// How the interface looks is kept with the account, so that it is the same wherever somebody signs in.

export const sql = `
-- light or dark; null: as the browser has it.
alter table account add column theme text check (theme in ('light', 'dark'));
`;
