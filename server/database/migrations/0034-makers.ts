// Who made what everybody uses: they change it, and who keeps the vocabulary. Of what was made before nobody is known.

export const sql = `
alter table template add column created_by int references account on delete set null;
alter table term_pad add column created_by int references account on delete set null;
`;
