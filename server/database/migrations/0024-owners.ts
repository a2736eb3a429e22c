// A process owns its jobs through a lock of its connection: signs of life are not written down any more.

export const sql = `
alter table job_run drop column heartbeat_at;
`;
