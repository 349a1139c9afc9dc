-- The teacher's own words in the course programme; the rest of it is made from Plan and policy.
create table course_programme (
  course_id uuid primary key references course,
  document jsonb not null,
  version int not null default 1
);

-- Where an item was brought in from: bringing in the same source again finds it.
alter table item add column source_item_id uuid references item;
create index item_source on item (course_id, source_item_id) where source_item_id is not null;

grant select, insert, update, delete on course_programme to rosemary_app;

-- What stands in texts can be found by the beginnings of its words, in any language.
alter table page add column search tsvector generated always as (jsonb_to_tsvector('simple', jsonb_path_query_array(document, 'strict $.**.text'), '["string"]')) stored;
create index page_search on page using gin (search);
alter table assignment add column search tsvector generated always as (jsonb_to_tsvector('simple', jsonb_path_query_array(instructions, 'strict $.**.text'), '["string"]')) stored;
create index assignment_search on assignment using gin (search);

-- Titles are found by any letters in them.
create extension if not exists pg_trgm;
create index item_title on item using gin (title gin_trgm_ops);
