-- A whole quiz shared with a colleague, to read (and to copy) or to edit its questions.
create table quiz_share (
  item_id uuid not null references quiz,
  person_id uuid not null references person,
  can_edit boolean not null default false,
  by_id uuid not null references person,
  at timestamptz not null,
  primary key (item_id, person_id)
);
create index on quiz_share (person_id);
grant select, insert, update, delete on quiz_share to rosemary_app;
