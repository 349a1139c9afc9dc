-- What is written into the text of an open item, before it is published to its students.
create table working_copy (
  item_id uuid primary key references item,
  document jsonb not null,
  begun_at timestamptz not null,
  begun_by uuid not null references person
);
create index working_copy_begun_by on working_copy (begun_by);
grant select, insert, update, delete on working_copy to rosemary_app;

alter table item_file drop constraint item_file_part_check;
alter table item_file add check (part in ('text', 'working', 'prompt', 'sample'));
