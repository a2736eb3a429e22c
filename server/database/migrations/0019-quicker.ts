// Indexes that answer by themselves: the terms of photos and the entries that changed them without a look at the tables, and
// folders by the beginning of their name.

export const sql = `
create index on photo_term (photo_id, term_id);
drop index photo_term_photo_id_idx;
create index on ledger_photo (photo_id, entry_id);
drop index ledger_photo_photo_id_idx;
create index folder_name on folder (lower(name) text_pattern_ops);
`;
