// Files that change names among themselves step aside first: one can't have a name that another still has.

export const sql = `
alter table filing_step add column aside boolean not null default false;
`;
