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
