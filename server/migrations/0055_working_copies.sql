-- What is written into the text of an open item, before it is published to its students.
create table working_copy (
  item_id uuid primary key references item,
  document jsonb not null,
  begun_at timestamptz not null,
  begun_by uuid not null references person,
  -- Found by those who write it, in place of the text that is published.
  search tsvector generated always as (jsonb_to_tsvector('simple', jsonb_path_query_array(document, 'strict $.**.text'), '["string"]')) stored
);
create index working_copy_search on working_copy using gin (search) with (fastupdate = off);
create index working_copy_begun_by on working_copy (begun_by);
grant select, insert, update, delete on working_copy to rosemary_app;

alter table item_file drop constraint item_file_part_check;
alter table item_file add check (part in ('text', 'working', 'prompt', 'sample'));
