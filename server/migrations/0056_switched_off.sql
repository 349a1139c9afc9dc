-- An item that is switched off: a draft for everybody, which knows whether it was one before. Null: it is on.
alter table item add column off_was_draft boolean check (off_was_draft is null or is_draft);
