// What exists for database roles other than the owner of the tables, whom policies don't concern: the process that serves view links.

export const sql = `
alter table photo enable row level security;
create policy outside on photo for select using (shown and not private);
alter table photo_text enable row level security;
create policy outside on photo_text for select using (exists (select 1 from photo p where p.id = photo_id));
alter table photo_keyword enable row level security;
create policy outside on photo_keyword for select using (exists (select 1 from photo p where p.id = photo_id));
alter table photo_term enable row level security;
create policy outside on photo_term for select using (exists (select 1 from photo p where p.id = photo_id));

alter table view_link enable row level security;
create policy outside on view_link for select using (revoked_at is null);
create policy counted on view_link for update using (revoked_at is null);

alter table setting enable row level security;
create policy outside on setting for select using (name in ('writePolicies', 'accessPolicy'));
`;
