// The language in which somebody likes to read texts and terms is kept with the account.

export const sql = `
-- A language tag after BCP 47; null: none is preferred.
alter table account add column language text;
`;
