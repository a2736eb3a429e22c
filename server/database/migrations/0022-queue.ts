// Jobs are taken from their own table: the queue that earlier versions kept beside it goes.

export const sql = `
drop schema if exists pgboss cascade;
create index on job_run (created_at, id) where state = 'queued';
`;
