// What new photos of a tracked folder get by themselves.

export const sql = `
alter table tracked_folder add column template_id int references template on delete set null;
alter table tracked_folder add column dossier_id int references dossier on delete set null;
`;
