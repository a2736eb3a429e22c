// Drives whose photos can be looked at in full while they are away.

export const sql = `
alter table drive add column browse_away boolean not null default false;
`;
